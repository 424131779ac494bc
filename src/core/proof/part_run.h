#pragma once

#include "cut/part_plan.h"
#include "hold/held.h"
#include "proof/cut_memory.h"
#include "proof/simulate.h"

#include <array>
#include <memory>
#include <stop_token>
#include <vector>

namespace wren {

/// Programs of a part's setups as read back, face side first; the second empty without a back.
using SidePrograms = std::array<std::vector<RunProgram>, 2>;

/// What running a part's programs needs. Refers to how it is held and to its programs.
struct PartSides {
    const Held& held;
    const SidePrograms& programs;
    std::array<std::vector<Filling>, 2> fillings{}; ///< poured as their programs come up
    std::shared_ptr<const Stock> start{}; ///< face up: glued up from earlier parts; none: the blank
    CutMemory* memory = nullptr;          ///< of what ran before; none: everything is run
};

/// The wood with both sides' programs run, turned over between them as it is.
struct PartRun {
    std::shared_ptr<const Stock> whole; ///< at the end, in the last setup; the same without a back
    std::array<std::vector<Collision>, 2> collisions;
    std::array<std::vector<FloorSeen>, 2> floors; ///< of what is filled, just before
    std::array<std::vector<LoadTrace>, 2> loads;
};

/// The wood as its last setup leaves it, face up again in its first setup.
Stock faceUp(const Held& held, const Stock& last);

PartRun runPart(const PartSides& sides, double cell, const std::stop_token& stop = {});

/// The wood in that side's setup at a moment of its programs.
Stock stockAt(const PartSides& sides, std::size_t side, Moment moment, double cell,
              const std::stop_token& stop = {});

/// The plan's cuts as programs of their own, to be run before anything is posted.
SidePrograms asPrograms(const PartPlan& plan);

/// Cuts down in passes what of the plan would take more than its bits are given (proof/ease.h).
/// Of `sides` the programs are not asked. Returns the wood at the end, in the last setup. Throws
/// Cancelled.
Stock easePart(PartPlan& plan, const PartSides& sides, const Machine& machine,
               const std::stop_token& stop = {});

} // namespace wren
