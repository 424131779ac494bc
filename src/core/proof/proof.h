#pragma once

#include "base/finding.h"
#include "proof/load.h"

#include <stop_token>
#include <vector>

namespace wren {

/// Height left minus height designed over every cell of the stock, mm; NaN where nothing is
/// designed or where a wall, judged from the paths instead, runs through the cell.
struct DeviationField {
    int columns = 0;
    int rows = 0;
    double cell = 0;
    std::vector<float> value;

    float at(int column, int row) const {
        return value[static_cast<std::size_t>(row) * static_cast<std::size_t>(columns) +
                     static_cast<std::size_t>(column)];
    }
};

/// What came of running the posted text against the blank, compared with the designed board.
struct ProofReport {
    PartId part;
    std::string setup;
    double cell = 0;
    double gougeMax = 0;  ///< deepest below the design along its normal, mm
    double excessMax = 0; ///< most left above it along its normal, mm
    Vec2 gougeAt;         ///< where that is, instrument frame
    Vec2 excessAt;
    double excessRms = 0;
    double wallMax = 0; ///< worst sideways error of a wall, from the paths, mm
    bool passed = false;
    Findings findings;
    DeviationField deviation;
    std::vector<ProgramLoad> loads; ///< of that setup's programs, in their order
};

/// The tolerances of the proof, mm.
inline constexpr double gougeAllowed = 0.01;
inline constexpr double wallAllowed = 0.02;
inline constexpr double excessBeyondScallop = 0.02;
inline constexpr double proofCell = 0.2;

/// What a collision means to the maker.
Finding collisionFinding(const Collision& collision, const RunProgram& program, const Setup& setup);

/// Works out what a setup's programs ask of their bits and adds what is too much to the report.
void addLoads(ProofReport& report, const Setup& setup, const Machine& machine,
              const std::vector<Cut>& cuts, const std::vector<RunProgram>& programs,
              const std::vector<LoadTrace>& traces);

/// Cuts down in passes what of the plan would take more than its bits are given (proof/ease.h).
/// Throws Cancelled.
void easeBoard(BoardPlan& plan, const BoardPart& board, const Machine& machine,
               const std::stop_token& stop = {});

/// Proves the programs of one board. `programs` must come from readBack(), that is from the posted
/// text; the plan gives only what was meant (setup, tabs, tolerances). Throws Cancelled.
ProofReport proveBoard(const BoardPart& board, const BoardPlan& plan, const CutSettings& cut,
                       const Machine& machine, const std::vector<RunProgram>& programs,
                       double cell = proofCell, const std::stop_token& stop = {});

} // namespace wren
