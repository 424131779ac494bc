#include "part/trough.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wren {
namespace {

constexpr double quarter = std::numbers::pi / 2;
constexpr double belowShoulder = 0.5; ///< mm: the neck's edges stay over the board's face
constexpr double look = 10;           ///< mm along the neck between sections that are measured

} // namespace

Trough::Trough(const NeckBack& back, double from, double to) : back_(back), from_(from), to_(to) {
    for (double x = from; x <= to + 1e-9; x += std::min(look, std::max(1e-6, to - x))) {
        const NeckBack::Slice s = back_.slice(x);
        for (double a : {-quarter, quarter}) {
            top_ = std::max(top_, -s.touch(a).point.z + belowShoulder);
        }
        if (x >= to) {
            break;
        }
    }
    measure();
}

NeckBack::Slice Trough::sliceAt(double x) const {
    return back_.slice(std::clamp(x, from_, to_));
}

std::array<double, 2> Trough::rims(const NeckBack::Slice& slice) const {
    std::array<double, 2> out{};
    for (std::size_t side = 0; side < 2; ++side) {
        double in = 0; // deeper than the face there
        double over = side == 0 ? -quarter : quarter;
        for (int i = 0; i < 48; ++i) {
            const double a = (in + over) / 2;
            (-slice.touch(a).point.z > top_ ? in : over) = a;
        }
        out[side] = in;
    }
    return out;
}

double Trough::depth(Vec2 p) const {
    const NeckBack::Slice s = sliceAt(p.x);
    return std::abs(p.y - s.centre()) < s.halfWidth() ? std::max(0.0, s.depth(p.y) - top_) : 0;
}

Vec2 Trough::gradient(Vec2 p) const {
    return depth(p) > 0 ? sliceAt(p.x).gradient(p.y) : Vec2{};
}

std::array<double, 2> Trough::across(double x, double depth) const {
    const NeckBack::Slice s = sliceAt(x);
    if (-s.touch(0).point.z < top_ + depth) {
        return {s.centre(), s.centre()};
    }
    std::array<double, 2> out{};
    for (std::size_t side = 0; side < 2; ++side) {
        double in = 0;
        double over = side == 0 ? -quarter : quarter;
        for (int i = 0; i < 40; ++i) {
            const double a = (in + over) / 2;
            (-s.touch(a).point.z >= top_ + depth ? in : over) = a;
        }
        out[side] = s.y(in);
    }
    return out;
}

Trough::Touch Trough::touch(double x, double share) const {
    const NeckBack::Slice s = sliceAt(x);
    const std::array<double, 2> rim = rims(s);
    const NeckBack::Slice::Touch t = s.touch(share < 0 ? -share * rim[0] : share * rim[1]);
    return {t.point, t.normal * -1};
}

Vec3 Trough::backAt(double x, double share) const {
    return back_.slice(x).touch(share * quarter).point;
}

void Trough::measure() {
    constexpr int n = 48;
    tightest_ = std::numeric_limits<double>::infinity();
    const int sections = std::max(1, int((to_ - from_) / look));
    for (int i = 0; i <= sections; ++i) {
        const double x = from_ + (to_ - from_) * i / sections;
        std::array<Touch, n + 1> line;
        for (int k = 0; k <= n; ++k) {
            line[std::size_t(k)] = touch(x, -1 + 2.0 * k / n);
            deepest_ = std::max(deepest_, -line[std::size_t(k)].at.z - top_);
        }
        // The circle that touches at one place and goes through another must be the ball's at most.
        for (const Touch& a : line) {
            const Vec2 up = unit(Vec2{a.up.y, a.up.z});
            for (const Touch& b : line) {
                const Vec2 way{b.at.y - a.at.y, b.at.z - a.at.z};
                const double toward = dot(way, up);
                if (toward > 1e-6) {
                    tightest_ = std::min(tightest_, dot(way, way) / (2 * toward));
                }
            }
        }
    }
}

std::vector<double> Trough::numbers() const {
    std::vector<double> out{from_, to_, top_};
    for (int i = 0; i <= 60; ++i) {
        for (int k = -6; k <= 6; ++k) {
            const Vec3 at = touch(from_ + (to_ - from_) * i / 60, k / 6.0).at;
            out.insert(out.end(), {at.y, at.z});
        }
    }
    return out;
}

} // namespace wren
