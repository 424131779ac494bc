#pragma once

#include "geom/contour.h"

namespace wren {

/// What a string of points has been turned into.
struct Refitted {
    Contour contour;
    double deviation = 0; ///< furthest any point lies off it, mm
};

/// The longest lines and arcs that keep within `tolerance` mm of every point: circles where all
/// points lie on one, arcs where four segments or more do, otherwise pairs of arcs of one tangent.
/// A vertex that turns by more than 23 degrees is a corner, and so are the ends of a segment much
/// longer than its neighbours, where the tangent is that segment's: a polygon stays one, and a
/// circle drawn as sixteen lines or more becomes a circle. Points must not repeat.
Refitted refit(const std::vector<Vec2>& points, bool closed, double tolerance);

} // namespace wren
