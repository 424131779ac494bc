#pragma once

#include "part/body_part.h"

namespace wren {

/// Whether bridge, pickups and controls have the height, depth and room they want.
Findings judgeHardware(const BodyPart& part);

} // namespace wren
