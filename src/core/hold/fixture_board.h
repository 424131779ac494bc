#pragma once

#include "hold/held.h"
#include "part/panel.h"

namespace wren {

/// The board a part's register pins stand in: as large as the part's blank and lying where it lies,
/// so that both have one X-Y zero and the blank drops onto the pins either way up. In the part's
/// frame, its face on Z = 0. Beside the pins' holes it has one to find its zero again by. Of a part
/// cut in stations it has the pins' places in either, and its middle under the engraved crossing.
Panel fixtureBoard(PartId id, const Held& held, double thickness);

inline constexpr double deepestPin = 12;    ///< a pin stands no deeper in its board, mm
inline constexpr double drillPoint = 0.3;   ///< of a hole's width, its point below that
inline constexpr double underPin = 4;       ///< of board left under it
inline constexpr double zeroHoleInset = 10; ///< of the zero hole from the zero, both ways

} // namespace wren
