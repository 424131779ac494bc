#include "part/router_base.h"

#include "geom/inset.h"

#include <algorithm>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

/// Where a board that a router stands on is narrower than half its base.
std::optional<Vec2> narrowAt(const Contour& outline, double base) {
    const std::vector<Contour> carried = inset({counterClockwise(outline)}, base / 4);
    if (carried.empty()) {
        return outline.front().from;
    }
    double most = base / 4 * 1.6; // a corner lies so far off
    std::optional<Vec2> where;
    for (Vec2 p : placesAlong(outline, 3)) {
        double d = 1e9;
        for (const Contour& c : carried) {
            d = std::min(d, distanceTo(c, p));
        }
        if (d > most) {
            most = d;
            where = p;
        }
    }
    return where;
}

} // namespace

std::string routerTips(const Panel& b, double base, double land) {
    if (b.pockets.empty()) {
        const std::optional<Vec2> at = narrowAt(b.outline, base);
        return at ? fmt::format("is narrower than half the router's base of {:.0f} mm at {:.0f}, "
                                "{:.0f} from the bridge line, and it tips there: put a strip as "
                                "thick beside it",
                                base, b.told(*at).x, b.told(*at).y)
                  : std::string();
    }
    const bool wide = std::any_of(b.pockets.begin(), b.pockets.end(), [&](const auto& p) {
        return !inset(p.borders, base / 2).empty();
    });
    return wide ? fmt::format("has an opening wider than the router's base of {:.0f} mm, which "
                              "tips into it: leave an island, or take a wider base",
                              base)
           : land < base / 2
               ? fmt::format("has {:.0f} mm of board round its opening, less than half the "
                             "router's base of {:.0f} mm, which tips off it: give it more",
                             land, base)
               : std::string();
}

} // namespace wren
