#pragma once

#include "part/body_part.h"

namespace wren {

/// Plates whose screws have no wood, or that do not clear the neck or a pickup's edge.
Findings judgePlates(const BodyPart& part);

} // namespace wren
