#pragma once

#include "hold/turn_hold.h"
#include "part/panel.h"

#include <optional>

namespace wren {

/// What takes the waste off the body's outside: the router alone, or a bandsaw first.
enum class OutsideBy { router, saw };

/// The pieces of wood a body is cut from; what is not measured follows from the parts.
struct BodyBlank {
    std::optional<double> length;
    std::optional<double> width;
    std::optional<double> thickness; ///< of the body's piece, or the core's
    std::optional<double> topThickness;
    std::optional<double> backThickness;
    std::optional<double> lidLength;
    std::optional<double> lidWidth;
    std::optional<double> lidThickness;
    OutsideBy outside = OutsideBy::router;
    double sawOff = 3; ///< wood the saw leaves for the router's last skim

    friend bool operator==(const BodyBlank&, const BodyBlank&) = default;
};

/// A strip of waste the saw leaves between the outline and a register pin.
struct SawnEar {
    Vec2 at; ///< on the outline
    Vec2 pin;
};

/// The outside sawn between the two setups: the pins go on standing on ears.
struct SawnOutside {
    double off = 3; ///< of the outline
    std::vector<SawnEar> ears;
    static constexpr double half = 15; ///< of an ear's width, mm; common practice, no source
    /// Whether the saw leaves a place, given its distance outside the outline (0 inside).
    bool keeps(Vec2 p, double outside) const;
};

/// How a panel lies on the machine: face up, and turned over when anything is cut from behind.
/// Setups speak of the body's frame where others speak of the instrument's.
struct PanelSetups {
    Blank blank; ///< the piece as it comes
    Setup face;
    std::optional<Setup> back;
    std::vector<RegisterPin> pins; ///< through every layer; none for a lid
    double pinSize = 8;
    bool drillPins = false; ///< this is the stage that makes their holes
    std::vector<RegisterMark> marks;
    std::optional<Vec2> notch;
    std::optional<SawnOutside> sawn; ///< between the setups
    double expectedError = 0;
    Vec2 correction;

    double faced() const { return face.faced; }
};

/// A panel in a blank of its own with a margin round it. All layers of a body are to be laid with
/// `around`, the box of the largest, so that they share one zero and one pair of pins.
/// `outlineFromBoth`: it is turned over for half of its outline, where no bit reaches through.
PanelSetups layPanel(const Panel& panel, const std::array<Vec2, 2>& around, const BodyBlank& blank,
                     const TurnHold& hold, const Machine& machine, bool outlineFromBoth = false);

Findings judgePanelHold(const Panel& panel, const PanelSetups& setups, const TurnHold& hold,
                        const Machine& machine);

} // namespace wren
