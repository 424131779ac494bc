#pragma once

#include "job/derive.h"

#include <filesystem>

namespace wren {

/// After the real part has been tried: a program that takes a little more off a pocket's walls,
/// from the very zero the pocket was cut from.
struct FitPass {
    std::string what; ///< the pocket
    double by = 0;    ///< mm taken off each wall
    Setup setup;
    std::optional<PostedProgram> program; ///< none when a finding is in the way
    double wallMax = 0;                   ///< by the proof, against the walls moved out
    Findings findings;
};

// What may be taken at a time, mm; common practice, no source.
inline constexpr double leastFitPass = 0.02;
inline constexpr double mostFitPass = 0.2;

/// What can be fitted: the pockets, ledges and channels of the body and of its layers, each once.
std::vector<std::string> fitNames(const Derived& derived);

/// `what` is one of fitNames(): "neck pocket", "ledge", "channel" ...; all of that name are
/// skimmed. The wall's last lap with the bit that cut it, standing off so much less; its floor is
/// left alone. Read back and judged like any other wall. Throws Error: no such pocket, or too much
/// or too little at a time.
FitPass deriveFitPass(const Project& project, const std::string& what, double by);

/// Writes DIR/fit-POCKET.nc. Throws Error when there is no program or the file cannot be written.
std::string postFitPass(const FitPass& pass, const std::filesystem::path& dir);

} // namespace wren
