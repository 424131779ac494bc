#pragma once

#include "base/finding.h"
#include "cut/board_recipe.h"
#include "design/neck_rod.h"
#include "proof/load.h"
#include "proof/part_run.h"

#include <array>
#include <memory>
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

/// What came of running all programs of a part.
struct PartProof {
    /// Face and back; the second empty and passed where there is no back.
    std::array<ProofReport, 2> sides;
    std::shared_ptr<const Stock> stock; ///< in the last setup, at the end
    /// Of a neck: measured from the simulated stock, straight down.
    std::vector<WoodUnder> woodUnderRod;
    double rodWoodLeast = 0; ///< the least of them; 0 without a rod

    bool passed() const { return sides[0].passed && sides[1].passed; }
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

/// A board's programs, with the markers that are filled on the way.
PartSides boardSides(const BoardPart& board, const Held& held, const SidePrograms& programs);

/// Proves the programs of one board. `sides` are boardSides() of programs from readBack(), that is
/// from the posted text; the plan gives only what was meant (tabs, tolerances). Throws Cancelled.
PartProof proveBoard(const BoardPart& board, const PartSides& sides, const BoardPlan& plan,
                     const CutSettings& cut, const Machine& machine, double cell = proofCell,
                     const std::stop_token& stop = {});

} // namespace wren
