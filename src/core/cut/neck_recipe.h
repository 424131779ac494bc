#pragma once

#include "base/finding.h"
#include "cut/board_recipe.h"
#include "cut/neck_paths.h"
#include "cut/part_plan.h"

#include <algorithm>
#include <array>
#include <vector>

namespace wren {

/// Everything the recipe decides about a neck: face up first, then turned over.
struct NeckPlan : PartPlan {
    std::vector<NeckTab> tabs;
    bool sharedOutline = false; ///< its upper part is cut from the front
};

/// Writes the plan as a maker would. Each cut takes the bit already in the spindle when that can do
/// the work, else the quickest of those that can. A cut no bit can do becomes a stop finding and is
/// left out. A carved face is cut first, by the board's own recipe and settings.
NeckPlan planNeck(const NeckPart& part, const Held& setups, const Drawer& drawer,
                  const Machine& machine, const NeckCut& cut, const CutSettings& carved = {});

/// The cut that makes a pocket of the neck: an adjuster's part goes along with the rod's slot where
/// that has a level floor too. Null for none.
const Cut* cutOfPocket(const SidePlan& side, NeckPocketKind pocket);

} // namespace wren
