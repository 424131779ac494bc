#include "exchange/board_solid.h"

#include "base/error.h"
#include "exchange/face_triangles.h"
#include "exchange/shifted_faces.h"
#include "exchange/solid_tools.h"
#include "exchange/step_writer.h"

#include <algorithm>
#include <numbers>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <GeomFill.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Face.hxx>
#include <fmt/format.h>

namespace wren {

struct BoardSolid::Shape {
    TopoDS_Solid solid;
};

namespace {

/// How far the bodies that are taken away reach beyond the board, so that no two faces coincide.
constexpr double beyond = 3;

Handle(Geom_Curve) arcAt(const ArchedFace& face, double x, double angle) {
    const double r = face.radiusAt(x);
    const auto at = [&](double a) {
        return gp_Pnt(x, r * std::sin(a), face.top - r + r * std::cos(a));
    };
    const Handle(Geom_TrimmedCurve) arc = GC_MakeArcOfCircle(at(-angle), at(0), at(angle)).Value();
    return Handle(Geom_Curve)(arc);
}

/// What a cylinder is written as. Open CASCADE loses cuts that cross its own cylinder very nearly,
/// but not quite, square; the same face as a ruled surface between two arcs has no such weakness.
enum class Cylinder { primitive, ruled };

/// The arched face over [x0, x1], as wide as `angle` on either side of its ridge.
TopoDS_Face surfaceOf(const ArchedFace& face, double x0, double x1, double angle,
                      Cylinder cylinderAs) {
    if (face.growth == 0 && cylinderAs == Cylinder::primitive) {
        // The cylinder's own X axis points up, so that its angle is the one from the ridge.
        const gp_Ax3 axis(gp_Pnt(x0, 0, face.top - face.radius), gp_Dir(1, 0, 0), gp_Dir(0, 0, 1));
        const Handle(Geom_CylindricalSurface) cylinder =
            new Geom_CylindricalSurface(axis, face.radius);
        return BRepBuilderAPI_MakeFace(cylinder, -angle, angle, 0, x1 - x0, 1e-6).Face();
    }
    // Points of equal angle on the two arcs are joined by the cone's own straight lines.
    const Handle(Geom_Surface) ruled =
        GeomFill::Surface(arcAt(face, x0, angle), arcAt(face, x1, angle));
    return BRepBuilderAPI_MakeFace(ruled, 1e-6).Face();
}

/// Everything over the face, up to well above the board.
TopoDS_Shape bodyAbove(const ArchedFace& face, const BoardPart& board, Cylinder cylinderAs) {
    const double x0 = board.xLow() - 2 * beyond;
    const double x1 = board.xHigh() + 2 * beyond;
    double angle = 0;
    for (double x : {x0, x1}) {
        for (int side : {-1, 1}) {
            const double share = (std::abs(board.edge(side, x)) + 2 * beyond) / face.radiusAt(x);
            angle = std::max(angle, std::asin(std::min(0.99, share)));
        }
    }
    return BRepPrimAPI_MakePrism(surfaceOf(face, x0, x1, angle, cylinderAs),
                                 gp_Vec(0, 0, 2 * face.top + 2 * beyond))
        .Shape();
}

/// A slot's opening upward from a height, past the board's edges if it runs through.
TopoDS_Shape slotBox(const BoardPart& board, const FretSlot& slot, double from) {
    const Vec2 u = slot.along() * (slot.blind ? 0 : beyond);
    const Vec2 v = slot.across() * (board.design().slotWidth / 2);
    const Vec2 low = slot.low - u;
    const Vec2 high = slot.high + u;
    return prismOf(closedThrough({low - v, high - v, high + v, low + v}), from,
                   board.design().thickness + beyond);
}

/// The slots as upright bodies with the curved floor: all boxes at once against one body.
TopoDS_Shape slotBodies(const BoardPart& board, Cylinder cylinderAs,
                        const Message_ProgressRange& range) {
    BRep_Builder build;
    TopoDS_Compound boxes;
    build.MakeCompound(boxes);
    for (const FretSlot& slot : board.slots()) {
        build.Add(boxes, slotBox(board, slot, -beyond));
    }
    return combined<BRepAlgoAPI_Common>(boxes, listOf(bodyAbove(board.floor(), board, cylinderAs)),
                                        range);
}

TopoDS_Shape shelfBody(const BoardPart& board) {
    const NutShelf& shelf = *board.shelf();
    const Vec2 u =
        (shelf.wallHigh - shelf.wallLow) * (beyond / length(shelf.wallHigh - shelf.wallLow));
    const Vec2 low = shelf.wallLow - u;
    const Vec2 high = shelf.wallHigh + u;
    const Vec2 back{board.xLow() - beyond - std::max(low.x, high.x), 0};
    return prismOf(closedThrough({low, high, high + back, low + back}), shelf.floor,
                   board.design().thickness + beyond);
}

/// What is cut out of the face besides the slots.
TopTools_ListOfShape otherOpenings(const BoardPart& board) {
    TopTools_ListOfShape rest;
    if (board.design().markers.inlay == Inlay::pressed) {
        for (const MarkerPocket& pocket : board.pockets()) {
            rest.Append(prismOf(pocket.outline, pocket.floor, board.design().thickness + beyond));
        }
    }
    if (board.shelf()) {
        rest.Append(shelfBody(board));
    }
    return rest;
}

TopoDS_Shape cutShape(const BoardPart& board, Cylinder cylinderAs, const Watch& watch) {
    const Handle(Indicator) indicator = new Indicator(watch);
    Message_ProgressScope steps(indicator->Start(), "", 10);
    const double high = board.design().thickness + beyond;
    const TopoDS_Shape arched = combined<BRepAlgoAPI_Cut>(
        prismOf(board.outline(), 0, high), listOf(bodyAbove(board.face(), board, cylinderAs)),
        steps.Next(1));
    indicator->throwIfStopped();
    TopTools_ListOfShape rest = otherOpenings(board);
    if (!board.slots().empty()) {
        rest.Append(slotBodies(board, cylinderAs, steps.Next(4)));
        indicator->throwIfStopped();
    }
    const TopoDS_Shape whole =
        rest.IsEmpty() ? arched : combined<BRepAlgoAPI_Cut>(arched, rest, steps.Next(5));
    indicator->throwIfStopped();
    return whole;
}

/// Level faces at an arched face's top brought down onto it.
TopoDS_Shape archedDown(const TopoDS_Shape& level, const ArchedFace& face,
                        const std::function<bool(Vec2)>& belongs) {
    FaceShift shift;
    shift.belongs = [&](Vec3 p) { return std::abs(p.z - face.top) < 1e-6 && belongs(p.xy()); };
    shift.at = [&](Vec2 p) { return face.heightAt(p.x, p.y) - face.top; };
    shift.upright = [](Vec2) { return false; };
    shift.about = [&](Vec2) { return SmoothShift{shift.at, {}, {}}; };
    return withShiftedFaces(level, shift);
}

/// Cut with level faces and floors, which are then brought down: a cone is dear to cut by.
TopoDS_Shape archedShape(const BoardPart& board, const Watch& watch) {
    const Handle(Indicator) indicator = new Indicator(watch);
    Message_ProgressScope steps(indicator->Start(), "", 10);
    TopTools_ListOfShape openings = otherOpenings(board);
    for (const FretSlot& slot : board.slots()) {
        openings.Append(slotBox(board, slot, board.floor().top));
    }
    TopoDS_Shape wood = prismOf(board.outline(), 0, board.face().top);
    if (!openings.IsEmpty()) {
        wood = combined<BRepAlgoAPI_Cut>(wood, openings, steps.Next(5));
    }
    indicator->throwIfStopped();
    wood = archedDown(wood, board.face(), [](Vec2) { return true; });
    const auto inSlot = [&](Vec2 p) {
        return std::any_of(board.slots().begin(), board.slots().end(), [&](const FretSlot& s) {
            return std::abs(s.offset(p)) < board.design().slotWidth / 2 + 1e-6;
        });
    };
    return board.slots().empty() ? wood : archedDown(wood, board.floor(), inSlot);
}

/// Whether every slot and open marker is taken out of the solid: one the library has lost leaves no
/// corners down at its floor.
bool isOpen(const TopoDS_Solid& solid, const BoardPart& board) {
    constexpr double near = 0.01; // mm
    std::vector<Vec3> corners;
    for (TopExp_Explorer v(solid, TopAbs_VERTEX); v.More(); v.Next()) {
        const gp_Pnt p = BRep_Tool::Pnt(TopoDS::Vertex(v.Current()));
        if (p.Z() > near) { // else on the glue plane
            corners.push_back({p.X(), p.Y(), p.Z()});
        }
    }
    const auto cornered = [&](auto within, auto floorAt) {
        return std::any_of(corners.begin(), corners.end(), [&](const Vec3& c) {
            return c.z < (floorAt(c.xy()) + board.face(c.x, c.y)) / 2 && within(c.xy());
        });
    };
    const auto slotOpen = [&](const FretSlot& s) {
        return cornered(
            [&](Vec2 p) { return std::abs(s.offset(p)) < board.design().slotWidth / 2 + near; },
            [&](Vec2 p) { return board.floor(p.x, p.y); });
    };
    const auto markerOpen = [&](const MarkerPocket& m) {
        return cornered([&](Vec2 p) { return distanceTo(m.outline, p) < near; },
                        [&](Vec2) { return m.floor; });
    };
    return std::all_of(board.slots().begin(), board.slots().end(), slotOpen) &&
           (board.design().markers.inlay != Inlay::pressed ||
            std::all_of(board.pockets().begin(), board.pockets().end(), markerOpen));
}

} // namespace

TopoDS_Solid boardShape(const BoardPart& board, const Watch& watch) {
    if (board.face().growth != 0) {
        try {
            TopoDS_Solid solid = onlySolidIn(archedShape(board, watch), "board");
            if (isOpen(solid, board)) {
                return solid;
            }
        } catch (const Standard_Failure&) { // a face that ends at more than walls is cut
        } catch (const Error&) {
        }
    }
    for (Cylinder as : {Cylinder::primitive, Cylinder::ruled}) {
        TopoDS_Solid solid = onlySolidIn(cutShape(board, as, watch), "board");
        if (isOpen(solid, board)) {
            return solid;
        }
    }
    throw Error("A slot or marker is missing in the board's solid.");
}

BoardSolid::BoardSolid(const BoardPart& board, const Watch& watch)
    : shape_(std::make_unique<Shape>()) {
    try {
        shape_->solid = boardShape(board, watch);
    } catch (const Standard_Failure& e) {
        throw Error(fmt::format("No solid comes of this board ({}).", e.GetMessageString()));
    }
}

BoardSolid::~BoardSolid() = default;
BoardSolid::BoardSolid(BoardSolid&&) noexcept = default;
BoardSolid& BoardSolid::operator=(BoardSolid&&) noexcept = default;

std::string BoardSolid::step(const std::string& name) const {
    return stepText(shape_->solid, name);
}

Mesh BoardSolid::mesh(double chord) const {
    constexpr double angle = 0.5; // radians; the chord rules on these flat arcs
    return trianglesOf(shape_->solid, chord, angle);
}

double BoardSolid::volume() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props);
    return props.Mass();
}

} // namespace wren
