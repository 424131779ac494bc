#include "geom/contour.h"

#include "base/error.h"
#include "geom/crossing.h"

#include <algorithm>
#include <limits>
#include <numbers>
#include <optional>

#include <fmt/format.h>

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
    return radius() * (kind == Kind::arcClockwise ? clockwiseSweep(from - centre, to - centre)
                                                  : clockwiseSweep(to - centre, from - centre));
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
    const double turned = kind == Kind::arcClockwise ? -along / radius() : along / radius();
    const double angle = std::atan2(start.y, start.x) + turned;
    return {centre.x + radius() * std::cos(angle), centre.y + radius() * std::sin(angle)};
}

Vec2 ContourPiece::wayAt(double along) const {
    Vec2 way = to - from;
    if (kind != Kind::line) {
        const Vec2 out = at(along) - centre;
        way = kind == Kind::arcClockwise ? Vec2{out.y, -out.x} : Vec2{-out.y, out.x};
    }
    const double l = wren::length(way);
    return l > 0 ? way * (1 / l) : Vec2{1, 0};
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

namespace {

constexpr double tangent = 1e-6; ///< sine of an angle that is no corner

ContourPiece movedOutward(const ContourPiece& piece, double distance) {
    ContourPiece moved = piece;
    moved.from = piece.from + leftOf(piece.wayAt(0)) * distance;
    moved.to = piece.to + leftOf(piece.wayAt(piece.length())) * distance;
    if (piece.kind == ContourPiece::Kind::arcCounter && piece.radius() <= distance) {
        throw Error(
            fmt::format("A hollow of {:.2f} mm radius at X {:.1f}, Y {:.1f} is tighter than "
                        "the {:.2f} mm that must fit into it.",
                        piece.radius(), piece.at(piece.length() / 2).x,
                        piece.at(piece.length() / 2).y, distance));
    }
    return moved;
}

/// Where two pieces' lines or circles meet, nearest to `near`.
std::optional<Vec2> meeting(const ContourPiece& a, const ContourPiece& b, Vec2 near) {
    const Meetings all = meetings(a, b);
    std::optional<Vec2> best;
    for (int i = 0; i < all.count; ++i) {
        const Vec2 p = all.at[static_cast<std::size_t>(i)];
        if (!best || length(p - near) < length(*best - near)) {
            best = p;
        }
    }
    return best;
}

} // namespace

Contour offsetAround(const Contour& closed, double distance) {
    Contour contour;
    const std::size_t n = closed.size();
    for (const ContourPiece& piece : closed) {
        contour.push_back(movedOutward(piece, distance));
    }
    Contour out;
    for (std::size_t i = 0; i < n; ++i) {
        ContourPiece& here = contour[i];
        ContourPiece& next = contour[(i + 1) % n];
        const double turn =
            cross(closed[i].wayAt(closed[i].length()), closed[(i + 1) % n].wayAt(0));
        const Vec2 corner = closed[i].to;
        if (turn > tangent) { // inward
            const std::optional<Vec2> meet = meeting(here, next, corner);
            if (!meet) {
                throw Error(fmt::format("The inside corner at X {:.1f}, Y {:.1f} is too tight for "
                                        "{:.2f} mm to fit into it.",
                                        corner.x, corner.y, distance));
            }
            here.to = *meet;
            next.from = *meet;
            if (i + 1 == n) {
                out.front().from = *meet;
            }
        }
        out.push_back(here);
        if (turn < -tangent) {
            out.push_back({ContourPiece::Kind::arcClockwise, here.to, next.from, corner});
        } else if (turn <= tangent) {
            next.from = here.to; // equal but for rounding
        }
    }
    return out;
}

double signedAreaOf(const Contour& closed) {
    double twice = 0;
    for (const ContourPiece& p : closed) {
        twice += cross(p.from, p.to);
        if (p.isArc()) { // the segment between chord and arc
            const double angle = p.length() / p.radius();
            const double segment = p.radius() * p.radius() * (angle - std::sin(angle));
            twice += p.kind == ContourPiece::Kind::arcClockwise ? -segment : segment;
        }
    }
    return twice / 2;
}

double areaOf(const Contour& closed) {
    return std::abs(signedAreaOf(closed));
}

Contour reversed(const Contour& contour) {
    using Kind = ContourPiece::Kind;
    Contour out;
    for (auto it = contour.rbegin(); it != contour.rend(); ++it) {
        ContourPiece p = *it;
        std::swap(p.from, p.to);
        if (p.isArc()) {
            p.kind = p.kind == Kind::arcClockwise ? Kind::arcCounter : Kind::arcClockwise;
        }
        out.push_back(p);
    }
    return out;
}

Contour mirroredInY(const Contour& closed) {
    Contour out;
    for (auto it = closed.rbegin(); it != closed.rend(); ++it) {
        ContourPiece p = *it;
        p.from = {it->to.x, -it->to.y};
        p.to = {it->from.x, -it->from.y};
        p.centre = {it->centre.x, -it->centre.y};
        out.push_back(p);
    }
    return out;
}

Contour circleContour(Vec2 middle, double diameter) {
    const Vec2 r{diameter / 2, 0};
    return {{ContourPiece::Kind::arcClockwise, middle - r, middle + r, middle},
            {ContourPiece::Kind::arcClockwise, middle + r, middle - r, middle}};
}

Contour movedBy(Contour contour, Vec2 shift) {
    for (ContourPiece& p : contour) {
        p.from = p.from + shift;
        p.to = p.to + shift;
        p.centre = p.centre + shift;
    }
    return contour;
}

namespace {

/// Whether an arc passes the direction `out` of its centre. One that ends where it begins is whole.
bool spans(const ContourPiece& arc, Vec2 out) {
    const double side = arc.kind == ContourPiece::Kind::arcCounter ? 1 : -1;
    const Vec2 a = arc.from - arc.centre;
    const Vec2 b = arc.to - arc.centre;
    const double turn = side * cross(a, b);
    const bool pastStart = side * cross(a, out) >= 0;
    const bool beforeEnd = side * cross(out, b) >= 0;
    const bool small = turn > 0 || (turn == 0 && dot(a, b) < 0);
    return small ? pastStart && beforeEnd : pastStart || beforeEnd;
}

} // namespace

Vec2 nearestOn(const Contour& contour, Vec2 p) {
    Vec2 best;
    double least = std::numeric_limits<double>::infinity();
    const auto take = [&](Vec2 q) {
        if (length(p - q) < least) {
            least = length(p - q);
            best = q;
        }
    };
    for (const ContourPiece& piece : contour) {
        take(piece.from);
        take(piece.to);
        if (!piece.isArc()) {
            const Vec2 way = piece.to - piece.from;
            const double square = dot(way, way);
            if (square > 0) {
                take(piece.from + way * std::clamp(dot(p - piece.from, way) / square, 0.0, 1.0));
            }
            continue;
        }
        const Vec2 out = p - piece.centre;
        const double d = length(out);
        if (d > 0) {
            if (spans(piece, out)) {
                take(piece.centre + out * (piece.radius() / d));
            }
        }
    }
    return best;
}

double distanceTo(const Contour& contour, Vec2 p) {
    return length(p - nearestOn(contour, p));
}

std::vector<Vec2> placesAlong(const Contour& contour, double step) {
    std::vector<Vec2> out;
    for (const ContourPiece& p : contour) {
        const double l = p.length();
        const int n = std::max(1, static_cast<int>(std::ceil(l / step)));
        for (int i = 0; i < n; ++i) {
            out.push_back(p.at(l * i / n));
        }
    }
    if (!contour.empty()) {
        out.push_back(contour.back().to);
    }
    return out;
}

std::array<Vec2, 2> boxOf(const Contour& closed) {
    std::array<Vec2, 2> box{Vec2{1e9, 1e9}, Vec2{-1e9, -1e9}};
    for (Vec2 p : pointsOf(closed, 0.005)) {
        box[0] = {std::min(box[0].x, p.x), std::min(box[0].y, p.y)};
        box[1] = {std::max(box[1].x, p.x), std::max(box[1].y, p.y)};
    }
    return box;
}

std::vector<Vec2> pointsOf(const Contour& closed, double tolerance) {
    std::vector<Vec2> points;
    for (const ContourPiece& piece : closed) {
        const double l = piece.length();
        int n = 1;
        if (piece.isArc() && l > 0) {
            const double step =
                2 * std::acos(std::max(0.0, 1 - tolerance / std::max(tolerance, piece.radius())));
            n = std::max(1, static_cast<int>(std::ceil(l / piece.radius() / step)));
        }
        for (int i = 0; i < n; ++i) {
            points.push_back(piece.at(l * i / n));
        }
    }
    return points;
}

bool inside(const std::vector<Vec2>& polygon, Vec2 p) {
    bool in = false;
    for (std::size_t i = 0, j = polygon.size() - 1; i < polygon.size(); j = i++) {
        const Vec2 a = polygon[i];
        const Vec2 b = polygon[j];
        if ((a.y > p.y) != (b.y > p.y) && p.x < (b.x - a.x) * (p.y - a.y) / (b.y - a.y) + a.x) {
            in = !in;
        }
    }
    return in;
}

double distanceToSegment(Vec2 p, Vec2 a, Vec2 b) {
    const Vec2 ab = b - a;
    const double square = dot(ab, ab);
    const double t = square > 0 ? std::clamp(dot(p - a, ab) / square, 0.0, 1.0) : 0.0;
    return length(p - (a + ab * t));
}

} // namespace wren
