#pragma once

#include "part/body_part.h"

namespace wren {

/// Whether jacks and strap buttons meet the body's edge, and the edge has room for them.
Findings judgeEdges(const BodyPart& part);

} // namespace wren
