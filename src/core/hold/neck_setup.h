#pragma once

#include "hold/setup.h"
#include "part/neck_part.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// The piece a neck is cut from; what is not measured follows from the part.
struct NeckBlank {
    std::optional<double> length;
    std::optional<double> width;
    std::optional<double> thickness;
    std::string wood = "hard-maple";
    int strips = 1; ///< laminations side by side across the width

    friend bool operator==(const NeckBlank&, const NeckBlank&) = default;
};

/// About which of the blank's own lines it is turned between the sides.
enum class TurnOver { sideForSide, endForEnd };
enum class Register { pins, marks };

/// How the neck is held and turned over, mm.
struct NeckHold {
    ZZero zFace = ZZero::top;
    ZZero zBack = ZZero::bed;
    TurnOver turn = TurnOver::sideForSide;
    Register by = Register::pins;
    double pinSize = 6;
    double pinInset = 11; ///< of the pin at the head's end, from that end
    double pinUneven = 7; ///< the other one stands so much further in
    double fixture = 18;  ///< thickness of the fixture board the pins stand in
    bool notches = true;  ///< both sides cut a witness notch in the waste
    /// What a caliper reads across the notches, back against front: along and across the machine.
    double witnessX = 0;
    double witnessY = 0;

    friend bool operator==(const NeckHold&, const NeckHold&) = default;
};

/// The blank as it will be cut: measured sizes where given, else the part with margins for pins,
/// trench and frame.
Blank neckBlank(const NeckPart& part, const NeckBlank& blank, const NeckHold& hold);

/// A pin that stands in a hole right through the waste; instrument frame.
struct RegisterPin {
    Vec2 at;
};

/// A mark a pencil makes: so far from the same end and the same edge throughout.
struct RegisterMark {
    std::string what;
    double fromEnd = 0;  ///< from the head's end of the blank
    double fromEdge = 0; ///< from the edge that lies in front with the face up
};

/// Both ways the neck lies on the machine.
struct NeckSetups {
    Blank blank;
    Setup face; ///< face up, head to the left
    Setup back; ///< turned over
    std::vector<RegisterPin> pins;
    double pinSize = 6;
    std::vector<RegisterMark> marks;
    std::optional<Vec2> notch; ///< instrument frame, on the blank's edge at -Y
    double expectedError = 0;  ///< between the sides, mm
    Vec2 correction;           ///< how far the second side is moved for what the notches showed
};

NeckSetups layNeck(const NeckPart& part, const NeckBlank& blank, const NeckHold& hold,
                   const Machine& machine);

/// A blank the neck cannot be had from, and what a thickness error or the registration will do.
Findings judgeNeckHold(const NeckPart& part, const NeckSetups& setups, const NeckHold& hold,
                       const Machine& machine);

} // namespace wren
