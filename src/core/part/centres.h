#pragma once

#include "part/board_part.h"
#include "part/lump.h"
#include "part/neck_part.h"

#include <functional>

namespace wren {

// Centres of volume, instrument frame, mm: from columns of 1 mm, holes and fret slots out as lumps.
// Within about 0.3 mm; volumes are more exact and asked for apart.

Vec3 centreOf(const BoardPart& board);
Vec3 centreOf(const NeckPart& neck);
/// What of a neck lies where `counts` says so, a place of the plan.
Lump woodOf(const NeckPart& neck, const std::function<bool(Vec2)>& counts);
/// What its pockets from the face (the rod's slot, its adjuster's) take of it where `counts` says so.
Lump pocketedOf(const NeckPart& neck, const std::function<bool(Vec2)>& counts);

} // namespace wren
