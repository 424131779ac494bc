#pragma once

#include "job/derive.h"

#include <filesystem>

namespace wren {

/// The holes the register pins stand in, drilled into the fixture board under the neck's blank:
/// from the same X-Y zero as both sides, so that the blank drops onto them either way up.
struct Fixture {
    Setup setup; ///< Z zero on the fixture board's face, which the blank will lie on
    std::optional<PostedProgram> program; ///< none when a finding is in the way
    Findings findings;
    double holes = 0; ///< depth of the pins' holes, a drill's point not counted, mm
};

/// Writes the program and reads it back against the pins' places. Needs a neck held by pins; a
/// finding says so otherwise.
Fixture deriveFixture(const Project& project);

/// What a program for the fixture leaves wrong in its board: its posted text is run through the
/// wood, and nothing but the pins' holes may be missing there. Empty when all is well.
Findings judgeFixture(const Fixture& fixture, const Held& setups, const Machine& machine,
                      const Program& program);

/// Writes DIR/fixture-pins.nc. Throws Error when there is no program or the file cannot be written.
void postFixture(const Fixture& fixture, const std::filesystem::path& dir);

} // namespace wren
