#pragma once

#include "cut/bit_chooser.h"
#include "part/panel.h"

namespace wren {

/// Whether a bit cuts a pocket's walls and floor: it goes into corners of `hollow` radius, finds
/// room, and reaches `deep` mm below the mouth and `reach` below the wood round it. Refers to the
/// pocket.
BitJudge goesInto(const PanelPocket& pocket, double deep, double reach, double hollow);

/// Whether a bit drills a hole of that diameter, or bores it in a helix.
BitJudge makesHole(double diameter, double deep, double reach, bool through);

struct PocketReach {
    double deep, reach;
};
/// A wider bit that is worth clearing with, its corners left to the finer one: no wider than what
/// that one takes along the walls. Null where none is, and for sloping floors.
const Bit* widerFor(const PanelPocket& pocket, const Bit& fine, const PocketReach& depth,
                    const Drawer& drawer, double skin);

} // namespace wren
