#pragma once

#include "job/derive.h"

#include <string>

namespace CLI {
class App;
}

namespace wren::cli {

/// Exit codes: refusals (the work cannot or must not be done) and usage errors (the words are off).
inline constexpr int refused = 1;
inline constexpr int usage = 2;

/// Thrown to leave with a code after everything has been said.
struct Exit {
    int code = 0;
};

/// The project with one more of its parts wanted, where it can be had and was not.
Project projectWith(const std::string& file, const std::string& part);
/// The part of that name, which the project has. Throws Error naming those there are.
PartId partOf(const Derived& d, const std::string& name, const std::string& file);

/// The drawing of a project that has the part; complains and leaves when it cannot be drawn.
Derived drawnWith(const std::string& file, const std::string& part);

/// One clear sentence on standard error.
void complain(const std::string& sentence);

void addDesignCommands(CLI::App& app);  ///< frets, new, export, bits, set
void addWholeCommands(CLI::App& app);   ///< geometry, balance, compare
void addProgramCommands(CLI::App& app); ///< make, trial, prove, test-slots, fixture, check
void addTrustCommands(CLI::App& app);   ///< air, trace, hold
void addBedCommands(CLI::App& app);     ///< bed, batch
void addMachineCommands(CLI::App& app); ///< run, stale, book
void addBookCommands(CLI::App& book);   ///< what stands under book
void addMeasureCommand(CLI::App& app);  ///< measure
void addCardCommand(CLI::App& app);     ///< card
void addLinkCommands(CLI::App& app);    ///< describe, ports, jog, probe

} // namespace wren::cli
