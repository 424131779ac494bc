#pragma once

#include "part/body_part.h"

namespace wren {

/// Pockets and holes of a body's pieces that claim the same wood, or leave a thin web.
Findings judgeOverlaps(const BodyPart& part);

} // namespace wren
