#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "hold/setup.h"

namespace wren {

enum class MarkerWay { drilled, bored, pocketed };

const char* markerWayName(MarkerWay way);

/// How this bit would cut the board's markers: drilled when it is a drill of a dot's own size,
/// bored when one helix clears a dot, pocketed otherwise; nothing when it cannot.
std::optional<MarkerWay> markerWay(const Markers& markers, const Bit& bit);

/// Every marker's pocket, one after the other. Bores and pockets go down along their own rings,
/// wraps come in from the waste beside the board. Setup frame; starts and ends at clearance height.
Path markerPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds);

} // namespace wren
