#include "cut/carve_paths.h"
#include "cut/contact.h"
#include "cut/settings.h"
#include "geom/inset.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;
using std::numbers::pi;

constexpr double chord = 0.002;    ///< straight runs stay so close to the tip's true way
constexpr double look = 4;         ///< mm between places a curved run is looked at first
constexpr double rolled = 0.2;     ///< radians between normals where the ball rolls about a corner
constexpr double pastSquare = 0.6; ///< a slope is followed so far past a square edge
constexpr double jump = 0.02;      ///< mm between tips whose contacts are as good as one
constexpr double besideLine = 0.8; ///< mm: a start so near is simply beside
constexpr double hopOver = 0.5;
constexpr double linked = 3; ///< lines further apart are not joined on the surface

/// A place the ball touches, panel frame: plan, fall below the level, and the unit normal as plan
/// part and upward part.
struct Touch {
    Vec2 at;
    double drop = 0;
    Vec2 lean;
    double up = 1;
};

/// Tips in the setup for places touched in the panel.
class Tips {
public:
    Tips(const PanelWork& work, const CarvedFace& face, double radius)
        : work_(work), face_(face), radius_(radius),
          level_(work.z(face.back ? work.panel.bottom : work.panel.top)) {}

    Vec3 of(const Touch& t) const {
        const Vec2 plan = t.at + t.lean * radius_;
        const Vec2 s = work_.setup.fromInstrument.toSetup({plan.x, plan.y, 0}).xy();
        return {s.x, s.y, level_ - t.drop + radius_ * (t.up - 1)};
    }
    Vec2 laid(Vec2 panel) const {
        return work_.setup.fromInstrument.toSetup({panel.x, panel.y, 0}).xy();
    }
    double level() const { return level_; }
    bool mirrored() const {
        return cross(laid({1, 0}) - laid({0, 0}), laid({0, 1}) - laid({0, 0})) < 0;
    }

    /// On the edge's line `d` from the outline, whose outward way there is `out`.
    Touch onEdge(Vec2 at, Vec2 out, double d) const {
        const FaceFall& fall = face_.fall;
        const Vec2 n = fall.edge().normal(d);
        Touch t;
        t.at = at;
        t.drop = fall.edge().drop(d) + fall.slopeDrop(at);
        const Vec2 g = out * n.x + fall.slopeGradient(at) * n.y;
        const double whole = std::hypot(length(g), n.y);
        t.lean = g * (1 / whole);
        t.up = n.y / whole;
        return t;
    }
    /// On a slope of its own, whatever another one has taken there.
    Touch onSlope(Vec2 at, const SlopeLine& s) const {
        const double beyond = s.beyond(at);
        const Vec2 g = s.outAt(at) * s.gradientAt(beyond);
        const double whole = std::hypot(length(g), 1.0);
        return {at, s.drop(beyond), g * (1 / whole), 1 / whole};
    }
    double radius() const { return radius_; }
    bool sloped(Vec2 at) const {
        return face_.fall.slopeDrop(at) > 0 || length(face_.fall.slopeGradient(at)) > 0;
    }

private:
    const PanelWork& work_;
    CarvedFace face_;
    double radius_;
    double level_;
};

/// Feeds along places given by a parameter from 0 to 1, as far apart as the chord allows. Where two
/// slopes meet in a ridge the ball goes over it in a small hop.
void follow(PathBuilder& path, const std::function<Vec3(double)>& tip, double length, double feed,
            double radius) {
    const std::function<void(double, Vec3, double, Vec3, int)> go = [&](double a, Vec3 from,
                                                                        double b, Vec3 to, int n) {
        const double m = (a + b) / 2;
        const Vec3 middle = tip(m);
        const Vec3 off = middle - (from + to) * 0.5;
        if (n > 0 && std::sqrt(dot(off, off)) > chord) {
            go(a, from, m, middle, n - 1);
            go(m, middle, b, to, n - 1);
            return;
        }
        const Vec3 step = to - from;
        if (n == 0 && dot(step, step) > jump * jump) {
            const double over = std::max(from.z, to.z) + dot(step, step) / (4 * radius);
            path.feed({from.x, from.y, over}, feed);
            path.feed({to.x, to.y, over}, feed);
        }
        path.feed(to, feed);
    };
    const int parts = std::max(1, static_cast<int>(std::ceil(length / look)));
    Vec3 from = tip(0);
    for (int i = 0; i < parts; ++i) {
        const double b = double(i + 1) / parts;
        const Vec3 to = tip(b);
        go(double(i) / parts, from, b, to, 12);
        from = to;
    }
}

/// One line along the edge, `d` inside the outline.
class EdgeLine {
public:
    /// `outward`: 1 where the waste lies on the line's left, -1 where on its right.
    EdgeLine(const Tips& tips, Contour line, double d, double outward, double feed)
        : tips_(tips), line_(std::move(line)), d_(d), outward_(outward), feed_(feed) {}

    Vec3 start() const { return tips_.of(touch(line_.front(), 0)); }

    void run(PathBuilder& path) const {
        for (std::size_t i = 0; i < line_.size(); ++i) {
            const ContourPiece& p = line_[i];
            piece(path, p);
            corner(path, p, line_[(i + 1) % line_.size()]);
        }
    }

private:
    Touch touch(const ContourPiece& p, double s) const {
        return tips_.onEdge(p.at(s), leftOf(p.wayAt(s)) * outward_, d_);
    }

    bool sloped(const ContourPiece& p) const {
        const int n = std::max(2, static_cast<int>(p.length() / look));
        for (int i = 0; i <= n; ++i) {
            if (tips_.sloped(p.at(p.length() * i / n))) {
                return true;
            }
        }
        return false;
    }

    void piece(PathBuilder& path, const ContourPiece& p) const {
        const double whole = p.length();
        const Vec3 end = tips_.of(touch(p, whole));
        if (sloped(p)) {
            follow(
                path, [&](double t) { return tips_.of(touch(p, whole * t)); }, whole, feed_,
                tips_.radius());
        } else if (p.isArc()) {
            arc(path, end, p.centre, p.kind == Kind::arcClockwise);
        } else {
            path.feed(end, feed_);
        }
    }

    void arc(PathBuilder& path, Vec3 to, Vec2 centre, bool clockwise) const {
        const Vec2 c = tips_.laid(centre);
        if (length(to.xy() - path.at().xy()) < 1e-6) {
            return;
        }
        if (clockwise != tips_.mirrored()) {
            path.clockwise(to, c, feed_);
        } else {
            path.counter(to, c, feed_);
        }
    }

    /// Between two pieces that do not run on smoothly the ball rolls over the crest that runs
    /// inward from their corner, from the one flank's normal straight to the other's.
    void corner(PathBuilder& path, const ContourPiece& a, const ContourPiece& b) const {
        const Vec2 in = leftOf(a.wayIn()) * outward_;
        const Vec2 out = leftOf(b.wayOut()) * outward_;
        const double turn = std::atan2(cross(in, out), dot(in, out));
        if (std::abs(turn) < 1e-4) {
            return;
        }
        const Touch from = tips_.onEdge(b.from, in, d_);
        const Touch to = tips_.onEdge(b.from, out, d_);
        if (to.up < 1e-6) { // round an upright wall's edge
            arc(path, tips_.of(to), b.from, turn < 0);
            return;
        }
        const int n = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / rolled)));
        follow(
            path,
            [&](double t) {
                Touch on = to;
                on.lean = from.lean * (1 - t) + to.lean * t;
                on.up = from.up * (1 - t) + to.up * t;
                const double whole = std::hypot(length(on.lean), on.up);
                on.lean = on.lean * (1 / whole);
                on.up /= whole;
                return tips_.of(on);
            },
            n * look, feed_, tips_.radius());
    }

    const Tips& tips_;
    Contour line_;
    double d_;
    double outward_;
    double feed_;
};

/// A clockwise ring begun at its piece nearest to a place.
Contour begunAt(const Contour& ring, Vec2 p) {
    std::size_t best = 0;
    for (std::size_t i = 1; i < ring.size(); ++i) {
        if (length(ring[i].from - p) < length(ring[best].from - p)) {
            best = i;
        }
    }
    Contour out(ring.begin() + std::ptrdiff_t(best), ring.end());
    out.insert(out.end(), ring.begin(), ring.begin() + std::ptrdiff_t(best));
    return out;
}

class Finisher {
public:
    Finisher(const PanelWork& work, const CarvedFace& face, const Bit& bit, const Feeds& feeds)
        : work_(work), face_(face), feeds_(feeds), radius_(bit.radius()),
          tips_(work, face, bit.radius()), path_({0, 0, work.clear()}) {}

    Path all() {
        slopes();
        edges();
        path_.rapid({path_.at().x, path_.at().y, work_.clear()});
        return path_.take();
    }

private:
    std::vector<Contour> linesAt(double d) const {
        const Contour& outline = work_.panel.outline;
        if (d <= 0) {
            return {clockwise(outline)};
        }
        std::vector<Contour> out;
        for (const Contour& c : inset({counterClockwise(outline)}, d)) {
            out.push_back(clockwise(c));
        }
        return out;
    }

    /// From the level face outward, so that each line only takes what stands beside the last.
    void edges() {
        Vec2 last = work_.panel.outline.front().from;
        const EdgeProfile& edge = face_.fall.edge();
        for (double d : edge.places(work_.cut.carveScallop, radius_)) {
            for (Contour line : linesAt(d)) {
                line = begunAt(line, last);
                const double outward = tips_.mirrored() ? -1 : 1;
                if (outward < 0) { // seen from behind it would run the other way
                    line = reversed(line);
                }
                const EdgeLine one(tips_, line, d, outward, feeds_.feed);
                go(one.start());
                one.run(path_);
                last = line.front().from;
            }
        }
    }

    void slopes() {
        for (const SlopeLine& s : face_.fall.slopes()) {
            slope(s);
        }
    }

    /// Lines along a slope's crease, from the level face down to the edge.
    void slope(const SlopeLine& s) {
        const double edge = face_.fall.edge().reach();
        const Contour& outline = work_.panel.outline;
        const std::vector<Contour> bounds = edge > 0 ? inset({counterClockwise(outline)}, edge)
                                                     : inset({clockwise(outline)}, pastSquare);
        std::vector<std::vector<Vec2>> polygons;
        double deepest = -1e9;
        for (const Contour& c : bounds) {
            polygons.push_back(pointsOf(c, 0.005));
            for (Vec2 p : polygons.back()) {
                deepest = std::max(deepest, s.beyond(p));
            }
            if (s.bow > 0) { // a straight edge comes nearest between its ends
                deepest = std::max(deepest, std::min(s.bow - 1, s.bow - distanceTo(c, s.centre)));
            }
        }
        bool turn = false;
        for (double beyond : steps(s, deepest)) {
            auto lines = s.bow > 0 ? arcSpans(s, beyond, polygons) : spans(s, beyond, polygons);
            if (turn) {
                std::reverse(lines.begin(), lines.end());
                for (auto& [from, to] : lines) {
                    std::swap(from, to);
                }
            }
            for (const auto& [from, to] : lines) {
                line(s, from, to, turn);
            }
            turn = !turn;
        }
    }

    /// Distances beyond the crease, the last one at the deepest place.
    std::vector<double> steps(const SlopeLine& s, double deepest) const {
        std::vector<double> out;
        const double curved = std::sqrt(8 * work_.cut.carveScallop / (1 / radius_ + 1 / s.blend));
        for (double at = s.begins(); at < deepest;
             at += curved / std::hypot(1.0, s.gradientAt(at))) {
            out.push_back(at);
        }
        if (!out.empty()) {
            out.push_back(deepest - 1e-4);
        }
        return out;
    }

    using Spans = std::vector<std::pair<Vec2, Vec2>>;

    /// Where a line along a slope lies inside the polygons.
    static Spans spans(const SlopeLine& s, double beyond,
                       const std::vector<std::vector<Vec2>>& polygons) {
        const Vec2 on = s.at + s.out * beyond;
        const Vec2 along{-s.out.y, s.out.x};
        std::vector<double> cuts;
        for (const auto& polygon : polygons) {
            for (std::size_t k = 0, j = polygon.size() - 1; k < polygon.size(); j = k++) {
                const double a = dot(polygon[j] - on, s.out);
                const double b = dot(polygon[k] - on, s.out);
                if ((a > 0) != (b > 0)) {
                    const Vec2 p = polygon[j] + (polygon[k] - polygon[j]) * (a / (a - b));
                    cuts.push_back(dot(p - on, along));
                }
            }
        }
        std::sort(cuts.begin(), cuts.end());
        Spans out;
        for (std::size_t k = 0; k + 1 < cuts.size(); k += 2) {
            out.emplace_back(on + along * cuts[k], on + along * cuts[k + 1]);
        }
        return out;
    }

    /// The same of an arc about a hollow's centre, counter-clockwise.
    static Spans arcSpans(const SlopeLine& s, double beyond,
                          const std::vector<std::vector<Vec2>>& polygons) {
        const double r = s.bow - beyond;
        std::vector<double> cuts; // angles from the way to the body's middle
        const double first = std::atan2(-s.out.y, -s.out.x);
        for (const auto& polygon : polygons) {
            for (std::size_t k = 0, j = polygon.size() - 1; k < polygon.size(); j = k++) {
                const Vec2 a = polygon[j] - s.centre;
                const Vec2 way = polygon[k] - polygon[j];
                const double qa = dot(way, way);
                const double qb = dot(a, way);
                const double root = qb * qb - qa * (dot(a, a) - r * r);
                for (double sign : {-1.0, 1.0}) {
                    const double t = (-qb + sign * std::sqrt(std::max(0.0, root))) / qa;
                    if (root > 0 && t >= 0 && t < 1) {
                        const Vec2 p = a + way * t;
                        cuts.push_back(std::remainder(std::atan2(p.y, p.x) - first, 2 * pi));
                    }
                }
            }
        }
        std::sort(cuts.begin(), cuts.end());
        Spans out;
        const auto at = [&](double w) {
            return s.centre + Vec2{std::cos(first + w), std::sin(first + w)} * r;
        };
        for (std::size_t k = 0; k + 1 < cuts.size(); k += 2) {
            out.emplace_back(at(cuts[k]), at(cuts[k + 1]));
        }
        return out;
    }

    /// One line along a slope, its normal the same all along as seen from the crease.
    void line(const SlopeLine& s, Vec2 from, Vec2 to, bool clockwise) {
        go(tips_.of(tips_.onSlope(from, s)));
        const Vec3 end = tips_.of(tips_.onSlope(to, s));
        if (s.bow <= 0) {
            path_.feed(end, feeds_.feed);
        } else if (clockwise != tips_.mirrored()) {
            path_.clockwise(end, tips_.laid(s.centre), feeds_.feed);
        } else {
            path_.counter(end, tips_.laid(s.centre), feeds_.feed);
        }
    }

    /// To the start of the next line: beside the last one on the surface, first outward and then
    /// down, else over the wood.
    void go(Vec3 to) {
        const Vec3 at = path_.at();
        if (length(to.xy() - at.xy()) < linked && at.z < work_.clear() - 1e-9) {
            // Where a line bends, the straight way to its start runs a little inside it.
            const double hop = length(to.xy() - at.xy()) > besideLine ? hopOver : 0;
            const double over = std::max(at.z, to.z) + hop;
            path_.feed({at.x, at.y, over}, feeds_.feed);
            path_.feed({to.x, to.y, over}, feeds_.feed);
            path_.feed(to, feeds_.plunge);
            return;
        }
        path_.rapid({at.x, at.y, work_.clear()});
        path_.rapid({to.x, to.y, work_.clear()});
        path_.rapid({to.x, to.y, std::max(to.z, tips_.level()) + approachHeight});
        path_.feed(to, feeds_.plunge);
    }

    const PanelWork& work_;
    CarvedFace face_;
    const Feeds& feeds_;
    double radius_;
    Tips tips_;
    PathBuilder path_;
};

} // namespace

Path carveFinishPath(const PanelWork& work, const CarvedFace& face, const Bit& bit,
                     const Feeds& feeds) {
    return face.fall.level() ? Path{} : Finisher(work, face, bit, feeds).all();
}

} // namespace wren
