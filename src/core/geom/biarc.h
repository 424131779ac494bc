#pragma once

#include "geom/contour.h"

namespace wren {

/// The arc that leaves `from` along the unit vector `way` and reaches `to`; a line when that is
/// straight ahead.
ContourPiece arcTo(Vec2 from, Vec2 way, Vec2 to);

/// The unit direction at the far end of the one arc that leaves along `way` over `chord`.
Vec2 arrivalOf(Vec2 way, Vec2 chord);

/// Appends two arcs of one tangent between two points with given directions of travel.
void addBiarc(Contour& out, Vec2 p, Vec2 wayP, Vec2 q, Vec2 wayQ);

/// The direction at b of the circle through three points, travelled from a to c.
Vec2 wayThrough(Vec2 a, Vec2 b, Vec2 c);

} // namespace wren
