#include "part/body_layers.h"

#include <algorithm>

namespace wren {
namespace {

constexpr double seam = 1e-6; ///< less than this between a pocket's end and a glue line is nothing

/// A layer's share of a pocket that takes the wood between two heights.
std::optional<PanelPocket> shareIn(const Panel& layer, const PanelPocket& whole, double low,
                                   double high) {
    const double face = std::min(layer.top, 0.0); // what is surfaced off the top later apart
    if (std::min(high, face) - std::max(low, layer.bottom) < seam) {
        return {};
    }
    PanelPocket p = whole;
    p.stage = PocketStage::share;
    p.visible = false; // its edge is glued over, or surfaced
    const bool down = low <= layer.bottom + seam;
    const bool up = high >= face - seam;
    p.through = down && up;
    if (!down && !up) { // it begins on the floor of another pocket
        return p;
    }
    p.fromBack = !up;
    p.mouth = p.fromBack ? layer.bottom : layer.top;
    p.floor = p.through ? layer.bottom : p.fromBack ? high : low;
    return p;
}

} // namespace

std::optional<CutWhen> cutWhen(const Body& body, FeatureId id) {
    switch (id.kind) {
    case FeatureKind::cavity:
        return body.cavity.cut;
    case FeatureKind::pickup:
        return body.pickups[id.index].cut;
    case FeatureKind::seat:
        return body.controls[id.index].cut;
    case FeatureKind::recess:
    case FeatureKind::cutOut:
        return body.recesses[id.index].cut;
    default:
        return {};
    }
}

void shareAmong(std::vector<Panel>& layers, Panel& glued, const Body& body) {
    for (PanelPocket& p : glued.pockets) {
        if (body.build != BodyBuild::topped || cutWhen(body, p.feature) != CutWhen::apart) {
            continue;
        }
        p.stage = PocketStage::before;
        double low = p.fromBack ? p.mouth : p.floor;
        double high = p.fromBack ? p.floor : p.mouth;
        if (p.through) {
            low = glued.bottom;
            high = glued.top;
        } else if (p.feature.kind == FeatureKind::cavity) {
            low = glued.bottom; // through the ledge's wood too, which is cut away later
        } else if (p.feature.kind == FeatureKind::seat && body.cavity.cut != CutWhen::apart) {
            low = std::min(low, -body.top); // through the cavity's wood, which is cut away later
        }
        for (Panel& layer : layers) {
            if (const std::optional<PanelPocket> share = shareIn(layer, p, low, high)) {
                layer.pockets.push_back(*share);
            }
        }
    }
}

BitReach reachFor(const BodyPart& part, FeatureId feature) {
    BitReach out;
    for (const Panel& panel : part.panels()) {
        for (const PanelPocket& p : panel.pockets) {
            if (p.feature != feature || panel.id.byItself()) {
                continue;
            }
            // The end of the bit stands so deep under the face that the collet must clear.
            const double reach = p.fromBack ? p.floor - panel.bottom : panel.top - p.floor;
            double& most = p.stage == PocketStage::share ? out.apart : out.glued;
            most = std::max(most, reach);
        }
    }
    return out;
}

} // namespace wren
