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

Contour offsetOutward(const Contour& convex, double distance) {
    // Clockwise travel keeps the inside on the right, so outside is a quarter turn left.
    const auto outward = [&](const ContourPiece& piece, Vec2 at) {
        const Vec2 way = piece.kind == ContourPiece::Kind::line
                             ? piece.to - piece.from
                             : Vec2{at.y - piece.centre.y, piece.centre.x - at.x};
        return Vec2{-way.y, way.x} * (distance / wren::length(way));
    };
    Contour contour;
    const std::size_t n = convex.size();
    for (std::size_t i = 0; i < n; ++i) {
        ContourPiece moved = convex[i];
        moved.from = moved.from + outward(convex[i], convex[i].from);
        moved.to = moved.to + outward(convex[i], convex[i].to);
        const ContourPiece& next = convex[(i + 1) % n];
        const Vec2 corner = convex[i].to;
        contour.push_back(moved);
        contour.push_back(
            {ContourPiece::Kind::arcClockwise, moved.to, corner + outward(next, corner), corner});
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
