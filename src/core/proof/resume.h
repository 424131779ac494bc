#pragma once

#include "hold/setup.h"
#include "proof/simulate.h"

#include <string>
#include <vector>

namespace wren {

/// A program taken up again after a stop: the spindle up to speed, over the work to the place, down
/// along the way that was cut already, and on from a line with everything set as it was there.
struct Resumed {
    int line = 0;      ///< of the whole program, it goes on from
    std::string text;  ///< the G-code
    Vec3 at;           ///< where that line begins, program coordinates, mm
    std::vector<std::string> does; ///< what will happen, a sentence each
};

/// From a line of a posted program; its own number counts, from 1. What moves before it is not
/// cut again, but for the last millimetres it is lowered along. Throws Error: there is no such
/// line, nothing moves from it on, or the program cannot be read.
Resumed resumedFrom(const std::string& program, const std::string& name, const Setup& setup,
                    Vec2 zero, int line);

/// The last line before one at which the bit stood over the work: from there on nothing is begun
/// in the middle of a cut. 1 where there is none.
int lastSafeLine(const std::string& program, const std::string& name, const Setup& setup,
                 Vec2 zero, int line);

} // namespace wren
