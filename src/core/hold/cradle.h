#pragma once

#include "base/finding.h"
#include "part/neck_part.h"
#include "part/panel.h"

namespace wren {

/// A board with the negative of the shaft's back in its face: a neck that has no flat side any more
/// lies in it face up, head and heel out beyond its ends. In the neck's frame.
Panel neckCradle(const NeckPart& neck);

/// What the neck's heel needs under it while the cradle lies on the bed, mm.
double packingUnderHeel(const NeckPart& neck, const Panel& cradle);

/// A shaft too short to lie in one.
Findings judgeCradle(const NeckPart& neck);

inline constexpr double underTrough = 10;  ///< of board left below it, mm
inline constexpr double besideTrough = 25; ///< and beside it at its widest
inline constexpr double shortestCradle = 80;

} // namespace wren
