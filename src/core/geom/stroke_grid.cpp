#include "geom/stroke_grid.h"

#include <algorithm>

namespace wren {

StrokeGrid::StrokeGrid(const std::vector<Stroke>& strokes)
    : strokes_(strokes), seen_(strokes.size(), 0) {
    Vec2 high;
    double sizes = 0;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        const Stroke& s = strokes[i];
        low_ = i == 0 ? s.low() : Vec2{std::min(low_.x, s.low().x), std::min(low_.y, s.low().y)};
        high = i == 0 ? s.high() : Vec2{std::max(high.x, s.high().x), std::max(high.y, s.high().y)};
        sizes += std::max(s.high().x - s.low().x, s.high().y - s.low().y);
    }
    // Cells about as large as a stroke, but not many more of them than strokes.
    const double n = std::max<double>(1, static_cast<double>(strokes.size()));
    const double area = std::max(1e-12, (high.x - low_.x) * (high.y - low_.y));
    size_ = std::max({sizes / n, std::sqrt(area / (4 * n)), 1e-6});
    nx_ = static_cast<int>((high.x - low_.x) / size_) + 1;
    ny_ = static_cast<int>((high.y - low_.y) / size_) + 1;
    first_.assign(static_cast<std::size_t>(nx_ * ny_) + 1, 0);
    const auto each = [&](auto put) {
        for (std::size_t s = 0; s < strokes.size(); ++s) {
            const Cells c = cells(strokes[s].low(), strokes[s].high());
            for (int j = c.y0; j <= c.y1; ++j) {
                for (int i = c.x0; i <= c.x1; ++i) {
                    put(static_cast<std::size_t>(j) * nx_ + i, s);
                }
            }
        }
    };
    each([&](std::size_t cell, std::size_t) { ++first_[cell + 1]; });
    for (std::size_t i = 1; i < first_.size(); ++i) {
        first_[i] += first_[i - 1];
    }
    held_.resize(first_.back());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    each([&](std::size_t cell, std::size_t s) { held_[next[cell]++] = s; });
}

StrokeGrid::Cells StrokeGrid::cells(Vec2 low, Vec2 high) const {
    const auto of = [&](double v, double v0, int n) {
        return static_cast<int>(std::clamp((v - v0) / size_, 0.0, n - 1.0));
    };
    return {of(low.x, low_.x, nx_), of(low.y, low_.y, ny_), of(high.x, low_.x, nx_),
            of(high.y, low_.y, ny_)};
}

bool StrokeGrid::closer(Vec2 p, double distance) const {
    const Vec2 reach{distance, distance};
    return near(p - reach, p + reach,
                [&](std::size_t s) { return strokes_[s].distanceTo(p) < distance; });
}

} // namespace wren
