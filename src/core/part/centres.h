#pragma once

#include "part/board_part.h"
#include "part/neck_part.h"

namespace wren {

// Centres of volume, instrument frame, mm: from columns of 1 mm, holes and fret slots out as lumps.
// Within about 0.3 mm; volumes are more exact and asked for apart.

Vec3 centreOf(const BoardPart& board);
Vec3 centreOf(const NeckPart& neck);

} // namespace wren
