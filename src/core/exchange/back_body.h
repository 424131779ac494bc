#pragma once

#include "part/trough.h"

#include <vector>

#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Shape.hxx>

namespace wren {

// Bodies between a neck's back and the glue plane, instrument frame, mm. Only for files that build
// solids: this header is heavy.

/// Surfaces that follow one another along the neck, U along it; walls straight up from their long
/// edges to the glue plane, the two sections at the ends, sewn. Nothing is cut, so every face has
/// its own natural borders. Throws Error when they do not close.
TopoDS_Shape bodyUpFrom(const std::vector<Handle(Geom_BSplineSurface)>& backs);

/// What a trough takes out of its board and what stands over it, a little beyond both ends; its
/// surface one spline within 0.001 mm.
TopoDS_Shape troughBody(const Trough& trough);

} // namespace wren
