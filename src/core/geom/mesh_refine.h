#pragma once

#include "geom/mesh.h"

#include <functional>

namespace wren {

/// Splits edges of a closed mesh until its triangles follow a surface: every triangle whose three
/// corners lie on z = height(x, y) within `on` mm, and which does not stand upright, has no edge
/// whose middle is further than `chord` mm above or below it. New corners are put on the surface;
/// both neighbours of an edge are split together, so a closed mesh stays closed.
void refineOnto(Mesh& mesh, const std::function<double(double, double)>& height, double chord,
                double on = 1e-3);

} // namespace wren
