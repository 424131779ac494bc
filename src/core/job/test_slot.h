#pragma once

#include "job/derive.h"

#include <filesystem>

namespace wren {

/// A test cut: a few fret slots in a flat offcut, with the bit, the feeds and the depth the board's
/// own slots would have, so that what they measure says how the board's will come out.
struct TestSlots {
    std::optional<BoardPart> offcut; ///< the offcut as a flat board of its own; frets are its slots
    std::optional<BoardPlan> plan;
    std::optional<PostedProgram> program; ///< none when a finding is in the way
    Findings findings;
};

inline constexpr int testSlotCount = 3;

/// Writes and proves the test cut of a project. Z is zeroed on the offcut's face.
TestSlots deriveTestSlots(const Project& project);

/// Writes DIR/test-slots.nc and DIR/test-slots.pdf, the form the measurements are written on.
/// Throws Error when there is no program or a file cannot be written.
void postTestSlots(const TestSlots& test, const Project& project, const std::filesystem::path& dir);

} // namespace wren
