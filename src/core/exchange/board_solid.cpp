#include "exchange/board_solid.h"

#include "base/error.h"
#include "exchange/step_writer.h"
#include "geom/mesh_refine.h"

#include <algorithm>
#include <map>
#include <numbers>
#include <tuple>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepGProp.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
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
#include <Message_ProgressIndicator.hxx>
#include <Message_ProgressRange.hxx>
#include <Message_ProgressScope.hxx>
#include <Poly_Triangulation.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_ListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Solid.hxx>

namespace wren {

struct BoardSolid::Shape {
    TopoDS_Solid solid;
    ArchedFace face;
    ArchedFace floor;
};

namespace {

/// How far the bodies that are taken away reach beyond the board, so that no two faces coincide.
constexpr double beyond = 3;

TopoDS_Edge edgeOf(const ContourPiece& p) {
    const gp_Pnt a(p.from.x, p.from.y, 0);
    const gp_Pnt b(p.to.x, p.to.y, 0);
    if (p.kind == ContourPiece::Kind::line) {
        return BRepBuilderAPI_MakeEdge(a, b).Edge();
    }
    const Vec2 m = p.at(p.length() / 2);
    return BRepBuilderAPI_MakeEdge(
               Handle(Geom_Curve)(GC_MakeArcOfCircle(a, gp_Pnt(m.x, m.y, 0), b).Value()))
        .Edge();
}

/// The upright body over a closed contour between two heights.
TopoDS_Shape prismOf(const Contour& contour, double from, double to) {
    BRepBuilderAPI_MakeWire wire;
    for (const ContourPiece& piece : contour) {
        if (piece.length() > 1e-9) {
            wire.Add(edgeOf(piece));
        }
    }
    gp_Trsf up;
    up.SetTranslation(gp_Vec(0, 0, from));
    const TopoDS_Shape base =
        BRepBuilderAPI_MakeFace(wire.Wire(), true).Face().Moved(TopLoc_Location(up));
    return BRepPrimAPI_MakePrism(base, gp_Vec(0, 0, to - from)).Shape();
}

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

Contour closedThrough(const std::vector<Vec2>& points) {
    Contour contour;
    for (std::size_t i = 0; i < points.size(); ++i) {
        contour.push_back(
            {ContourPiece::Kind::line, points[i], points[(i + 1) % points.size()], {}});
    }
    return contour;
}

/// Passes on how far the library has come, and the wish to stop.
class Indicator : public Message_ProgressIndicator {
public:
    explicit Indicator(const Watch& watch) : watch_(watch) {}

    void throwIfStopped() const {
        if (watch_.stop.stop_requested()) {
            throw Cancelled();
        }
    }

private:
    Standard_Boolean UserBreak() override { return watch_.stop.stop_requested(); }
    void Show(const Message_ProgressScope&, const Standard_Boolean) override {
        if (watch_.progress) {
            watch_.progress(GetPosition());
        }
    }

    const Watch& watch_;
};

TopTools_ListOfShape listOf(const TopoDS_Shape& shape) {
    TopTools_ListOfShape list;
    list.Append(shape);
    return list;
}

template <typename Operation>
TopoDS_Shape combined(const TopoDS_Shape& one, const TopTools_ListOfShape& others,
                      const Message_ProgressRange& range) {
    Operation operation;
    operation.SetArguments(listOf(one));
    operation.SetTools(others);
    operation.SetRunParallel(true);
    operation.Build(range);
    return operation.HasErrors() ? TopoDS_Shape() : operation.Shape();
}

/// The slots as upright bodies with the curved floor: all boxes at once against one body.
TopoDS_Shape slotBodies(const BoardPart& board, Cylinder cylinderAs,
                        const Message_ProgressRange& range) {
    const double half = board.design().slotWidth / 2;
    BRep_Builder build;
    TopoDS_Compound boxes;
    build.MakeCompound(boxes);
    for (const FretSlot& slot : board.slots()) {
        const Vec2 u = slot.along() * (slot.blind ? 0 : beyond);
        const Vec2 v = slot.across() * half;
        const Vec2 low = slot.low - u;
        const Vec2 high = slot.high + u;
        build.Add(boxes, prismOf(closedThrough({low - v, high - v, high + v, low + v}), -beyond,
                                 board.design().thickness + beyond));
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

TopoDS_Shape shapeOf(const BoardPart& board, Cylinder cylinderAs, const Watch& watch) {
    const Handle(Indicator) indicator = new Indicator(watch);
    Message_ProgressScope steps(indicator->Start(), "", 10);
    const double high = board.design().thickness + beyond;
    const TopoDS_Shape arched = combined<BRepAlgoAPI_Cut>(
        prismOf(board.outline(), 0, high), listOf(bodyAbove(board.face(), board, cylinderAs)),
        steps.Next(1));
    indicator->throwIfStopped();
    TopTools_ListOfShape rest;
    if (!board.slots().empty()) {
        rest.Append(slotBodies(board, cylinderAs, steps.Next(4)));
        indicator->throwIfStopped();
    }
    if (board.design().markers.inlay == Inlay::pressed) {
        for (const MarkerPocket& pocket : board.pockets()) {
            rest.Append(prismOf(pocket.outline, pocket.floor, high));
        }
    }
    if (board.shelf()) {
        rest.Append(shelfBody(board));
    }
    const TopoDS_Shape whole =
        rest.IsEmpty() ? arched : combined<BRepAlgoAPI_Cut>(arched, rest, steps.Next(5));
    indicator->throwIfStopped();
    return whole;
}

TopoDS_Solid onlySolidIn(const TopoDS_Shape& shape) {
    if (shape.IsNull()) {
        throw Error("No solid comes of this board.");
    }
    TopExp_Explorer solids(shape, TopAbs_SOLID);
    if (!solids.More()) {
        throw Error("No solid comes of this board.");
    }
    const TopoDS_Solid solid = TopoDS::Solid(solids.Current());
    solids.Next();
    if (solids.More()) {
        throw Error("The board falls into pieces; a solid in one piece was expected.");
    }
    if (!BRepCheck_Analyzer(solid).IsValid()) {
        throw Error("The board's solid is not valid: its faces do not close.");
    }
    return solid;
}

/// Whether every slot and open marker really is taken out of the solid.
bool isOpen(const TopoDS_Solid& solid, const BoardPart& board) {
    BRepClass3d_SolidClassifier classifier(solid);
    const auto wood = [&](Vec2 p, double floor) {
        classifier.Perform(gp_Pnt(p.x, p.y, (floor + board.face(p.x, p.y)) / 2), 1e-6);
        return classifier.State() == TopAbs_IN;
    };
    const bool filled =
        std::any_of(board.slots().begin(), board.slots().end(), [&](const FretSlot& slot) {
            const Vec2 middle = (slot.low + slot.high) * 0.5;
            return wood(middle, board.floor(middle.x, middle.y));
        });
    return !filled && (board.design().markers.inlay != Inlay::pressed ||
                       std::none_of(board.pockets().begin(), board.pockets().end(),
                                    [&](const MarkerPocket& m) {
                                        // A wrap's place lies on the board's very edge.
                                        return wood(m.place.at + m.place.along * 0.2, m.floor);
                                    }));
}

/// Joins the faces' own triangulations: corners on shared edges are the same points.
class Joiner {
public:
    void add(const TopoDS_Face& face) {
        TopLoc_Location at;
        const Handle(Poly_Triangulation) own = BRep_Tool::Triangulation(face, at);
        if (own.IsNull()) {
            throw Error("A face of the board could not be laid out in triangles.");
        }
        std::vector<int> index;
        for (int i = 1; i <= own->NbNodes(); ++i) {
            index.push_back(vertex(own->Node(i).Transformed(at.Transformation())));
        }
        for (int i = 1; i <= own->NbTriangles(); ++i) {
            int a = 0;
            int b = 0;
            int c = 0;
            own->Triangle(i).Get(a, b, c);
            if (face.Orientation() == TopAbs_REVERSED) {
                std::swap(b, c);
            }
            const auto of = [&](int n) { return index[static_cast<std::size_t>(n - 1)]; };
            if (of(a) != of(b) && of(b) != of(c) && of(c) != of(a)) {
                mesh_.triangles.push_back({of(a), of(b), of(c)});
            }
        }
    }
    Mesh take() { return std::move(mesh_); }

private:
    int vertex(const gp_Pnt& p) {
        constexpr double grain = 1e-5; // mm; far below any edge, far above rounding
        const std::tuple key{std::llround(p.X() / grain), std::llround(p.Y() / grain),
                             std::llround(p.Z() / grain)};
        const auto [it, isNew] = known_.try_emplace(key, static_cast<int>(mesh_.vertices.size()));
        if (isNew) {
            mesh_.vertices.push_back({p.X(), p.Y(), p.Z()});
        }
        return it->second;
    }

    Mesh mesh_;
    std::map<std::tuple<long long, long long, long long>, int> known_;
};

} // namespace

BoardSolid::BoardSolid(const BoardPart& board, const Watch& watch)
    : shape_(std::make_unique<Shape>()) {
    try {
        shape_->solid = onlySolidIn(shapeOf(board, Cylinder::primitive, watch));
        if (!isOpen(shape_->solid, board)) {
            shape_->solid = onlySolidIn(shapeOf(board, Cylinder::ruled, watch));
        }
        if (!isOpen(shape_->solid, board)) {
            throw Error("A slot or marker is missing in the board's solid.");
        }
        shape_->face = board.face();
        shape_->floor = board.floor();
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
    BRepMesh_IncrementalMesh(shape_->solid, chord, false, angle, true);
    Joiner joiner;
    for (TopExp_Explorer faces(shape_->solid, TopAbs_FACE); faces.More(); faces.Next()) {
        joiner.add(TopoDS::Face(faces.Current()));
    }
    // The library minds the deflection along edges, but lays triangles right across a curved face
    // with holes in it.
    Mesh mesh = joiner.take();
    for (const ArchedFace& face : {shape_->face, shape_->floor}) {
        refineOnto(
            mesh, [&](double x, double y) { return face.heightAt(x, y); }, chord);
    }
    return mesh;
}

double BoardSolid::volume() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props);
    return props.Mass();
}

} // namespace wren
