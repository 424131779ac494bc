#pragma once

#include "base/finding.h"
#include "cut/panel_paths.h"
#include "cut/part_plan.h"

#include <array>
#include <optional>
#include <set>

namespace wren {

/// Which cut makes which pocket or hole.
struct PanelTask {
    std::size_t feature;            ///< index as PanelField counts them
    std::size_t side;               ///< of the plan
    std::optional<std::size_t> cut; ///< of that side: the last at its walls; none for an empty one
    std::string bit;                ///< the one it is meant for
};

/// Everything the recipe decides about a panel: face up first, then turned over.
struct PanelPlan : PartPlan {
    std::vector<PanelTab> tabs;
    std::vector<PanelPlug> plugs;
    std::set<std::size_t> halved;     ///< pockets right through, cut half from each face
    bool sharedOutline = false;       ///< cut from both faces, parted in the middle
    std::array<double, 2> carvedBy{}; ///< radius of the ball that carves each face; 0: none does
    std::vector<PanelTask> tasks;

    const Cut* cutOf(const PanelTask& t) const {
        return t.cut ? &sides[t.side].cuts[*t.cut] : nullptr;
    }
};

/// Writes the plan as a maker would: faced first, pockets before holes into their floors, inside
/// before outside, the outline last. Each pocket takes the widest bit that goes into its corners,
/// or one that clears it and a finer one for them; cuts of one bit stand together. A cut no bit can
/// do becomes a stop finding and is left out.
PanelPlan planPanel(const Panel& panel, const Held& setups, const Drawer& drawer,
                    const Machine& machine, const BodyCut& cut);

} // namespace wren
