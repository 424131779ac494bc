#pragma once

#include "design/neck_back.h"
#include "geom/vec.h"

#include <array>
#include <vector>

namespace wren {

/// A board's face hollowed out along its whole length to the negative of a neck's back, so that the
/// neck lies in it as deep as its shoulders allow. Instrument frame, mm; the board's face lies
/// `top` below the glue plane, below the lower edge of every shoulder.
class Trough {
public:
    /// From and to: X of the board's ends, within the shaft.
    Trough(const NeckBack& back, double from, double to);

    double from() const { return from_; }
    double to() const { return to_; }
    double top() const { return top_; } ///< of the board's face below the glue plane
    double deepest() const { return deepest_; } ///< below the board's face

    double depth(Vec2 p) const; ///< below the board's face; 0 beside the trough
    Vec2 gradient(Vec2 p) const;
    /// Between which Y it is at least so deep; none: the second is not above the first.
    std::array<double, 2> across(double x, double depth) const;

    /// A place of its surface and the unit normal there, up out of the wood.
    struct Touch {
        Vec3 at;
        Vec3 up;
    };
    /// At a share of the way from the middle to its rim, by section angle: -1 the rim at -Y.
    Touch touch(double x, double share) const;

    /// The back itself, between its edges and a little beyond the board's ends too: `share` of a
    /// quarter turn of section angle, -1 the edge at -Y.
    Vec3 backAt(double x, double share) const;

    /// The largest ball that rolls all over it, as a radius.
    double tightest() const { return tightest_; }
    std::vector<double> numbers() const; ///< all it follows from, closely enough to tell two apart

private:
    NeckBack::Slice sliceAt(double x) const;
    std::array<double, 2> rims(const NeckBack::Slice& slice) const; ///< section angles
    void measure();

    NeckBack back_;
    double from_, to_;
    double top_ = 0;
    double deepest_ = 0;
    double tightest_ = 0;
};

} // namespace wren
