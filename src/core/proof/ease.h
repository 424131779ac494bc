#pragma once

#include "proof/cut_memory.h"
#include "proof/load.h"

#include <stop_token>
#include <vector>

namespace wren {

/// Cells of the wood that planned cuts are tried on, mm: coarser than the proof's.
inline constexpr double easeCell = 0.3;

/// What easing needs beside the cuts themselves.
struct EaseAsk {
    const Setup& setup;
    const Machine& machine;
    const std::vector<Filling>& fillings; ///< `beforeProgram` counts cuts
    CutMemory* memory = nullptr;          ///< of cuts eased before; none: all are
    std::stop_token stop{};
};

/// Runs the planned cuts through the wood as it stands and cuts down in passes what would take more
/// than its bit is given: where roughing kept clear of something, a lap meets wood as deep as the
/// blank. Before such a stretch the same way is gone over that wood, a pass's depth at a time. The
/// cuts' own moves stay as they are. Returns the wood as the cuts leave it. Throws Cancelled.
Stock easeCuts(std::vector<Cut>& cuts, Stock stock, const EaseAsk& ask);

/// The cuts as programs of their own, to be run.
std::vector<RunProgram> asPrograms(const std::vector<Cut>& cuts);

} // namespace wren
