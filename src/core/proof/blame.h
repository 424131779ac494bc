#pragma once

#include "proof/simulate.h"

#include <optional>

namespace wren {

/// A move of a program, by index.
struct Culprit {
    std::size_t program = 0;
    std::size_t move = 0;
};

/// The move that left the lowest height at a point (setup frame); none when nothing cut there.
std::optional<Culprit> deepestAt(Vec2 point, const std::vector<RunProgram>& programs);

} // namespace wren
