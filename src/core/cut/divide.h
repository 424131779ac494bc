#pragma once

#include "cut/part_plan.h"

namespace wren {

/// Parts the cuts of each side whose setup has stations among them, in their order, every cut with
/// those moves whose tips lie in the station's reach: what is cut as a whole in an earlier station
/// is not cut again, and what crosses the seam is cut on both sides of it, a little further than
/// that, each run entered straight down where the other station has been or, in the first, no
/// deeper than its own pass. Between runs the bit goes over the work. Work by hand between cuts is
/// waited for by what comes after it in every station. A side without stations stays as it is.
///
/// Where the station changes, the cut says that the blank is slid by `pitch` mm first. Returns for
/// each side where its cuts are found afterwards: the first share of each, by its number before.
std::array<std::vector<std::size_t>, 2> divideAmongStations(PartPlan& plan, double pitch);

} // namespace wren
