#include "part/body_part.h"

#include "design/fan.h"
#include "part/body_layers.h"
#include "part/body_shapes.h"
#include "part/gluing_sticks.h"

#include <algorithm>
#include <cmath>
#include <iterator>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double topHollow = 6; ///< least radius of an oversize outline's hollows

} // namespace

BodyPart::BodyPart(const Body& body, const NeckPart& neck, const BodyWoods& woods)
    : body_(body), board_(neck.board()), place_(body, neck.design(), neck.board()),
      strings_(neck.design(), neck.board(), body.aims), woods_(woods) {
    outline_ = place_.laid(shapeOutline(body.mirror ? mirroredShape(body.nodes) : body.nodes));
    layFaces();
    const double under = -body.thickness;
    Panel whole;
    whole.id = Role::body;
    whole.wood = woods.body;
    whole.outline = outline_;
    whole.bottom = under;
    if (body.build == BodyBuild::topped) {
        Panel core;
        core.id = Role::core;
        core.wood = woods.body;
        core.outline = outline_;
        core.bottom = under + body.back;
        core.top = -body.top;
        core.outlined = false;
        addChambers(core, core.top);
        addChannels(core, core.top);
        Panel top;
        top.id = Role::top;
        top.wood = woods.top;
        top.outline = grown(outline_, body.oversize, topHollow);
        top.bottom = -body.top;
        top.top = body.topSpare;
        panels_ = {core, top};
        whole.layers = {Role::core, Role::top};
        whole.frame = {body.top, body.back};
        if (body.back > 0) {
            Panel back = top;
            back.id = Role::back;
            back.wood = woods.back;
            back.bottom = under;
            back.top = core.bottom;
            panels_.push_back(back);
            whole.layers.push_back(Role::back);
        }
        whole.shutIn = core.pockets;
        whole.spare = body.topSpare;
    } else {
        addChannels(whole, 0);
    }
    if (neck.design().joint == NeckJoint::boltOn || neck.design().joint == NeckJoint::set) {
        const PanelPocket pocket = neckPocket(neck);
        whole.pockets.push_back(pocket);
        addBolts(whole, neck, pocket);
    }
    addPickups(whole);
    addBridge(whole);
    addCavity(whole);
    addControls(whole);
    addRecesses(whole);
    addEdges(whole);
    addFreeHoles(whole);
    standOnFloors(whole);
    addWires();
    shareAmong(panels_, whole, body);
    if (body.gluingSticks) {
        withoutSticks_ = addGluingSticks(panels_, whole);
    }
    std::vector<Panel> plates;
    addPlates(whole, plates);
    whole.frontFall = frontFall_;
    whole.backFall = backFall_;
    addEngravings(whole);
    panels_.push_back(std::move(whole));
    makeLid();
    makePlugs();
    if (neck.design().joint == NeckJoint::through) {
        addWings(neck);
    }
    for (Panel& p : panels_) {
        p.told = {place_.bridge, place_.side};
    }
    panels_.insert(panels_.end(), plates.begin(), plates.end());
}

const Panel* BodyPart::panel(PartId id) const {
    const auto it =
        std::find_if(panels_.begin(), panels_.end(), [&](const Panel& p) { return p.id == id; });
    return it == panels_.end() ? nullptr : &*it;
}

void BodyPart::addBolts(Panel& body, const NeckPart& neck, const PanelPocket& pocket) {
    for (const Hole& h : neck.holes()) {
        if (h.feature.kind == FeatureKind::bolt) { // of the neck
            body.holes.push_back({"bolt", h.at, body_.pocket.boltHole, pocket.floorAt(h.at.x),
                                  body.bottom, false, true});
            body.holes.back().feature = {FeatureKind::bolt};
        }
    }
}

std::vector<PanelPocket> BodyPart::pockets() const {
    std::vector<PanelPocket> out;
    for (const Panel& p : panels_) {
        if (!p.id.byItself()) {
            std::copy_if(p.pockets.begin(), p.pockets.end(), std::back_inserter(out),
                         [](const PanelPocket& q) { return q.stage != PocketStage::share; });
        }
    }
    return out;
}

std::vector<Hole> BodyPart::holes() const {
    std::vector<Hole> out;
    for (const Panel& p : panels_) {
        if (!p.id.byItself() && p.id.role != Role::wing) { // whose holes the body has too
            std::copy_if(p.holes.begin(), p.holes.end(), std::back_inserter(out),
                         [](const Hole& h) { return h.feature.kind != FeatureKind::registerPin; });
        }
    }
    return out;
}

double BodyPart::between(Vec3 a, Vec3 b, double x) const {
    const Vec3 p = place_.toBody(a);
    const Vec3 q = place_.toBody(b);
    return p.z + (q.z - p.z) * (x - p.x) / (q.x - p.x);
}

double BodyPart::stringHeight(double x) const {
    const double saddle = strings_.saddle();
    return between({0, 0, strings_.over(0)}, {saddle, 0, strings_.over(saddle)}, x);
}

double BodyPart::pressedHeight(double x) const {
    const double saddle = strings_.saddle();
    return between({strings_.lastFret(), 0, strings_.pressed()}, {saddle, 0, strings_.over(saddle)},
                   x);
}

double BodyPart::saddleHeight() const {
    return stringHeight(place_.bridge) - bridgeStandsOn_;
}

double BodyPart::saddleX(Vec2 saddle) const {
    return place_.toBody({saddle.x, 0, strings_.over(saddle.x)}).x;
}

} // namespace wren
