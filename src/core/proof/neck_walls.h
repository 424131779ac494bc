#pragma once

#include "cut/neck_recipe.h"
#include "proof/walls.h"

namespace wren {

/// Judges one side's upright walls from the paths themselves: pockets and holes cut from there, and
/// for the back the outline.
WallReport judgeNeckWalls(const NeckPart& part, const Setup& setup, const NeckPlan& plan,
                          std::size_t side, const std::vector<RunProgram>& programs);

/// A skin left where the outline should be through, and a neck that nothing ties to its frame any
/// more. `stock` lies in the back's setup, at the end.
Findings judgeNeckHolding(const NeckPart& part, const Setup& back, const NeckPlan& plan,
                          const NeckCut& cut, const Stock& stock);

} // namespace wren
