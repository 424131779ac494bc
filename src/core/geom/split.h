#pragma once

#include "geom/contour.h"

namespace wren {

/// What of the inside of a closed contour lies to the left of the straight line from `a` on through
/// `b`, the way round as it was, that line its last piece. Throws Error where the line does not
/// part it in two: it misses it, or crosses it more than twice.
Contour partLeftOf(const Contour& closed, Vec2 a, Vec2 b);

} // namespace wren
