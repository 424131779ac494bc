#pragma once

#include "job/derive.h"

namespace wren {

/// The clamps of a part's setup, as the project lists them; indices of project.clamps. `number`:
/// only those that stand while it lies in the station of that number.
std::vector<std::size_t> clampsOf(const Project& project, PartId part, std::size_t side,
                                  int number = 0);

/// What is wrong with where they stand: over one another, on a pin, off the bed, a strap beside the
/// wood, one for a part or a setup there is not.
Findings judgeClampPlaces(const Derived& derived);

/// Every posted program against the clamps of its setup: the first line during which flutes, shank
/// or collet nut meet one, rapids too. And what holds by tape alone.
Findings judgeClamps(const Derived& derived);

/// One program against the clamps of a part's setup.
Findings judgeClampsOf(const Derived& derived, const PartJob& job, std::size_t side,
                       const RunProgram& program);

/// Up to four straps on the blank's edges, as far from one another as they find room: where no
/// program of the setup, no pin and no other clamp comes within 3 mm. Where two find none, tape
/// with glue under the blank and cleats against its edges. None for a part without programs.
/// For every station of the setup by itself, where it has any.
std::vector<Clamp> suggestedClamps(const Derived& derived, const PartJob& job, std::size_t side);

/// The project with those in place of the part's own.
Project withClamps(const Project& project, PartId part, const std::vector<Clamp>& clamps);

} // namespace wren
