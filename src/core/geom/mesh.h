#pragma once

#include "geom/vec.h"

#include <array>
#include <vector>

namespace wren {

/// A surface as triangles sharing vertices; mm.
struct Mesh {
    std::vector<Vec3> vertices;
    std::vector<std::array<int, 3>> triangles;
};

/// The surface z = height(x, y) over [x0, x1] x [y0, y1] in nx by ny squares, two triangles each.
template <typename Height>
Mesh meshOfHeights(double x0, double x1, int nx, double y0, double y1, int ny, Height height) {
    Mesh mesh;
    for (int j = 0; j <= ny; ++j) {
        for (int i = 0; i <= nx; ++i) {
            const double x = x0 + (x1 - x0) * i / nx;
            const double y = y0 + (y1 - y0) * j / ny;
            mesh.vertices.push_back({x, y, height(x, y)});
        }
    }
    for (int j = 0; j < ny; ++j) {
        for (int i = 0; i < nx; ++i) {
            const int a = j * (nx + 1) + i;
            const int d = a + nx + 1;
            mesh.triangles.push_back({a, a + 1, d + 1});
            mesh.triangles.push_back({a, d + 1, d});
        }
    }
    return mesh;
}

} // namespace wren
