#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "hold/setup.h"

namespace wren {

/// Takes `setup.faced` off the blank's face between two corners, in level to-and-fro passes; the
/// bit's middle goes past the ends. Setup frame; starts and ends at clearance height.
Path facingPath(const Setup& setup, Vec2 low, Vec2 high, const Bit& bit, const Feeds& feeds);

/// Takes `setup.faced` off the blank's face over all its boards and `margin` mm round them. The rim
/// outside stays at full thickness, where Z can still be probed.
Path facingPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                double margin);

} // namespace wren
