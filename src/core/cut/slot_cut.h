#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "cut/settings.h"
#include "hold/setup.h"

namespace wren {

/// How far past the board's edge, square to it, the bit's axis stands when it goes down, mm.
double slotEntryBeyondEdge(const Bit& bit);

/// How deep, at most, the slots' passes stand below the wood around them: what the flutes must
/// reach. Before the radius that is the slot's depth plus the arc's drop plus what is still to be
/// faced off; after it, the depth plus what roughing leaves beside the board.
double fluteReachForSlots(const BoardPart& board, const Setup& setup, const CutSettings& cut,
                          const Bit& bit);

/// Every slot to and fro along its own line in shallow passes, the floor parallel to the curved
/// face by exact contact. Through slots enter and turn only in the waste beside the board; blind
/// ones ramp down inside themselves. A bit narrower than the slot cuts its two walls in turn. Setup
/// frame; starts and ends at clearance height.
Path slotPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
              const CutSettings& cut);

} // namespace wren
