#include "cut/outline_cut.h"

#include "base/error.h"
#include "base/length.h"
#include "cut/contour_pass.h"
#include "geom/contour.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double clearOfFret = 1; ///< mm between a tab's foot and the nearest slot

Contour cutterContour(const BoardPart& board, const Setup& setup, double standOff) {
    Contour outline = board.outline();
    for (ContourPiece& piece : outline) {
        const auto lay = [&](Vec2 p) { return setup.fromInstrument.toSetup({p.x, p.y, 0}).xy(); };
        piece.from = lay(piece.from);
        piece.to = lay(piece.to);
        piece.centre = lay(piece.centre);
    }
    return offsetOutward(outline, standOff);
}

/// Where the axis must stay up so that `length` of wood is left between the bit's two flanks.
TabStretch stretchOf(const Tab& tab, const BoardPart& board, const Setup& setup, const Bit& bit,
                     const CutSettings& cut, const Contour& contour) {
    // Long edges are pieces 0 (+Y, toward the bridge) and 4 (-Y, toward the head).
    const ContourPiece& edge = contour[tab.side > 0 ? 0 : 4];
    const double before = tab.side > 0 ? 0 : lengthOf({contour.begin(), contour.begin() + 4});
    const Vec2 foot = setup.fromInstrument.toSetup({tab.x, board.edge(tab.side, tab.x), 0}).xy();
    const Vec2 along = edge.to - edge.from;
    const double s = before + dot(foot - edge.from, along) / length(along);
    const double half = tab.length / 2 + bit.radius();
    return {s - half, s + half, setup.bottomZ() + cut.tabHeight};
}

ContourPass contourPassFor(const Contour& contour, const BoardPart& board, const Setup& setup,
                           const Bit& bit, const CutSettings& cut, const std::vector<Tab>& tabs) {
    std::vector<TabStretch> stretches;
    stretches.reserve(tabs.size());
    for (const Tab& tab : tabs) {
        stretches.push_back(stretchOf(tab, board, setup, bit, cut, contour));
    }
    return ContourPass(contour, stretches);
}

/// The stretches of a long edge that markers wrapping over it take.
std::vector<std::pair<double, double>> wrapsOnEdge(const BoardPart& board, int side) {
    std::vector<std::pair<double, double>> wraps;
    for (const MarkerPocket& pocket : board.pockets()) {
        if (board.design().markers.shape == MarkerShape::wrap && pocket.place.at.y * side > 0) {
            const double half = board.design().markers.size / 2 + pocket.beyond;
            wraps.emplace_back(pocket.place.at.x - half, pocket.place.at.x + half);
        }
    }
    return wraps;
}

bool inWrap(double x, const std::vector<std::pair<double, double>>& wraps) {
    return std::any_of(wraps.begin(), wraps.end(),
                       [x](const auto& w) { return x > w.first && x < w.second; });
}

/// Where slots, wrapping markers and corners meet a long edge, in order along X.
std::vector<double> marksOnEdge(const BoardPart& board, int side) {
    const ContourPiece& edge = board.outline()[side > 0 ? 0 : 2];
    std::vector<double> marks{std::min(edge.from.x, edge.to.x)};
    for (const FretSlot& slot : board.slots()) {
        marks.push_back(side > 0 ? slot.high.x : slot.low.x);
    }
    for (const auto& [from, to] : wrapsOnEdge(board, side)) {
        marks.insert(marks.end(), {from, to});
    }
    marks.push_back(std::max(edge.from.x, edge.to.x));
    std::sort(marks.begin(), marks.end());
    return marks;
}

/// Half of what a tab needs along the edge: its top, the 45 degree slopes on both sides, and a
/// slot's half width.
double halfFoot(const BoardPart& board, const CutSettings& cut) {
    return cut.tabLength / 2 + cut.tabHeight + cut.through + board.design().slotWidth / 2 +
           clearOfFret;
}

} // namespace

TabRoom roomOf(const Tab& tab, const BoardPart& board, const CutSettings& cut) {
    const std::vector<double> marks = marksOnEdge(board, tab.side);
    double nearest = std::numeric_limits<double>::infinity();
    for (double m : marks) {
        nearest = std::min(nearest, std::abs(m - tab.x));
    }
    const bool onEdge = tab.x > marks.front() && tab.x < marks.back() &&
                        !inWrap(tab.x, wrapsOnEdge(board, tab.side));
    return {onEdge ? nearest : 0, halfFoot(board, cut)};
}

std::vector<Tab> placeTabs(const BoardPart& board, const CutSettings& cut) {
    std::vector<Tab> tabs;
    const int bass = board.design().hand == Hand::right ? -1 : 1;
    if (!cut.tabPlaces.empty()) {
        for (const TabPlace& placed : cut.tabPlaces) {
            tabs.push_back({placed.at, placed.bass ? bass : -bass, cut.tabLength});
        }
        return tabs;
    }
    for (int side : {1, -1}) {
        const std::vector<double> marks = marksOnEdge(board, side);
        const auto wraps = wrapsOnEdge(board, side);
        std::vector<double> middles;
        const double needed = 2 * halfFoot(board, cut);
        for (std::size_t i = 0; i + 1 < marks.size(); ++i) {
            const double gap = marks[i + 1] - marks[i];
            // A long gap, as on a board without frets, holds several.
            const int parts = std::max(1, static_cast<int>(gap / (3 * needed)));
            for (int k = 0; gap >= needed && k < parts; ++k) {
                const double middle = marks[i] + gap * (k + 0.5) / parts;
                if (!inWrap(middle, wraps)) {
                    middles.push_back(middle);
                }
            }
        }
        for (int i = 0; i < cut.tabsPerSide && !middles.empty(); ++i) {
            const double wanted =
                marks.front() + (marks.back() - marks.front()) * (i + 0.5) / cut.tabsPerSide;
            const auto nearest =
                std::min_element(middles.begin(), middles.end(), [&](double a, double b) {
                    return std::abs(a - wanted) < std::abs(b - wanted);
                });
            tabs.push_back({*nearest, side, cut.tabLength});
            middles.erase(nearest);
        }
    }
    return tabs;
}

Path outlinePath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                 const CutSettings& cut, const std::vector<Tab>& tabs) {
    const Contour channel = cutterContour(board, setup, bit.radius() + cut.wallStock);
    const Contour wall = cutterContour(board, setup, bit.radius());
    ContourPasses job{contourPassFor(channel, board, setup, bit, cut, tabs),
                      cut.wallStock > 0
                          ? std::optional(contourPassFor(wall, board, setup, bit, cut, tabs))
                          : std::nullopt,
                      setup.bottomZ() + setup.facedTop(),
                      setup.bottomZ() - bit.tipHeight() - cut.through,
                      setup.topZ() + clearanceHeight,
                      setup.topZ() + approachHeight,
                      channel[0].length() / 2};
    return contourPath(job, feeds);
}

} // namespace wren
