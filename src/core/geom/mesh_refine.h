#pragma once

#include "geom/mesh.h"

#include <functional>

namespace wren {

using PlanFunction = std::function<double(double, double)>; ///< of a place in X and Y, mm

/// Splits edges of a closed mesh until its triangles follow a surface: every triangle whose three
/// corners lie on z = height(x, y) within `on` mm, and which does not stand upright, has no edge
/// further than `chord` mm above or below it. New corners are put on the surface; both neighbours
/// of an edge are split together, so a closed mesh stays closed.
void refineOnto(Mesh& mesh, const PlanFunction& height, double chord, double on = 1e-3);

/// The same for those of its triangles that are of one face (a number for each; that of a half is
/// its triangle's, added behind), the distance taken square to the surface: `upright` is the upward
/// share of its unit normal, 0 where it stands upright itself.
void refineOnto(Mesh& mesh, std::vector<int>& faces, int face, const PlanFunction& height,
                const PlanFunction& upright, double chord);

} // namespace wren
