#pragma once

#include "geom/vec.h"

#include <array>
#include <functional>

#include <TopoDS_Shape.hxx>

namespace wren {

/// A solid whose level top at `z` has been brought down by `drop` (mm, >= 0, smooth) over every
/// place: the top's faces become one spline surface through its heights, the walls below are
/// trimmed to it; nothing else moves. The top lies within `box` and is asked 2 mm beyond it. Of
/// walls only upright planes and cylinders reach the top. Throws Standard_Failure.
TopoDS_Shape withLoweredTop(const TopoDS_Shape& solid, double z, std::array<Vec2, 2> box,
                            const std::function<double(Vec2)>& drop);

} // namespace wren
