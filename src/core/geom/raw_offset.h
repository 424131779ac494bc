#pragma once

#include "geom/contour.h"

namespace wren {

/// Every piece of a closed border moved to its left by `distance`, joined end to start: by arcs
/// about the corners it turns away from, trimmed where neighbours meet, tied by a line where a
/// hollow is tighter than the distance. It may cross itself, and does wherever something is used
/// up; inset() keeps of it what is far enough from the border.
Contour rawOffset(const Contour& border, double distance);

} // namespace wren
