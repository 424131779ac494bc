#include "part/gluing_sticks.h"

#include <algorithm>
#include <optional>

namespace wren {
namespace {

constexpr double room = 2;        ///< mm of wood round a hole
constexpr double underPoint = 1;  ///< mm the pocket goes on below the hole, its point counted
constexpr double step = 3;        ///< mm between places tried

bool keepsOff(const Panel& panel, Vec2 p) {
    const double clear = stickSize / 2 + room;
    if (!inside(pointsOf(panel.outline, 0.1), p) || distanceTo(panel.outline, p) < clear) {
        return false;
    }
    const bool pockets = std::all_of(
        panel.pockets.begin(), panel.pockets.end(), [&](const PanelPocket& pocket) {
            return !insideOf(polygonsOf(pocket.borders), p) &&
                   std::all_of(pocket.borders.begin(), pocket.borders.end(),
                               [&](const Contour& c) { return distanceTo(c, p) >= clear; });
        });
    return pockets && std::all_of(panel.holes.begin(), panel.holes.end(), [&](const Hole& h) {
               return length(h.at - p) >= clear + h.diameter / 2;
           });
}

/// Places over which pockets cut from the layer's own side go deeper than the sticks.
std::vector<Vec2> hiddenPlaces(const Panel& layer, const Panel& core, const Panel& glued,
                               bool fromBack) {
    const double seam = fromBack ? core.bottom : core.top;
    const double deep = stickDepth + underPoint;
    std::vector<Vec2> out;
    for (const PanelPocket& p : glued.pockets) {
        const double below = fromBack ? p.floorAt(p.levelAt) - seam : seam - p.floorAt(p.levelAt);
        if (p.stage != PocketStage::own || p.fromBack != fromBack || p.slope != 0 || below < deep) {
            continue;
        }
        const std::vector<std::vector<Vec2>> area = polygonsOf(p.borders);
        const std::array<Vec2, 2> box = boxOf(p.borders.front());
        for (double x = box[0].x; x <= box[1].x; x += step) {
            for (double y = box[0].y; y <= box[1].y; y += step) {
                const Vec2 at{x, y};
                const bool within = insideOf(area, at) &&
                                    std::all_of(p.borders.begin(), p.borders.end(),
                                                [&](const Contour& c) {
                                                    return distanceTo(c, at) >= stickSize / 2 + room;
                                                });
                if (within && keepsOff(core, at) && keepsOff(layer, at)) {
                    out.push_back(at);
                }
            }
        }
    }
    return out;
}

/// The two farthest from one another.
std::optional<std::array<Vec2, 2>> farthest(const std::vector<Vec2>& places) {
    std::optional<std::array<Vec2, 2>> best;
    double most = sticksApart;
    for (std::size_t i = 0; i < places.size(); ++i) {
        for (std::size_t k = 0; k < i; ++k) {
            if (length(places[i] - places[k]) > most) {
                most = length(places[i] - places[k]);
                best = {places[k], places[i]};
            }
        }
    }
    return best;
}

} // namespace

std::vector<PartId> addGluingSticks(std::vector<Panel>& layers, const Panel& glued) {
    const auto find = [&](Role role) {
        return std::find_if(layers.begin(), layers.end(),
                            [&](const Panel& p) { return p.id == role; });
    };
    std::vector<PartId> without;
    const auto core = find(Role::core);
    for (Role role : {Role::top, Role::back}) {
        const auto layer = find(role);
        if (layer == layers.end() || core == layers.end()) {
            continue;
        }
        const bool fromBack = role == Role::back;
        const auto places = farthest(hiddenPlaces(*layer, *core, glued, fromBack));
        if (!places) {
            without.push_back(layer->id);
            continue;
        }
        const double mouth = fromBack ? core->bottom : core->top;
        for (Vec2 at : *places) {
            Hole in{"stick", at, stickSize, mouth, mouth + (fromBack ? stickDepth : -stickDepth)};
            in.fromBack = fromBack;
            in.feature = {FeatureKind::registerPin};
            core->holes.push_back(in);
            Hole through{"stick", at, stickSize, layer->top, layer->bottom, false, true};
            through.feature = {FeatureKind::registerPin};
            layer->holes.push_back(through);
        }
    }
    return without;
}

} // namespace wren
