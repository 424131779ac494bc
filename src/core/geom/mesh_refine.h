#pragma once

#include "geom/mesh.h"

#include <functional>

namespace wren {

using PlanFunction = std::function<double(double, double)>; ///< of a place in X and Y, mm

/// A face of a part by the place in plan.
struct PlanFace {
    PlanFunction height;  ///< Z, mm
    PlanFunction upright; ///< the upward share of its unit normal; 0 where it stands upright
};

/// Splits edges of a closed mesh until its triangles follow the faces of a part: each has a number,
/// `faceOf` the face of a number, null for none. No edge of a following triangle stays further than
/// `chord` mm from its face, square to it; where two of them meet they are at one height. New
/// corners are put on the face; both neighbours of an edge are split together, so a closed mesh
/// stays closed.
void refineOnto(Mesh& mesh, const std::vector<int>& numbers,
                const std::function<const PlanFace*(int)>& faceOf, double chord);

} // namespace wren
