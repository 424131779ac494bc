#include "design/facets.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double eighth = std::numbers::pi / 8; ///< 22.5 degrees

/// A line that touches the section, its normal turned by `turn` from outward to downward.
struct Flat {
    double turn, away;

    double depthAt(double across) const {
        return (away - across * std::cos(turn)) / std::sin(turn);
    }
    double acrossAt(double depth) const { return (away - depth * std::sin(turn)) / std::cos(turn); }
};

Flat touching(const std::vector<Vec2>& section, double turn) {
    double away = 0;
    for (Vec2 p : section) {
        away = std::max(away, p.x * std::cos(turn) + p.y * std::sin(turn));
    }
    return {turn, away};
}

Vec2 meeting(const Flat& a, const Flat& b) {
    const double det = std::sin(b.turn - a.turn);
    return {(a.away * std::sin(b.turn) - b.away * std::sin(a.turn)) / det,
            (b.away * std::cos(a.turn) - a.away * std::cos(b.turn)) / det};
}

} // namespace

Facets facetsOf(const std::vector<Vec2>& section) {
    double wide = 0, deep = 0;
    for (Vec2 p : section) {
        wide = std::max(wide, p.x);
        deep = std::max(deep, p.y);
    }
    const Flat first = touching(section, 2 * eighth);
    const Flat upper = touching(section, eighth);
    const Flat lower = touching(section, 3 * eighth);
    Facets out;
    out.downSide = first.depthAt(wide);
    out.inBack = wide - first.acrossAt(deep);
    out.upperDownSide = upper.depthAt(wide);
    out.upperOnFirst = length(meeting(first, upper) - Vec2{wide, out.downSide});
    out.lowerInBack = wide - lower.acrossAt(deep);
    out.lowerOnFirst = length(meeting(first, lower) - Vec2{wide - out.inBack, deep});
    return out;
}

} // namespace wren
