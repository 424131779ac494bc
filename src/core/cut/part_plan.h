#pragma once

#include "base/finding.h"
#include "cut/cut.h"
#include "hold/setup.h"

#include <array>

namespace wren {

/// What is cut in one setup of a part, in running order.
struct SidePlan {
    Setup setup;
    std::vector<Cut> cuts;

    const Cut* cutOf(CutKind kind) const { return wren::cutOf(cuts, kind); }
};

/// What the recipe of any part decides: face up first, then turned over.
struct PartPlan {
    std::array<SidePlan, 2> sides; ///< the second without cuts when it is not turned over
    Findings findings;

    const SidePlan& face() const { return sides[0]; }
    SidePlan& face() { return sides[0]; }
};

} // namespace wren
