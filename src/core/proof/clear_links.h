#pragma once

#include "cut/part_plan.h"
#include "hold/clamp.h"

namespace wren {

/// The clamps that stand in one station of a setup; one of a setup that has none.
using ClampsByStation = std::vector<std::vector<ClampBox>>;

/// Leads the ways between cuts, at clearance height from one place to the next, round the clamps
/// that flutes, shank, collet nut, nose or shoe would meet there: the shortest way round their
/// corners that the machine reaches; where there is none, over them. Cuts themselves stay: one that
/// meets a clamp is a stop.
void clearLinks(SidePlan& side, const ClampsByStation& clamps, const Machine& machine);

} // namespace wren
