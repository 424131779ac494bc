#include "cut/panel_paths.h"
#include "geom/inset.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double look = 2; ///< mm between places tried for a tab

/// The way inside a cut-out's wall, so far off it, that goes round its middle.
Contour wayInside(const Contour& wall, double off) {
    const std::vector<Contour> lines = inset({wall}, off);
    return *std::max_element(lines.begin(), lines.end(), [](const Contour& a, const Contour& b) {
        return areaOf(a) < areaOf(b);
    });
}

/// How far the far face falls where a tab stands on it, at most.
double fallRound(const FaceFall& fall, Vec2 at) {
    constexpr double round = 4;
    double most = 0;
    for (double y : {-round, 0.0, round}) {
        for (double x : {-round, 0.0, round}) {
            most = std::max(most, fall.drop(at + Vec2{x, y}));
        }
    }
    return most;
}

} // namespace

std::vector<PanelTab> plugTabs(const Panel& panel, const PanelPocket& pocket, const BodyCut& cut) {
    const Contour wall = counterClockwise(pocket.borders.front());
    const double whole = lengthOf(wall);
    const double tabLength = std::min(cut.tabLength, whole / (4 * std::max(1, cut.plugTabs)));
    const double tabHeight = std::min(cut.tabHeight, panel.thickness() / 2);
    const std::vector<Vec2> places = placesAlong(wall, look);
    const auto n = static_cast<int>(places.size()) - 1;
    const int reach = std::max(1, static_cast<int>(tabLength / 2 / look) + 2);
    const auto at = [&](int i) { return places[static_cast<std::size_t>((i % n + n) % n)]; };
    std::vector<PanelTab> tabs;
    for (int k = 0; k < cut.plugTabs; ++k) {
        // Round the middle of its share, where the wall bulges least off the tab's chord.
        const int middle = n * (2 * k + 1) / (2 * cut.plugTabs);
        int best = middle;
        double least = 1e9;
        for (int i = middle - n / cut.plugTabs / 4; i <= middle + n / cut.plugTabs / 4; ++i) {
            const double off = distanceToSegment(at(i), at(i - reach), at(i + reach)) +
                               0.002 * look * std::abs(i - middle);
            if (off < least) {
                least = off;
                best = i;
            }
        }
        tabs.push_back({at(best), tabLength / 2, tabHeight,
                        fallRound(panel.fall(!pocket.fromBack), at(best)), false});
    }
    return tabs;
}

Path plugPath(const PanelWork& work, const PanelPocket& pocket, const std::vector<PanelTab>& tabs,
              const Bit& bit, const Feeds& feeds) {
    const Contour wall = counterClockwise(laidBorder(pocket.borders.front(), work.setup));
    const PocketDepth d = depthOf(work, pocket);
    const double far = work.z(pocket.floor);
    const auto contourPass = [&](double off) {
        const Contour way = wayInside(wall, off);
        std::vector<TabStretch> stretches;
        for (const PanelTab& tab : tabs) {
            const double s =
                placeOn(way, work.setup.fromInstrument.toSetup({tab.at.x, tab.at.y, 0}).xy());
            stretches.push_back({s - tab.half - bit.radius(), s + tab.half + bit.radius(),
                                 far + tab.under + tab.height});
        }
        return ContourPass(way, stretches);
    };
    const ContourPasses job{contourPass(bit.radius() + work.cut.stockToLeave),
                            contourPass(bit.radius()),
                            d.top,
                            d.bottom,
                            work.clear(),
                            work.approach(),
                            40,
                            2};
    return contourPath(job, feeds);
}

} // namespace wren
