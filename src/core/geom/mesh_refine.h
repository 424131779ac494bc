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

/// Splits edges of a closed mesh until its triangles follow a surface: every triangle whose three
/// corners lie on z = height(x, y) within `on` mm, and which does not stand upright, has no edge
/// further than `chord` mm above or below it. New corners are put on the surface; both neighbours
/// of an edge are split together, so a closed mesh stays closed.
void refineOnto(Mesh& mesh, const PlanFunction& height, double chord, double on = 1e-3);

/// The same for triangles that are told what they follow: each has a number, `faceOf` the face of a
/// number, null for none. The distance is taken square to the face. Where two of them meet they are
/// at one height.
void refineOnto(Mesh& mesh, const std::vector<int>& numbers,
                const std::function<const PlanFace*(int)>& faceOf, double chord);

} // namespace wren
