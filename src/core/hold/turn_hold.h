#pragma once

#include "hold/setup.h"

#include <optional>

namespace wren {

/// About which of the blank's own lines it is turned between the sides.
enum class TurnOver { sideForSide, endForEnd };
enum class Register { pins, marks };
enum class PinsIn { waste, part }; ///< beyond the part's ends, or within it, clear of its cuts
enum class PinKind { dowel, reamed }; ///< wood sanded to slide; steel in a reamed hole

/// How a part that is cut from both sides is held and turned over, mm.
struct TurnHold {
    ZZero zFace = ZZero::top;
    ZZero zBack = ZZero::bed;
    TurnOver turn = TurnOver::sideForSide;
    Register by = Register::pins;
    double pinSize = 6;
    double pinInset = 11;     ///< of the pin at the nut's end of the blank, from that end
    double pinUneven = 7;     ///< the other one stands so much further in
    double fixture = 18;      ///< thickness of the fixture board the pins stand in
    bool makeFixture = false; ///< that board is made as a part
    bool makeCradle = false;  ///< a neck's: what it lies in face up once its back is done
    PinKind pinKind = PinKind::dowel;
    PinsIn pinsIn = PinsIn::waste; ///< a flat part's
    double edgeSquare = 0;    ///< measured: an edge the marks are carried down is so far out, degrees
    bool notches = true;      ///< both sides cut a witness notch in the waste
    /// What a caliper reads across the notches, back against front: along and across the machine.
    double witnessX = 0;
    double witnessY = 0;
    /// Machine place of the fixture board's zero hole as it was last found; none: the board's
    /// middle lies under the crossing. Void once the board has been moved.
    std::optional<double> zeroX{}, zeroY{};
    bool fixtureMoved = false;
    /// From the nut: where the cuts of a neck that lies in two stations should meet.
    std::optional<double> seam{};

    friend bool operator==(const TurnHold&, const TurnHold&) = default;
};

/// A pin that stands in a hole right through the waste; instrument frame.
struct RegisterPin {
    Vec2 at;
};

/// A mark a pencil makes: so far from the same end and the same edge throughout.
struct RegisterMark {
    std::string what;
    double fromEnd = 0;  ///< from the blank's end toward the nut
    double fromEdge = 0; ///< from the edge that lies in front with the face up
};

// Error between the two sides, mm; common practice, no source.
inline constexpr double pencilError = 0.3; ///< by marks
inline constexpr double dowelError = 0.12; ///< by fitted dowels
inline constexpr double reamedError = 0.05; ///< by steel pins in reamed holes
/// What is to be expected of one way or the other, with this blank's edges as they are.
double errorBy(Register by, const TurnHold& hold, double thickness);

/// The pins' places in a blank whose middle lies at `middle`; none when it is turned by marks.
std::vector<RegisterPin> registerPins(const TurnHold& hold, Vec2 middle, double length);
/// The four marks of a blank that is turned by its centre lines.
std::vector<RegisterMark> registerMarks(const Blank& blank, const char* low, const char* high);
/// The second side of a part whose place `at` lies in the blank's middle, its Z 0 at `z` of the
/// setup; moved by half of what the witness notches showed.
SetupFromInstrument turnedOver(const TurnHold& hold, const Blank& blank, Vec2 at, double z);
Vec2 witnessCorrection(const TurnHold& hold);

} // namespace wren
