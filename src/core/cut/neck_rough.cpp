#include "cut/neck_paths.h"
#include "cut/settings.h"
#include "geom/region.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double pitch = 1;       ///< between slices of the surface, mm
constexpr double coarse = 0.03;   ///< roughing's regions are drawn within this, mm
constexpr double rampSlope = 0.1; ///< fall per mm of an entry

/// The surface's slices, asked again at every level.
class Slices {
public:
    explicit Slices(const NeckPart& part) {
        const NeckOutline& o = part.outline();
        for (double x = o.tip() + 0.01; x < o.end(); x += pitch) {
            add(part, x);
        }
        add(part, o.end() - 0.01);
    }

    /// What stands higher than `height` over the glue plane, in plan.
    Region above(double height) const {
        std::vector<Ring> runs;
        Ring low;
        Ring high;
        const auto close = [&] {
            if (!low.empty()) {
                // Half a pitch more at both ends, as the slices do not see where it begins.
                low.insert(low.begin(), low.front() - Vec2{pitch, 0});
                high.insert(high.begin(), high.front() - Vec2{pitch, 0});
                low.push_back(low.back() + Vec2{pitch, 0});
                high.push_back(high.back() + Vec2{pitch, 0});
                Ring ring = low;
                ring.insert(ring.end(), high.rbegin(), high.rend());
                runs.push_back(std::move(ring));
            }
            low.clear();
            high.clear();
        };
        for (const One& s : slices_) {
            int a = -1;
            int b = -1;
            for (int i = 0; i < samples; ++i) {
                if (s.depth[static_cast<std::size_t>(i)] > height) {
                    a = a < 0 ? i : a;
                    b = i;
                }
            }
            if (a < 0) {
                close();
                continue;
            }
            low.push_back({s.x, s.y[static_cast<std::size_t>(std::max(0, a - 1))]});
            high.push_back({s.x, s.y[static_cast<std::size_t>(std::min(samples - 1, b + 1))]});
        }
        close();
        return Region::unionOf(runs);
    }

private:
    static constexpr int samples = 81;
    struct One {
        double x;
        std::array<double, samples> y;
        std::array<double, samples> depth;
    };

    void add(const NeckPart& part, double x) {
        const auto wood = part.outline().across(x);
        if (wood[0] > wood[1]) {
            return;
        }
        const NeckBack::Slice s = part.back().slice(x);
        One one;
        one.x = x;
        const double middle = (wood[0] + wood[1]) / 2;
        const double half = (wood[1] - wood[0]) / 2;
        for (int i = 0; i < samples; ++i) {
            // Closer together toward the edges, where the section is steep.
            const double a = (2.0 * i / (samples - 1) - 1) * 1.5707963267948966;
            const auto k = static_cast<std::size_t>(i);
            one.y[k] = middle + half * std::sin(a);
            one.depth[k] = s.depth(one.y[k]);
        }
        slices_.push_back(one);
    }

    std::vector<One> slices_;
};

/// Fills a region at one level after the other with loops.
class LevelFiller {
public:
    LevelFiller(const NeckWork& work, const Feeds& feeds, double step, double bed)
        : work_(work), feeds_(feeds), step_(step), bed_(bed), path_({0, 0, work.clear()}) {}

    /// Region of the axis in setup X-Y; from the height of the level before down to `z`.
    void fill(const Region& axis, double above, double z) {
        std::vector<Ring> loops;
        for (Region r = axis; !r.empty();) {
            for (Ring& ring : r.rings()) {
                if (!work_.cut.climb) {
                    std::reverse(ring.begin(), ring.end());
                }
                loops.push_back(std::move(ring));
            }
            r = r.grownBy(-step_).simplified(coarse);
        }
        std::vector<bool> done(loops.size(), false);
        bool down = false;
        for (std::size_t n = 0; n < loops.size(); ++n) {
            const auto [which, at] = nearest(loops, done);
            done[which] = true;
            Ring ring = loops[which];
            std::rotate(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(at), ring.end());
            const Vec2 here = path_.at().xy();
            if (down && length(ring.front() - here) < 1.6 * step_ &&
                axis.covers(here, ring.front())) {
                path_.feed({ring.front().x, ring.front().y, bed_ + z}, feeds_.feed);
                goRound(ring, z);
            } else {
                if (down) {
                    path_.rapid({here.x, here.y, work_.clear()});
                }
                rampOnto(ring, above, z);
            }
            down = true;
        }
        if (down) {
            path_.rapid({path_.at().x, path_.at().y, work_.clear()});
        }
    }

    Path take() { return path_.take(); }

private:
    std::pair<std::size_t, std::size_t> nearest(const std::vector<Ring>& loops,
                                                const std::vector<bool>& done) const {
        const Vec2 here = path_.at().xy();
        double best = 1e18;
        std::pair<std::size_t, std::size_t> found{0, 0};
        for (std::size_t i = 0; i < loops.size(); ++i) {
            if (done[i]) {
                continue;
            }
            for (std::size_t k = 0; k < loops[i].size(); ++k) {
                const Vec2 v = loops[i][k] - here;
                const double d = dot(v, v);
                if (d < best) {
                    best = d;
                    found = {i, k};
                }
            }
        }
        return found;
    }

    /// Down a ramp along the loop itself, which is then gone round, the ramp's own wedge included.
    void rampOnto(const Ring& ring, double above, double z) {
        path_.travelTo(ring.front(), work_.clear(), bed_ + above + approachHeight);
        path_.feed({ring.front().x, ring.front().y, bed_ + above}, feeds_.plunge);
        const double wanted = (above - z) / rampSlope;
        double gone = 0;
        std::size_t i = 1;
        Vec2 last = ring.front();
        const double whole = lengthOf(ring);
        const double ramp = std::min(wanted, whole);
        for (;; ++i) {
            const Vec2 next = ring[i % ring.size()];
            const double l = length(next - last);
            if (gone + l >= ramp) {
                const Vec2 at = last + (next - last) * (l > 0 ? (ramp - gone) / l : 1);
                path_.feed({at.x, at.y, bed_ + z}, feeds_.feed);
                break;
            }
            gone += l;
            path_.feed({next.x, next.y, bed_ + above - (above - z) * gone / ramp}, feeds_.feed);
            last = next;
        }
        // On from here all the way round to where the ramp reached the level.
        const Vec2 foot = path_.at().xy();
        for (std::size_t k = 0; k < ring.size(); ++k) {
            const Vec2 p = ring[(i + k) % ring.size()];
            path_.feed({p.x, p.y, bed_ + z}, feeds_.feed);
        }
        path_.feed({foot.x, foot.y, bed_ + z}, feeds_.feed);
    }

    void goRound(const Ring& ring, double z) {
        for (std::size_t k = 1; k <= ring.size(); ++k) {
            const Vec2 p = ring[k % ring.size()];
            path_.feed({p.x, p.y, bed_ + z}, feeds_.feed);
        }
    }

    static double lengthOf(const Ring& ring) {
        double sum = 0;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            sum += length(ring[(i + 1) % ring.size()] - ring[i]);
        }
        return sum;
    }

    const NeckWork& work_;
    const Feeds& feeds_;
    double step_;
    double bed_;
    PathBuilder path_;
};

/// Where the axis would cut a tab's wood or the slopes the outline's laps climb it on.
Region roundTab(const NeckTab& tab, double r, double z, double trench) {
    const Vec2 u = tab.along * (tab.half + r + tab.top - z);
    const Vec2 v = Vec2{-tab.along.y, tab.along.x} * (trench + r);
    return Region(Ring{tab.at - u - v, tab.at + u - v, tab.at + u + v, tab.at - u + v});
}

/// Where a bit of radius r at that level meets wood below the level above and none of it lies in
/// front of the neck's own front, where the outline's laps go through.
Region woodBetween(const NeckWork& work, const Region& field, double above, double z, double r) {
    constexpr double wide = 1000;
    double low = wide;
    double high = -wide;
    for (const Ring& ring : field.rings()) {
        for (Vec2 p : ring) {
            low = std::min(low, p.x);
            high = std::max(high, p.x);
        }
    }
    std::vector<Ring> stretches;
    double from = wide;
    const auto close = [&](double to) {
        if (from < to) {
            stretches.push_back(
                {{from - r, -wide}, {to + r, -wide}, {to + r, wide}, {from - r, wide}});
        }
        from = wide;
    };
    for (double x = low - r; x <= high + r; x += pitch) {
        const WoodSpan wood = work.setup.woodAt(x);
        const bool cut = -wood.under > z && -wood.over < above && z >= -work.part.face(x);
        if (!cut) {
            close(x - pitch);
        } else if (from == wide) {
            from = x;
        }
    }
    close(high + r);
    return Region::unionOf(stretches);
}

Region laidRegion(const Region& instrument, const Setup& setup) {
    std::vector<Ring> outers;
    std::vector<Ring> holes;
    for (const Ring& ring : instrument.rings()) {
        double twice = 0;
        Ring out;
        for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
            twice += cross(ring[j], ring[i]);
            out.push_back(setup.fromInstrument.toSetup({ring[i].x, ring[i].y, 0}).xy());
        }
        (twice > 0 ? outers : holes).push_back(std::move(out));
    }
    return Region::unionOf(outers) - Region::unionOf(holes);
}

/// Heights over the glue plane, from the top down: even levels, and one on each level place of the
/// back, so that there only the stock to leave stands.
std::vector<double> roughLevels(const NeckPart& part, const NeckCut& cut,
                                const std::vector<NeckTab>& tabs, double top, double floor,
                                double perPass) {
    constexpr double tooThin = 0.3; // not worth a level of its own
    std::vector<double> stops{top, floor};
    const Neck& n = part.design();
    std::vector<double> planes{n.heelDepth + cut.stockToLeave};
    for (const NeckTab& tab : tabs) {
        planes.push_back(tab.top);
    }
    if (n.head.kind == HeadKind::flat) {
        planes.push_back(n.head.drop + n.head.thickness + cut.stockToLeave);
    }
    for (double z : planes) {
        if (std::all_of(stops.begin(), stops.end(),
                        [z](double s) { return std::abs(z - s) > tooThin; }) &&
            z < top && z > floor) {
            stops.push_back(z);
        }
    }
    std::sort(stops.rbegin(), stops.rend());
    std::vector<double> levels;
    for (std::size_t i = 1; i < stops.size(); ++i) {
        const double drop = stops[i - 1] - stops[i];
        const int count = levelsFor(drop, perPass);
        for (int k = 1; k <= count; ++k) {
            levels.push_back(stops[i - 1] - drop * k / count);
        }
    }
    return levels;
}

} // namespace

Path roughPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
               const Feeds& feeds, double trench) {
    const NeckPart& part = work.part;
    const double r = bit.radius();
    const Slices slices(part);
    const Region outline(Ring(pointsOf(part.outline().contour(), coarse)));
    const Region field = outline.grownBy(trench - r);
    const double bed = work.place({0, 0, 0}).z;
    const double top = work.setup.topZ() - bed;
    const double floor = roughFloor(part, work.cut);
    const std::vector<double> levels =
        roughLevels(part, work.cut, tabs, top, floor, feeds.depthPerPass);
    LevelFiller filler(work, feeds, bit.diameter * work.cut.roughStep / 100, bed);
    Region before;
    double above = top;
    for (std::size_t i = 0; i < levels.size(); ++i) {
        const double z = levels[i];
        const Region kept = slices.above(z - work.cut.stockToLeave);
        Region axis = (field - kept.grownBy(r + work.cut.stockToLeave)).simplified(coarse);
        for (const NeckTab& tab : tabs) {
            if (tab.top > z) {
                axis = axis - roundTab(tab, r, z, trench);
            }
        }
        if (i > 0) { // never where the level above has not been: its wood would stand in the way
            axis = axis & before;
        }
        before = axis;
        axis = axis & woodBetween(work, field, above, z, r);
        filler.fill(laidRegion(axis, work.setup), above, z);
        above = z;
    }
    return filler.take();
}

} // namespace wren
