#pragma once

#include "job/derive.h"

#include <functional>

namespace wren {

/// A program of a batch, in running order.
struct BatchStep {
    std::size_t instrument = 0;
    std::size_t program = 0; ///< index into that instrument's programs
    bool laid = false;       ///< other blanks are laid on the machine before it
    bool changed = false;    ///< another bit is put in before it
};

/// Several instruments made of one design, each from its own blanks.
struct Batch {
    std::vector<std::shared_ptr<const Derived>> instruments;
    std::vector<BatchStep> steps;
    int changes = 0;         ///< of bit, in this order, the first included
    int changesOneByOne = 0; ///< where each instrument is finished before the next is begun
    int laid = 0;            ///< how often blanks are laid on the machine
    Findings findings;       ///< of the batch itself; each instrument has its own besides

    const PostedProgram& program(const BatchStep& step) const {
        return instruments[step.instrument]->programs[step.program];
    }
};

/// The projects of a batch's instruments: the design with each one's measured blanks and name, on
/// its own engraved line where the batch lies side by side. One that is no batch: itself alone.
std::vector<Project> batchProjects(const Project& project);

/// All of them derived and proved, and the order of all programs with the fewest changes of bit: of
/// what lies on the machine together each bit runs in all blanks before the next is put in, and of
/// the ways to go through the setups that has most begin with the bit the last one ended with. What
/// must come first does: fixtures, layers before what is glued up from them, the face before the
/// back, board before neck before body before what is fitted into it. More ways than can be tried
/// (about a million): the best found step by step. `done(i)` is called after each instrument.
/// Throws Cancelled.
Batch deriveBatch(const Project& project, const std::stop_token& stop = {},
                  const std::function<void(std::size_t)>& done = {});

std::string batchJson(const Batch& batch);
std::string batchText(const Batch& batch);

} // namespace wren
