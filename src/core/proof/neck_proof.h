#pragma once

#include "cut/neck_recipe.h"
#include "hold/neck_setup.h"
#include "proof/neck_fillings.h"
#include "proof/proof.h"

#include <array>
#include <memory>

namespace wren {

/// Both sides are judged in the wood as it stands at the very end: gouge, leftover and walls of
/// that side's surfaces. The deviation field lies over the turned stock's cells, that is in the
/// back's setup, for both. `sides` are neckSides() of programs from readBack(). Throws Cancelled.
PartProof proveNeck(const NeckPart& part, const PartSides& sides, const NeckPlan& plan,
                    const NeckCut& cut, const Machine& machine, double cell = proofCell,
                    const std::stop_token& stop = {});

} // namespace wren
