#pragma once

#include "exchange/shifted_surface.h"

#include <functional>

#include <Standard_Failure.hxx>
#include <TopoDS_Shape.hxx>

namespace wren {

/// What the faces of a solid are brought up or down by.
struct FaceShift {
    std::function<bool(Vec3)> belongs;      ///< whether a place lies on a face to be moved
    std::function<double(Vec2)> at;         ///< of any place on one, mm along Z
    std::function<bool(Vec2)> upright;      ///< whether the moved face stands upright there
    std::function<SmoothShift(Vec2)> about; ///< of the face a place in plan lies within
};

/// A face would fall past the other end of a wall it ends at.
struct FallsPast : Standard_Failure {
    FallsPast() : Standard_Failure("a face falls past a floor or the other face at a wall") {}
};

/// A solid with some of its faces brought up or down. Those faces become spline surfaces, the walls
/// they end at, upright planes and cylinders, are trimmed to them; nothing else moves. Throws
/// Standard_Failure when such a face ends at anything but walls, FallsPast when it falls too far.
TopoDS_Shape withShiftedFaces(const TopoDS_Shape& solid, const FaceShift& shift);

} // namespace wren
