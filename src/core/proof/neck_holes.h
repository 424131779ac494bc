#pragma once

#include "base/finding.h"
#include "cut/neck_recipe.h"
#include "proof/stock.h"

namespace wren {

/// Looks into every bored hole of a neck, over its whole area: wood in one that should be open,
/// wood over the floor of one that ends, a floor that lies too deep. `stock` lies in the back's
/// setup, at the end. Walls and places are judged from the paths (judgeNeckWalls()).
Findings judgeNeckHoles(const NeckPart& part, const Setup& back, const NeckPlan& plan,
                        const Stock& stock);

} // namespace wren
