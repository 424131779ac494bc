#pragma once

#include "cut/move.h"
#include "shop/machine.h"

#include <vector>

namespace wren {

/// How one move runs: speed in, top speed, speed out (mm/s), rate of change (mm/s2), length (mm).
struct SpeedProfile {
    double entry = 0;
    double top = 0;
    double exit = 0;
    double acceleration = 0;
    double length = 0;
    double dwell = 0; ///< seconds after arriving

    double seconds() const; ///< dwell included
    /// Distance travelled `t` seconds after the start, 0 <= t <= seconds().
    double distanceAt(double t) const;
};

/// Trapezoidal speeds for a chain of moves: each within its feed, each axis within its
/// acceleration, arcs within v^2/r, and at corners no sudden change of velocity above the machine's
/// cornerSpeed. The chain starts at `entry` mm/s and ends standing. Constant-acceleration
/// kinematics.
std::vector<SpeedProfile> planSpeeds(const Path& path, const Machine& machine, double entry = 0);

struct MotionTime {
    double seconds = 0;       ///< with acceleration
    double secondsPlain = 0;  ///< distance over feed
    double cutLength = 0;     ///< mm
    double rapidLength = 0;   ///< mm
    std::vector<double> ends; ///< seconds from the start at which each move ends
};

MotionTime timeOf(const Path& path, const Machine& machine);

} // namespace wren
