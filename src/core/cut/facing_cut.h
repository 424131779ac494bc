#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "hold/setup.h"

namespace wren {

/// Takes `setup.faced` off the blank's face over all its boards and `margin` mm round them, in
/// level to-and-fro passes. The rim outside stays at full thickness, where Z can still be probed.
/// Setup frame; starts and ends at clearance height.
Path facingPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                double margin);

} // namespace wren
