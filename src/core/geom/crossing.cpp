#include "geom/crossing.h"

#include <algorithm>
#include <numbers>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;
constexpr double hair = 1e-9; ///< mm past an end that still counts as on the piece

} // namespace

Stroke::Stroke(const ContourPiece& piece) : piece_(piece) {
    low_ = {std::min(piece.from.x, piece.to.x), std::min(piece.from.y, piece.to.y)};
    high_ = {std::max(piece.from.x, piece.to.x), std::max(piece.from.y, piece.to.y)};
    if (!piece.isArc()) {
        return;
    }
    const Vec2 a = piece.from - piece.centre;
    const Vec2 b = piece.to - piece.centre;
    radius_ = piece.radius();
    side_ = piece.kind == Kind::arcCounter ? 1 : -1;
    minor_ = side_ * cross(a, b) >= 0;
    // Within one quarter of the circle it bulges past its chord's box nowhere.
    if (minor_ && a.x * b.x > 0 && a.y * b.y > 0) {
        return;
    }
    for (Vec2 way : {Vec2{1, 0}, Vec2{0, 1}, Vec2{-1, 0}, Vec2{0, -1}}) {
        if (spans(way)) {
            const Vec2 p = piece.centre + way * radius_;
            low_ = {std::min(low_.x, p.x), std::min(low_.y, p.y)};
            high_ = {std::max(high_.x, p.x), std::max(high_.y, p.y)};
        }
    }
}

bool Stroke::spans(Vec2 out) const {
    const Vec2 a = piece_.from - piece_.centre;
    const Vec2 b = piece_.to - piece_.centre;
    const bool pastStart = side_ * cross(a, out) >= 0;
    const bool beforeEnd = side_ * cross(out, b) >= 0;
    return minor_ ? pastStart && beforeEnd : pastStart || beforeEnd;
}

double Stroke::sweep() const {
    const Vec2 a = piece_.from - piece_.centre;
    const Vec2 b = piece_.to - piece_.centre;
    const double turn = std::atan2(cross(a, b), dot(a, b));
    return turn * side_ < 0 ? turn + side_ * 2 * std::numbers::pi : turn;
}

Vec2 Stroke::at(double fraction) const {
    if (fraction <= 0) {
        return piece_.from;
    }
    if (fraction >= 1) {
        return piece_.to;
    }
    if (!piece_.isArc()) {
        return piece_.from + (piece_.to - piece_.from) * fraction;
    }
    const double turn = sweep() * fraction;
    const Vec2 a = piece_.from - piece_.centre;
    return piece_.centre + a * std::cos(turn) + leftOf(a) * std::sin(turn);
}

double Stroke::fractionOf(Vec2 p) const {
    if (!piece_.isArc()) {
        const Vec2 way = piece_.to - piece_.from;
        const double square = dot(way, way);
        return square > 0 ? dot(p - piece_.from, way) / square : 0;
    }
    const double whole = std::abs(sweep());
    const Vec2 a = piece_.from - piece_.centre;
    const Vec2 out = p - piece_.centre;
    double turned = std::atan2(cross(a, out), dot(a, out)) * side_;
    // Just behind the start counts as before it, everything else as past it.
    if (turned < 0 && (turned < -1e-6 || whole > 2 * std::numbers::pi - 1e-6)) {
        turned += 2 * std::numbers::pi;
    }
    return whole != 0 ? turned / whole : 0;
}

double Stroke::distanceTo(Vec2 p) const {
    if (!piece_.isArc()) {
        return distanceToSegment(p, piece_.from, piece_.to);
    }
    const Vec2 out = p - piece_.centre;
    if (spans(out)) {
        return std::abs(wren::length(out) - radius_);
    }
    return std::min(wren::length(p - piece_.from), wren::length(p - piece_.to));
}

Meetings meetings(const ContourPiece& a, const ContourPiece& b) {
    Meetings out;
    const auto add = [&](Vec2 p) { out.at[static_cast<std::size_t>(out.count++)] = p; };
    if (!a.isArc() && !b.isArc()) {
        const Vec2 u = a.to - a.from;
        const Vec2 v = b.to - b.from;
        const double d = cross(u, v);
        if (d != 0) {
            add(a.from + u * (cross(b.from - a.from, v) / d));
        }
    } else if (a.isArc() && b.isArc()) {
        const Vec2 between = b.centre - a.centre;
        const double d = length(between);
        const double ra = a.radius();
        const double rb = b.radius();
        if (d > 0) {
            const double along = (d * d + ra * ra - rb * rb) / (2 * d);
            const double square = ra * ra - along * along;
            if (square >= 0) {
                const Vec2 foot = a.centre + between * (along / d);
                const Vec2 side = leftOf(between) * (std::sqrt(square) / d);
                add(foot + side);
                add(foot - side);
            }
        }
    } else {
        const ContourPiece& line = a.isArc() ? b : a;
        const ContourPiece& arc = a.isArc() ? a : b;
        const Vec2 way = unit(line.to - line.from);
        const Vec2 foot = line.from + way * dot(arc.centre - line.from, way);
        const double off = length(arc.centre - foot);
        const double square = arc.radius() * arc.radius() - off * off;
        if (square >= 0) {
            add(foot + way * std::sqrt(square));
            add(foot - way * std::sqrt(square));
        }
    }
    return out;
}

Meetings crossings(const Stroke& a, const Stroke& b) {
    Meetings out;
    const Meetings all = meetings(a.piece(), b.piece());
    for (int i = 0; i < all.count; ++i) {
        const Vec2 p = all.at[static_cast<std::size_t>(i)];
        if (a.distanceTo(p) <= hair && b.distanceTo(p) <= hair) {
            out.at[static_cast<std::size_t>(out.count++)] = p;
        }
    }
    return out;
}

} // namespace wren
