#pragma once

#include "geom/mesh.h"

#include <string>

namespace wren {

/// Binary STL (80-byte header, little-endian floats, mm), normals outward by the triangles' own
/// turn.
std::string toStl(const Mesh& mesh, const std::string& name);

/// Volume inside a closed mesh by the divergence theorem, mm3.
double volumeOf(const Mesh& mesh);

} // namespace wren
