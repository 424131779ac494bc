#pragma once

#include "geom/mesh.h"

#include <array>
#include <cstddef>
#include <limits>
#include <vector>

namespace wren {

/// Lowers a ball end onto a triangle mesh until it touches: on a vertex, along an edge, or on a
/// facet. The axis is vertical; the mesh is met from above. Exact to rounding.
///
/// Triangles lie in the buckets of a plane grid by their middles, so a drop looks only at those the
/// ball can reach, and at few of them closely.
class BallDropCutter {
public:
    /// `radius` of the ball, mm. The mesh is copied into the grid.
    BallDropCutter(const Mesh& mesh, double radius);

    /// Height of the ball's tip with its axis at (x, y); -infinity when it meets nothing.
    double tipHeight(double x, double y) const;

    static constexpr double nothing = -std::numeric_limits<double>::infinity();

private:
    struct Triangle {
        std::array<Vec3, 3> p;
        Vec3 normal; ///< unit, upward; zero for a vertical facet
        double x0, x1, y0, y1, top;
    };

    void visit(std::size_t bucket, double x, double y, double& best) const;
    double centreOver(const Triangle& t, double x, double y, double best) const;

    double r_;
    double cell_ = 1;
    double x0_ = 0, y0_ = 0;
    int nx_ = 1, ny_ = 1;
    double reach_ = 0;                 ///< the ball's radius and the largest triangle's half extent
    std::vector<Triangle> triangles_;  ///< sorted by bucket
    std::vector<std::size_t> firstIn_; ///< of each bucket; one more at the end
};

} // namespace wren
