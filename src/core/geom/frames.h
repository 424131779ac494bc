#pragma once

#include "geom/vec.h"

#include <array>

namespace wren {

/// Takes points of the instrument frame (origin on the centreline at the nut's fretboard-side face,
/// on the glue plane; +X toward the bridge, +Z out of the face) to points of a setup frame (what
/// the machine sees: X-Y zero at the setup's datum, Z zero at its chosen face). Rigid, mm.
/// This type is the only place where the two frames meet.
class SetupFromInstrument {
public:
    SetupFromInstrument() = default;

    /// The part lies face up, nut to the left: no turn, only a shift.
    static SetupFromInstrument faceUp(Vec3 instrumentOriginInSetup);

    /// The part turned over about the instrument's X axis (side for side).
    static SetupFromInstrument turnedAboutX(Vec3 instrumentOriginInSetup);

    /// The part turned over about the instrument's Y axis (end for end).
    static SetupFromInstrument turnedAboutY(Vec3 instrumentOriginInSetup);

    // Asked for millions of cells, so to be seen here.
    Vec3 toSetup(Vec3 p) const {
        return {axes_.x * p.x + origin_.x, axes_.y * p.y + origin_.y, axes_.z * p.z + origin_.z};
    }
    Vec3 toInstrument(Vec3 p) const {
        const Vec3 d = p - origin_;
        return {axes_.x * d.x, axes_.y * d.y, axes_.z * d.z};
    }

    /// Row-major 4x4.
    std::array<double, 16> matrix() const;

private:
    // Every placement in use is a shift after flipping axes, so the rotation is its diagonal.
    Vec3 axes_{1, 1, 1};
    Vec3 origin_;
};

} // namespace wren
