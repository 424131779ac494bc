#pragma once

#include "cut/neck_recipe.h"
#include "hold/neck_setup.h"
#include "proof/simulate.h"

#include <array>
#include <memory>
#include <stop_token>
#include <vector>

namespace wren {

/// What running a neck's programs needs: face side first. Refers to its parts.
struct NeckSides {
    const NeckPart& part;
    const NeckSetups& setups;
    TurnOver turn;
    const std::array<std::vector<RunProgram>, 2>& programs;
};

/// The blank with both sides' programs run, turned over between them as it is.
struct NeckRun {
    Stock whole; ///< in the back's setup
    std::array<std::vector<Collision>, 2> collisions;
    /// Filled markers of a carved face; the strips over a rod that goes in from the back.
    std::array<std::vector<Filling>, 2> fillings;
    std::array<std::vector<FloorSeen>, 2> floors; ///< of what they fill, just before
    std::array<std::vector<LoadTrace>, 2> loads;
};
NeckRun runNeck(const NeckSides& sides, double cell, const std::stop_token& stop = {});

/// The wood in that side's setup at a moment of its programs.
Stock neckStockAt(const NeckSides& sides, std::size_t side, Moment moment, double cell,
                  const std::stop_token& stop = {});

/// Cuts down in passes what of the plan would take more than its bits are given (proof/ease.h).
/// Throws Cancelled.
void easeNeck(NeckPlan& plan, const NeckPart& part, const NeckSetups& setups, TurnOver turn,
              const Machine& machine, const std::stop_token& stop = {});

} // namespace wren
