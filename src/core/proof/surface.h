#pragma once

#include "proof/proof.h"

namespace wren {

struct SurfaceReport {
    double gougeMax = 0;
    double excessMax = 0;
    Vec2 gougeAt, excessAt; ///< where those are, instrument frame
    double excessRms = 0;
    Findings findings;
};

DeviationField emptyDeviation(const Stock& stock);

/// Instrument heights of one board's designed face over every cell of the stock, row by row; NaN
/// where none is designed, or a wall is. `cuts` say how its markers are made.
std::vector<float> designedHeights(const BoardPart& board, const Setup& setup,
                                   const std::vector<Cut>& cuts, const Stock& stock);

/// Compares the simulated stock with one designed board (the one in the setup's hand): its face,
/// slot floors, ledge and open markers, cell by cell, along the surface's normal. Cells a wall runs
/// through (outline, slot sides) are left to judgeWalls(). Slot floors are judged over the middle
/// half of the slot, and short of a blind end by the slot's width: a round bit on a sloping floor
/// must leave its corners a little high, where no tang reaches. Drilled markers are expected to end
/// in the drill's own cone. What it finds is written into `field` too.
SurfaceReport compareSurface(const BoardPart& board, const Setup& setup, const BoardPlan& plan,
                             const CutSettings& cut, const std::vector<RunProgram>& programs,
                             const Stock& stock, DeviationField& field);

} // namespace wren
