#pragma once

#include "hold/setup.h"
#include "post/program.h"
#include "proof/filling.h"
#include "proof/stock.h"

#include <stop_token>
#include <string>
#include <vector>

namespace wren {

/// A posted program as it was read back: what the machine would really do.
struct RunProgram {
    std::string file;
    std::vector<CutKind> kinds; ///< of its cuts
    Bit bit;
    Path path; ///< setup frame
    bool spindleOffAtEnd = false;
    bool ends = false;
    std::size_t station = 0; ///< of its setup

    bool has(CutKind kind) const {
        return std::find(kinds.begin(), kinds.end(), kind) != kinds.end();
    }
};

/// Reads the posted texts. The tool is taken to stand above the zero at clearance height before
/// each. Throws Error when a line cannot be read.
std::vector<RunProgram> readBack(const std::vector<Program>& programs, const Setup& setup);

/// Where a simulation stops: after `moves` whole moves of program `program` and `fraction` of the
/// next. The default is the very end.
struct Moment {
    static constexpr std::size_t theEnd = static_cast<std::size_t>(-1);
    std::size_t program = theEnd;
    std::size_t moves = 0;
    double fraction = 0;
};

/// Something the tool did that it must not, at the first move it happened.
struct Collision {
    enum class Kind { rapidInWood, fluteTooShort, holderInWood };
    Kind kind = Kind::rapidInWood;
    std::size_t program = 0;
    std::size_t move = 0;
    double depth = 0; ///< mm into wood
};

struct Simulation {
    Stock stock;
    std::vector<Collision> collisions; ///< at most one of each kind per program, in running order
    std::vector<FloorSeen> floors;     ///< one for each filling
    std::vector<LoadTrace> loads;      ///< one for each program run, where they were asked for
};

/// Whether the wood that is taken is booked along the way.
/// `near` also notes the moves during which no wood stands near the tool.
enum class Loads { ignored, traced, tracedNear };

/// How near that is: so much wider than the tool, and so much lower, mm.
inline constexpr double nearWider = 0.4;
inline constexpr double nearLower = -0.02; ///< negative: the floor it has just cut is not near

/// Runs the programs against the blank. Bands of rows go to the processor's threads and each band
/// takes all moves in order, so the result does not depend on how many threads there are. Fillings
/// are poured as their programs come up. Throws Cancelled.
Simulation simulate(const Setup& setup, const std::vector<RunProgram>& programs, double cell,
                    Moment until = {}, const std::stop_token& stop = {},
                    const std::vector<Filling>& fillings = {}, Loads loads = Loads::ignored);

/// The same on wood that has been cut before and lies in the programs' own frame.
Simulation simulateOn(Stock start, const std::vector<RunProgram>& programs, Moment until = {},
                      const std::stop_token& stop = {}, const std::vector<Filling>& fillings = {},
                      Loads loads = Loads::ignored);

} // namespace wren
