#pragma once

#include "geom/mesh.h"

class TopoDS_Solid;

namespace wren {

/// A solid's faces in triangles within `chord` mm of them and of their edges, whose tangents turn
/// by at most `angle` radians from corner to corner; closed where the solid is. Throws Error when
/// the library lays none on a face.
Mesh trianglesOf(const TopoDS_Solid& solid, double chord, double angle);

} // namespace wren
