#include "cut/panel_paths.h"
#include "cut/settings.h"
#include "design/shape.h"
#include "geom/bands.h"
#include "geom/inset.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace wren {
namespace {

constexpr double sharedOverlap = 0.3; ///< the lower share goes so far past the parting
constexpr double look = 2;            ///< mm between places tried for a tab

/// The smallest radius the wall bends outward with, mm; 0 with a sharp corner.
double tightestBulge(const Contour& clockwiseWall) {
    return tightestHollow(reversed(clockwiseWall), 0);
}

} // namespace

double partingOf(const Panel& panel) {
    return (panel.top + panel.bottom) / 2;
}

std::vector<PanelTab> panelTabs(const Panel& panel, const BodyCut& cut) {
    std::vector<double> lengths;
    for (const ContourPiece& p : panel.outline) {
        lengths.push_back(p.length());
    }
    const double whole = std::accumulate(lengths.begin(), lengths.end(), 0.0);
    const double free =
        std::accumulate(lengths.begin(), lengths.end() - std::ptrdiff_t(panel.mating), 0.0);
    const auto at = [&](double s) {
        s = std::fmod(s + whole, whole);
        for (std::size_t i = 0; i < lengths.size(); ++i) {
            if (s <= lengths[i]) {
                return panel.outline[i].at(s);
            }
            s -= lengths[i];
        }
        return panel.outline.back().to;
    };
    // Small parts get short tabs, thin ones low ones.
    const double tabLength = std::min(cut.tabLength, whole / (4 * std::max(1, cut.tabs)));
    const double tabHeight = std::min(cut.tabHeight, panel.thickness() / 2);
    std::vector<Bands> pockets;
    for (const PanelPocket& p : panel.pockets) {
        pockets.emplace_back(polygonsOf(p.borders));
    }
    // How far the outline bulges off the chord over a tab's length, and whether a pocket runs out.
    const auto harm = [&](double s) {
        const double half = tabLength / 2 + 6;
        const Vec2 a = at(s - half);
        const Vec2 b = at(s + half);
        double off = distanceToSegment(at(s), a, b);
        const Vec2 here = at(s);
        for (std::size_t i = 0; i < pockets.size(); ++i) {
            if (distanceTo(panel.pockets[i].borders.front(), here) < tabLength ||
                pockets[i].holds(here)) {
                off += 100;
            }
        }
        off += panel.frontFall.slopeDrop(here) + panel.backFall.slopeDrop(here);
        return off;
    };
    std::vector<PanelTab> tabs;
    for (int i = 0; i < cut.tabs; ++i) {
        const double middle = free * (i + 0.5) / cut.tabs;
        const double reach = free / cut.tabs / 4;
        double best = 1e9;
        double place = middle;
        for (double s = middle - reach; s <= middle + reach; s += look) {
            const double h = harm(s) + 0.002 * std::abs(s - middle);
            if (h < best) {
                best = h;
                place = s;
            }
        }
        tabs.push_back({at(place), tabLength / 2, tabHeight, 0, false});
    }
    return tabs;
}

std::vector<PanelTab> earTabs(const Panel& panel, const SawnOutside& sawn) {
    std::vector<PanelTab> out;
    for (const SawnEar& e : sawn.ears) {
        out.push_back({e.at, SawnOutside::half, panel.thickness() / 2, 0, true});
    }
    return out;
}

Path panelGuidePath(const PanelWork& work, const Bit& bit, const Feeds& feeds) {
    const std::vector<Contour> lines =
        inset({laidBorder(clockwise(work.panel.outline), work.setup)},
              bit.radius() + work.cut.stockToLeave);
    const ContourPass contourPass(
        *std::max_element(lines.begin(), lines.end(),
                          [](const Contour& a, const Contour& b) { return areaOf(a) < areaOf(b); }),
        {});
    const double top = work.setup.topZ() - work.setup.faced;
    return contourPath({contourPass, std::nullopt, top, top - work.cut.guideDepth, work.clear(),
                        work.approach(), 40, 0},
                       feeds);
}

Path panelOutlinePath(const PanelWork& work, const std::vector<PanelTab>& tabs, const Bit& bit,
                      const Feeds& feeds, EdgeShare share) {
    const Contour wallLine = laidBorder(clockwise(work.panel.outline), work.setup);
    const double parting = work.z(partingOf(work.panel));
    const double far = work.setup.bottomZ();
    double bottom = far - work.cut.through - bit.tipHeight();
    double tabFoot = far;
    if (share == EdgeShare::upper) {
        bottom = parting;
        tabFoot = parting;
    } else if (share == EdgeShare::lower) {
        bottom = parting - sharedOverlap;
        tabFoot = parting;
    }
    const auto contourPass = [&](double standOff) {
        const std::vector<Contour> lines = inset({wallLine}, standOff);
        const Contour line =
            *std::max_element(lines.begin(), lines.end(), [](const Contour& a, const Contour& b) {
                return areaOf(a) < areaOf(b);
            });
        std::vector<TabStretch> stretches;
        for (const PanelTab& tab : tabs) {
            const double s =
                placeOn(line, work.setup.fromInstrument.toSetup({tab.at.x, tab.at.y, 0}).xy());
            const double lift = share == EdgeShare::whole ? tab.under : 0;
            stretches.push_back(
                {s - tab.half - bit.radius(), s + tab.half + bit.radius(),
                 tab.ear ? work.setup.topZ() + approachHeight
                         : tabFoot + lift + (share == EdgeShare::upper ? 0 : tab.height)});
        }
        return ContourPass(line, stretches);
    };
    ContourPasses job{contourPass(bit.radius() + work.cut.stockToLeave),
                      work.cut.stockToLeave > 0 ? std::optional(contourPass(bit.radius()))
                                                : std::nullopt,
                      work.setup.topZ() - work.setup.faced,
                      bottom,
                      work.clear(),
                      work.approach(),
                      40,
                      leadOver(tightestBulge(wallLine) + bit.radius(), work.cut.stockToLeave)};
    return contourPath(job, feeds);
}

Path panelNotchPath(const PanelWork& work, Vec2 at, double bottom, const Bit& bit,
                    const Feeds& feeds) {
    constexpr double deep = 3;
    const auto lay = [&](double dy) {
        return work.setup.fromInstrument.toSetup({at.x, at.y + dy, 0}).xy();
    };
    const Vec2 mouth = lay(-bit.radius() - 2);
    const Vec2 end = lay(deep - bit.radius());
    const double top = work.setup.topZ() - work.setup.faced;
    return notchPath({work.clear(), work.approach(), 0}, mouth, end, top, bottom, feeds);
}

std::vector<Bore> boresOf(const PanelWork& work, const std::vector<Hole>& holes, const Bit& bit) {
    std::vector<Bore> out;
    for (const Hole& h : holes) {
        const Vec3 a = work.setup.fromInstrument.toSetup({h.at.x, h.at.y, h.mouth});
        double bottom = work.z(h.floor);
        if (h.through) {
            bottom = std::max(bottom - work.cut.through - bit.tipHeight(),
                              work.setup.bottomZ() - work.spoilDepth);
        }
        out.push_back({a.xy(), a.z, bottom});
    }
    return out;
}

} // namespace wren
