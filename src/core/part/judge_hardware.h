#pragma once

#include "part/body_part.h"

namespace wren {

/// What a control's own body takes under the wood it hangs from, mm; common practice, no source.
struct ControlRoom {
    double around = 9; ///< from its shaft
    double deep = 28;  ///< below the wood
};
ControlRoom roomOf(FeatureKind control);

/// Whether bridge, pickups and controls have the height, depth and room they want.
Findings judgeHardware(const BodyPart& part);

} // namespace wren
