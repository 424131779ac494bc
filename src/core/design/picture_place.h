#pragma once

#include "geom/vec.h"

namespace wren {

/// How a picture (pixels, y down) shows an instrument's plan: two places on its centreline are
/// known. Plan places are right-handed, bass at -Y, mm, +X away from the nut.
class PicturePlace {
public:
    /// `origin` shows the plan's zero, `other` the place `otherX` (not 0) along the centreline.
    /// `bassBelow`: laid with the nut at the left, the picture shows the bass side below.
    PicturePlace(Vec2 origin, Vec2 other, double otherX, bool bassBelow)
        : origin_(origin), along_((other - origin) * (1 / otherX)),
          up_(Vec2{along_.y, -along_.x} * (bassBelow ? 1 : -1)) {}

    double pixelsPerMm() const { return length(along_); }
    Vec2 toPlan(Vec2 pixels) const {
        const Vec2 d = pixels - origin_;
        const double k = dot(along_, along_);
        return {dot(d, along_) / k, dot(d, up_) / k};
    }
    Vec2 toPicture(Vec2 plan) const { return origin_ + along_ * plan.x + up_ * plan.y; }

private:
    Vec2 origin_;
    Vec2 along_, up_; ///< on the picture, pixels for each mm
};

} // namespace wren
