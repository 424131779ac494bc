#include "part/panel.h"

#include <algorithm>

namespace wren {

std::vector<std::string> namesOf(const std::vector<PartId>& parts) {
    std::vector<std::string> out;
    out.reserve(parts.size());
    for (PartId part : parts) {
        out.push_back(part.shortName());
    }
    return out;
}

std::array<Vec2, 2> Panel::box() const {
    return boxOf(outline);
}

bool Panel::hasBack() const {
    return !backFall.level() ||
           std::any_of(
               pockets.begin(), pockets.end(),
               [](const PanelPocket& p) { return p.fromBack && p.stage != PocketStage::before; }) ||
           std::any_of(holes.begin(), holes.end(), [](const Hole& h) { return h.fromBack; });
}

std::vector<std::vector<Vec2>> polygonsOf(const std::vector<Contour>& borders) {
    std::vector<std::vector<Vec2>> out;
    out.reserve(borders.size());
    for (const Contour& c : borders) {
        out.push_back(pointsOf(c, 0.005));
    }
    return out;
}

bool insideOf(const std::vector<std::vector<Vec2>>& polygons, Vec2 p) {
    bool in = false;
    for (const auto& polygon : polygons) {
        in ^= inside(polygon, p);
    }
    return in;
}

} // namespace wren
