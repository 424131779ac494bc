#pragma once

#include "job/posted_program.h"

namespace wren {

/// How a program is run: as it is, through the air above the work, or only round what it cuts.
enum class RunHow { cut, air, trace };

/// What a careful maker runs before a program cuts: the same through the air, and round the place.
struct BeforeCutting {
    double lift = 0;   ///< of the air pass, mm; 0: the machine has no room for one
    std::string air;   ///< its text, or empty
    std::string trace; ///< round what is cut, at the program's own safe height; empty without one
};

/// The usual lift, an inch, or as much as the machine's Z travel leaves over the program's own
/// heights; none where that is less than 5 mm.
double airLift(const PostedProgram& program, const Machine& machine);
BeforeCutting beforeCutting(const PostedProgram& program, const Machine& machine);

/// The program to be sent for it, with its own hashes and time. Throws Error where the machine has
/// no room for an air pass.
PostedProgram runAs(const PostedProgram& program, RunHow how, const Setup& setup,
                    const Machine& machine);

/// As their files are called: 01-fretboard-radius-ball-12-air.nc.
std::string airName(const PostedProgram& program);
std::string traceName(const PostedProgram& program);

} // namespace wren
