#pragma once

#include "design/neck_back.h"
#include "design/neck_rod.h"
#include "design/tuner_places.h"

namespace wren {

// Least wood, mm; common practice, no source.
inline constexpr double rodWoodStop = 2;
inline constexpr double rodWoodCaution = 3;

/// Combinations of a neck's numbers that cannot be drawn at all. To be asked first; any finding is
/// a firm stop.
Findings judgeNeckNumbers(const Neck& neck, const Fretboard& board);

/// What is wrong, or wants care, on a neck that can be drawn.
Findings judgeNeck(const Neck& neck, const Fretboard& board, const NeckOutline& outline,
                   const NeckBack& back);

} // namespace wren
