// Volumes against Open CASCADE's solids (BRepGProp), built here from primitives.

#include "proof/stock.h"

#include "support.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <GProp_GProps.hxx>
#include <gp_Ax2.hxx>

using namespace wren;

namespace {

double volumeOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props);
    return props.Mass();
}

TopoDS_Shape cylinderAlongX(double radius, double axisZ, double from, double to) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(from, 0, axisZ), gp_Dir(1, 0, 0)), radius,
                                    to - from);
}

/// The board by solid modelling: a prism under a cylinder, less thin boxes above a smaller
/// cylinder.
TopoDS_Shape solidBoard(const Fretboard& b) {
    const BoardPart part(b);
    BRepBuilderAPI_MakePolygon outline;
    for (const ContourPiece& side : part.outline()) {
        outline.Add(gp_Pnt(side.from.x, side.from.y, 0));
    }
    outline.Close();
    const TopoDS_Shape prism = BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(outline.Wire()).Face(),
                                                     gp_Vec(0, 0, b.thickness + 1));
    const double axis = b.thickness - b.radius;
    TopoDS_Shape board =
        BRepAlgoAPI_Common(prism, cylinderAlongX(b.radius, axis, -10, part.length() + 10));
    for (const FretSlot& slot : part.slots()) {
        const double x = slot.middle();
        const TopoDS_Shape box = BRepPrimAPI_MakeBox(gp_Pnt(x - b.slotWidth / 2, -100, 0),
                                                     b.slotWidth, 200, b.thickness + 5)
                                     .Shape();
        const TopoDS_Shape above =
            BRepAlgoAPI_Cut(box, cylinderAlongX(b.radius - b.slotDepth, axis, x - 2, x + 2));
        board = BRepAlgoAPI_Cut(board, above);
    }
    return board;
}

} // namespace

TEST_CASE("The board's volume is that of its solid", "[outside][volume]") {
    for (const auto& changes : {std::pair{"board.frets", "1"}, std::pair{"board.frets", "22"},
                                std::pair{"board.radius", "184"}}) {
        const Fretboard b = test::plainWith({changes}).board;
        INFO(changes.first << "=" << changes.second);
        CHECK(BoardPart(b).volume() == Approx(volumeOf(solidBoard(b))).epsilon(1e-6));
    }
}

TEST_CASE("What a ball sweeps out of the stock is what the solid loses", "[outside][volume]") {
    const Blank blank{40, 20, 8, "walnut"};
    Stock stock(blank, 0, 0.05);
    Move m;
    m.motion = Motion::line;
    m.from = {10, 10, 5};
    m.to = {30, 10, 5};
    m.feed = 100;
    sweep(stock, {0, 3, 0, 3}, m, 0, stock.rows());
    // A ball of 3 whose tip runs 3 deep: the lower half of a capsule and nothing above it.
    const TopoDS_Shape tube =
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(10, 10, 8), gp_Dir(1, 0, 0)), 3, 20);
    const TopoDS_Shape capsule = BRepAlgoAPI_Fuse(
        BRepAlgoAPI_Fuse(tube, BRepPrimAPI_MakeSphere(gp_Pnt(10, 10, 8), 3).Shape()),
        BRepPrimAPI_MakeSphere(gp_Pnt(30, 10, 8), 3).Shape());
    const TopoDS_Shape left = BRepAlgoAPI_Cut(BRepPrimAPI_MakeBox(40, 20, 8).Shape(), capsule);
    CHECK(stock.volume() == Approx(volumeOf(left)).epsilon(1e-4));
}

TEST_CASE("The board cut by the posted programs weighs what the design does", "[outside][volume]") {
    const Derived d = derive(test::plainWith());
    const Simulation s = simulate(*d.lies(Role::board), d.read(Role::board), 0.1);
    double volume = 0;
    for (int r = 0; r < s.stock.rows(); ++r) {
        for (int c = 0; c < s.stock.columns(); ++c) {
            const Vec3 p =
                d.lies(Role::board)->fromInstrument.toInstrument({s.stock.x(c), s.stock.y(r), 0});
            if (p.x > 0 && p.x < d.board->length() && p.y > d.board->edge(-1, p.x) &&
                p.y < d.board->edge(1, p.x)) {
                volume += s.stock.high(c, r) * 0.01;
            }
        }
    }
    // Ridges of up to 0.015 mm stay; slots 0.58 wide fall on cells of 0.1.
    const double solid = volumeOf(solidBoard(d.project.board));
    CHECK(volume >= solid * 0.999);
    CHECK(volume <= solid + d.board->areaOfFace() * 0.02);
}
