#pragma once

#include "base/finding.h"
#include "cut/settings.h"
#include "hold/setup.h"

#include <string>
#include <vector>

namespace wren {

/// What a bit is looked for.
struct BitQuestion {
    const BoardPart& board;
    const Setup& setup;
    const Drawer& drawer;
    const CutSettings& cut;
};

/// The bits of the drawer that can do a cut. Empty with a stop finding when there are none; the
/// maker's own choice alone when there is one.
struct Candidates {
    std::vector<const Bit*> bits;
    bool byHand = false; ///< the maker's own choice
    std::string why;     ///< what the bits have in common, a clause after "..., "
    Findings findings;
};

Candidates bitsForFacing(const BitQuestion& q);
Candidates bitsForRadius(const BitQuestion& q);
Candidates bitsForSlots(const BitQuestion& q);
Candidates bitsForShelf(const BitQuestion& q);
Candidates bitsForMarkers(const BitQuestion& q);
Candidates bitsForOutline(const BitQuestion& q);

/// Wood beside the outermost board, to the nearer edge or end of the blank, mm.
double frameMargin(const BoardPart& board, const Setup& setup);

/// Whether slots could be cut before the radius with this drawer, and why or why not.
struct SlotsFirst {
    bool possible = false;
    std::string why;
};
SlotsFirst slotsFirst(const BitQuestion& q);

} // namespace wren
