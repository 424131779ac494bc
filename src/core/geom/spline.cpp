#include "geom/spline.h"

#include <algorithm>

namespace wren {

NaturalSpline::NaturalSpline(std::vector<double> x, std::vector<double> y)
    : x_(std::move(x)), y_(std::move(y)), bend_(x_.size(), 0) {
    const std::size_t n = x_.size();
    if (n < 3) {
        return;
    }
    // The tridiagonal system for the second derivatives, eliminated from the front.
    std::vector<double> upper(n, 0);
    for (std::size_t i = 1; i + 1 < n; ++i) {
        const double h0 = x_[i] - x_[i - 1];
        const double h1 = x_[i + 1] - x_[i];
        const double wanted = 6 * ((y_[i + 1] - y_[i]) / h1 - (y_[i] - y_[i - 1]) / h0);
        const double pivot = 2 * (h0 + h1) - h0 * upper[i - 1];
        upper[i] = h1 / pivot;
        bend_[i] = (wanted - h0 * bend_[i - 1]) / pivot;
    }
    for (std::size_t i = n - 2; i > 0; --i) {
        bend_[i] -= upper[i] * bend_[i + 1];
    }
}

std::size_t NaturalSpline::pieceAt(double x) const {
    const auto it = std::upper_bound(x_.begin() + 1, x_.end() - 1, x);
    return static_cast<std::size_t>(it - x_.begin()) - 1;
}

double NaturalSpline::at(double x) const {
    if (x_.size() < 2) {
        return y_.empty() ? 0 : y_.front();
    }
    if (x < x_.front()) {
        return y_.front() + slopeAt(x_.front()) * (x - x_.front());
    }
    if (x > x_.back()) {
        return y_.back() + slopeAt(x_.back()) * (x - x_.back());
    }
    const std::size_t i = pieceAt(x);
    const double h = x_[i + 1] - x_[i];
    const double b = (x - x_[i]) / h;
    const double a = 1 - b;
    return a * y_[i] + b * y_[i + 1] +
           ((a * a * a - a) * bend_[i] + (b * b * b - b) * bend_[i + 1]) * h * h / 6;
}

double NaturalSpline::slopeAt(double x) const {
    if (x_.size() < 2) {
        return 0;
    }
    x = std::clamp(x, x_.front(), x_.back());
    const std::size_t i = pieceAt(x);
    const double h = x_[i + 1] - x_[i];
    const double b = (x - x_[i]) / h;
    const double a = 1 - b;
    return (y_[i + 1] - y_[i]) / h +
           ((3 * b * b - 1) * bend_[i + 1] - (3 * a * a - 1) * bend_[i]) * h / 6;
}

} // namespace wren
