#pragma once

#include "geom/vec.h"

#include <vector>

namespace wren {

/// Closed polygons (mm), asked many times and from several threads whether a place lies inside an
/// odd number of them.
class Bands {
public:
    explicit Bands(const std::vector<std::vector<Vec2>>& polygons);

    bool holds(Vec2 p) const;

private:
    struct Side {
        Vec2 a, b;
    };
    double low_ = 0;
    double step_ = 1;
    std::vector<std::vector<Side>> bands_; ///< the sides that reach into each band of Y
};

} // namespace wren
