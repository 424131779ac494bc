#pragma once

#include "part/neck_part.h"

#include <optional>

namespace wren {

/// Where the head is easiest to break: the section between the nut and the farthest post that has
/// the least modulus for each of the strings pulling beyond it. mm.
struct HeadSection {
    double x = 0;
    double width = 0;     ///< of wood, holes and pockets taken out
    double thickness = 0; ///< at its middle
    double modulus = 0;   ///< width thickness^2 / 6 of a rectangle of that area, mm3
    double share = 1;     ///< of the strings that pull beyond it
    bool runOut = false;  ///< the head leans out of the plank's grain: a tilted one of thick stock
};
/// Nothing of a neck without tuners behind the nut.
std::optional<HeadSection> weakestHead(const NeckPart& neck);

/// What meets inside a neck: the heel's bolts and the rod; the head's weakest section.
Findings judgeNeckPart(const NeckPart& neck);

} // namespace wren
