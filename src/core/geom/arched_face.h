#pragma once

#include "geom/vec.h"

namespace wren {

/// The face of a fretboard: every section square to X is an arc with its highest point on Y = 0 at
/// the height `top`. Its radius is r(x) = radius + growth x, so growth 0 is a cylinder and any
/// other a cone lying on its side, its ridge level. mm.
///
/// z = top - r + sqrt(r^2 - y^2). With y = c r the height is top - r (1 - sqrt(1 - c^2)), linear in
/// x: the lines of equal c are straight and lie in the face, and all along one of them the face has
/// the same normal. Cuts that follow them touch exactly everywhere.
struct ArchedFace {
    double top = 0;
    double radius = 300; ///< at X = 0
    double growth = 0;   ///< of the radius, mm per mm toward the bridge

    double radiusAt(double x) const { return radius + growth * x; }
    double heightAt(double x, double y) const;
    /// Unit, pointing out of the wood.
    Vec3 normalAt(double x, double y) const;
    /// The face whose every arc is `distance` larger and as much higher; negative for a floor
    /// below. Measured along the arcs' own normals.
    ArchedFace raised(double distance) const { return {top + distance, radius + distance, growth}; }

    /// The point of the straight line of share `c` (-1 < c < 1) at `x`.
    Vec3 onLine(double c, double x) const;
    /// The normal all along that line.
    Vec3 normalOfLine(double c) const;
};

} // namespace wren
