#pragma once

#include "geom/crossing.h"

#include <vector>

namespace wren {

/// Distances to a contour of places no further from it than `reach`, mm, asked many times and from
/// several threads.
class EdgeDistance {
public:
    EdgeDistance(const Contour& contour, double reach);

    double reach() const { return reach_; }
    /// The distance, or reach() where it is more.
    double at(Vec2 p) const;
    /// The contour's place nearest to `p`; `p` itself when nothing is within reach.
    Vec2 foot(Vec2 p) const;

private:
    const std::vector<std::size_t>* near(Vec2 p) const;

    double reach_;
    std::vector<Stroke> strokes_;
    Vec2 low_;
    int nx_ = 0;
    int ny_ = 0;
    std::vector<std::vector<std::size_t>> cells_; ///< strokes within reach of any place of a cell
};

} // namespace wren
