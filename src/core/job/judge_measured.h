#pragma once

#include "job/derive.h"

namespace wren {

/// Where what was measured does not go with what is cut already, and what moisture will do to the
/// neck's fit: a heel in a pocket cut for another, a bridge drilled for another neck, a lid cut for
/// another recess, a heel and a pocket that dry by different amounts.
Findings judgeMeasured(const Derived& derived);

// Common practice, no source; mm a side.
inline constexpr double tightestHeel = 0.02;   ///< less room, and it does not go in by hand
inline constexpr double loosestHeel = 0.2;     ///< more, and it can be seen
inline constexpr double heelMoves = 0.02;      ///< a change of room that is not worth a word

} // namespace wren
