#include "exchange/neck_solid.h"

#include "exchange/back_body.h"
#include "exchange/face_triangles.h"
#include "exchange/neck_back_surface.h"
#include "exchange/solid_tools.h"
#include "exchange/step_writer.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <GProp_GProps.hxx>
#include <Standard_Failure.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <fmt/format.h>
#include <gp_Pln.hxx>

namespace wren {

struct NeckSolid::Shape {
    TopoDS_Solid solid;
};

namespace {

constexpr double beyond = 6;       ///< bodies that are taken away reach so far past the neck
constexpr double wing = 120;       ///< and so far beside it
constexpr double measuring = 1e-5; ///< share of a volume its integration may be off
constexpr double fuzzy = 1e-3;     ///< the middle and the ends meet within this, mm

/// A body over all Y between the glue plane and the head's or heel's back.
TopoDS_Shape slab(double x0, double z0, double x1, double z1) {
    const auto at = [](double x, double z) { return gp_Pnt(x, -wing, z); };
    const std::array corners{at(x0, 0), at(x0, z0), at(x1, z1), at(x1, 0)};
    BRepBuilderAPI_MakeWire wire;
    for (std::size_t i = 0; i < 4; ++i) {
        wire.Add(BRepBuilderAPI_MakeEdge(corners[i], corners[(i + 1) % 4]).Edge());
    }
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(),
                                 gp_Vec(0, 2 * wing, 0))
        .Shape();
}

/// What stands over the head's face: along the hollow, then straight on.
TopoDS_Shape aboveHead(const NeckPart& part) {
    const double start = part.outline().headStart();
    const double tip = part.outline().tip() - beyond;
    const auto at = [](double x, double z) { return gp_Pnt(x, -wing, z); };
    BRepBuilderAPI_MakeWire wire;
    const double reach = part.hollowLength();
    const gp_Pnt a = at(start, 0);
    const gp_Pnt b = at(start - reach, part.face(start - reach));
    if (reach > 0) {
        const gp_Pnt m = at(start - reach / 2, part.face(start - reach / 2));
        wire.Add(BRepBuilderAPI_MakeEdge(Handle(Geom_Curve)(GC_MakeArcOfCircle(a, m, b).Value()))
                     .Edge());
    }
    const gp_Pnt c = at(tip, part.face(tip));
    const gp_Pnt d = at(tip, beyond);
    const gp_Pnt e = at(start, beyond);
    wire.Add(BRepBuilderAPI_MakeEdge(reach > 0 ? b : a, c).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(c, d).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(d, e).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(e, a).Edge());
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(),
                                 gp_Vec(0, 2 * wing, 0))
        .Shape();
}

/// What a pocket takes out, open above: its floor drawn out across.
TopoDS_Shape pocketBody(const NeckPocket& p) {
    const auto at = [&](double x, double y, double z) {
        const Vec2 q = p.out({x, y});
        return gp_Pnt(q.x, q.y, z);
    };
    const double lift = p.round ? p.width() / 2 : 0;
    const Vec2 low = p.box[0];
    std::vector<Vec2> line{{low.x, p.bottomAt(low.x)}};
    for (Vec2 q : p.run) {
        if (q.x > low.x + 1e-6 && q.x < p.box[1].x - 1e-6) {
            line.push_back(q);
        }
    }
    line.push_back({p.box[1].x, p.bottomAt(p.box[1].x)});
    std::vector<gp_Pnt> corners;
    corners.reserve(line.size() + 2);
    for (Vec2 q : line) {
        corners.push_back(at(q.x, low.y, q.y + lift));
    }
    corners.push_back(at(p.box[1].x, low.y, beyond));
    corners.push_back(at(low.x, low.y, beyond));
    BRepBuilderAPI_MakePolygon side;
    for (const gp_Pnt& c : corners) {
        side.Add(c);
    }
    side.Close();
    const gp_Vec across(corners.front(), at(low.x, p.box[1].y, line.front().y + lift));
    const TopoDS_Shape body =
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(side.Wire(), true).Face(), across).Shape();
    if (!p.round) {
        return body;
    }
    TopTools_ListOfShape floors;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const gp_Pnt a = at(line[i].x, p.middle().y, line[i].y + lift);
        const gp_Vec way(a, at(line[i + 1].x, p.middle().y, line[i + 1].y + lift));
        floors.Append(
            BRepPrimAPI_MakeCylinder(gp_Ax2(a, gp_Dir(way)), p.width() / 2, way.Magnitude())
                .Shape());
    }
    return combined<BRepAlgoAPI_Fuse>(body, floors, Message_ProgressRange());
}

TopoDS_Shape holeBody(const Hole& h) {
    const double low = std::min(h.mouth, h.floor);
    const double high = std::max(h.mouth, h.floor);
    const double under = h.fromBack || h.through ? beyond : 0;
    const double over = !h.fromBack || h.through ? beyond : 0;
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(h.at.x, h.at.y, low - under), gp_Dir(0, 0, 1)),
                                    h.diameter / 2, high - low + under + over)
        .Shape();
}

/// Head and heel, whose backs are planes.
TopTools_ListOfShape endsOf(const NeckPart& part, const Message_ProgressRange& range) {
    const NeckBack& back = part.back();
    const NeckOutline& o = part.outline();
    const auto z = [&](double x) { return -back.slice(x).spine(); };
    const TopoDS_Shape prism = prismOf(o.contour(), -part.deepest() - 3 * beyond, 0);
    TopTools_ListOfShape ends;
    const double tip = o.tip() - beyond;
    const double end = o.end() + beyond;
    Message_ProgressScope steps(range, "", 2);
    ends.Append(combined<BRepAlgoAPI_Common>(
        prism, listOf(slab(tip, z(tip), back.headFrom(), z(back.headFrom()))), steps.Next(1)));
    ends.Append(combined<BRepAlgoAPI_Common>(
        prism, listOf(slab(back.heelTo(), z(back.heelTo()), end, z(end))), steps.Next(1)));
    return ends;
}

TopoDS_Shape shapeOf(const NeckPart& part, const Watch& watch) {
    const Handle(Indicator) indicator = new Indicator(watch);
    Message_ProgressScope steps(indicator->Start(), "", 10);
    const TopoDS_Shape middle = bodyUpFrom(backSurfaces(part));
    steps.Next(3);
    indicator->throwIfStopped();
    const TopTools_ListOfShape ends = endsOf(part, steps.Next(1));
    const TopoDS_Shape carved = combined<BRepAlgoAPI_Fuse>(middle, ends, steps.Next(2), fuzzy);
    indicator->throwIfStopped();
    TopTools_ListOfShape away;
    away.Append(aboveHead(part));
    for (const NeckPocket& p : part.pockets()) {
        if (!p.fromBack) { // else a strip closes it
            away.Append(pocketBody(p));
        }
    }
    for (const Hole& h : part.holes()) {
        if (!h.byHand) {
            away.Append(holeBody(h));
        }
    }
    const TopoDS_Shape whole = combined<BRepAlgoAPI_Cut>(carved, away, steps.Next(2));
    indicator->throwIfStopped();
    if (!part.carved()) {
        return whole;
    }
    // The face's own solid within the neck's outline, on the glue plane.
    const BoardPart& face = *part.carved();
    const TopoDS_Shape within = combined<BRepAlgoAPI_Common>(
        boardShape(face, watch),
        listOf(prismOf(part.outline().contour(), -beyond, face.design().thickness + beyond)),
        steps.Next(1));
    indicator->throwIfStopped();
    return combined<BRepAlgoAPI_Fuse>(whole, listOf(within), steps.Next(1), fuzzy);
}

} // namespace

NeckSolid::NeckSolid(const NeckPart& part, const Watch& watch) : shape_(std::make_unique<Shape>()) {
    try {
        shape_->solid = onlySolidIn(shapeOf(part, watch), "neck");
    } catch (const Standard_Failure& e) {
        throw Error(fmt::format("No solid comes of this neck ({}).", e.GetMessageString()));
    }
    // The library has lost cuts before: the solid must hold what the definition says.
    const double wanted = part.volume();
    if (std::abs(volume() - wanted) > 0.003 * wanted) {
        throw Error(
            fmt::format("The neck's solid came out at {:.0f} mm3 where {:.0f} mm3 were expected; "
                        "it is not written.",
                        volume(), wanted));
    }
}

NeckSolid::~NeckSolid() = default;
NeckSolid::NeckSolid(NeckSolid&&) noexcept = default;
NeckSolid& NeckSolid::operator=(NeckSolid&&) noexcept = default;

std::string NeckSolid::step(const std::string& name) const {
    return stepText(shape_->solid, name);
}

Mesh NeckSolid::mesh(double chord) const {
    constexpr double angle = 0.2; // radians
    return trianglesOf(shape_->solid, chord, angle);
}

double NeckSolid::volume() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props, measuring);
    return props.Mass();
}

Vec3 NeckSolid::centroid() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props, measuring);
    const gp_Pnt c = props.CentreOfMass();
    return {c.X(), c.Y(), c.Z()};
}

double NeckSolid::sectionArea(double x) const {
    const TopoDS_Face plane =
        BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(x, 0, 0), gp_Dir(1, 0, 0)), -200, 200, -200, 200)
            .Face();
    GProp_GProps props;
    BRepGProp::SurfaceProperties(BRepAlgoAPI_Common(plane, shape_->solid).Shape(), props);
    return props.Mass();
}

} // namespace wren
