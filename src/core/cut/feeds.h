#pragma once

#include "shop/bit.h"
#include "shop/machine.h"
#include "shop/wood.h"

#include <optional>
#include <string>

namespace wren {

/// How a bit is driven. rpm, mm/min, mm.
struct Feeds {
    double rpm = 0;
    double feed = 0;
    double plunge = 0;
    double depthPerPass = 0;
    std::string reason; ///< one sentence: where the figures come from
};

/// What the maker has set instead of the recipe's own figures.
struct CutOverrides {
    std::string bit; ///< a name in the drawer; empty for the recipe's choice
    std::optional<double> rpm;
    std::optional<double> feed;
    std::optional<double> plunge;
    std::optional<double> depthPerPass;

    friend bool operator==(const CutOverrides&, const CutOverrides&) = default;
};

/// Feeds from chip load, diameter and wood: feed = rpm x flutes x chip load, rpm from surface speed
/// (Machinery's Handbook: rpm = v / (pi d)), both within what the machine can do. The chip load of
/// 0.9 % of the diameter (1.5 % for slotting bits) and the depths per pass are common practice, no
/// source.
Feeds feedsFor(const Bit& bit, const Wood& wood, const Machine& machine,
               const CutOverrides& overrides = {});

} // namespace wren
