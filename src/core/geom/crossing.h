#pragma once

#include "geom/contour.h"

#include <array>

namespace wren {

/// A contour piece with what is asked of it thousands of times worked out once. Places on it are
/// fractions, 0 at `from` and 1 at `to`.
class Stroke {
public:
    explicit Stroke(const ContourPiece& piece);

    const ContourPiece& piece() const { return piece_; }
    Vec2 at(double fraction) const;
    /// The fraction of a point known to lie on it, or on its line or circle.
    double fractionOf(Vec2 p) const;
    double distanceTo(Vec2 p) const;
    Vec2 low() const { return low_; } ///< corners of the box about it
    Vec2 high() const { return high_; }

private:
    bool spans(Vec2 out) const; ///< whether a direction from the centre lies within the arc
    double sweep() const;       ///< signed, counter-clockwise positive

    ContourPiece piece_;
    double radius_ = 0;
    double side_ = 0;   ///< of an arc: 1 counter-clockwise, -1 clockwise
    bool minor_ = true; ///< no more than half a turn
    Vec2 low_, high_;
};

/// Up to two places two pieces' whole lines or circles have in common; touching counts as none.
struct Meetings {
    std::array<Vec2, 2> at;
    int count = 0;
};
Meetings meetings(const ContourPiece& a, const ContourPiece& b);

/// The same, only those that lie on both pieces.
Meetings crossings(const Stroke& a, const Stroke& b);

} // namespace wren
