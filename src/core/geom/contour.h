#pragma once

#include "geom/vec.h"

#include <vector>

namespace wren {

/// A piece of a plane contour: a straight line, or an arc about `centre`.
struct ContourPiece {
    enum class Kind { line, arcClockwise };
    Kind kind = Kind::line;
    Vec2 from;
    Vec2 to;
    Vec2 centre; ///< arcs only

    double radius() const { return wren::length(from - centre); }
    double length() const;
    /// The point `along` mm from `from`, 0 <= along <= length().
    Vec2 at(double along) const;
};

using Contour = std::vector<ContourPiece>;

double lengthOf(const Contour& contour);

/// The closed contour a cutter's centre follows outside a convex one: each piece moved outward by
/// `distance` (> 0, mm), joined by arcs about the corners. `convex` runs clockwise seen from +Z
/// (climb cutting with a clockwise spindle), and so does the result: piece 2 i is piece i moved.
Contour offsetOutward(const Contour& convex, double distance);

/// Distance from a point to the segment a-b.
double distanceToSegment(Vec2 p, Vec2 a, Vec2 b);

} // namespace wren
