#pragma once

#include "base/length.h"
#include "geom/vec.h"

#include <string>

namespace wren {

/// A bench router as its owner knows it. Machine coordinates: home corner front left with the
/// spindle up is X0 Y0 Z0; X and Y grow to the right and back, Z falls to -travel.z.
struct Machine {
    std::string name = "Bench router";
    LengthUnit programUnit = LengthUnit::mm; ///< what its programs are written in
    Vec3 travel{900, 600, 110};              ///< mm
    double rapid = 5000;                     ///< mm/min
    double maxFeed = 4000;                   ///< mm/min
    Vec3 acceleration{400, 400, 200};        ///< mm/s2, by axis
    double cornerSpeed = 8;                  ///< mm/s of sudden velocity change it takes unharmed
    double spindleMin = 8000;                ///< rpm
    double spindleMax = 24000;
    double spoilDepth = 2;   ///< how far a bit may enter the spoil board, mm
    Vec2 crossing{450, 300}; ///< machine X-Y where the engraved centre lines cross
    double plate = 12;       ///< thickness of the probe plate, mm

    friend bool operator==(const Machine&, const Machine&) = default;
};

} // namespace wren
