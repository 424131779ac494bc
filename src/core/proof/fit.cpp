#include "proof/fit.h"

#include "proof/pieces_by_place.h"

#include <algorithm>

namespace wren {
namespace {

constexpr double step = 1; ///< mm along the outline

} // namespace

Fit fitOf(const Contour& outline, const CutWall& part, const Contour& border, const CutWall& pocket,
          const std::function<bool(Vec2)>& counts) {
    const PiecesByPlace byPart(part.programs, part.setup, {outline});
    const PiecesByPlace byPocket(pocket.programs, pocket.setup, {border});
    Fit fit;
    for (const ContourPiece& piece : outline) {
        const double l = piece.length();
        const int n = std::max(1, static_cast<int>(l / step));
        for (int i = 0; i < n; ++i) {
            const Vec2 at = piece.at(l * (i + 0.5) / n);
            if (!counts(at)) {
                continue;
            }
            const Vec2 wall = nearestOn(border, at);
            // What a cutter left standing takes from the room, on either side.
            const double left = byPart.nearest(at, part.deep, part.fromBack).off;
            const double stands = byPocket.nearest(wall, pocket.deep, pocket.fromBack).off;
            if (left < 1 && stands < 1) {
                fit.places.push_back({at, distanceTo(border, at) - left - stands});
            }
        }
    }
    if (!fit.places.empty()) {
        const auto [a, b] = std::minmax_element(
            fit.places.begin(), fit.places.end(),
            [](const FitPlace& p, const FitPlace& q) { return p.room < q.room; });
        fit.least = a->room;
        fit.most = b->room;
    }
    return fit;
}

} // namespace wren
