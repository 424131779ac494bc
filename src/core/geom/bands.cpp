#include "geom/bands.h"

#include <algorithm>
#include <cmath>

namespace wren {

Bands::Bands(const std::vector<std::vector<Vec2>>& polygons) {
    std::vector<Side> sides;
    double high = -1e300;
    low_ = 1e300;
    for (const std::vector<Vec2>& polygon : polygons) {
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            sides.push_back({polygon[i], polygon[(i + 1) % polygon.size()]});
            low_ = std::min(low_, polygon[i].y);
            high = std::max(high, polygon[i].y);
        }
    }
    if (sides.empty()) {
        return;
    }
    const std::size_t n = std::clamp<std::size_t>(sides.size(), 1, 4096);
    bands_.resize(n);
    step_ = std::max((high - low_) / double(n), 1e-9);
    for (const Side& s : sides) {
        const auto band = [&](double y) {
            return std::min(static_cast<std::size_t>((y - low_) / step_), n - 1);
        };
        const auto [from, to] = std::minmax(s.a.y, s.b.y);
        for (std::size_t i = band(from); i <= band(to); ++i) {
            bands_[i].push_back(s);
        }
    }
}

bool Bands::holds(Vec2 p) const {
    const double at = (p.y - low_) / step_;
    if (bands_.empty() || at < 0 || at > double(bands_.size())) {
        return false;
    }
    bool in = false;
    for (const Side& s : bands_[std::min(static_cast<std::size_t>(at), bands_.size() - 1)]) {
        if ((s.a.y > p.y) != (s.b.y > p.y) &&
            p.x < s.a.x + (s.b.x - s.a.x) * (p.y - s.a.y) / (s.b.y - s.a.y)) {
            in = !in;
        }
    }
    return in;
}

} // namespace wren
