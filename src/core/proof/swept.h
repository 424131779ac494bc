#pragma once

#include "geom/vec.h"
#include "shop/bit.h"

#include <algorithm>
#include <limits>
#include <utility>

namespace wren {

/// Places of a row, `step` apart from `x` on, at the height `y` of the plan; mm.
struct PlacesInRow {
    double start = 0; ///< the grid's edge
    double step = 0;
    int first = 0; ///< cells from there to the first place
    int count = 0;
    double y = 0;

    double x(int i) const { return start + (first + i + 0.5) * step; }
};

/// A straight piece of tool travel and the shape that travels (mm, a stock's frame).
class Swept {
public:
    static constexpr double infinity = std::numeric_limits<double>::infinity();

    Swept(Vec3 a, Vec3 b, const EndShape& tool);

    double yMin() const { return std::min(a_.y, b_.y) - r_; }
    double yMax() const { return std::max(a_.y, b_.y) + r_; }
    double zMin() const { return zMin_; }
    bool travels() const { return len_ > 0; }
    bool flatAndLevel() const { return flat_ && (rise_ == 0 || len_ == 0); }

    /// The x interval the tool covers on the line y; empty (first > second) when it does not.
    std::pair<double, double> span(double y) const;

    /// The x interval its disc covers where the piece begins; empty when it does not.
    std::pair<double, double> startSpan(double y) const { return discSpan(a_, y); }
    /// Keeps of an x interval on the line y what a rounded end that has cut at the start already
    /// may still lower.
    void keepAhead(double y, double& from, double& to) const;

    /// Lowest the tool's surface comes over the point, +infinity outside.
    /// May say +infinity as well where it would not come below `limit`.
    double height(double x, double y, double limit = infinity) const;

    /// The same for places of a row that stand at `now`, one each; +infinity where they stand no
    /// higher than the tool ever comes.
    void heights(const PlacesInRow& places, const float* now, double* out) const;

    /// How far along, as a fraction, the tool takes the wood over places (x, y): a flat end as soon
    /// as its rim comes over it, a round one by and by until it is abreast, which counts as half
    /// way.
    void reached(const double* x, int count, double y, double* out) const;

    /// No lower than this between two places of a row, quickly.
    double lowerBound(double x0, double x1, double y) const;

private:
    std::pair<double, double> discSpan(Vec3 centre, double y) const;
    double roundedOver(double across, double along, double t0, double t1, double limit) const;
    template <typename At>
    double lowestBetween(At at, double across, double along, double t0, double t1) const;
    void ballHeights(const PlacesInRow& places, double* out) const;

    Vec3 a_;
    double r_;
    EndShape tool_;
    bool ball_;
    bool flat_;
    double len_;
    double rise_;
    double zMin_;
    Vec3 b_;
    Vec2 u_;
    double slope_ = 0;
    double lean_ = 0; ///< sine of the travel's slope
};

} // namespace wren
