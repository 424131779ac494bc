#include "cut/neck_paths.h"

#include "cut/hole_path.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double overRun = 1; ///< passes reach so far beyond what they cut, beside the bit's radius

/// On a carved face fret slots run out through the edge: the middle between the two next to x.
double betweenFrets(const NeckPart& part, int side, double x) {
    double before = -1e9;
    double after = 1e9;
    if (part.carved()) {
        for (const FretSlot& slot : part.carved()->slots()) {
            const double end = side > 0 ? slot.high.x : slot.low.x;
            (end <= x ? before : after) = end <= x ? std::max(before, end) : std::min(after, end);
        }
    }
    return before > -1e9 && after < 1e9 ? (before + after) / 2 : x;
}

} // namespace

bool NeckTab::under(Vec2 p, double radius) const {
    const Vec2 v = p - at;
    return std::abs(dot(v, along)) <= half + radius && std::abs(cross(along, v)) <= 2 * radius + 3;
}

double NeckWork::clear() const {
    return setup.topZ() + clearanceHeight;
}
double NeckWork::approach() const {
    return setup.topZ() + approachHeight;
}

namespace {

/// Y of the tab at the neck's end: its middle, or beside the pockets that run out there, where a
/// tab under their floor would hold nothing.
double endTabAt(const NeckPart& part, double half) {
    constexpr double inside = 1; // mm
    const double end = part.outline().end();
    const double middle = (part.outline().edge(1, end) + part.outline().edge(-1, end)) / 2;
    const double room =
        (part.outline().edge(1, end) - part.outline().edge(-1, end)) / 2 - half - inside;
    const auto hollow = [&](double y) {
        return std::any_of(part.pockets().begin(), part.pockets().end(), [&](const NeckPocket& p) {
            if (p.fromBack || p.kind == NeckPocketKind::ledge) {
                return false;
            }
            for (double dy = -half; dy <= half; dy += 0.5) {
                if (p.holds({end - inside, y + dy})) {
                    return true;
                }
            }
            return false;
        });
    };
    for (double aside = 0; aside <= room; aside += 0.5) {
        for (double y : {middle + aside, middle - aside}) {
            if (!hollow(y)) {
                return y;
            }
        }
    }
    return middle;
}

} // namespace

std::vector<NeckTab> neckTabs(const NeckPart& part, const NeckCut& cut) {
    std::vector<NeckTab> tabs;
    const NeckOutline& o = part.outline();
    const auto stand = [&](Vec2 at, Vec2 along) {
        tabs.push_back({at, along, cut.tabLength / 2, cut.tabHeight - part.frontAt(at)});
    };
    const double from = 12;
    const double to = o.heelStart() - 4;
    for (int side : {1, -1}) {
        for (int i = 0; i < cut.tabsPerSide; ++i) {
            const double x =
                betweenFrets(part, side, from + (to - from) * (i + 0.5) / cut.tabsPerSide);
            const Vec2 a{x, o.edge(side, x)};
            const Vec2 b{x + 1, o.edge(side, x + 1)};
            stand(a, (b - a) * (1 / length(b - a)));
        }
    }
    stand({o.end(), endTabAt(part, cut.tabLength / 2)}, {0, 1});
    // At the head: where the outline reaches furthest.
    for (const ContourPiece& piece : o.contour()) {
        for (double s : {0.0, 0.5, 1.0}) {
            const double along = s * piece.length();
            if (piece.at(along).x < o.tip() + 0.5) {
                stand(piece.at(along), piece.wayAt(along));
                return tabs;
            }
        }
    }
    for (const ContourPiece& piece : o.contour()) {
        const int n = std::max(1, static_cast<int>(piece.length()));
        for (int i = 0; i <= n; ++i) {
            const double along = piece.length() * i / n;
            if (piece.at(along).x < o.tip() + 0.2) {
                stand(piece.at(along), piece.wayAt(along));
                return tabs;
            }
        }
    }
    return tabs;
}

Contour laid(const Contour& instrument, const Setup& setup) {
    const auto lay = [&](Vec2 p) { return setup.fromInstrument.toSetup({p.x, p.y, 0}).xy(); };
    const Vec2 o = lay({0, 0});
    const bool mirrored = cross(lay({1, 0}) - o, lay({0, 1}) - o) < 0;
    Contour out;
    for (const ContourPiece& piece : instrument) {
        ContourPiece p = piece;
        p.from = lay(mirrored ? piece.to : piece.from);
        p.to = lay(mirrored ? piece.from : piece.to);
        p.centre = lay(piece.centre);
        out.push_back(p); // mirrored and walked the other way, an arc keeps its turn
    }
    if (mirrored) {
        std::reverse(out.begin(), out.end());
    }
    return out;
}

namespace {

/// Where the head's face has wood beside it, for a bit of radius r at x: low and high Y; low over
/// high where it has none.
std::array<double, 2> headSpan(const NeckPart& part, double x, double r) {
    double low = 1e9;
    double high = -1e9;
    for (double dx = -r - overRun; dx <= r + overRun; dx += 1) {
        const auto wood = part.outline().across(std::min(x + dx, part.outline().headStart()));
        if (wood[0] <= wood[1]) {
            low = std::min(low, wood[0]);
            high = std::max(high, wood[1]);
        }
    }
    return low > high ? std::array{low, high} : std::array{low - r - overRun, high + r + overRun};
}

/// The tip's height over a face that rises toward the nut, for any end: the highest contact under
/// it.
double tipOverFace(const NeckPart& part, double x, const EndShape& end) {
    double best = -1e9;
    constexpr int n = 240;
    for (int i = 0; i <= n; ++i) {
        const double d = end.radius * (2.0 * i / n - 1);
        const double at = std::min(x + d, part.outline().headStart());
        best = std::max(best, part.face(at) - end.heightAt(std::abs(at - x)));
    }
    return best;
}

} // namespace

Path headFacePath(const NeckWork& work, const Bit& bit, const Feeds& feeds) {
    const NeckPart& part = work.part;
    const EndShape end = EndShape::of(bit);
    const double r = bit.radius();
    const double start = part.outline().headStart();
    const double planeEnd = start - part.hollowLength();
    const bool tilted = part.design().head.kind == HeadKind::tilted;
    std::vector<double> xs;
    // From the tip toward the nut; close together where the face rises.
    const double wide = 0.8 * r;
    const double fine = 0.8;
    for (double x = part.outline().tip() - r / 2; x < start - r;) {
        xs.push_back(x);
        const bool rising = tilted || x + r + wide > planeEnd;
        x += rising ? fine : std::min(wide, std::max(fine, planeEnd - r - x));
    }
    const auto wanted = [&](double x) {
        const bool plane = !tilted && x + r <= planeEnd + 1e-9;
        return plane ? part.face(x) : tipOverFace(part, x, end) + work.cut.stockToLeave;
    };
    const double top = part.blankTop();
    double lowest = top;
    for (double x : xs) {
        lowest = std::min(lowest, wanted(x));
    }
    PathBuilder path({0, 0, work.clear()});
    const int levels = levelsFor(top - lowest, feeds.depthPerPass);
    for (int i = 1; i <= levels; ++i) {
        const double level = top + (lowest - top) * i / levels;
        const double above = top + (lowest - top) * (i - 1) / levels;
        bool up = false;
        bool first = true;
        for (double x : xs) {
            const double z = std::max(level, wanted(x));
            if (z > above - 1e-9) {
                continue; // done on the level before
            }
            const auto span = headSpan(part, x, r);
            if (span[0] > span[1]) {
                continue;
            }
            const Vec3 a = work.place({x, span[up ? 1 : 0], z});
            const Vec3 b = work.place({x, span[up ? 0 : 1], z});
            if (first) {
                path.travelTo(a.xy(), work.clear(), work.approach());
                path.feed(a, feeds.plunge);
                first = false;
            } else {
                path.feed({path.at().x, path.at().y, std::max(path.at().z, a.z)}, feeds.feed);
                path.feed({a.x, a.y, std::max(path.at().z, a.z)}, feeds.feed);
                path.feed(a, feeds.plunge);
            }
            path.feed(b, feeds.feed);
            up = !up;
        }
        path.rapid({path.at().x, path.at().y, work.clear()});
    }
    return path.take();
}

Path hollowPath(const NeckWork& work, const Bit& bit, const Feeds& feeds) {
    const NeckPart& part = work.part;
    const EndShape end = EndShape::of(bit);
    const double r = bit.radius();
    const double start = part.outline().headStart();
    const bool tilted = part.design().head.kind == HeadKind::tilted;
    const double from = tilted ? part.outline().tip() - r : start - part.hollowLength() - 0.5;
    // Contacts a step apart along the face, so that the ridges stay under the scallop.
    const double hollow = tilted ? 0 : 1 / part.design().head.curve;
    const double bend = std::max(1e-6, 1 / std::max(end.rounding, 0.1) - hollow);
    const double step = 0.95 * std::sqrt(8 * work.cut.scallop / bend);
    PathBuilder path({0, 0, work.clear()});
    bool up = false;
    bool first = true;
    double x = from;
    for (bool last = false; !last;) {
        last = x >= start;
        x = std::min(x, start);
        const double h = 1e-4;
        const double slope = (part.face(x - h) - part.face(x - 2 * h)) / h;
        const double l = std::sqrt(1 + slope * slope);
        // The contact's normal leans away from the nut.
        const double sine = slope / l;
        const double axis = x - end.flat * (slope > 0 ? 1 : 0) - end.rounding * sine;
        const double z = part.face(x) + end.rounding / l - end.rounding;
        const auto span = headSpan(part, axis, r);
        if (span[0] > span[1]) { // still beyond the tip
            x += step / l;
            continue;
        }
        const Vec3 a = work.place({axis, span[up ? 1 : 0], z});
        const Vec3 b = work.place({axis, span[up ? 0 : 1], z});
        if (first) {
            path.travelTo(a.xy(), work.clear(), work.approach());
            path.feed(a, feeds.plunge);
            first = false;
        } else {
            path.feed(a, feeds.feed);
        }
        path.feed(b, feeds.feed);
        up = !up;
        x += step / l;
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

namespace {

Bore boreOf(const NeckWork& work, const Hole& hole, const Bit& bit) {
    const Vec3 a = work.place({hole.at.x, hole.at.y, hole.top()});
    const Vec3 b = work.place({hole.at.x, hole.at.y, hole.end()});
    double bottom = std::min(a.z, b.z);
    if (hole.through) {
        bottom = std::max(bottom - work.cut.through - bit.tipHeight(),
                          work.setup.bottomZ() - work.spoilDepth);
    }
    return {a.xy(), std::max(a.z, b.z), bottom};
}

} // namespace

namespace {

std::vector<Bore> boresOf(const NeckWork& work, const std::vector<Hole>& holes, const Bit& bit) {
    std::vector<Bore> out;
    out.reserve(holes.size());
    for (const Hole& h : holes) {
        out.push_back(boreOf(work, h, bit));
    }
    return out;
}

} // namespace

Path drillPath(const NeckWork& work, const std::vector<Hole>& holes, const Bit& bit,
               const Feeds& feeds) {
    return drillPath({work.clear(), work.approach(), work.cut.peck}, boresOf(work, holes, bit),
                     feeds);
}

Path borePath(const NeckWork& work, const std::vector<Hole>& holes, const Bit& bit,
              const Feeds& feeds) {
    return borePath({work.clear(), work.approach(), work.cut.peck}, boresOf(work, holes, bit),
                    holes.front().diameter, bit, feeds);
}

Path notchPath(const NeckWork& work, Vec2 at, const Bit& bit, const Feeds& feeds) {
    constexpr double deep = 3;
    const double r = bit.radius();
    const Vec2 mouth = work.place({at.x, at.y - r - 2, 0}).xy();
    const Vec2 end = work.place({at.x, at.y + deep - r, 0}).xy();
    const WoodSpan wood = work.setup.woodAt(at.x);
    const double bottom = work.place({0, 0, (wood.under + wood.over) / 2}).z;
    return notchPath({work.clear(), work.approach(), work.cut.peck}, mouth, end,
                     work.setup.woodTop(at.x), bottom, feeds);
}

double roughFloor(const NeckPart& part, const NeckCut& cut) {
    return std::max(cut.tabHeight, part.design().shoulder) + cut.stockToLeave;
}

} // namespace wren
