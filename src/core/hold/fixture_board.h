#pragma once

#include "hold/held.h"
#include "part/panel.h"

namespace wren {

/// The board a part's register pins stand in. Its middle lies under the engraved crossing, where
/// the part's blank has its own, and it reaches out beyond the blank's ends, so that a probe plate
/// can lie on it; the blank drops onto the pins either way up. In the part's frame, its face on
/// Z = 0. Beside the pins' holes it has one to find the part's zero again by. Of a part cut in
/// stations it has the pins' places in either, and reaches out along the blank's edges.
Panel fixtureBoard(PartId id, const Held& held, double thickness);

/// Where a part's zero lies once its board's zero hole has been found; else it is left by the
/// lines. Not for a part cut in stations, whose first pin is the zero.
void zeroOnFixture(Held& held, const TurnHold& hold);
/// A board that was moved since its zero hole was found.
void judgeFixture(Findings& out, PartId part, const std::string& name, const TurnHold& hold);

inline constexpr double besideBlank = 25; ///< of a probe plate's middle, mm
inline constexpr double probeShelf = 45;  ///< a fixture board reaches so far beyond the blank
inline constexpr double deepestPin = 12;    ///< a pin stands no deeper in its board, mm
inline constexpr double drillPoint = 0.3;   ///< of a hole's width, its point below that
inline constexpr double underPin = 4;       ///< of board left under it
inline constexpr double zeroHoleInset = 10; ///< of the zero hole from the zero, both ways

} // namespace wren
