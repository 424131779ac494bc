#include "part/body_part.h"

#include <algorithm>

namespace wren {
namespace {

/// Z of the floor a hole from the front begins on: a recess's or a pickup's, else the face.
double floorUnder(const Panel& body, Vec2 at, double diameter) {
    double floor = 0;
    for (const PanelPocket& p : body.pockets) {
        const FeatureKind kind = p.feature.kind;
        if (p.fromBack || p.through || p.mouth < 0 ||
            (kind != FeatureKind::recess && kind != FeatureKind::pickup)) {
            continue;
        }
        if (inside(pointsOf(p.borders[0], 0.01), at) &&
            distanceTo(p.borders[0], at) >= diameter / 2) {
            floor = std::min(floor, p.floor);
        }
    }
    return floor;
}

} // namespace

void BodyPart::standOnFloors(Panel& body) {
    std::optional<double> bridge;
    // What holds the bridge goes as deep into what it stands on; another hole ends where it was
    // asked to.
    const auto lower = [&](auto& hole, Vec2 at, double diameter) {
        const double under = floorUnder(body, at, diameter);
        if (hole.feature.kind == FeatureKind::bridge) {
            bridge = std::max(bridge.value_or(under), under);
            hole.mouth = under;
            hole.floor += hole.through ? 0 : under;
        } else if (under > hole.floor) {
            hole.mouth = under;
        }
    };
    const auto counts = [](const auto& hole) {
        const FeatureKind kind = hole.feature.kind;
        return !hole.fromBack && (kind == FeatureKind::bridge || kind == FeatureKind::string ||
                                  kind == FeatureKind::hole);
    };
    for (Hole& h : body.holes) {
        if (counts(h)) {
            lower(h, h.at, h.diameter);
        }
    }
    for (PanelPocket& p : body.pockets) { // of holes too wide to bore
        if (counts(p)) {
            const ContourPiece& arc = p.borders[0].front();
            lower(p, arc.centre, 2 * length(arc.from - arc.centre));
        }
    }
    bridgeStandsOn_ =
        bridge.value_or(floorUnder(body, {place_.bridge + body_.bridgeAt(), 0}, 0));
    std::stable_partition(body.pockets.begin(), body.pockets.end(), [](const PanelPocket& p) {
        return p.fromBack || p.mouth >= 0; // what begins on a floor is cut after it
    });
}

} // namespace wren
