#pragma once

#include "hold/held.h"
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
    int lids = 1; ///< cut from one piece
    double frame = 10; ///< of waste left round the trench; it carries the part by its tabs
    OutsideBy outside = OutsideBy::router;
    double sawOff = 3; ///< wood the saw leaves for the router's last skim

    friend bool operator==(const BodyBlank&, const BodyBlank&) = default;
};

/// A panel in a blank of its own with a margin round it. All layers of a body are to be laid with
/// `around`, the box of the largest, so that they share one zero and one pair of pins.
/// `fromBoth`: it is turned over for half of its outline or of a cut-out, where no bit reaches
/// through.
/// `within`: its pins, where they stand within the part.
Held layPanel(const Panel& panel, const std::array<Vec2, 2>& around, const BodyBlank& blank,
              const TurnHold& hold, const Machine& machine, bool fromBoth = false,
              const std::vector<RegisterPin>& within = {});

Findings judgePanelHold(const Panel& panel, const Held& setups, const BodyBlank& blank,
                        const TurnHold& hold);

} // namespace wren
