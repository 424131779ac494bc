#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "hold/setup.h"

namespace wren {

/// Cuts the ledge the nut stands on, with passes parallel to its wall, in and out beyond the
/// board's long edges. Needs a board with a ledge. Setup frame; starts and ends at clearance
/// height.
Path shelfPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds);

} // namespace wren
