#pragma once

#include "job/project.h"
#include "proof/proof.h"

#include <array>
#include <optional>
#include <stop_token>

namespace wren {

/// A program with what reading it back tells.
struct PostedProgram {
    Program program;
    MotionTime time; ///< of the text as read back
    std::array<Vec3, 2> extents{};
    std::string sha256;
};

/// Everything that follows from a project. Filled in three steps, each on top of the last, so that
/// a window can show the drawing before the programs and the programs before the proof.
struct Derived {
    Project project;
    std::string designHash;
    std::string overrideReason; ///< why stops were overridden; goes into the programs' headers

    // Step 1: the drawing
    std::vector<FretPlace> frets;
    std::optional<BoardPart> board; ///< none when the design cannot be made
    std::optional<Setup> setup;     ///< none when the blank cannot hold it
    // Step 2: the programs
    std::optional<BoardPlan> plan;
    std::vector<PostedProgram> programs;
    std::vector<RunProgram> readBack;
    // Step 3: the proof
    std::optional<ProofReport> proof;

    Findings findings; ///< of all steps so far
    double seconds() const;
    double secondsPlain() const;
};

Derived deriveDrawing(const Project& project, const std::string& overrideReason = "");
/// Both do nothing when the step before gave nothing to work on. Throw Cancelled.
void derivePrograms(Derived& derived, const std::stop_token& stop = {});
void deriveProof(Derived& derived, const std::stop_token& stop = {});

/// All three steps. The reason is dropped when there is no stop to override.
Derived derive(const Project& project, const std::string& overrideReason = "",
               const std::stop_token& stop = {});

} // namespace wren
