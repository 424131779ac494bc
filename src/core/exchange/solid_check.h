#pragma once

#include "geom/mesh.h"
#include "part/definition.h"

#include <optional>
#include <vector>

namespace wren {

/// A place of a mesh that does not lie on the definition's surface, and how far from it, mm: one
/// of 0.02, 0.04, 0.08 ..., the first within which the surface was found.
struct Stray {
    Vec3 at;
    double by = 0;
};

/// A place of a solid's own faces, and the way out of the wood there.
struct SurfacePlace {
    Vec3 at;
    Vec3 normal;
};

/// The place of those that strays the most from a definition by more than `within` mm.
std::optional<Stray> worstStray(const std::vector<SurfacePlace>& places, const Definition& wood,
                                double within = 0.02);

/// The place of a closed mesh that strays the most from a definition by more than `within` mm;
/// none when all of it lies on the definition's surface, wood on its one side and air on the
/// other. Triangles are asked near their corners and, large ones, all over at `pitch` mm.
std::optional<Stray> worstStray(const Mesh& mesh, const Definition& wood, double within = 0.02,
                                double pitch = 3);

} // namespace wren
