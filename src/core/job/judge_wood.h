#pragma once

#include "job/derive.h"

namespace wren {

/// Knots, seams and old nails where they matter: a knot at an edge or a pocket's wall, a seam that
/// runs along one, a nail's hole inside the part or where it is cut free; marks and photographs of
/// parts there are none of. Of the drawn parts that are laid.
Findings judgeWoodMarks(const Derived& derived);

// Common practice, no source, mm.
inline constexpr double markClear = 3;  ///< a knot or seam keeps so far from edges and walls
inline constexpr double seamAlong = 20; ///< a seam that crosses an edge is shorter than that beside it

} // namespace wren
