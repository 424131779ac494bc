#pragma once

#include "job/derive.h"

namespace wren {

/// Where the probe plate lies for a setup, its middle on the machine: where no clamp stands and,
/// on the blank's face, where no program of the part has cut or will, so that Z can be taken there
/// again after every change of bit. Throws Error where there is no such place within reach.
Vec2 probeSpot(const Derived& derived, const PartJob& job, std::size_t side,
               std::size_t station = 0);

/// Setups that have no such place.
Findings judgeProbeSpots(const Derived& derived);

// Common practice, no source, mm.
inline constexpr double plateHalf = 14; ///< of a probe plate
inline constexpr double plateRests = 4; ///< round its middle it lies on whole wood

} // namespace wren
