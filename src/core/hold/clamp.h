#pragma once

#include "geom/vec.h"
#include "hold/setup.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace wren {

/// What holds a blank down, or keeps it from sliding.
enum class ClampKind { strap, cleat, screw, tape, tapeAndGlue, vacuum };

/// As files and commands call them, in the enum's order.
inline constexpr std::array<const char*, 6> clampNames{"strap", "cleat",         "screw",
                                                       "tape",  "tape-and-glue", "vacuum"};
inline const char* clampName(ClampKind kind) {
    return clampNames[static_cast<std::size_t>(kind)];
}

/// One of them at a blank, in one of its part's setups. Its place goes with the blank.
struct Clamp {
    std::string part = "fretboard"; ///< as `wren list FILE --of parts` names it
    int side = 1;                   ///< 1 face up, 2 turned over
    ClampKind kind = ClampKind::strap;
    Vec2 at{50, 0};        ///< its middle, from the blank's front left corner as it lies, mm
    double turn = 0;       ///< degrees; 0: its length lies along X
    std::string unknown{}; ///< what a file held of it that this version does not know
    int station = 0;       ///< of a part cut in stations; 0: it stands so in every one

    /// Whether it stands there while the blank lies in a station of that number; 0: in any.
    bool standsIn(int number) const { return station == 0 || number == 0 || station == number; }

    friend bool operator==(const Clamp&, const Clamp&) = default;
};

/// The room it takes on the bed, setup frame, mm; places of a rectangle of its own.
struct ClampBox {
    Vec2 middle;
    Vec2 half;       ///< of its length and its width
    Vec2 way{1, 0};  ///< unit, along its length
    double high = 0; ///< setup Z of its top

    Vec2 own(Vec2 setup) const {
        const Vec2 off = setup - middle;
        return {dot(way, off), cross(way, off)};
    }
    std::array<Vec2, 4> corners() const; ///< setup frame, going round
};

/// None for what takes no room: tape, glue, vacuum. Sizes are common practice, no source: a strap
/// 90 x 30 mm that stands 25 mm over the wood, a cleat 80 x 20 mm beside it and lower, a screw's
/// head 10 mm wide and 4 mm high.
std::optional<ClampBox> boxOf(const Clamp& clamp, const Setup& setup);

/// Whether two of them stand in each other's place.
bool overlap(const ClampBox& a, const ClampBox& b);

/// A strap lies so far on the wood at least to hold it, and where it is suggested, mm.
inline constexpr double strapOnWood = 10;

} // namespace wren
