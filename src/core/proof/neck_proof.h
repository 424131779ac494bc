#pragma once

#include "cut/neck_recipe.h"
#include "proof/neck_run.h"
#include "proof/proof.h"

#include <array>
#include <memory>

namespace wren {

/// What came of cutting both sides of a neck into one piece of wood.
struct NeckProof {
    /// Face and back, both judged in the wood as it stands at the very end: gouge, leftover and
    /// walls of that side's surfaces. Findings of both sides' programs; the deviation field lies
    /// over the turned stock's cells, that is in the back's setup, for both.
    std::array<ProofReport, 2> sides;
    std::vector<WoodUnder> woodUnderRod; ///< measured from the simulated stock, straight down
    double rodWoodLeast = 0;             ///< the least of them; 0 without a rod
    std::shared_ptr<const Stock> stock;  ///< in the back's setup, at the end

    bool passed() const { return sides[0].passed && sides[1].passed; }
};

/// `programs` must come from readBack(), face side first. Throws Cancelled.
NeckProof proveNeck(const NeckPart& part, const NeckSetups& setups, TurnOver turn,
                    const NeckPlan& plan, const NeckCut& cut, const Machine& machine,
                    const std::array<std::vector<RunProgram>, 2>& programs, double cell = proofCell,
                    const std::stop_token& stop = {});

} // namespace wren
