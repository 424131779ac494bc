#pragma once

#include "hold/turn_hold.h"
#include "part/panel.h"

#include <optional>

namespace wren {

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

    friend bool operator==(const BodyBlank&, const BodyBlank&) = default;
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
    double expectedError = 0;
    Vec2 correction;

    double faced() const { return face.faced; }
};

/// A panel in a blank of its own with a margin round it. All layers of a body are to be laid with
/// `around`, the box of the largest, so that they share one zero and one pair of pins.
PanelSetups layPanel(const Panel& panel, const std::array<Vec2, 2>& around, const BodyBlank& blank,
                     const TurnHold& hold, const Machine& machine);

Findings judgePanelHold(const Panel& panel, const PanelSetups& setups, const TurnHold& hold,
                        const Machine& machine);

} // namespace wren
