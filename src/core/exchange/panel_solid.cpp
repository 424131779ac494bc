#include "exchange/panel_solid.h"

#include "exchange/face_triangles.h"
#include "exchange/back_body.h"
#include "exchange/fallen_face.h"
#include "exchange/shifted_faces.h"
#include "exchange/solid_tools.h"
#include "exchange/step_writer.h"
#include "geom/inset.h"

#include <algorithm>
#include <cmath>

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeChamfer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double beyond = 2; ///< mm a cutting body reaches out of the wood

/// What lies over a sloping floor, within a pocket's box.
TopoDS_Shape overSlope(const PanelPocket& p, double top) {
    std::array<Vec2, 2> box = boxOf(p.borders.front());
    box[0] = box[0] - Vec2{beyond, beyond};
    box[1] = box[1] + Vec2{beyond, beyond};
    const Vec2 a{box[0].x, p.floorAt(box[0].x)};
    const Vec2 b{box[1].x, p.floorAt(box[1].x)};
    BRepBuilderAPI_MakePolygon side(gp_Pnt(a.x, box[0].y, a.y), gp_Pnt(b.x, box[0].y, b.y),
                                    gp_Pnt(b.x, box[0].y, top), gp_Pnt(a.x, box[0].y, top), true);
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(side.Wire()).Face(),
                                 gp_Vec(0, box[1].y - box[0].y, 0))
        .Shape();
}

TopoDS_Shape pocketBody(const PanelPocket& p, const Message_ProgressRange& range) {
    double low = std::min(p.floor, p.mouth);
    double high = std::max(p.floor, p.mouth);
    if (p.slope != 0) {
        low -= 100;
    }
    (p.fromBack ? low : high) += p.fromBack ? -beyond : beyond;
    if (p.through) {
        (p.fromBack ? high : low) += p.fromBack ? beyond : -beyond;
    }
    TopoDS_Shape body = prismOf(p.borders.front(), low, high);
    Message_ProgressScope steps(range, "pocket", 2);
    if (p.borders.size() > 1) {
        TopTools_ListOfShape islands;
        for (std::size_t i = 1; i < p.borders.size(); ++i) {
            islands.Append(prismOf(p.borders[i], low - beyond, high + beyond));
        }
        body = combined<BRepAlgoAPI_Cut>(body, islands, steps.Next());
    }
    if (p.slope != 0) {
        body =
            combined<BRepAlgoAPI_Common>(body, listOf(overSlope(p, high + beyond)), steps.Next());
    }
    return body;
}

/// What lies over a slope of the front or under one of the back.
TopoDS_Shape overSlopeOf(const SlopeLine& s, const Panel& panel, bool back) {
    const double far = s.bow > 0 ? s.bow : 900;
    const double level = back ? panel.bottom : panel.top;
    const double down = back ? 1 : -1;
    const Vec2 along{-s.out.y, s.out.x};
    const Vec2 start = s.bow > 0 ? s.at : s.at - along * far;
    const auto at = [&](double b, double z) {
        const Vec2 p = start + s.out * b;
        return gp_Pnt(p.x, p.y, level + down * z);
    };
    const auto on = [&](double b) { return at(b, s.drop(b)); };
    const double first = s.begins();
    const double last = first + s.blend * std::sin(std::atan(s.gradient));
    BRepBuilderAPI_MakeWire wire;
    wire.Add(BRepBuilderAPI_MakeEdge(
        GC_MakeArcOfCircle(on(first), on((first + last) / 2), on(last)).Value()));
    wire.Add(BRepBuilderAPI_MakeEdge(on(last), on(far)));
    wire.Add(BRepBuilderAPI_MakeEdge(on(far), at(far, -beyond)));
    wire.Add(BRepBuilderAPI_MakeEdge(at(far, -beyond), at(first, -beyond)));
    wire.Add(BRepBuilderAPI_MakeEdge(at(first, -beyond), on(first)));
    const TopoDS_Face side = BRepBuilderAPI_MakeFace(wire.Wire()).Face();
    if (s.bow > 0) {
        const gp_Ax1 axis(gp_Pnt(s.centre.x, s.centre.y, level), gp_Dir(0, 0, 1));
        return BRepPrimAPI_MakeRevol(side, axis).Shape();
    }
    return BRepPrimAPI_MakePrism(side, gp_Vec(2 * far * along.x, 2 * far * along.y, 0)).Shape();
}

/// Edges between a face and the side: those of the wood's upper or lower surface that lie over the
/// outline.
template <typename See>
void rimEdges(const TopoDS_Shape& wood, const Contour& outline, bool lower, See see) {
    TopTools_IndexedDataMapOfShapeListOfShape faces;
    TopExp::MapShapesAndAncestors(wood, TopAbs_EDGE, TopAbs_FACE, faces);
    for (int i = 1; i <= faces.Extent(); ++i) {
        const TopoDS_Edge& edge = TopoDS::Edge(faces.FindKey(i));
        const BRepAdaptor_Curve curve(edge);
        const gp_Pnt middle = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
        if (distanceTo(outline, {middle.X(), middle.Y()}) > 1e-3) {
            continue;
        }
        // An upright edge runs from face to face; a rim's tangent lies along the face.
        const gp_Vec way = curve.DN((curve.FirstParameter() + curve.LastParameter()) / 2, 1);
        if (std::abs(way.Z()) > 0.9 * way.Magnitude()) {
            continue;
        }
        bool ofFace = false;
        for (const TopoDS_Shape& f : faces(i)) {
            const BRepAdaptor_Surface surface(TopoDS::Face(f));
            gp_Pnt p;
            gp_Vec u, v;
            surface.D1((surface.FirstUParameter() + surface.LastUParameter()) / 2,
                       (surface.FirstVParameter() + surface.LastVParameter()) / 2, p, u, v);
            gp_Vec normal = u.Crossed(v);
            if (f.Orientation() == TopAbs_REVERSED) {
                normal.Reverse();
            }
            const double up = normal.Z() / normal.Magnitude();
            ofFace = ofFace || (lower ? up < -0.5 : up > 0.5);
        }
        if (ofFace) {
            see(edge);
        }
    }
}

TopoDS_Shape withEdge(const TopoDS_Shape& wood, const Panel& panel, bool back,
                      const EdgeProfile& edge) {
    const double size = edge.size();
    if (edge.rounded()) {
        BRepFilletAPI_MakeFillet fillet(wood);
        rimEdges(wood, panel.outline, back, [&](const TopoDS_Edge& e) { fillet.Add(size, e); });
        fillet.Build();
        return fillet.Shape();
    }
    BRepFilletAPI_MakeChamfer chamfer(wood);
    rimEdges(wood, panel.outline, back, [&](const TopoDS_Edge& e) { chamfer.Add(size, e); });
    chamfer.Build();
    return chamfer.Shape();
}

/// The plain block with its edges, and with slopes that meet none.
TopoDS_Shape facesOf(const Panel& panel) {
    TopoDS_Shape wood = prismOf(panel.outline, panel.bottom, panel.top);
    for (bool back : {false, true}) {
        const FaceFall& fall = panel.fall(back);
        TopTools_ListOfShape away;
        for (const SlopeLine& s : fall.slopes()) {
            away.Append(overSlopeOf(s, panel, back));
        }
        if (!away.IsEmpty() && !fallsLast(panel, back)) {
            wood = combined<BRepAlgoAPI_Cut>(wood, away, {});
        }
    }
    for (bool back : {false, true}) {
        const EdgeProfile& edge = panel.fall(back).edge();
        if (edge.hasEdge() && !edgeHasCrests(panel, back)) {
            wood = withEdge(wood, panel, back, edge);
        }
    }
    return wood;
}

TopoDS_Shape holeBody(const Hole& h) {
    double low = std::min(h.mouth, h.floor);
    double high = std::max(h.mouth, h.floor);
    (h.fromBack ? low : high) += h.fromBack ? -beyond : beyond;
    if (h.through) {
        (h.fromBack ? high : low) += h.fromBack ? beyond : -beyond;
    }
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(h.at.x, h.at.y, low), gp_Dir(0, 0, 1)),
                                    h.diameter / 2, high - low)
        .Shape();
}

/// Everything that is cut out of the block.
TopTools_ListOfShape cutOut(const Panel& panel, const Indicator& indicator,
                            Message_ProgressScope& steps) {
    TopTools_ListOfShape away;
    for (const PanelPocket& p : panel.pockets) {
        away.Append(pocketBody(p, steps.Next()));
        indicator.throwIfStopped();
    }
    for (const PanelPocket& p : panel.shutIn) {
        const double low = std::min(p.floor, p.mouth);
        away.Append(prismOf(p.borders.front(), low, std::max(p.floor, p.mouth)));
    }
    for (const Hole& h : panel.holes) {
        away.Append(holeBody(h));
    }
    return away;
}

TopoDS_Shape lessWhatIsCut(const TopoDS_Shape& wood, const TopTools_ListOfShape& away,
                           const Message_ProgressRange& range) {
    const TopoDS_Shape left = away.IsEmpty() ? wood : combined<BRepAlgoAPI_Cut>(wood, away, range);
    // Pockets that overlap leave slivers on faces they share; those grow together again.
    ShapeUpgrade_UnifySameDomain unify(left);
    unify.Build();
    return unify.Shape();
}

TopoDS_Shape withFallenFaces(TopoDS_Shape wood, const Panel& panel) {
    for (bool back : {false, true}) {
        if (fallsLast(panel, back)) {
            wood = withFallenFace(wood, panel, back);
        }
    }
    if (const Trough* trough = panel.frontFall.trough()) {
        wood = combined<BRepAlgoAPI_Cut>(wood, listOf(troughBody(*trough)), {});
    }
    return wood;
}

} // namespace

TopoDS_Solid panelShape(const Panel& panel, const Watch& watch) {
    try {
        const Handle(Indicator) indicator = new Indicator(watch);
        Message_ProgressScope steps(indicator->Start(), "panel", double(panel.pockets.size() + 8));
        const TopTools_ListOfShape away = cutOut(panel, *indicator, steps);
        const TopoDS_Shape block = facesOf(panel);
        const TopoDS_Shape level = lessWhatIsCut(block, away, steps.Next(4));
        indicator->throwIfStopped();
        try {
            return onlySolidIn(withFallenFaces(level, panel), panel.name());
        } catch (const FallsPast&) {
            // A face that falls past a pocket's floor ends there, which only cutting can find out.
            return onlySolidIn(lessWhatIsCut(withFallenFaces(block, panel), away, steps.Next(4)),
                               panel.name());
        }
    } catch (const Standard_Failure& e) {
        const std::string why = e.GetMessageString();
        throw Error(fmt::format("No solid comes of the {}: {}.", panel.name(),
                                why.empty() ? "the library finds none" : why));
    }
}

struct PanelSolid::Shape {
    TopoDS_Solid solid;
};

PanelSolid::PanelSolid(const Panel& panel, const Watch& watch)
    : shape_(std::make_unique<Shape>(Shape{panelShape(panel, watch)})) {}

PanelSolid::~PanelSolid() = default;
PanelSolid::PanelSolid(PanelSolid&&) noexcept = default;
PanelSolid& PanelSolid::operator=(PanelSolid&&) noexcept = default;

std::string PanelSolid::step(const std::string& name) const {
    return stepText(shape_->solid, name);
}

Mesh PanelSolid::mesh(double chord, double angle) const {
    return trianglesOf(shape_->solid, chord, angle);
}

std::vector<SurfacePlace> PanelSolid::places(double pitch) const {
    return placesOf(shape_->solid, pitch);
}

double PanelSolid::volume() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props);
    return props.Mass();
}

Vec3 PanelSolid::centroid() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props);
    const gp_Pnt c = props.CentreOfMass();
    return {c.X(), c.Y(), c.Z()};
}

} // namespace wren
