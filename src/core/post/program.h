#pragma once

#include "cut/board_recipe.h"
#include "post/motion.h"

#include <map>
#include <string>
#include <vector>

namespace wren {

/// One posted file: one bit in one setup.
struct Program {
    std::string file; ///< NN-part-what-bit.nc
    PartId part;
    std::size_t side = 0; ///< of the part
    std::size_t station = 0; ///< of that setup
    Vec2 zero;               ///< its X-Y zero, setup frame
    std::string setup;
    int order = 0;                 ///< 1 is run first
    std::vector<std::string> what; ///< the cuts in it, by their words
    std::vector<CutKind> kinds;    ///< and what they are
    Bit bit;
    std::string handBefore; ///< what is done at the bench before it runs; mostly nothing
    double handMinutes = 0;
    std::string text;          ///< the G-code, complete
    std::size_t movesFrom = 0; ///< where in it the header ends
    double plannedSeconds = 0; ///< that it moves, as its cuts were planned

    bool liesAs(const Program& other) const {
        return part == other.part && side == other.side && station == other.station;
    }
};

/// What the header comment of a program tells beside the cuts.
struct ProgramContext {
    std::string project;
    std::string designHash;                     ///< of everything the programs derive from
    std::map<PartId, std::string> overridden{}; ///< by part: which stops, and why
};

/// Groups neighbouring cuts that use the same bit and writes each group as G-code per RS274/NGC
/// (NIST IR 6556): absolute, G17, G94, G54, the machine's unit, arcs as G2/G3 with centres. The
/// text depends on nothing but the arguments.
///
/// `jobs` are the ways of lying in the order they come up; programs are numbered through them all.
struct PostJob {
    const Setup* setup;
    const std::vector<Cut>* cuts;
    // What lay so before, for the same machine, and what was posted of it: where that has not
    // changed, neither does the text but for its header.
    const std::vector<Cut>* cutsBefore = nullptr;
    std::vector<const Program*> posted{};
};
std::vector<Program> postPrograms(const std::vector<PostJob>& jobs, const Machine& machine,
                                  const ProgramContext& context);
std::vector<Program> postPrograms(const BoardPlan& plan, const Machine& machine,
                                  const ProgramContext& context);

} // namespace wren
