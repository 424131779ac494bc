#pragma once

#include "proof/proof.h"

namespace wren {

struct SurfaceReport {
    double gougeMax = 0;
    double excessMax = 0;
    double excessRms = 0;
    DeviationField deviation;
    Findings findings;
};

/// Compares the simulated stock with the designed board's face and slot floors, cell by cell, along
/// the surface's normal. Cells a wall runs through (outline, slot sides) are left to judgeWalls().
/// Slot floors are judged over the middle half of the slot: a round bit on a sloping floor must
/// leave its corners a little high, where no tang reaches.
SurfaceReport compareSurface(const BoardPart& board, const Setup& setup, const CutSettings& cut,
                             const std::vector<RunProgram>& programs, const Stock& stock);

} // namespace wren
