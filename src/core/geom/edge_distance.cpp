#include "geom/edge_distance.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double cell = 6; ///< mm

} // namespace

EdgeDistance::EdgeDistance(const Contour& contour, double reach) : reach_(reach) {
    Vec2 high{-1e9, -1e9};
    low_ = {1e9, 1e9};
    for (const ContourPiece& p : contour) {
        strokes_.emplace_back(p);
        low_ = {std::min(low_.x, strokes_.back().low().x),
                std::min(low_.y, strokes_.back().low().y)};
        high = {std::max(high.x, strokes_.back().high().x),
                std::max(high.y, strokes_.back().high().y)};
    }
    if (strokes_.empty()) {
        return;
    }
    low_ = low_ - Vec2{reach, reach};
    nx_ = static_cast<int>((high.x + reach - low_.x) / cell) + 1;
    ny_ = static_cast<int>((high.y + reach - low_.y) / cell) + 1;
    cells_.resize(std::size_t(nx_) * std::size_t(ny_));
    const double half = cell * std::sqrt(0.5);
    for (int j = 0; j < ny_; ++j) {
        for (int i = 0; i < nx_; ++i) {
            const Vec2 middle = low_ + Vec2{i + 0.5, j + 0.5} * cell;
            std::vector<double> away(strokes_.size());
            double nearest = 1e9;
            for (std::size_t s = 0; s < strokes_.size(); ++s) {
                away[s] = strokes_[s].distanceTo(middle);
                nearest = std::min(nearest, away[s]);
            }
            for (std::size_t s = 0; s < strokes_.size(); ++s) {
                // What is nearest to some place of the cell is hardly further from its middle.
                if (away[s] <= reach + half && away[s] <= nearest + 2 * half) {
                    cells_[std::size_t(j * nx_ + i)].push_back(s);
                }
            }
        }
    }
}

const std::vector<std::size_t>* EdgeDistance::near(Vec2 p) const {
    const double x = (p.x - low_.x) / cell;
    const double y = (p.y - low_.y) / cell;
    if (x < 0 || y < 0 || x >= nx_ || y >= ny_) {
        return nullptr;
    }
    return &cells_[std::size_t(int(y) * nx_ + int(x))];
}

double EdgeDistance::at(Vec2 p) const {
    double best = reach_;
    if (const auto* strokes = near(p)) {
        for (std::size_t s : *strokes) {
            best = std::min(best, strokes_[s].distanceTo(p));
        }
    }
    return best;
}

Vec2 EdgeDistance::foot(Vec2 p) const {
    Vec2 out = p;
    double best = reach_;
    if (const auto* strokes = near(p)) {
        for (std::size_t s : *strokes) {
            const double d = strokes_[s].distanceTo(p);
            if (d < best) {
                best = d;
                out = nearestOn({strokes_[s].piece()}, p);
            }
        }
    }
    return out;
}

} // namespace wren
