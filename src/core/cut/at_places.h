#pragma once

#include "cut/part_plan.h"

namespace wren {

/// A plan for the first of several pieces side by side in one blank becomes one for all of them:
/// each cut's path is followed by the same at the others' places, as their setups have them. What
/// belongs to the blank, its register holes and its notch, is cut once.
void cutAtPlaces(PartPlan& plan);

} // namespace wren
