#pragma once

#include "base/finding.h"
#include "cut/outline_cut.h"

#include <string>
#include <vector>

namespace wren {

/// One cut of the plan: what it does, with which bit, how, and its path in the setup frame.
struct Cut {
    std::string what; ///< "radius", "slots" or "outline"
    Bit bit;
    Feeds feeds;
    double stepover = 0; ///< widest step between finishing passes, mm; 0 where it has no meaning
    std::string why;     ///< why this bit, in a sentence
    Path path;
};

/// A bit that could do the radius, and what it would cost.
struct SurfacingChoice {
    std::string bit;
    double minutes = 0; ///< plain distance over feed
    bool chosen = false;
};

/// Everything the recipe decides about one board in one setup.
struct BoardPlan {
    Setup setup;
    std::vector<Cut> cuts; ///< in running order
    std::vector<Tab> tabs;
    std::vector<SurfacingChoice> surfacing;
    bool slotsFirstPossible = false;
    std::string slotsFirstWhy; ///< why it is, or is not
    Findings findings;
};

/// Writes the plan as a maker would: radius, slots, outline (or slots first where the flutes
/// reach), each with the bit from the drawer that does it soonest, and every choice explained. A
/// cut no bit can do becomes a stop finding and is left out.
BoardPlan planBoard(const BoardPart& board, const Setup& setup, const Drawer& drawer,
                    const Machine& machine, const CutSettings& cut);

} // namespace wren
