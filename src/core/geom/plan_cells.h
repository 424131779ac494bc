#pragma once

#include "geom/vec.h"

#include <array>
#include <vector>

namespace wren {

/// A piece of the plane that no line crosses, in triangles.
struct PlanCell {
    std::vector<std::array<int, 3>> triangles; ///< of the corners, counter-clockwise
    Vec2 within;                               ///< a place inside, away from its border
};

/// All the pieces a plane is cut into, those that lines close in; mm.
struct PlanCells {
    std::vector<Vec2> corners; ///< cells that meet share theirs
    std::vector<PlanCell> cells;
};

/// The pieces between closed lines that may cross, touch and run along one another, each line's
/// points in order. Corners come to lie on a grid of `grain` mm, and what is narrower than that
/// closes up. Worked out by GEOS. Throws Error when it finds no triangles for a piece.
PlanCells cellsBetween(const std::vector<std::vector<Vec2>>& lines, double grain = 1e-4);

} // namespace wren
