#include "geom/refit.h"

#include "geom/biarc.h"

#include <algorithm>
#include <map>
#include <optional>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

constexpr double cornerTurn = 23 * 3.14159265358979 / 180;
constexpr double muchLonger = 3;     ///< than its shorter neighbour: a line, not a curve's chord
constexpr double widestRadius = 1e5; ///< mm; flatter arcs are lines
constexpr int leastSegments = 4;     ///< of an arc

struct Circle {
    Vec2 centre;
    double radius = 0;
};

std::optional<Circle> circleThrough(Vec2 a, Vec2 b, Vec2 c) {
    const Vec2 u = b - a;
    const Vec2 v = c - a;
    const double d = 2 * cross(u, v);
    if (std::abs(d) < 1e-12) {
        return {};
    }
    const Vec2 to{(v.y * dot(u, u) - u.y * dot(v, v)) / d, (u.x * dot(v, v) - v.x * dot(u, u)) / d};
    return Circle{a + to, length(to)};
}

/// Points i to j of a string, counted round when it is closed.
class Refit {
public:
    Refit(const std::vector<Vec2>& points, bool closed, double tolerance)
        : points_(points), closed_(closed), tolerance_(tolerance) {}

    Refitted all() {
        if (closed_ && wholeCircle()) {
            return finish();
        }
        const std::vector<std::size_t> stops = cornersAndLines();
        if (closed_) {
            const std::size_t n = stops.size();
            for (std::size_t i = 0; i < n; ++i) {
                const std::size_t from = stops[i];
                std::size_t to = stops[(i + 1) % n];
                to = to <= from ? to + points_.size() : to;
                smooth(from, to);
            }
        } else {
            for (std::size_t i = 0; i + 1 < stops.size(); ++i) {
                smooth(stops[i], stops[i + 1]);
            }
        }
        return finish();
    }

private:
    Vec2 at(std::size_t i) const { return points_[i % points_.size()]; }
    std::size_t count() const { return points_.size(); }

    double turnAt(std::size_t i) const {
        const Vec2 in = at(i) - at(i + count() - 1);
        const Vec2 on = at(i + 1) - at(i);
        return std::atan2(cross(in, on), dot(in, on));
    }

    double segment(std::size_t i) const { return length(at(i + 1) - at(i)); }

    /// The circle of all points, if there is one: about their common centre by least squares
    /// (Kasa), its radius their mean distance from it.
    bool wholeCircle() {
        if (count() < 8) {
            return false;
        }
        double turned = 0;
        Vec2 mean;
        for (std::size_t i = 0; i < count(); ++i) {
            if (std::abs(turnAt(i)) > cornerTurn) {
                return false;
            }
            turned += turnAt(i);
            mean = mean + points_[i] * (1.0 / double(count()));
        }
        double uu = 0, uv = 0, vv = 0, uz = 0, vz = 0;
        for (Vec2 p : points_) {
            const Vec2 q = p - mean;
            const double z = dot(q, q);
            uu += q.x * q.x;
            uv += q.x * q.y;
            vv += q.y * q.y;
            uz += q.x * z;
            vz += q.y * z;
        }
        const double d = 2 * (uu * vv - uv * uv);
        if (std::abs(d) < 1e-9 || std::abs(std::abs(turned) - 2 * 3.14159265358979) > 0.1) {
            return false;
        }
        const Vec2 centre = mean + Vec2{(uz * vv - vz * uv) / d, (vz * uu - uz * uv) / d};
        double radius = 0;
        for (Vec2 p : points_) {
            radius += length(p - centre) / double(count());
        }
        for (Vec2 p : points_) {
            if (std::abs(length(p - centre) - radius) > tolerance_) {
                return false;
            }
        }
        const Kind kind = turned > 0 ? Kind::arcCounter : Kind::arcClockwise;
        const Vec2 r = unit(points_[0] - centre) * radius;
        out_ = {{kind, centre + r, centre - r, centre}, {kind, centre - r, centre + r, centre}};
        return true;
    }

    /// Where one smooth stretch ends and the next begins.
    std::vector<std::size_t> cornersAndLines() {
        const std::size_t n = count();
        const std::size_t segments = closed_ ? n : n - 1;
        line_.assign(segments, false);
        for (std::size_t i = 0; i < segments; ++i) {
            double near = 1e300;
            if (closed_ || i > 0) {
                near = std::min(near, segment(i + n - 1));
            }
            if (closed_ || i + 1 < segments) {
                near = std::min(near, segment(i + 1));
            }
            line_[i] = near < 1e300 && segment(i) > muchLonger * near;
        }
        std::vector<std::size_t> stops;
        for (std::size_t i = 0; i < n; ++i) {
            const bool end = !closed_ && (i == 0 || i + 1 == n);
            const bool beside =
                (i < segments && line_[i]) || ((closed_ || i > 0) && line_[(i > 0 ? i : n) - 1]);
            if (end || beside || std::abs(turnAt(i)) > cornerTurn) {
                stops.push_back(i);
            }
        }
        if (stops.empty()) {
            stops.push_back(0);
        }
        return stops;
    }

    /// The direction at a point of a stretch: at its ends the line's beside it, else that of the
    /// circle through the neighbours.
    Vec2 wayAt(std::size_t i, std::size_t from, std::size_t to) const {
        const std::size_t n = count();
        const bool atStart = i == from;
        const bool atEnd = i == to;
        if (atStart || atEnd) {
            const std::size_t beside = atStart ? (i + n - 1) % n : i % n;
            const bool there = closed_ || (atStart ? i > 0 : i + 1 < n);
            if (there && std::abs(turnAt(i)) <= cornerTurn && beside < line_.size()) {
                if (line_[beside]) {
                    return unit(at(beside + 1) - at(beside));
                }
                return wayThrough(at(i + n - 1), at(i), at(i + 1));
            }
            // A corner: of the one arc through the first three points.
            const Vec2 a = atStart ? at(i) : at(i + n - 2);
            const Vec2 b = atStart ? at(i + 1) : at(i + n - 1);
            const Vec2 c = atStart ? at(i + 2) : at(i);
            if (to - from < 2) {
                return unit(at(to) - at(from));
            }
            const Vec2 middle = wayThrough(a, b, c);
            return atStart ? arrivalOf(middle * -1, a - b) * -1 : arrivalOf(middle, c - b);
        }
        return wayThrough(at(i + n - 1), at(i), at(i + 1));
    }

    /// One smooth stretch: every piece leaves the way the one before arrived, and where the stretch
    /// is all of a closed outline the last arrives the way the first left.
    void smooth(std::size_t from, std::size_t to) {
        if (to - from == 1) {
            out_.push_back({Kind::line, at(from), at(to), {}});
            return;
        }
        ways_.clear();
        ways_[from] = wayAt(from, from, to);
        const bool round = to - from == count() && std::abs(turnAt(from)) <= cornerTurn;
        ways_[to] = round ? ways_[from] : wayAt(to, from, to);
        const bool freeStart = !round && !besideSmooth(from, true);
        const bool freeEnd = !round && !besideSmooth(to, false);
        for (std::size_t i = from; i < to;) {
            i = longest(i, {from, to, freeStart, freeEnd});
        }
    }

    struct Stretch {
        std::size_t from, to;
        bool freeStart, freeEnd; ///< at a corner, or an open end: no way is to be kept there
    };

    /// Whether the outline goes on smoothly from a stretch's end.
    bool besideSmooth(std::size_t i, bool atStart) const {
        const bool there = closed_ || (atStart ? i > 0 : i + 1 < count());
        return there && std::abs(turnAt(i % count())) <= cornerTurn;
    }

    /// The way at a point, settled by the piece that has arrived there, or by its neighbours.
    Vec2 wayFor(std::size_t i, const Stretch& s) const {
        const auto known = ways_.find(i);
        return known != ways_.end() ? known->second : wayAt(i, s.from, s.to);
    }

    /// Adds the furthest-reaching line, arc or pair of arcs from `i`; where it ends.
    std::size_t longest(std::size_t i, const Stretch& s) {
        const std::size_t to = s.to;
        std::size_t best = i + 1;
        Contour piece = pairTo(i, i + 1, s).value_or(Contour{{Kind::line, at(i), at(i + 1), {}}});
        const auto tryTo = [&](std::size_t j) {
            std::optional<Contour> c = oneTo(i, j);
            if (c && !keepsWay(*c, i, j, s)) {
                c.reset();
            }
            if (!c) {
                c = pairTo(i, j, s);
            }
            if (c) {
                best = j;
                piece = std::move(*c);
            }
            return c.has_value();
        };
        // Doubling until it fails, then halving.
        std::size_t step = 2;
        std::size_t good = i + 1;
        while (i + step <= to && tryTo(i + step)) {
            good = i + step;
            step *= 2;
        }
        std::size_t bad = std::min(to + 1, i + step);
        if (good < to && bad > to && tryTo(to)) {
            good = to;
        }
        while (good + 1 < bad) {
            const std::size_t middle = (good + bad) / 2;
            (tryTo(middle) ? good : bad) = middle;
        }
        if (best != good && good > i + 1) {
            tryTo(good);
        }
        out_.insert(out_.end(), piece.begin(), piece.end());
        if (best < to) {
            ways_[best] = piece.back().wayIn();
        }
        return best;
    }

    /// Whether a line or arc on its own leaves and arrives the way its neighbours do.
    bool keepsWay(const Contour& c, std::size_t i, std::size_t j, const Stretch& s) const {
        constexpr double same = 0.001; // radians
        const auto agrees = [&](Vec2 a, Vec2 b) { return std::abs(cross(a, b)) < same; };
        const bool starts =
            (i == s.from && s.freeStart) || agrees(c.front().wayOut(), wayFor(i, s));
        const bool ends = j != s.to || s.freeEnd || agrees(c.back().wayIn(), wayFor(j, s));
        return starts && ends;
    }

    std::optional<Contour> oneTo(std::size_t i, std::size_t j) const {
        const Vec2 a = at(i);
        const Vec2 b = at(j);
        const auto straight = [&] {
            for (std::size_t k = i + 1; k < j; ++k) {
                if (distanceToSegment(at(k), a, b) > tolerance_ / 4) {
                    return false;
                }
            }
            return true;
        };
        if (straight()) {
            return Contour{{Kind::line, a, b, {}}};
        }
        if (j - i < leastSegments || at(i) == at(j)) {
            return {};
        }
        const auto circle = circleThrough(a, at((i + j) / 2), b);
        if (!circle || circle->radius > widestRadius) {
            return {};
        }
        for (std::size_t k = i + 1; k < j; ++k) {
            if (std::abs(length(at(k) - circle->centre) - circle->radius) > tolerance_ / 4) {
                return {};
            }
        }
        const double turn = cross(at(i + 1) - a, b - a);
        return Contour{{turn > 0 ? Kind::arcCounter : Kind::arcClockwise, a, b, circle->centre}};
    }

    std::optional<Contour> pairTo(std::size_t i, std::size_t j, const Stretch& s) const {
        if (at(i) == at(j)) {
            return {};
        }
        Contour c;
        addBiarc(c, at(i), wayFor(i, s), at(j), wayFor(j, s));
        for (std::size_t k = i + 1; k < j; ++k) {
            if (distanceTo(c, at(k)) > tolerance_) {
                return {};
            }
        }
        // Neither may it wander off between the points.
        double chords = 0;
        for (std::size_t k = i; k < j; ++k) {
            chords += segment(k);
        }
        return lengthOf(c) < 1.15 * chords ? std::optional(c) : std::nullopt;
    }

    Refitted finish() {
        Refitted r;
        for (const ContourPiece& p : out_) {
            // Lines in one line are one.
            if (!r.contour.empty() && !p.isArc() && !r.contour.back().isArc() &&
                std::abs(cross(r.contour.back().wayAt(0), p.wayAt(0))) < 1e-7) {
                r.contour.back().to = p.to;
            } else {
                r.contour.push_back(p);
            }
        }
        for (Vec2 p : points_) {
            r.deviation = std::max(r.deviation, distanceTo(r.contour, p));
        }
        return r;
    }

    const std::vector<Vec2>& points_;
    bool closed_;
    double tolerance_;
    std::vector<bool> line_;           ///< segment i is a line of its own
    std::map<std::size_t, Vec2> ways_; ///< settled at a stretch's ends and between its pieces
    Contour out_;
};

} // namespace

Refitted refit(const std::vector<Vec2>& points, bool closed, double tolerance) {
    if (points.size() < 2) {
        return {};
    }
    return Refit(points, closed, tolerance).all();
}

} // namespace wren
