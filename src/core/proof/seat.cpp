#include "proof/seat.h"

#include "geom/inset.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double look = 0.7;     ///< mm between places
constexpr double offWalls = 1.5; ///< a bit's corner and a cell's width stay out of it
constexpr double notAHole = 0.3; ///< gaps wider than this are somebody's hole

/// Height, in the frame the setup leads to, of the upper end of a column as it lies there.
std::optional<double> upperEnd(const SimulatedWood& wood, Vec2 at, bool lower) {
    const Vec2 s = wood.to.toSetup({at.x, at.y, 0}).xy();
    const int c = static_cast<int>(std::lround(wood.stock.column(s.x)));
    const int r = static_cast<int>(std::lround(wood.stock.row(s.y)));
    if (c < 0 || r < 0 || c >= wood.stock.columns() || r >= wood.stock.rows() ||
        !wood.stock.wood(c, r)) {
        return {};
    }
    const double z = lower ? wood.stock.low(c, r) : wood.stock.high(c, r);
    return wood.to.toInstrument({0, 0, z}).z;
}

} // namespace

std::optional<Seat> seatOf(const BodyPart& part, const PanelPocket& pocket, double flatFrom,
                           const SimulatedWood& neck, const SimulatedWood& body) {
    const std::vector<Contour> inner = inset({counterClockwise(part.heel())}, offWalls);
    if (inner.empty()) {
        return {};
    }
    const auto heel = polygonsOf(inner);
    const std::vector<Vec2> outline = pointsOf(part.outline(), 0.05);
    Vec2 low{1e9, 1e9};
    Vec2 high{-1e9, -1e9};
    for (Vec2 p : heel.front()) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    Seat seat;
    for (double y = low.y; y <= high.y; y += look) {
        for (double x = low.x; x <= high.x; x += look) {
            const Vec2 at{x, y};
            if (x < flatFrom || !insideOf(heel, at) || !inside(outline, at) ||
                distanceTo(part.outline(), at) < offWalls) {
                continue;
            }
            // The body's front lies below on the bed, the neck's back above.
            const auto floor = upperEnd(body, at, true);
            const Vec3 on = part.place().toInstrument({x, y, pocket.floorAt(x)});
            const auto under = upperEnd(neck, on.xy(), false);
            if (!floor || !under) {
                continue;
            }
            const double gap =
                (*under - on.z) * std::cos(part.place().angle) - (*floor - pocket.floorAt(x));
            if (std::abs(gap) > notAHole) {
                continue;
            }
            seat.least = seat.places ? std::min(seat.least, gap) : gap;
            seat.most = seat.places ? std::max(seat.most, gap) : gap;
            ++seat.places;
        }
    }
    return seat.places > 0 ? std::optional(seat) : std::nullopt;
}

} // namespace wren
