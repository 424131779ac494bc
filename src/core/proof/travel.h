#pragma once

#include "base/finding.h"
#include "proof/simulate.h"

#include <array>

namespace wren {

/// Lowest and highest corner of everything the program sends the tip to, arcs included. Where the
/// tool stood before the first move in X or Y is not part of it.
std::array<Vec3, 2> extentsOf(const Path& path);

/// Moves outside the machine's travel or into its bed (neither can be overridden), cuts with the
/// spindle standing, programs that do not end or leave the spindle turning.
Findings judgeTravel(const Setup& setup, const Machine& machine,
                     const std::vector<RunProgram>& programs);

} // namespace wren
