#include "part/board_part.h"

#include "design/scale.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// Simpson's rule; every integrand here is smooth, so 64 intervals leave only rounding.
template <typename F>
double integrate(double a, double b, F f) {
    constexpr int n = 64;
    const double h = (b - a) / n;
    double sum = f(a) + f(b);
    for (int i = 1; i < n; ++i) {
        sum += (i % 2 ? 4 : 2) * f(a + i * h);
    }
    return sum * h / 3;
}

/// Integral of sqrt(r^2 - y^2) from -w to w.
double arcArea(double r, double w) {
    return w * std::sqrt(r * r - w * w) + r * r * std::asin(w / r);
}

} // namespace

BoardPart::BoardPart(const Fretboard& board)
    : board_(board), length_(fretFromNut(board.scaleLength, board.frets) + board.pastLastFret),
      halfAtNut_(board.nutWidth / 2), taper_((board.lastFretWidth - board.nutWidth) / 2 /
                                             fretFromNut(board.scaleLength, board.frets)) {
    for (int n = 1; n <= board.frets; ++n) {
        slots_.push_back(fretFromNut(board.scaleLength, n));
    }
}

double BoardPart::face(double y) const {
    const double r = board_.radius;
    return board_.thickness - r + std::sqrt(std::max(0.0, r * r - y * y));
}

double BoardPart::floor(double y) const {
    const double r = board_.radius - board_.slotDepth;
    return board_.thickness - board_.radius + std::sqrt(std::max(0.0, r * r - y * y));
}

double BoardPart::faceNormalZ(double y) const {
    const double s = y / board_.radius;
    return std::sqrt(std::max(0.0, 1 - s * s));
}

int BoardPart::nearestSlot(double x) const {
    if (slots_.empty()) {
        return -1;
    }
    const auto right = std::lower_bound(slots_.begin(), slots_.end(), x);
    if (right == slots_.begin()) {
        return 0;
    }
    if (right == slots_.end()) {
        return static_cast<int>(slots_.size()) - 1;
    }
    const auto i = static_cast<int>(right - slots_.begin());
    return x - *(right - 1) < *right - x ? i - 1 : i;
}

std::vector<Vec2> BoardPart::corners() const {
    return {{0, halfWidth(0)},
            {length_, halfWidth(length_)},
            {length_, -halfWidth(length_)},
            {0, -halfWidth(0)}};
}

double BoardPart::areaOfFace() const {
    return length_ * (halfWidth(0) + halfWidth(length_));
}

double BoardPart::volume() const {
    const double r = board_.radius;
    const double base = board_.thickness - r;
    const double solid = integrate(0, length_, [&](double x) {
        const double w = halfWidth(x);
        return 2 * w * base + arcArea(r, w);
    });
    double slots = 0;
    for (double centre : slots_) {
        slots +=
            integrate(centre - board_.slotWidth / 2, centre + board_.slotWidth / 2, [&](double x) {
                const double w = halfWidth(x);
                return arcArea(r, w) - arcArea(r - board_.slotDepth, w);
            });
    }
    return solid - slots;
}

std::array<Vec3, 2> BoardPart::boundingBox() const {
    const double w = widest() / 2;
    return {Vec3{0, -w, 0}, Vec3{length_, w, board_.thickness}};
}

} // namespace wren
