#include "cut/neck_finish.h"

#include "cut/contact.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>
#include <optional>

namespace wren {
namespace {

constexpr double quarter = std::numbers::pi / 2;
constexpr double pitch = 1; ///< between tips before straight runs are joined, mm
/// A straight run dips so far into a bend that bulges toward the bit, mm: with what joining takes
/// as well, inside the 0.01 that are allowed.
constexpr double mostDip = 0.006;

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
                if (l == 0 || length(cross(way, v)) > finishChord * l) {
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

    void stretch(const FinishStretch& s, FinishWay way) {
        around_.clear();
        if (!s.plane && s.from < std::min(part_.back().headTo(), part_.outline().headStart())) {
            const double reach = bit_.radius() + 1;
            for (const NeckBack::Slice& slice :
                 slicesFor(part_.back(), s.from - reach, part_.outline().headStart(), pitch / 8)) {
                around_.push_back({slice, part_.outline().stretches(slice.x())});
            }
        }
        if (way == FinishWay::across) {
            for (double x : s.lines) {
                followAll(runsAcross(x, s.plane));
            }
        } else {
            const std::vector<NeckBack::Slice> slices =
                slicesFor(part_.back(), s.from, s.to, around_.empty() ? pitch : pitch / 4);
            std::vector<std::array<double, 2>> wood;
            wood.reserve(slices.size());
            for (const NeckBack::Slice& slice : slices) {
                wood.push_back(woodNear(slice.x(), pastWood(s.plane)));
            }
            for (double line : s.lines) {
                // The flanks' feet keep their own lines beside level passes too.
                const bool shallow =
                    !s.levels.empty() && line != s.lines.front() && line != s.lines.back();
                followAll(runsOf(slices, wood, s.plane, [&](const NeckBack::Slice& slice) {
                    const BackContact c =
                        s.plane ? planeContact(slice, line) : contactAt(slice, line);
                    return shallow && !shallowEnough(c) ? std::nullopt : std::optional(c);
                }));
            }
            for (int side : {-1, 1}) {
                for (double level : s.levels) {
                    followAll(runsOf(slices, wood, false, [&](const NeckBack::Slice& slice) {
                        return contactAtLevel(slice, side, level, end_);
                    }));
                }
            }
        }
        lift();
        back_ = false;
    }

    Path take() { return path_.take(); }

private:
    /// The outline's low and high Y within `reach` of x.
    std::array<double, 2> woodNear(double x, double reach) const {
        std::array<double, 2> out{1e9, -1e9};
        for (double dx : {-1.0, -0.5, 0.0, 0.5, 1.0}) {
            // A little further, lest a place just `reach` past the neck's end should see none.
            const auto wood = part_.outline().across(x + dx * (reach + 0.01));
            if (wood[0] <= wood[1]) {
                out = {std::min(out[0], wood[0]), std::max(out[1], wood[1])};
            }
        }
        return out;
    }

    /// There and back by turns; the runs of a line that goes back come in that order too.
    void followAll(Runs runs) {
        if (back_) {
            std::reverse(runs.begin(), runs.end());
        }
        for (std::vector<Vec3>& run : runs) {
            if (back_) {
                std::reverse(run.begin(), run.end());
            }
            follow(joined(run));
        }
        back_ = runs.empty() ? back_ : !back_;
    }

    /// How far outside the outline a contact still cuts wood: on a plane the whole of a level end
    /// does.
    double pastWood(bool plane) const { return pastEdge + (plane ? 0.9 * end_.flat : 0); }

    /// Whether the bit has something to touch there and may go so deep.
    bool serves(const BackContact& c, const std::array<double, 2>& wood, bool plane) const {
        const double past = pastWood(plane);
        return c.point.y >= wood[0] - past && c.point.y <= wood[1] + past &&
               tipTouching(c.point, c.normal, end_).z >= -work_.cut.through - 1e-9;
    }

    /// One section from edge to edge.
    Runs runsAcross(double x, bool plane) const {
        const NeckBack::Slice slice = part_.back().slice(x);
        const std::array<double, 2> wood = woodNear(x, pastWood(plane));
        std::vector<BackContact> contacts;
        if (plane) {
            for (double y : {wood[0] - pastWood(true), wood[1] + pastWood(true)}) {
                contacts.push_back(planeContact(slice, y));
            }
        } else {
            constexpr int n = 160;
            for (int i = 0; i <= n; ++i) {
                const double a = quarter * (2.0 * i / n - 1);
                if (i > 0) {
                    turnBetween(contacts, slice, quarter * (2.0 * (i - 1) / n - 1), a, 0);
                }
                contacts.push_back(contactAt(slice, a));
            }
        }
        Runs runs;
        bool open = false;
        for (const BackContact& c : contacts) {
            if (!(wood[0] <= wood[1]) || !serves(c, wood, plane)) {
                open = false;
                continue;
            }
            if (!open) {
                runs.emplace_back();
                open = true;
            }
            runs.back().push_back(tipAt(c));
        }
        std::erase_if(runs, [](const std::vector<Vec3>& run) { return run.size() < 2; });
        return runs;
    }

    /// Of the normal between two tips that a straight run joins within the chord, radians.
    double mostTurn() const { return 2 * std::sqrt(2 * finishChord / bit_.radius()); }

    /// More contacts of a section where it turns fast; about a crisp edge the bit turns in one
    /// place.
    void turnBetween(std::vector<BackContact>& contacts, const NeckBack::Slice& slice, double a,
                     double b, int depth) const {
        const double most = mostTurn();
        const BackContact p = contactAt(slice, a);
        const BackContact q = contactAt(slice, b);
        const double turn = std::acos(std::clamp(dot(p.normal, q.normal), -1.0, 1.0));
        if (turn < most) {
            return;
        }
        if (depth > 6) {
            const int steps = static_cast<int>(std::ceil(turn / most));
            for (int i = 1; i < steps; ++i) {
                const double share = static_cast<double>(i) / steps;
                const Vec3 n = p.normal * (1 - share) + q.normal * share;
                contacts.push_back({p.point + (q.point - p.point) * share, n * (1 / length(n))});
            }
            return;
        }
        const double middle = (a + b) / 2;
        turnBetween(contacts, slice, a, middle, depth + 1);
        contacts.push_back(contactAt(slice, middle));
        turnBetween(contacts, slice, middle, b, depth + 1);
    }

    /// The contact of one pass with a section, where it has one.
    using Touch = std::function<std::optional<BackContact>(const NeckBack::Slice&)>;

    Runs runsOf(const std::vector<NeckBack::Slice>& slices,
                const std::vector<std::array<double, 2>>& wood, bool plane,
                const Touch& touch) const {
        Runs runs;
        bool open = false;
        BackContact before;
        for (std::size_t i = 0; i < slices.size(); ++i) {
            const std::optional<BackContact> c = touch(slices[i]);
            if (!c || !serves(*c, wood[i], plane)) {
                open = false;
                continue;
            }
            if (!open) {
                runs.emplace_back();
                open = true;
            } else {
                rollBetween(runs.back(), before, *c, touch, 0);
            }
            const Vec3 tip = tipAt(*c);
            const bool rolled =
                !runs.back().empty() && dot(before.normal, c->normal) < std::cos(mostTurn());
            if (!around_.empty() && !runs.back().empty() && !rolled) {
                climbBetween(runs.back(), {before, runs.back().back()}, {*c, tip}, touch, 0);
            }
            runs.back().push_back(tip);
            before = *c;
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
                // An edge just under the ball's rim lifts it the most for the least way.
                const double low = std::max(wood[0], tip.y - half);
                const double high = std::min(wood[1], tip.y + half);
                constexpr int places = 24;
                for (int i = 0; i <= places && low < high; ++i) {
                    const double y = low + (high - low) * i / places;
                    z = std::max(z, s.depth(y) - end_.heightAt(length(Vec2{dx, y - tip.y})));
                }
            }
        }
        return z > tip.z + finishChord ? z : tip.z;
    }

    Vec3 tipAt(const BackContact& c) const {
        constexpr double steep = 0.9999; // a ball that leans less sinks by less than 0.001 mm
        Vec3 tip = tipTouching(c.point, c.normal, end_);
        if (!around_.empty() && c.normal.z < steep &&
            tip.x < part_.outline().headStart() + bit_.radius()) {
            tip.z = clearOfHead(tip);
        }
        for (const NeckTab& tab : tabs_) {
            if (tip.z < tab.top && tab.under(tip.xy(), bit_.radius())) {
                tip.z = tab.top;
            }
        }
        return tip;
    }

    /// Whether a straight run from one contact's tip to the other's follows the surface. Of an arc
    /// of angle a and chord l the sagitta is l a / 8 (Machinery's Handbook, segments); the arc is
    /// the tip's way, longer than the surface's where that bulges.
    bool straightBetween(const BackContact& a, const BackContact& b) const {
        const double turn = std::sqrt(std::max(0.0, 2 - 2 * dot(a.normal, b.normal)));
        if (turn > mostTurn()) {
            return false;
        }
        const double way =
            length(tipTouching(b.point, b.normal, end_) - tipTouching(a.point, a.normal, end_));
        return way * turn / 8 <= mostDip || way < length(b.point - a.point);
    }

    /// Where the surface turns fast along a line, as at the heel's upper edge, the bit rolls over
    /// it in steps small enough for the chord.
    void rollBetween(std::vector<Vec3>& run, const BackContact& a, const BackContact& b,
                     const Touch& touch, int depth) const {
        if (straightBetween(a, b)) {
            return;
        }
        std::optional<BackContact> middle = touch(part_.back().slice((a.point.x + b.point.x) / 2));
        if (depth > 8 || !middle) { // a crisp edge: the bit turns about it in one place
            const Vec3 n = a.normal + b.normal;
            middle = {(a.point + b.point) * 0.5, n * (1 / length(n))};
        }
        rollBetween(run, a, *middle, touch, depth + 1);
        run.push_back(tipAt(*middle));
        rollBetween(run, *middle, b, touch, depth + 1);
    }

    struct Placed {
        BackContact contact;
        Vec3 tip;
    };

    /// Where the bit comes off the widening head within a fraction of a millimetre, its way down is
    /// followed, not cut short.
    void climbBetween(std::vector<Vec3>& run, const Placed& a, const Placed& b, const Touch& touch,
                      int depth) const {
        constexpr double steep = 0.5; // of fall per way
        const double fall = std::abs(b.tip.z - a.tip.z);
        if (depth > 4 || fall < 0.02 || fall < steep * length(b.tip.xy() - a.tip.xy())) {
            return;
        }
        const std::optional<BackContact> c =
            touch(part_.back().slice((a.contact.point.x + b.contact.point.x) / 2));
        if (!c) {
            return;
        }
        const Placed middle{*c, tipAt(*c)};
        climbBetween(run, a, middle, touch, depth + 1);
        run.push_back(middle.tip);
        climbBetween(run, middle, b, touch, depth + 1);
    }

    /// How much higher than a straight link between two tips the bit must go to clear what bulges
    /// up between them, as a crest does.
    double bulgeBetween(const Vec3& a, const Vec3& b) const {
        double most = 0;
        for (double t : {0.25, 0.5, 0.75}) {
            const Vec3 tip = a + (b - a) * t;
            const double z = std::max(a.z, b.z);
            const double r = bit_.radius();
            constexpr int places = 16;
            for (int i = -places; i <= places; ++i) {
                const double dx = r * i / places;
                const NeckBack::Slice s = part_.back().slice(tip.x + dx);
                const double half = std::sqrt(r * r - dx * dx);
                for (int k = -places; k <= places; ++k) {
                    const double dy = half * k / places;
                    const double up = s.depth(tip.y + dy) - end_.heightAt(length(Vec2{dx, dy}));
                    most = std::max(most, up - z);
                }
            }
        }
        return most > finishChord ? most : 0;
    }

    /// On the head the lines lie side by side at one Y each, and the normal is the plane's own.
    BackContact planeContact(const NeckBack::Slice& slice, double y) const {
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
            const double over = bulgeBetween(last_, run.front());
            if (start.z > path_.at().z || over > 0) {
                const double high = std::max(start.z, path_.at().z) + over;
                path_.feed({path_.at().x, path_.at().y, high}, feeds_.feed);
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
        last_ = run.back();
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
    Vec3 last_; ///< where it stands, in the back's frame
    bool down_ = false;
    bool back_ = false; ///< the next line runs back
    struct Around {
        NeckBack::Slice slice;
        std::vector<std::array<double, 2>> wood;
    };
    std::vector<Around> around_; ///< of the stretch in hand and beyond it, where the head widens
};

} // namespace

Path finishPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                const Feeds& feeds, FinishShare share) {
    Finisher finisher(work, tabs, bit, feeds);
    const FinishWay way = work.cut.way;
    for (const FinishStretch& s : finishLines(work.part, bit, work.cut.scallop, way, share)) {
        finisher.stretch(s, way);
    }
    return finisher.take();
}

} // namespace wren
