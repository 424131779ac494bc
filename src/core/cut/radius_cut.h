#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "cut/settings.h"
#include "hold/setup.h"

namespace wren {

/// How far beyond the board's edge the passes reach sideways, mm. Finishing must cover where the
/// slotting bit enters, roughing must make room for that bit's shank.
struct RadiusMargins {
    double rough = 0.3;
    double finish = 0.3;
};

/// Whether a bit's end can do the radius at all: flat, ball, bull-nose, tapered ball, surfacing.
bool canDoRadius(const Bit& bit);

/// Rough in levels to the stock to leave, then finish lengthwise along the face's own straight
/// lines, the bit touching exactly all along every pass, so that there is no chord error at all. A
/// set stepover rules; otherwise the ridges asked for do. Setup frame; starts and ends at clearance
/// height.
Path radiusPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                const CutSettings& cut, const RadiusMargins& margins);

/// Finishing passes alone: the skim over filled markers.
Path skimPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
              const CutSettings& cut);

/// What the passes come to on this board.
struct RadiusFigures {
    double stepover = 0; ///< widest step between neighbouring contacts, mm
    double ridge = 0;    ///< highest ridge between them, mm
    double meanLeft = 0; ///< mean height of the ridges over the board, mm
};
RadiusFigures radiusFigures(const BoardPart& board, const Bit& bit, const CutSettings& cut,
                            const RadiusMargins& margins);

} // namespace wren
