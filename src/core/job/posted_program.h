#pragma once

#include "post/motion.h"
#include "post/program.h"
#include "proof/simulate.h"

#include <array>
#include <string>

namespace wren {

/// A program with what reading it back tells.
struct PostedProgram {
    Program program;
    MotionTime time; ///< of the text as read back
    std::array<Vec3, 2> extents{};
    std::string sha256; ///< of the text
    std::string motion; ///< SHA-256 of what it moves, comments aside

    static PostedProgram of(Program program, const RunProgram& read, const Machine& machine);
    void setText(const Program& program); ///< the same motion, other comments
};

} // namespace wren
