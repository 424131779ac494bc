#include "cut/neck_finish.h"

#include "cut/contact.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace wren {
namespace {

constexpr double quarter = std::numbers::pi / 2;
constexpr double pitch = 1;      ///< between tips before straight runs are joined, mm
constexpr double chord = 0.002;  ///< straight runs stay within this of them
constexpr double overlap = 1;    ///< neighbouring stretches run into each other
constexpr double pastEdge = 0.6; ///< contacts go on so far outside the outline

/// In the back's own frame: x, y, and height over the glue plane.
struct Contact {
    Vec3 point;
    Vec3 normal; ///< z > 0
};

Contact contactAt(const NeckBack::Slice& slice, double angle) {
    const NeckBack::Slice::Touch t = slice.touch(angle);
    return {{t.point.x, t.point.y, -t.point.z}, {t.normal.x, t.normal.y, -t.normal.z}};
}

/// The ridge two neighbouring contacts leave: the chord's part over a ball, and the surface's own
/// bend, s^2 / 8 (1/r + 1/R) with R = s / turn.
double ridge(const Contact& a, const Contact& b, double r) {
    const double s = length(b.point - a.point);
    const double turn = std::acos(std::clamp(dot(a.normal, b.normal), -1.0, 1.0));
    return s * s / (8 * r) + s * turn / 8;
}

std::vector<NeckBack::Slice> slicesFor(const NeckBack& back, double from, double to, double step) {
    std::vector<NeckBack::Slice> out;
    const int n = std::max(1, static_cast<int>(std::ceil((to - from) / step - 1e-9)));
    for (int i = 0; i <= n; ++i) {
        out.push_back(back.slice(from + (to - from) * i / n));
    }
    return out;
}

/// From edge to edge, each as far from the last as the ridge allows in all the samples.
std::vector<double> spread(const std::vector<NeckBack::Slice>& samples, double r, double scallop) {
    std::vector<double> lines{-quarter};
    while (lines.back() < quarter) {
        const double from = lines.back();
        double low = from;
        double high = std::min(quarter, from + 0.5);
        const auto fits = [&](double to) {
            return std::all_of(samples.begin(), samples.end(), [&](const NeckBack::Slice& s) {
                return ridge(contactAt(s, from), contactAt(s, to), r) <= scallop;
            });
        };
        if (fits(high)) {
            lines.push_back(high);
            continue;
        }
        for (int i = 0; i < 14; ++i) {
            const double middle = (low + high) / 2;
            (fits(middle) ? low : high) = middle;
        }
        lines.push_back(std::max(low, from + 1e-3));
    }
    lines.back() = quarter;
    return lines;
}

/// Points that lie on straight runs within `chord`, dropped: each run is as long as it can be.
std::vector<Vec3> joined(const std::vector<Vec3>& tips) {
    std::vector<Vec3> out;
    std::size_t at = 0;
    while (at + 1 < tips.size()) {
        if (out.empty()) {
            out.push_back(tips.front());
        }
        const auto straight = [&](std::size_t to) {
            const Vec3 a = tips[at];
            const Vec3 way = tips[to] - a;
            const double l = length(way);
            for (std::size_t i = at + 1; i < to; ++i) {
                const Vec3 v = tips[i] - a;
                if (l == 0 || length(cross(way, v)) > chord * l) {
                    return false;
                }
            }
            return true;
        };
        std::size_t step = 1;
        while (at + 2 * step < tips.size() && straight(at + 2 * step)) {
            step *= 2;
        }
        std::size_t low = at + step;
        std::size_t high = std::min(at + 2 * step, tips.size() - 1);
        while (low < high) {
            const std::size_t middle = (low + high + 1) / 2;
            if (straight(middle)) {
                low = middle;
            } else {
                high = middle - 1;
            }
        }
        out.push_back(tips[low]);
        at = low;
    }
    return out;
}

/// One line's runs of tips in the back's frame, where the bit has something to touch.
using Runs = std::vector<std::vector<Vec3>>;

class Finisher {
public:
    Finisher(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
             const Feeds& feeds)
        : work_(work), part_(work.part), tabs_(tabs), bit_(bit), end_(EndShape::of(bit)),
          feeds_(feeds), path_({0, 0, work.clear()}) {}

    void stretch(const FinishStretch& s) {
        const std::vector<NeckBack::Slice> slices = slicesFor(part_.back(), s.from, s.to, pitch);
        std::vector<std::array<double, 2>> wood;
        for (const NeckBack::Slice& slice : slices) {
            wood.push_back(woodNear(slice.x()));
        }
        around_.clear();
        if (!s.plane && s.from < std::min(part_.back().headTo(), part_.outline().headStart())) {
            const double reach = bit_.radius() + 1;
            for (const NeckBack::Slice& slice :
                 slicesFor(part_.back(), s.from - reach, part_.outline().headStart(), pitch / 4)) {
                around_.push_back({slice, part_.outline().stretches(slice.x())});
            }
        }
        bool up = false;
        for (double line : s.lines) {
            for (std::vector<Vec3> run : runsOf(s, slices, wood, line)) {
                if (up) {
                    std::reverse(run.begin(), run.end());
                }
                follow(joined(run));
                up = !up;
            }
        }
        lift();
    }

    Path take() { return path_.take(); }

private:
    /// The outline's low and high Y about x, as far as the bit's own reach sees.
    std::array<double, 2> woodNear(double x) const {
        std::array<double, 2> out{1e9, -1e9};
        for (double dx : {-1.0, 0.0, 1.0}) {
            const auto wood = part_.outline().across(x + dx * pastEdge);
            if (wood[0] <= wood[1]) {
                out = {std::min(out[0], wood[0]), std::max(out[1], wood[1])};
            }
        }
        return out;
    }

    Runs runsOf(const FinishStretch& s, const std::vector<NeckBack::Slice>& slices,
                const std::vector<std::array<double, 2>>& wood, double line) const {
        Runs runs;
        bool open = false;
        Contact before;
        for (std::size_t i = 0; i < slices.size(); ++i) {
            const Contact c = s.plane ? planeContact(slices[i], line) : contactAt(slices[i], line);
            const bool inside =
                c.point.y >= wood[i][0] - pastEdge && c.point.y <= wood[i][1] + pastEdge;
            const bool reaches =
                tipTouching(c.point, c.normal, end_).z >= -work_.cut.through - 1e-9;
            if (!inside || !reaches) {
                open = false;
                continue;
            }
            if (!open) {
                runs.emplace_back();
                open = true;
            } else {
                rollBetween(runs.back(), before, c, line, 0);
            }
            runs.back().push_back(tipAt(c));
            before = c;
        }
        std::erase_if(runs, [](const std::vector<Vec3>& run) { return run.size() < 2; });
        return runs;
    }

    /// Where the head widens, a bit that rolls off the section's side must not sink into the wood
    /// that stands there already: the height that clears everything under it.
    double clearOfHead(Vec3 tip) const {
        const double r = bit_.radius();
        const double first = around_.front().slice.x();
        const double step =
            (around_.back().slice.x() - first) / static_cast<double>(around_.size() - 1);
        const auto index = [&](double x) {
            return static_cast<std::size_t>(
                std::clamp((x - first) / step, 0.0, static_cast<double>(around_.size() - 1)));
        };
        // Well inside the outline the surface bulges away from the bit.
        const std::vector<std::array<double, 2>>& here = around_[index(tip.x)].wood;
        if (here.empty() || (tip.y > here.front()[0] + r && tip.y < here.back()[1] - r)) {
            return tip.z;
        }
        double z = tip.z;
        for (std::size_t k = index(tip.x - r); k <= index(tip.x + r); ++k) {
            const NeckBack::Slice& s = around_[k].slice;
            const double dx = s.x() - tip.x;
            if (std::abs(dx) >= r) {
                continue;
            }
            const double half = std::sqrt(r * r - dx * dx);
            for (const auto& wood : around_[k].wood) {
                const double low = std::max(wood[0], tip.y - 0.99 * half);
                const double high = std::min(wood[1], tip.y + 0.99 * half);
                for (int i = 0; i <= 12 && low < high; ++i) {
                    const double y = low + (high - low) * i / 12;
                    z = std::max(z, s.depth(y) - end_.heightAt(std::hypot(dx, y - tip.y)));
                }
            }
        }
        return z > tip.z + chord ? z : tip.z;
    }

    Vec3 tipAt(const Contact& c) const {
        constexpr double steep = 0.98;
        Vec3 tip = tipTouching(c.point, c.normal, end_);
        if (!around_.empty() && c.normal.z < steep &&
            tip.x < part_.outline().headStart() + bit_.radius()) {
            tip.z = clearOfHead(tip);
        }
        for (const NeckTab& tab : tabs_) {
            if (tip.z < work_.cut.tabHeight && tab.under(tip.xy(), bit_.radius())) {
                tip.z = work_.cut.tabHeight;
            }
        }
        return tip;
    }

    /// Where the surface turns fast along a line, as at the heel's upper edge, the bit rolls over
    /// it in steps small enough for the chord.
    void rollBetween(std::vector<Vec3>& run, const Contact& a, const Contact& b, double line,
                     int depth) const {
        const double most = 2 * std::sqrt(2 * chord / bit_.radius()); // of turn in one step
        if (dot(a.normal, b.normal) > std::cos(most)) {
            return;
        }
        Contact middle = contactAt(part_.back().slice((a.point.x + b.point.x) / 2), line);
        if (depth > 8) { // a crisp edge: the bit turns about it in one place
            const Vec3 n = a.normal + b.normal;
            middle = {(a.point + b.point) * 0.5, n * (1 / length(n))};
        }
        rollBetween(run, a, middle, line, depth + 1);
        run.push_back(tipAt(middle));
        rollBetween(run, middle, b, line, depth + 1);
    }

    /// On the head the lines lie side by side at one Y each, and the normal is the plane's own.
    Contact planeContact(const NeckBack::Slice& slice, double y) const {
        const double slope = part_.back().headSlope();
        const double l = std::sqrt(1 + slope * slope);
        return {{slice.x(), y, slice.depth(y)}, {-slope / l, 0, 1 / l}};
    }

    void follow(const std::vector<Vec3>& run) {
        if (run.empty()) {
            return;
        }
        const Vec3 start = placed(run.front());
        const bool near = down_ && length(start - path_.at()) < 3 * bit_.radius() &&
                          std::abs(start.z - path_.at().z) < bit_.radius();
        if (near) {
            // Up first when the next line lies higher, so that the link never digs.
            if (start.z > path_.at().z) {
                path_.feed({path_.at().x, path_.at().y, start.z}, feeds_.feed);
            }
            path_.feed({start.x, start.y, path_.at().z}, feeds_.feed);
            path_.feed(start, feeds_.plunge);
        } else {
            lift();
            // Roughing's stairs may stand beside the line: down to the wood's top only.
            path_.travelTo(start.xy(), work_.clear(), work_.approach());
            path_.feed(start, feeds_.plunge);
            down_ = true;
        }
        for (std::size_t i = 1; i < run.size(); ++i) {
            path_.feed(placed(run[i]), feeds_.feed);
        }
    }

    void lift() {
        if (down_) {
            path_.rapid({path_.at().x, path_.at().y, work_.clear()});
        }
        down_ = false;
    }

    Vec3 placed(Vec3 back) const { return work_.place({back.x, back.y, -back.z}); }

    const NeckWork& work_;
    const NeckPart& part_;
    const std::vector<NeckTab>& tabs_;
    const Bit& bit_;
    EndShape end_;
    const Feeds& feeds_;
    PathBuilder path_;
    bool down_ = false;
    struct Around {
        NeckBack::Slice slice;
        std::vector<std::array<double, 2>> wood;
    };
    std::vector<Around> around_; ///< of the stretch in hand and beyond it, where the head widens
};

} // namespace

std::vector<FinishStretch> finishLines(const NeckPart& part, const Bit& bit, double scallop) {
    const NeckBack& back = part.back();
    const NeckOutline& o = part.outline();
    const double r = EndShape::of(bit).rounding;
    const double asked = 0.9 * scallop;
    std::vector<FinishStretch> out;
    const auto add = [&](double from, double to) {
        if (to > from) {
            const auto samples = slicesFor(back, from, to, (to - from) / 8);
            out.push_back({from, to, spread(samples, r, asked), false});
        }
    };
    FinishStretch head{o.tip() - bit.radius(), back.headFrom() + overlap, {}, true};
    const auto box = part.boundingBox();
    const double step = std::sqrt(8 * asked * r);
    for (double y = box[0].y - pastEdge; y < box[1].y + pastEdge + step; y += step) {
        head.lines.push_back(y);
    }
    out.push_back(std::move(head));
    add(back.headFrom() - overlap, back.headTo() + overlap);
    add(back.headTo() - overlap, back.heelFrom() + overlap);
    add(back.heelFrom() - overlap, o.end() + pastEdge);
    return out;
}

Path finishPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                const Feeds& feeds) {
    Finisher finisher(work, tabs, bit, feeds);
    for (const FinishStretch& s : finishLines(work.part, bit, work.cut.scallop)) {
        finisher.stretch(s);
    }
    return finisher.take();
}

namespace {

/// The greatest curvature of a section where it is hollow, 1/mm: a traced one may be.
double hollowAcross(const NeckBack::Slice& s) {
    constexpr double between = 0.03;
    double most = 0;
    for (double a = -1.4; a < 1.4; a += between) {
        const Contact p = contactAt(s, a);
        const Contact q = contactAt(s, a + between);
        const Vec2 way{q.point.y - p.point.y, q.point.z - p.point.z};
        const double turn = p.normal.y * q.normal.z - p.normal.z * q.normal.y; // convex: negative
        const double l = wren::length(way);
        if (l > 1e-6) {
            most = std::max(most, turn / l);
        }
    }
    return most;
}

} // namespace

double tightestHollow(const NeckPart& part) {
    const NeckBack& back = part.back();
    double most = 0;
    for (double x = back.headFrom(); x < part.outline().end(); x += 1) {
        for (double u : {-0.97, -0.8, -0.5, 0.0, 0.5, 0.8, 0.97}) {
            most = std::max(most, back.curvatureAlong(u, x));
        }
        most = std::max(most, hollowAcross(back.slice(x)));
    }
    return most > 0 ? 1 / most : std::numeric_limits<double>::infinity();
}

double reachBelow(const NeckPart& part, const Bit& bit) {
    const NeckBack& back = part.back();
    const EndShape end = EndShape::of(bit);
    double lowest = 0;
    for (double x = back.headTo(); x < back.heelFrom(); x += 10) {
        const NeckBack::Slice s = back.slice(x);
        for (double a : {-quarter, quarter}) {
            const Contact c = contactAt(s, a * 0.9999);
            lowest = std::min(lowest, tipTouching(c.point, c.normal, end).z);
        }
    }
    return -lowest;
}

} // namespace wren
