#include "exchange/panel_solid.h"

#include "exchange/solid_tools.h"
#include "exchange/step_writer.h"

#include <algorithm>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <Standard_Failure.hxx>
#include <gp_Ax2.hxx>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double beyond = 2; ///< mm a cutting body reaches out of the wood

/// What lies over a sloping floor, within a pocket's box.
TopoDS_Shape overSlope(const PanelPocket& p, double top) {
    std::array<Vec2, 2> box{Vec2{1e9, 1e9}, Vec2{-1e9, -1e9}};
    for (Vec2 q : pointsOf(p.borders.front(), 0.1)) {
        box[0] = {std::min(box[0].x, q.x - beyond), std::min(box[0].y, q.y - beyond)};
        box[1] = {std::max(box[1].x, q.x + beyond), std::max(box[1].y, q.y + beyond)};
    }
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

TopoDS_Shape holeBody(const PanelHole& h) {
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

} // namespace

struct PanelSolid::Shape {
    TopoDS_Solid solid;
};

PanelSolid::PanelSolid(const Panel& panel, const Watch& watch) : shape_(std::make_unique<Shape>()) {
    try {
        const Handle(Indicator) indicator = new Indicator(watch);
        Message_ProgressScope steps(indicator->Start(), "panel", double(panel.pockets.size() + 4));
        TopTools_ListOfShape away;
        for (const PanelPocket& p : panel.pockets) {
            away.Append(pocketBody(p, steps.Next()));
            indicator->throwIfStopped();
        }
        for (const PanelPocket& p : panel.shutIn) {
            const double low = std::min(p.floor, p.mouth);
            away.Append(prismOf(p.borders.front(), low, std::max(p.floor, p.mouth)));
        }
        for (const PanelHole& h : panel.holes) {
            away.Append(holeBody(h));
        }
        TopoDS_Shape whole = prismOf(panel.outline, panel.bottom, panel.top);
        if (!away.IsEmpty()) {
            whole = combined<BRepAlgoAPI_Cut>(whole, away, steps.Next(4));
        }
        indicator->throwIfStopped();
        // Pockets that overlap leave slivers on faces they share; those grow together again.
        ShapeUpgrade_UnifySameDomain unify(whole);
        unify.Build();
        whole = unify.Shape();
        shape_->solid = onlySolidIn(whole, panel.name.c_str());
    } catch (const Standard_Failure& e) {
        throw Error(
            fmt::format("No solid comes of the {} ({}).", panel.name, e.GetMessageString()));
    }
}

PanelSolid::~PanelSolid() = default;
PanelSolid::PanelSolid(PanelSolid&&) noexcept = default;
PanelSolid& PanelSolid::operator=(PanelSolid&&) noexcept = default;

std::string PanelSolid::step(const std::string& name) const {
    return stepText(shape_->solid, name);
}

Mesh PanelSolid::mesh(double chord) const {
    return trianglesOf(shape_->solid, chord, 0.2);
}

double PanelSolid::volume() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props, 1e-6);
    return props.Mass();
}

Vec3 PanelSolid::centroid() const {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape_->solid, props, 1e-6);
    const gp_Pnt c = props.CentreOfMass();
    return {c.X(), c.Y(), c.Z()};
}

} // namespace wren
