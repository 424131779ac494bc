#include "proof/fit.h"

#include "proof/pieces_by_place.h"

#include <algorithm>
#include <memory>

namespace wren {
namespace {

constexpr double step = 1; ///< mm along the outline

} // namespace

Fit fitOf(const Contour& outline, const CutWall* part, const Contour& border, const CutWall* pocket,
          const std::function<bool(Vec2)>& counts) {
    const auto paths = [](const CutWall* wall, const Contour& of) {
        return wall ? std::make_unique<PiecesByPlace>(wall->programs, wall->setup,
                                                      std::vector<Contour>{of})
                    : nullptr;
    };
    const auto byPart = paths(part, outline), byPocket = paths(pocket, border);
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
            const double left = byPart ? byPart->nearest(at, part->deep, part->fromBack).off : 0;
            const double stands =
                byPocket ? byPocket->nearest(wall, pocket->deep, pocket->fromBack).off : 0;
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
