#pragma once

#include "geom/vec.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// Something more that hangs on the instrument: a counterweight, a battery.
struct OwnFitting {
    std::string what = "weight";
    double mass = 50;      ///< g
    Vec2 at{60, 0};        ///< from the bridge line, as a right-handed body's things; mm
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const OwnFitting&, const OwnFitting&) = default;
};

/// What one of each fitting weighs on the scales, g; none: what is usual for its kind.
struct FittingWeights {
    std::optional<double> tuner, bridge, pickup, control, jack, strapButton, rod;
    std::vector<OwnFitting> others;

    friend bool operator==(const FittingWeights&, const FittingWeights&) = default;
};

} // namespace wren
