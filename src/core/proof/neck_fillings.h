#pragma once

#include "part/neck_part.h"
#include "proof/part_run.h"

namespace wren {

/// A neck's programs, with what is poured on the way: filled markers of a carved face, and the
/// strips over a rod that goes in from the back.
PartSides neckSides(const NeckPart& part, const Held& held, const SidePrograms& programs);

} // namespace wren
