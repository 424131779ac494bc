#pragma once

#include <vector>

namespace wren {

/// The natural cubic spline through given points: twice continuously differentiable, its second
/// derivative zero at both ends, so that it runs on straight beyond them without a kink.
class NaturalSpline {
public:
    NaturalSpline() = default;
    /// `x` strictly rising, as many `y`; one point gives a constant.
    NaturalSpline(std::vector<double> x, std::vector<double> y);

    double at(double x) const;
    double slopeAt(double x) const;

private:
    std::size_t pieceAt(double x) const;

    std::vector<double> x_;
    std::vector<double> y_;
    std::vector<double> bend_; ///< second derivatives
};

/// 0 for s <= 0, 1 for s >= 1, between them the quintic that joins both with two derivatives.
inline double smoothStep(double s) {
    return s <= 0 ? 0 : (s >= 1 ? 1 : s * s * s * (10 + s * (6 * s - 15)));
}

} // namespace wren
