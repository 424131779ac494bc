#pragma once

#include "hold/held.h"
#include "part/neck_part.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// The piece a neck is cut from; what is not measured follows from the part.
struct NeckBlank {
    std::optional<double> length;
    std::optional<double> width;
    std::optional<double> thickness; ///< of a scarfed one, its plank's
    std::string wood = "hard-maple";
    int strips = 1; ///< laminations side by side across the width
    int pieces = 1;  ///< necks side by side in it
    double frame = 9; ///< of waste left round the trench; it carries the neck by its tabs
    double line = 0; ///< it lies on an engraved line so far behind the long one

    friend bool operator==(const NeckBlank&, const NeckBlank&) = default;
};

/// The blank as it will be cut: measured sizes where given, else the part with margins for pins,
/// trench and frame; a scarfed one's thickness is over all, its head hanging. `scarf` is its own.
Blank neckBlank(const NeckPart& part, const std::optional<Scarf>& scarf, const NeckBlank& blank,
                const TurnHold& hold);

/// Both ways the neck lies on the machine: face up, its head to the left, and turned over. Several
/// lie side by side, the front one the first.
Held layNeck(const NeckPart& part, const NeckBlank& blank, const TurnHold& hold,
             const Machine& machine);

/// A blank the neck cannot be had from, and what a thickness error or the registration will do.
Findings judgeNeckHold(const NeckPart& part, const Held& setups, const NeckBlank& blank,
                       const TurnHold& hold, const Machine& machine);

} // namespace wren
