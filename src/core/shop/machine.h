#pragma once

#include "base/length.h"
#include "geom/vec.h"
#include "shop/controller.h"

#include <array>
#include <optional>
#include <string>

namespace wren {

/// What turns with the bit over its collet nut's face, or hangs about it, mm.
struct SpindleEnd {
    double nutLength = 20;    ///< from the collet nut's face up to the spindle's nose
    double noseWidth = 0;     ///< of the spindle over that; 0: not told, so not looked at
    double shoeWidth = 0;     ///< of a dust shoe's hard parts, all round; 0: it has none
    double shoeBelowNose = 0; ///< how far those hang below the nose
    /// From the nose, with the spindle as far up as it goes, down to the spoil board.
    std::optional<double> gap{};

    friend bool operator==(const SpindleEnd&, const SpindleEnd&) = default;
};

/// What a clamp's screw finds hold in.
enum class BedHold { plain, inserts, slots };
inline constexpr std::array<const char*, 3> bedHoldNames{"plain", "inserts", "slots"};

/// The board the work lies on, mm.
struct SpoilBoard {
    double thickness = 18; ///< as it is today
    double least = 9;      ///< thinner than that it is replaced
    double uneven = 0;     ///< highest less lowest place, as measured
    BedHold hold = BedHold::plain;
    double pitch = 100; ///< between its inserts both ways, or between slots along Y
    double first = 50;  ///< of the first of them from the travel's front left corner, both ways

    friend bool operator==(const SpoilBoard&, const SpoilBoard&) = default;
};

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
    SpindleEnd end;
    SpoilBoard spoil;
    Controller talk; ///< how its controller is spoken to

    /// The same with its long line so far further back: a blank on a line of its own.
    Machine onLine(double behind) const {
        Machine m = *this;
        m.crossing.y += behind;
        return m;
    }

    /// The machine X-Y of the front left corner of its travel.
    Vec2 lowCorner() const {
        const bool right = home == HomeCorner::frontRight || home == HomeCorner::backRight;
        const bool back = home == HomeCorner::backLeft || home == HomeCorner::backRight;
        return {right ? -travel.x : 0, back ? -travel.y : 0};
    }

    friend bool operator==(const Machine&, const Machine&) = default;
};

} // namespace wren
