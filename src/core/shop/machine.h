#pragma once

#include "base/length.h"
#include "geom/vec.h"

#include <string>

namespace wren {

enum class HomeCorner { frontLeft, frontRight, backLeft, backRight };

/// A bench router as its owner knows it. Machine coordinates: the home corner with the spindle up
/// is X0 Y0 Z0; X grows to the right, Y to the back and Z upward wherever home is, so that away
/// from a right or back home they run negative, as Z always does.
struct Machine {
    std::string name = "Bench router";
    LengthUnit programUnit = LengthUnit::mm; ///< what its programs are written in
    bool arcs = true; ///< it takes G2 and G3; otherwise arcs are written as short lines
    HomeCorner home = HomeCorner::frontLeft;
    Vec3 travel{900, 600, 110};       ///< mm
    double rapid = 5000;              ///< mm/min
    double maxFeed = 4000;            ///< mm/min
    Vec3 acceleration{400, 400, 200}; ///< mm/s2, by axis
    double cornerSpeed = 8;           ///< mm/s of sudden velocity change it takes unharmed
    double spindleMin = 8000;         ///< rpm
    double spindleMax = 24000;
    double spoilDepth = 2;   ///< how far a bit may enter the spoil board, mm
    Vec2 crossing{450, 300}; ///< machine X-Y where the engraved centre lines cross
    double plate = 12;       ///< thickness of the probe plate, mm

    /// The machine X-Y of the front left corner of its travel.
    Vec2 lowCorner() const {
        const bool right = home == HomeCorner::frontRight || home == HomeCorner::backRight;
        const bool back = home == HomeCorner::backLeft || home == HomeCorner::backRight;
        return {right ? -travel.x : 0, back ? -travel.y : 0};
    }

    friend bool operator==(const Machine&, const Machine&) = default;
};

} // namespace wren
