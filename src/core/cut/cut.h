#pragma once

#include "cut/cut_kind.h"
#include "cut/feeds.h"
#include "cut/move.h"

#include <algorithm>
#include <string>
#include <vector>

namespace wren {

/// One cut of the plan: what it does, with which bit, how, and its path in the setup frame.
struct Cut : CutName {
    Bit bit{};
    Feeds feeds{};
    double stepover = 0; ///< widest step between finishing passes, mm; 0 where it has no meaning
    std::string why{};   ///< why this bit, in a sentence
    std::string handBefore{}; ///< what must be done by hand before this cut; mostly nothing
    double handMinutes = 0;   ///< about how long that takes
    std::size_t station = 0;  ///< of its setup
    Path path{};
};

/// The first cut of that kind, or null.
inline const Cut* cutOf(const std::vector<Cut>& cuts, CutKind kind) {
    const auto it =
        std::find_if(cuts.begin(), cuts.end(), [&](const Cut& c) { return c.kind == kind; });
    return it == cuts.end() ? nullptr : &*it;
}

} // namespace wren
