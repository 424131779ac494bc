#pragma once

#include "proof/proof.h"

namespace wren {

struct WallReport {
    double worst = 0; ///< mm, either way
    Findings findings;
};

/// Judges slot sides and the outline from the paths themselves: path plus or minus the bit's radius
/// against the designed line.
WallReport judgeWalls(const BoardPart& board, const BoardPlan& plan,
                      const std::vector<RunProgram>& programs);

} // namespace wren
