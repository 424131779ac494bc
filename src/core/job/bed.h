#pragma once

#include "job/derive.h"

#include <filesystem>

namespace wren {

/// A program for the machine's own bed rather than for a part. Its X-Y zero is the front left
/// corner of the travel, its Z zero the spoil board.
struct BedProgram {
    Setup setup;
    std::optional<PostedProgram> program; ///< none when a finding is in the way
    Findings findings;
};

/// Takes `depth` mm off the whole spoil board that the bit reaches, with the widest bit of the
/// drawer that leaves a flat floor: done first.
BedProgram deriveSurfacing(const Project& project, double depth);

/// Engraves the long line and the short one through the crossing the project has stored, and the
/// lines of a batch beside the long one: done after surfacing, with no homing in between. The
/// crossing's machine coordinates are then those the project has, exactly. Finest pointed bit of
/// the drawer.
BedProgram deriveBedLines(const Project& project, double depth);

// What may be taken off and engraved, mm; common practice, no source.
inline constexpr double mostSurfaced = 3;
inline constexpr double mostEngraved = 2;

/// Writes DIR/bed-surface.nc or DIR/bed-lines.nc. Throws Error when there is no program or the file
/// cannot be written.
std::string postBedProgram(const BedProgram& bed, const std::filesystem::path& dir);

/// The board itself: worn too thin, uneven by more than through cuts go into it.
Findings judgeSpoilBoard(const Project& project);

/// Offsets of a batch's lines from the long one, in the order of its instruments; one of 0 where
/// its blanks are not laid side by side.
std::vector<double> batchLinesOf(const Project& project);

std::string bedJson(const Derived& derived);
std::string bedText(const Derived& derived);

} // namespace wren
