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
    // Strokes that come near a cell's middle, from those whose boxes do.
    struct Near {
        std::size_t stroke;
        double away;
    };
    std::vector<std::vector<Near>> found(cells_.size());
    const double half = cell * std::sqrt(0.5);
    const double far = reach + half;
    const auto index = [&](double v, double low, int n) {
        return std::clamp(static_cast<int>((v - low) / cell), 0, n - 1);
    };
    for (std::size_t s = 0; s < strokes_.size(); ++s) {
        const Vec2 from = strokes_[s].low() - Vec2{far, far};
        const Vec2 to = strokes_[s].high() + Vec2{far, far};
        for (int j = index(from.y, low_.y, ny_); j <= index(to.y, low_.y, ny_); ++j) {
            for (int i = index(from.x, low_.x, nx_); i <= index(to.x, low_.x, nx_); ++i) {
                const Vec2 middle = low_ + Vec2{i + 0.5, j + 0.5} * cell;
                const double away = strokes_[s].distanceTo(middle);
                if (away <= far) {
                    found[std::size_t(j) * nx_ + i].push_back({s, away});
                }
            }
        }
    }
    for (std::size_t c = 0; c < cells_.size(); ++c) {
        double nearest = 1e9;
        for (const Near& n : found[c]) {
            nearest = std::min(nearest, n.away);
        }
        for (const Near& n : found[c]) {
            // What is nearest to some place of the cell is hardly further from its middle.
            if (n.away <= nearest + 2 * half) {
                cells_[c].push_back(n.stroke);
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
    return &cells_[std::size_t(y) * nx_ + std::size_t(x)];
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
