#pragma once

#include "base/finding.h"
#include "design/neck_outline.h"

namespace wren {

/// What is wrong, or wants care, about a neck's tuners: their holes, their bodies, and how the
/// strings come to them from the nut.
void judgeTuners(Findings& out, const Neck& neck, const Fretboard& board,
                 const NeckOutline& outline);

} // namespace wren
