#include "cut/move.h"

#include <algorithm>
#include <numbers>

namespace wren {
namespace {

/// The arc's plane laid flat: u and v turn counter-clockwise seen from the third axis, w rises.
struct Flat {
    double u, v, w;
};

Flat lay(Vec3 p, ArcPlane plane) {
    switch (plane) {
    case ArcPlane::zx:
        return {p.z, p.x, p.y};
    case ArcPlane::yz:
        return {p.y, p.z, p.x};
    case ArcPlane::xy:
        break;
    }
    return {p.x, p.y, p.z};
}

Vec3 raise(Flat f, ArcPlane plane) {
    switch (plane) {
    case ArcPlane::zx:
        return {f.v, f.w, f.u};
    case ArcPlane::yz:
        return {f.w, f.u, f.v};
    case ArcPlane::xy:
        break;
    }
    return {f.u, f.v, f.w};
}

Vec3 unit(Vec3 v) {
    const double l = length(v);
    return l > 0 ? v * (1 / l) : Vec3{};
}

Vec3 arcDirection(const Move& m, Vec3 at) {
    const Flat p = lay(at, m.plane);
    const Flat c = lay(m.centre, m.plane);
    const double sign = m.motion == Motion::arcClockwise ? -1 : 1;
    const double rise = (lay(m.to, m.plane).w - lay(m.from, m.plane).w) / m.sweep();
    return unit(raise({-sign * (p.v - c.v), sign * (p.u - c.u), rise}, m.plane));
}

} // namespace

double Move::radius() const {
    const Flat p = lay(from, plane);
    const Flat c = lay(centre, plane);
    return wren::length(Vec2{p.u - c.u, p.v - c.v});
}

double Move::sweep() const {
    const Flat a = lay(from, plane);
    const Flat b = lay(to, plane);
    const Flat c = lay(centre, plane);
    const double start = std::atan2(a.v - c.v, a.u - c.u);
    const double end = std::atan2(b.v - c.v, b.u - c.u);
    double turned = motion == Motion::arcClockwise ? start - end : end - start;
    // Start and end on the same spot mean a full turn, which is how RS274 writes a circle.
    if (turned <= 1e-9) {
        turned += 2 * std::numbers::pi;
    }
    return turned;
}

double Move::length() const {
    if (!isArc()) {
        return wren::length(to - from);
    }
    return std::hypot(radius() * sweep(), lay(to, plane).w - lay(from, plane).w);
}

Vec3 Move::at(double t) const {
    if (!isArc()) {
        return from + (to - from) * t;
    }
    if (t >= 1) {
        return to;
    }
    const Flat a = lay(from, plane);
    const Flat c = lay(centre, plane);
    const double sign = motion == Motion::arcClockwise ? -1 : 1;
    const double angle = std::atan2(a.v - c.v, a.u - c.u) + sign * sweep() * t;
    const double r = radius();
    return raise(
        {c.u + r * std::cos(angle), c.v + r * std::sin(angle), a.w + (lay(to, plane).w - a.w) * t},
        plane);
}

Vec3 Move::startDirection() const {
    return isArc() ? arcDirection(*this, from) : unit(to - from);
}
Vec3 Move::endDirection() const {
    return isArc() ? arcDirection(*this, to) : unit(to - from);
}

Move straightMove(Motion motion, Vec3 from, Vec3 to, double feed) {
    Move m;
    m.motion = motion;
    m.from = from;
    m.to = to;
    m.feed = feed;
    return m;
}

Path movedBy(Path path, Vec2 by) {
    const Vec3 off{by.x, by.y, 0};
    for (Move& m : path) {
        m.from = m.from + off;
        m.to = m.to + off;
        m.centre = m.isArc() ? m.centre + off : m.centre;
    }
    return path;
}

void append(Path& to, Path more) {
    if (!to.empty() && !more.empty()) {
        more.front().from = to.back().to;
    }
    to.insert(to.end(), more.begin(), more.end());
}

int chordsFor(const Move& move, double tolerance) {
    if (!move.isArc()) {
        return 1;
    }
    const double r = move.radius();
    if (r <= tolerance) {
        return 4;
    }
    // A chord of angle a stands r (1 - cos(a/2)) from its arc (Machinery's Handbook, segments).
    const double step = 2 * std::acos(1 - tolerance / r);
    return std::max(1, static_cast<int>(std::ceil(move.sweep() / step)));
}

} // namespace wren
