#pragma once

#include "geom/vec.h"

#include <array>
#include <functional>

#include <TopoDS_Shape.hxx>

namespace wren {

/// A solid with some of its faces brought up or down: every place of theirs by `shift` of its plan
/// (mm along Z, smooth). Those faces become spline surfaces, the walls they end at, upright planes
/// and cylinders, are trimmed to them; nothing else moves. `belongs` tells whether a place lies on
/// a face to be moved. Throws Standard_Failure when such a face ends at anything but walls.
TopoDS_Shape withShiftedFaces(const TopoDS_Shape& solid, const std::function<bool(Vec3)>& belongs,
                              const std::function<double(Vec2)>& shift);

} // namespace wren
