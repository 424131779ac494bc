#pragma once

#include "part/neck_part.h"

#include <vector>

#include <Geom_BSplineSurface.hxx>

namespace wren {

/// The back of shaft and transitions as spline surfaces within 0.001 mm of its definition,
/// instrument frame, mm: one for each piece of the outline, in order from the head, U along the
/// neck and V from the edge at -Y to the one at +Y. Only for files that build solids: this header
/// is heavy.
std::vector<Handle(Geom_BSplineSurface)> backSurfaces(const NeckPart& part);

} // namespace wren
