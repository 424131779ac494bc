#pragma once

#include "base/finding.h"
#include "cut/outline_cut.h"
#include "cut/part_plan.h"

#include <string>
#include <vector>

namespace wren {

/// A bit that could do the radius, what it would leave and what it would cost.
struct SurfacingChoice {
    std::string bit;
    double stepover = 0; ///< widest step between finishing passes, mm
    double ridge = 0;    ///< highest ridge left, mm
    double sanding = 0;  ///< wood left to sand away over one board, cm3
    double minutes = 0;  ///< plain distance over feed, roughing included, all boards
    bool chosen = false;
};

/// Everything the recipe decides about the boards of one setup.
struct BoardPlan : PartPlan {
    std::vector<Tab> tabs; ///< the same on every board
    std::vector<SurfacingChoice> surfacing;
    int bitChanges = 0; ///< the first bit's mounting not counted
    bool slotsFirstPossible = false;
    std::string slotsFirstWhy; ///< why it is, or is not
};

/// What of a board is cut: all of it, or only what lies in its face. That is a carved neck's, whose
/// outline is cut from the other side and whose blank is not faced.
enum class BoardShare { whole, face };

/// Writes the plan as a maker would. Each cut gets the bits of the drawer that can do it; among all
/// orders that respect what must come before what, and all those bits, the quickest is taken, a
/// change of bit counted as the minute and a half it takes. Every choice is explained. A cut no bit
/// can do becomes a stop finding and is left out.
BoardPlan planBoard(const BoardPart& board, const Setup& setup, const Drawer& drawer,
                    const Machine& machine, const CutSettings& cut,
                    BoardShare share = BoardShare::whole);

} // namespace wren
