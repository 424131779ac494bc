#include "cut/panel_paths.h"
#include "cut/settings.h"
#include "geom/inset.h"
#include "geom/stroke_grid.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

constexpr double steepest = 0.12;  ///< rise over run of an entry's ramp
constexpr double longestRamp = 60; ///< mm of it
constexpr double lead = 3;         ///< mm along a wall over which its lap comes on and goes off
constexpr double slack = 1e-4;

/// One ring of a pocket and what lies inside it.
struct PocketRing {
    Contour way;
    int parent = -1; ///< the next one outward
    std::vector<int> inner;
};

/// All rings from the wall inward, each tied to the one it was drawn in from.
std::vector<PocketRing> ringsOf(const std::vector<Contour>& borders, double first, double step) {
    std::vector<PocketRing> out;
    std::vector<int> last;
    std::vector<Contour> now = inset(borders, first);
    for (int i = 0; !now.empty() && i < 2000; ++i) {
        std::vector<int> here;
        for (const Contour& c : now) {
            PocketRing ring{c, -1, {}};
            double best = std::numeric_limits<double>::infinity();
            for (int k : last) {
                const double d = distanceTo(out[std::size_t(k)].way, c.front().from);
                if (d < best) {
                    best = d;
                    ring.parent = k;
                }
            }
            const int index = static_cast<int>(out.size());
            if (ring.parent >= 0) {
                out[std::size_t(ring.parent)].inner.push_back(index);
            }
            here.push_back(index);
            out.push_back(std::move(ring));
        }
        last = here;
        now = inset(now, step);
    }
    return out;
}

/// The same ring begun at its place nearest to `p`.
Contour begunNear(const Contour& ring, Vec2 p) {
    std::size_t piece = 0;
    double at = 0;
    double best = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const double l = ring[i].length();
        const int n = std::max(1, static_cast<int>(l / 2));
        for (int k = 0; k < n; ++k) {
            const double d = length(ring[i].at(l * k / n) - p);
            if (d < best) {
                best = d;
                piece = i;
                at = l * k / n;
            }
        }
    }
    Contour out;
    ContourPiece tail = ring[piece];
    ContourPiece head = tail;
    tail.from = tail.at(at);
    head.to = tail.from;
    out.push_back(tail);
    for (std::size_t i = 1; i < ring.size(); ++i) {
        out.push_back(ring[(piece + i) % ring.size()]);
    }
    if (at > 0) {
        out.push_back(head);
    }
    return out;
}

/// Where the bit may stand, for telling whether a straight way between rings is free.
class Room {
public:
    Room(const std::vector<Contour>& borders, double distance) : distance_(distance) {
        for (const Contour& c : borders) {
            for (const ContourPiece& p : c) {
                strokes_.emplace_back(p);
            }
        }
        grid_.emplace(strokes_);
    }
    bool free(Vec2 a, Vec2 b) const {
        const int n = std::max(1, static_cast<int>(length(b - a) / 0.5));
        for (int i = 0; i <= n; ++i) {
            if (grid_->closer(a + (b - a) * (double(i) / n), distance_ - slack)) {
                return false;
            }
        }
        return true;
    }

private:
    double distance_;
    std::vector<Stroke> strokes_;
    std::optional<StrokeGrid> grid_;
};

/// Cuts one level of a pocket's rings, from the innermost outward.
class Level {
public:
    Level(PathBuilder& path, const std::vector<PocketRing>& rings, const Room& room,
          const PanelWork& work, const Feeds& feeds, double from, double to,
          ContourPass::Floor floor)
        : path_(path), rings_(rings), room_(room), work_(work), feeds_(feeds), from_(from), to_(to),
          floor_(std::move(floor)) {}

    void cut() {
        for (std::size_t i = 0; i < rings_.size(); ++i) {
            if (rings_[i].parent < 0) {
                visit(static_cast<int>(i));
            }
        }
    }

private:
    void visit(int index) {
        const PocketRing& ring = rings_[std::size_t(index)];
        for (int inner : ring.inner) {
            visit(inner);
        }
        go(ring, !ring.inner.empty());
    }

    /// Round one ring: straight on from the one inside it when nothing stands between, else down
    /// into the wood anew.
    void go(const PocketRing& ring, bool fromInner) {
        const Contour way = begunNear(ring.way, path_.at().xy());
        const ContourPass contourPass(way, {}, floor_);
        const Vec2 start = way.front().from;
        const double z = contourPass.overTabs(0, to_);
        if (fromInner && room_.free(path_.at().xy(), start)) {
            path_.feed({start.x, start.y, std::max(z, path_.at().z)}, feeds_.feed);
            path_.feed({start.x, start.y, z}, feeds_.feed);
            contourPass.run(path_, 0, contourPass.whole(), to_, to_, feeds_);
            return;
        }
        enter(contourPass, start);
    }

    void enter(const ContourPass& contourPass, Vec2 start) {
        const double above = contourPass.overTabs(0, from_);
        path_.rapid({path_.at().x, path_.at().y, work_.clear()});
        path_.rapid({start.x, start.y, work_.clear()});
        path_.rapid({start.x, start.y, above + approachHeight});
        path_.feed({start.x, start.y, above}, feeds_.plunge);
        const double whole = contourPass.whole();
        double z = from_;
        double s = 0;
        while (z > to_ + 1e-9) {
            // As far as one turn goes; a small ring is wound down in several.
            const double run = std::min(whole - s, longestRamp);
            const double next = std::max(to_, z - run * steepest);
            const double used = (z - next) / steepest;
            contourPass.run(path_, s, s + std::min(run, used), z, next, feeds_);
            s += std::min(run, used);
            if (s >= whole - 1e-9) {
                s = 0;
            }
            z = next;
        }
        if (s > 1e-9) {
            contourPass.run(path_, s, whole, to_, to_, feeds_);
        }
        contourPass.run(path_, 0, whole, to_, to_, feeds_);
    }

    PathBuilder& path_;
    const std::vector<PocketRing>& rings_;
    const Room& room_;
    const PanelWork& work_;
    const Feeds& feeds_;
    double from_, to_;
    ContourPass::Floor floor_;
};

std::vector<Contour> laidBorders(const PanelPocket& pocket, const Setup& setup) {
    std::vector<Contour> out;
    for (const Contour& c : pocket.borders) {
        out.push_back(laidBorder(c, setup));
    }
    return out;
}

/// The lowest a level end of that radius may stand over a sloping floor.
ContourPass::Floor floorUnder(const PocketDepth& d, double radius, double stock) {
    if (d.slope == 0) {
        return {};
    }
    return [=](Vec2 at) { return d.floorAt(at.x) + std::abs(d.slope) * radius + stock; };
}

} // namespace

double PanelWork::clear() const {
    return setup.topZ() + clearanceHeight;
}
double PanelWork::approach() const {
    return setup.topZ() - setup.faced + approachHeight;
}

Contour laidBorder(const Contour& border, const Setup& setup) {
    using Kind = ContourPiece::Kind;
    const auto lay = [&](Vec2 p) { return setup.fromInstrument.toSetup({p.x, p.y, 0}).xy(); };
    const Vec2 u = lay({1, 0}) - lay({0, 0});
    const Vec2 v = lay({0, 1}) - lay({0, 0});
    const bool mirrored = cross(u, v) < 0;
    Contour out;
    for (ContourPiece p : border) {
        p.from = lay(p.from);
        p.to = lay(p.to);
        if (p.isArc()) {
            p.centre = lay(p.centre);
            if (mirrored) {
                p.kind = p.kind == Kind::arcClockwise ? Kind::arcCounter : Kind::arcClockwise;
            }
        }
        out.push_back(p);
    }
    return mirrored ? reversed(out) : out;
}

PocketDepth depthOf(const PanelWork& work, const PanelPocket& pocket) {
    PocketDepth d;
    d.top = work.z(pocket.mouth);
    const SetupFromInstrument& f = work.setup.fromInstrument;
    const Vec3 a = f.toSetup({pocket.levelAt, 0, pocket.floor});
    const Vec3 b = f.toSetup({pocket.levelAt + 1, 0, pocket.floor + pocket.slope});
    d.level = a.z;
    d.levelAt = a.x;
    d.slope = (b.z - a.z) / (b.x - a.x);
    if (pocket.through) {
        d.level = std::max(a.z - work.cut.through, work.setup.bottomZ() - work.spoilDepth);
    }
    d.bottom = std::numeric_limits<double>::infinity();
    for (const ContourPiece& p : pocket.borders.front()) {
        d.bottom = std::min(d.bottom, d.floorAt(f.toSetup({p.from.x, p.from.y, 0}).x));
    }
    return d;
}

Path clearPocketPath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
                     const Feeds& feeds) {
    const std::vector<Contour> borders = laidBorders(pocket, work.setup);
    const double off = bit.radius() + work.cut.stockToLeave;
    const std::vector<PocketRing> rings =
        ringsOf(borders, off, bit.diameter * work.cut.stepover / 100);
    PathBuilder path({0, 0, work.clear()});
    if (rings.empty()) {
        return {};
    }
    const PocketDepth d = depthOf(work, pocket);
    const Room room(borders, off);
    const double last = d.slope == 0 && !pocket.through ? work.cut.floorStock : 0;
    const double rough = d.top - d.bottom - last;
    const int levels = rough > 0 ? levelsFor(rough, feeds.depthPerPass) : 0;
    const ContourPass::Floor floor = floorUnder(d, bit.radius(), work.cut.stockToLeave);
    double z = d.top;
    for (int i = 1; i <= levels + (last > 0 ? 1 : 0); ++i) {
        const double next = i <= levels ? d.top - rough * i / levels : d.bottom;
        Level(path, rings, room, work, feeds, z, next, floor).cut();
        z = next;
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

Path pocketWallPath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
                    const Feeds& feeds, bool inLevels) {
    const std::vector<Contour> borders = laidBorders(pocket, work.setup);
    const PocketDepth d = depthOf(work, pocket);
    const ContourPass::Floor floor = floorUnder(d, bit.radius(), 0);
    const Room room(borders, bit.radius());
    PathBuilder path({0, 0, work.clear()});
    for (const Contour& ring : inset(borders, bit.radius())) {
        const Contour way = begunNear(ring, path.at().xy());
        const ContourPass contourPass(way, {}, floor);
        const double whole = contourPass.whole();
        const double length = std::min(lead, whole / 4);
        // On and off from where the wall's stock has been left standing off.
        const auto beside = [&](double s) {
            const Vec2 at = contourPass.at(s);
            const Vec2 on = contourPass.at(std::fmod(s + 0.01, whole));
            return at + leftOf(unit(on - at)) * (2 * work.cut.stockToLeave);
        };
        const auto usable = [&](Vec2 p, Vec2 q) { return room.free(p, q) ? p : q; };
        const Vec2 first = contourPass.at(0);
        const Vec2 on = usable(beside(whole - length), first);
        const Vec2 off = usable(beside(length), contourPass.at(length));
        path.rapid({path.at().x, path.at().y, work.clear()});
        path.rapid({on.x, on.y, work.clear()});
        path.rapid({on.x, on.y, d.top + approachHeight});
        path.feed({on.x, on.y, std::max(contourPass.overTabs(0, d.top), d.top)}, feeds.plunge);
        double z = d.top;
        if (!inLevels) { // down where the rings have been
            z = d.bottom;
            path.feed({on.x, on.y, contourPass.overTabs(0, z)}, feeds.plunge);
        }
        path.feed({first.x, first.y, contourPass.overTabs(0, z)}, feeds.feed);
        while (z > d.bottom + 1e-9) { // a turn down, as steep as a ramp, as deep as a pass
            const double fall = std::min(feeds.depthPerPass, steepest * whole);
            const double next = std::max(d.bottom, z - fall);
            contourPass.run(path, 0, whole, z, next, feeds);
            z = next;
        }
        contourPass.run(path, 0, whole, z, z, feeds);
        contourPass.run(path, 0, length, z, z, feeds);
        path.feed({off.x, off.y, std::max(path.at().z, contourPass.overTabs(length, z))},
                  feeds.feed);
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

Path slopePath(const PanelWork& work, const PanelPocket& pocket, const Bit& bit,
               const Feeds& feeds) {
    const PocketDepth d = depthOf(work, pocket);
    const std::vector<Contour> rings = inset(laidBorders(pocket, work.setup), bit.radius());
    PathBuilder path({0, 0, work.clear()});
    if (d.slope == 0 || rings.empty()) {
        return {};
    }
    std::vector<std::vector<Vec2>> polygons;
    std::array<double, 2> reach{1e9, -1e9};
    for (const Contour& c : rings) {
        polygons.push_back(pointsOf(c, 0.005));
        for (Vec2 p : polygons.back()) {
            reach = {std::min(reach[0], p.x), std::max(reach[1], p.x)};
        }
    }
    const double step = std::min(bit.radius(), work.cut.scallop / std::abs(d.slope));
    const int lines = std::max(1, static_cast<int>(std::ceil((reach[1] - reach[0]) / step)));
    // From the top of the slope down: the trailing rim never meets wood that is yet to be cut.
    bool up = false;
    bool first = true;
    constexpr double within = 0.002;
    for (int i = 0; i <= lines; ++i) {
        const double share = d.slope > 0 ? 1 - double(i) / lines : double(i) / lines;
        const double x = std::clamp(reach[0] + (reach[1] - reach[0]) * share, reach[0] + within,
                                    reach[1] - within);
        std::vector<double> ys;
        for (const auto& polygon : polygons) {
            for (std::size_t k = 0, j = polygon.size() - 1; k < polygon.size(); j = k++) {
                const Vec2 a = polygon[j];
                const Vec2 b = polygon[k];
                if ((a.x > x) != (b.x > x)) {
                    ys.push_back(a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x));
                }
            }
        }
        std::sort(ys.begin(), ys.end());
        const double z = d.floorAt(x) + std::abs(d.slope) * bit.radius();
        for (std::size_t k = 0; k + 1 < ys.size(); k += 2) {
            const Vec3 a{x, up ? ys[k] : ys[k + 1], z};
            const Vec3 b{x, up ? ys[k + 1] : ys[k], z};
            if (first || ys.size() > 2) {
                path.rapid({path.at().x, path.at().y, work.clear()});
                path.rapid({a.x, a.y, work.clear()});
                path.rapid({a.x, a.y, d.top + approachHeight});
                path.feed(a, feeds.plunge);
                first = false;
            } else {
                path.feed({path.at().x, path.at().y, std::max(path.at().z, a.z)}, feeds.feed);
                path.feed(a, feeds.feed);
            }
            path.feed(b, feeds.feed);
        }
        up = !up;
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

} // namespace wren
