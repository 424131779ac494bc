#include "geom/contour.h"

#include <algorithm>
#include <numbers>

namespace wren {
namespace {

/// The clockwise sweep from a to b about the origin, 0 to 2 pi.
double clockwiseSweep(Vec2 a, Vec2 b) {
    double sweep = std::atan2(a.y, a.x) - std::atan2(b.y, b.x);
    return sweep < 0 ? sweep + 2 * std::numbers::pi : sweep;
}

} // namespace

double ContourPiece::length() const {
    if (kind == Kind::line) {
        return wren::length(to - from);
    }
    return radius() * clockwiseSweep(from - centre, to - centre);
}

Vec2 ContourPiece::at(double along) const {
    const double whole = length();
    if (along <= 0 || whole == 0) {
        return from;
    }
    if (along >= whole) {
        return to;
    }
    if (kind == Kind::line) {
        return from + (to - from) * (along / whole);
    }
    const Vec2 start = from - centre;
    const double angle = std::atan2(start.y, start.x) - along / radius();
    return {centre.x + radius() * std::cos(angle), centre.y + radius() * std::sin(angle)};
}

double lengthOf(const Contour& contour) {
    double sum = 0;
    for (const ContourPiece& piece : contour) {
        sum += piece.length();
    }
    return sum;
}

Contour offsetOutward(const std::vector<Vec2>& corners, double distance) {
    Contour contour;
    const std::size_t n = corners.size();
    const auto outward = [&](std::size_t i) {
        const Vec2 side = corners[(i + 1) % n] - corners[i];
        const double l = length(side);
        // Clockwise travel keeps the inside on the right, so outside is a quarter turn left.
        return Vec2{-side.y / l, side.x / l} * distance;
    };
    for (std::size_t i = 0; i < n; ++i) {
        const Vec2 out = outward(i);
        const Vec2 corner = corners[(i + 1) % n];
        contour.push_back({ContourPiece::Kind::line, corners[i] + out, corner + out, {}});
        const Vec2 next = outward((i + 1) % n);
        contour.push_back({ContourPiece::Kind::arcClockwise, corner + out, corner + next, corner});
    }
    return contour;
}

double distanceToSegment(Vec2 p, Vec2 a, Vec2 b) {
    const Vec2 ab = b - a;
    const double square = dot(ab, ab);
    const double t = square > 0 ? std::clamp(dot(p - a, ab) / square, 0.0, 1.0) : 0.0;
    return length(p - (a + ab * t));
}

} // namespace wren
