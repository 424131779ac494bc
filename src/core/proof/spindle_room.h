#pragma once

#include "base/finding.h"
#include "proof/simulate.h"

#include <optional>

namespace wren {

/// What must find room between the spindle's nose, all the way up, and the spoil board: fixture
/// board, blank, lift, the bit as it sticks out, the collet nut. mm.
struct SpindleSum {
    double fixture = 0;
    double blank = 0;
    double lift = 0; ///< of the program's highest move over the blank
    double bit = 0;  ///< as it sticks out; where that is not told, no more than the program needs
    double nut = 0;

    double total() const { return fixture + blank + lift + bit + nut; }
};

/// How far a bit must stick out at least for a program: its flutes, and the collet nut kept over the
/// blank.
double leastOut(const Bit& bit, double deepest);

SpindleSum spindleSum(const Setup& setup, const Machine& machine, double under,
                      const RunProgram& program);

/// The program that needs most room.
struct Tightest {
    std::string program, bit;
    SpindleSum sum;
};
/// None without programs.
std::optional<Tightest> tightestOf(const Setup& setup, const Machine& machine, double under,
                                   const std::vector<RunProgram>& programs);

/// Programs whose sum is more than the gap, whose bit does not come down to where it is sent, and
/// those during which the spindle's nose or a dust shoe's hard parts come down on the blank as it
/// was before anything was cut. `under`: thickness of the fixture board below the blank. What is
/// not measured of the machine is not asked.
Findings judgeSpindleRoom(const Setup& setup, const Machine& machine, double under,
                          const std::vector<RunProgram>& programs);

} // namespace wren
