#pragma once

#include "job/derive.h"
#include "proof/spindle_room.h"

namespace wren {

/// One step of bringing the spindle to a setup's zero; machine coordinates, mm.
struct Jog {
    std::string what;
    Vec2 to; ///< where it then stands
    Vec2 by; ///< from the step before; the first: from home
};

/// How a part is laid for one setup, or one station of it.
struct HoldCard {
    const Setup* setup = nullptr;
    std::size_t station = 0;
    std::array<Vec2, 2> bed{};       ///< low and high corner of the blank on the machine
    std::vector<RegisterMark> marks; ///< that lie on the engraved lines
    std::vector<Jog> jogs;           ///< home, the crossing of the lines, the programs' zero
    std::vector<Vec2> pins;          ///< on the machine
    double pinSize = 0;
    bool onFixture = false; ///< a board with those pins lies under the blank
    std::vector<std::pair<const Clamp*, Vec2>> clamps; ///< and their middles on the machine
    std::optional<Vec2> probe; ///< middle of the plate; none: the machine reaches no place for it
    std::optional<Tightest> room; ///< under the spindle; none without programs
    double expectedError = 0;  ///< between the sides; 0 for a part cut from one
    /// What would shift it, and what would not, a sentence each with its sum.
    std::vector<std::string> shifts;
};

/// In the order they come up.
std::vector<HoldCard> holdCards(const Derived& derived, const PartJob& job);

std::string holdJson(const Derived& derived, const PartJob& job);
std::string holdText(const Derived& derived, const PartJob& job);

} // namespace wren
