#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "cut/settings.h"
#include "hold/setup.h"

namespace wren {

/// How far beyond the board's edge the two passes reach sideways, mm. Finishing must cover where
/// the slotting bit enters, roughing must make room for that bit's shank.
struct RadiusMargins {
    double rough = 0.3;
    double finish = 0.3;
};

/// Rough to a skin in levels, then finish lengthwise, the bit touching the face exactly at every
/// pass. On a cylinder along X every lengthwise pass is level, so there is no chord error at all.
/// Setup frame; starts and ends at clearance height.
Path radiusPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                const CutSettings& cut, const RadiusMargins& margins);

} // namespace wren
