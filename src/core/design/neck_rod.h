#pragma once

#include "design/neck_back.h"

#include <optional>
#include <vector>

namespace wren {

/// The truss rod's slot on the centreline, X from and to; the adjuster's wider part at one end.
struct RodPlace {
    double from = 0, to = 0;
    double adjusterFrom = 0, adjusterTo = 0;
};
RodPlace rodPlace(const TrussRod& rod);

/// Width and depth of the slot at x; nothing where there is none.
struct RodSection {
    double width = 0;
    double depth = 0;
};
std::optional<RodSection> rodAt(const TrussRod& rod, double x);

/// Shortest distance from a point in the wood to the carved back; negative outside.
double woodToBack(const NeckBack& back, Vec3 point);

/// The wood left between the slot's floor and the carved back.
struct WoodUnder {
    double x = 0;
    double wood = 0;
};
/// Along the slot every `pitch` mm, its ends and the adjuster's included. A flat floor is measured
/// from its two corners, a round one from where it comes nearest.
std::vector<WoodUnder> woodUnderRod(const NeckBack& back, const TrussRod& rod, double pitch = 4);

} // namespace wren
