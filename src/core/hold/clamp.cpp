#include "hold/clamp.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {

std::array<Vec2, 4> ClampBox::corners() const {
    const Vec2 along = way * half.x;
    const Vec2 across = Vec2{-way.y, way.x} * half.y;
    return {middle - along - across, middle + along - across, middle + along + across,
            middle - along + across};
}

std::optional<ClampBox> boxOf(const Clamp& c, const Setup& setup) {
    ClampBox box;
    box.middle = c.at;
    const double turn = c.turn * std::numbers::pi / 180;
    box.way = {std::cos(turn), std::sin(turn)};
    switch (c.kind) {
    case ClampKind::strap:
        box.half = {45, 15};
        box.high = setup.topZ() + 25;
        return box;
    case ClampKind::cleat:
        box.half = {40, 10};
        box.high = setup.bottomZ() + std::min(12.0, setup.blank.thickness * 0.7);
        return box;
    case ClampKind::screw:
        box.half = {5, 5};
        box.high = setup.topZ() + 4;
        return box;
    default:
        return {};
    }
}

bool overlap(const ClampBox& a, const ClampBox& b) {
    // Two rectangles are apart where a side of one has all of the other beyond it (separating axis,
    // any text on computational geometry).
    const auto apart = [](const ClampBox& one, const ClampBox& other) {
        std::array<double, 4> low{1e300, -1e300, 1e300, -1e300};
        for (Vec2 corner : other.corners()) {
            const Vec2 p = one.own(corner);
            low = {std::min(low[0], p.x), std::max(low[1], p.x), std::min(low[2], p.y),
                   std::max(low[3], p.y)};
        }
        return low[0] >= one.half.x || low[1] <= -one.half.x || low[2] >= one.half.y ||
               low[3] <= -one.half.y;
    };
    return !apart(a, b) && !apart(b, a);
}

} // namespace wren
