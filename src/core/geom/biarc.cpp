#include "geom/biarc.h"

namespace wren {

using Kind = ContourPiece::Kind;

ContourPiece arcTo(Vec2 from, Vec2 way, Vec2 to) {
    const Vec2 left{-way.y, way.x};
    const Vec2 v = to - from;
    const double off = dot(left, v);
    if (std::abs(off) < 1e-9 * length(v)) {
        return {Kind::line, from, to, {}};
    }
    const double r = dot(v, v) / (2 * off); // positive: its centre lies to the left
    return {r > 0 ? Kind::arcCounter : Kind::arcClockwise, from, to, from + left * r};
}

Vec2 arrivalOf(Vec2 way, Vec2 chord) {
    const Vec2 c = unit(chord);
    return c * (2 * dot(way, c)) - way;
}

void addBiarc(Contour& out, Vec2 p, Vec2 wayP, Vec2 q, Vec2 wayQ) {
    const Vec2 v = q - p;
    const double along = dot(v, wayP + wayQ);
    const double square = dot(v, v);
    const double bend = 2 * (1 - dot(wayP, wayQ));
    const double d = bend < 1e-12 ? square / (2 * along)
                                  : (-along + std::sqrt(along * along + bend * square)) / bend;
    const Vec2 middle = (p + wayP * d + q - wayQ * d) * 0.5;
    out.push_back(arcTo(p, wayP, middle));
    const ContourPiece back = arcTo(q, wayQ * -1, middle);
    ContourPiece second{back.kind, middle, q, back.centre};
    if (back.isArc()) { // travelled the other way
        second.kind = back.kind == Kind::arcClockwise ? Kind::arcCounter : Kind::arcClockwise;
    }
    out.push_back(second);
}

Vec2 wayThrough(Vec2 a, Vec2 b, Vec2 c) {
    const Vec2 in = b - a;
    const Vec2 on = c - b;
    return unit(in * (1 / dot(in, in)) + on * (1 / dot(on, on)));
}

} // namespace wren
