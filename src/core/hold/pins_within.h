#pragma once

#include "hold/turn_hold.h"
#include "part/panel.h"

#include <array>
#include <vector>

namespace wren {

/// Register pins within a flat part instead of in the waste beyond its ends: on the line it is
/// turned about (end for end: alike on both sides of it), unevenly spaced, clear of the outline and
/// of every cut of all its `stages` (layers and what is glued up of them). As far apart as they
/// find wood; none where they find none, or hold is not by pins. Places in the part's frame.
std::vector<RegisterPin> pinsWithin(const std::vector<const Panel*>& stages, const TurnHold& hold,
                                    const std::array<Vec2, 2>& around);

/// The holes they stand in, as things of a stage: drilled there, or there already.
void addPinHoles(Panel& stage, const std::vector<RegisterPin>& pins, const TurnHold& hold);

} // namespace wren
