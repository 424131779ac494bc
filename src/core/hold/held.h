#pragma once

#include "design/scarf.h"
#include "hold/turn_hold.h"

#include <optional>
#include <vector>

namespace wren {

/// A strip of waste the saw leaves between the outline and a register pin.
struct SawnEar {
    Vec2 at; ///< on the outline
    Vec2 pin;
};

/// The outside sawn between the two setups: the pins go on standing on ears.
struct SawnOutside {
    double off = 3;  ///< of the outline
    Contour outline; ///< clockwise, the part's frame
    std::vector<SawnEar> ears;
    static constexpr double half = 15; ///< of an ear's width, mm; common practice, no source
    /// Whether the saw leaves a place, given its distance outside the outline (0 inside).
    bool keeps(Vec2 p, double outside) const;
};

/// How a part lies on the machine: face up, and turned over when anything is cut from behind.
/// Places are of the part's own frame: the instrument's, or the body's for its pieces.
struct Held {
    Blank blank; ///< the piece as it comes
    Setup face;
    std::optional<Setup> back;
    TurnOver turn = TurnOver::sideForSide; ///< between the two
    std::optional<Scarf> scarf;            ///< what a neck's blank is glued up by
    std::vector<RegisterPin> pins;         ///< none for a part that is not turned over by pins
    double pinSize = 6;
    bool drillPins = false; ///< this is the stage that makes their holes
    std::vector<RegisterMark> marks;
    std::optional<Vec2> notch;       ///< on the blank's edge at -Y
    std::optional<SawnOutside> sawn; ///< between the setups
    double pitch = 0;                ///< it slides so far between two stations; 0: it stays
    double seam = 0;                 ///< X of either setup where the stations' cuts meet
    double expectedError = 0;        ///< between the sides, mm
    double under = 0;                ///< thickness of the fixture board it lies on; 0: on the bed
    Vec2 correction;                 ///< how far the second side is moved for what notches showed

    std::size_t sides() const { return back ? 2 : 1; }
    /// The setup of a side, 0 the face; the face's where there is no back.
    const Setup& side(std::size_t side) const { return side == 1 && back ? *back : face; }
    const Setup& last() const { return back ? *back : face; } ///< it lies in at the end
};

/// The same with another of the pieces in its blank in hand.
Held atPlace(const Held& held, std::size_t place);

/// A part that is cut from one side only.
Held heldAs(const Setup& face);

/// What the maker calls the blank's two ends.
struct BlankEnds {
    const char* low; ///< toward the nut
    const char* high;
};

/// How the two sides are brought together, for a part in the middle of its blank: pins or marks,
/// the witness notch, what error is to be expected.
void registerBy(Held& held, const TurnHold& hold, Vec2 middle, const BlankEnds& ends);

} // namespace wren
