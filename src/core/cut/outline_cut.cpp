#include "cut/outline_cut.h"

#include "base/error.h"
#include "base/length.h"
#include "cut/path_builder.h"
#include "geom/contour.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double rampLength = 40; ///< mm along the edge for one pass's descent
constexpr double clearOfFret = 1; ///< mm between a tab's foot and the nearest slot
constexpr double leadLength =
    5; ///< mm along the edge over which the last lap comes on and goes off

/// Heights along the closed contour: `s` mm from its start.
struct TabStretch {
    double from, to; ///< the cutter's axis stands at tab height between these
};

class Lapper {
public:
    Lapper(const Contour& contour, std::vector<TabStretch> tabs, double tabTop)
        : contour_(contour), whole_(lengthOf(contour)), tabs_(std::move(tabs)), tabTop_(tabTop) {}

    double whole() const { return whole_; }

    /// The lowest the tip may stand at `s` when the pass wants `z`: up and down a tab at 45
    /// degrees.
    double overTabs(double s, double z) const {
        double out = z;
        for (const TabStretch& t : tabs_) {
            for (double turn : {-whole_, 0.0, whole_}) {
                const double outside = std::max({t.from + turn - s, s - t.to - turn, 0.0});
                out = std::max(out, tabTop_ - outside);
            }
        }
        return out;
    }

    /// From s0 to s1, both within one turn, with the wanted height falling from z0 to z1.
    void run(PathBuilder& path, double s0, double s1, double z0, double z1, double feed) const {
        const auto wanted = [&](double s) {
            return z0 + (z1 - z0) * (s1 > s0 ? (s - s0) / (s1 - s0) : 1);
        };
        std::vector<double> stops = pieceEnds(s0, s1);
        for (const TabStretch& t : tabs_) {
            for (double turn : {-whole_, 0.0, whole_}) {
                const double slope = tabTop_ - std::min(z0, z1);
                if (slope > 0) {
                    // The slope's foot moves while the pass still ramps; both ends cover it.
                    for (double foot : {0.0, tabTop_ - wanted(t.from + turn), slope}) {
                        stops.push_back(t.from + turn - std::max(0.0, foot));
                        stops.push_back(t.to + turn + std::max(0.0, foot));
                    }
                }
            }
        }
        std::sort(stops.begin(), stops.end());
        for (double s : stops) {
            if (s > s0 + 1e-9 && s <= s1 + 1e-9) {
                step(path, std::min(s, s1), overTabs(s, wanted(s)), feed);
            }
        }
    }

    Vec2 at(double s) const { return locate(s).second; }

private:
    std::vector<double> pieceEnds(double s0, double s1) const {
        std::vector<double> stops{s1};
        double s = 0;
        for (const ContourPiece& piece : contour_) {
            s += piece.length();
            if (s > s0 && s < s1) {
                stops.push_back(s);
            }
        }
        return stops;
    }

    /// The piece that holds `s` (its end belongs to it) and the point there.
    std::pair<const ContourPiece*, Vec2> locate(double s) const {
        double rest = std::fmod(s, whole_);
        if (rest < 1e-9 && s > 1e-9) {
            rest += whole_;
        }
        for (const ContourPiece& piece : contour_) {
            const double l = piece.length();
            if (rest <= l + 1e-9) {
                return {&piece, piece.at(rest)};
            }
            rest -= l;
        }
        return {&contour_.back(), contour_.back().to};
    }

    void step(PathBuilder& path, double s, double z, double feed) const {
        const auto [piece, p] = locate(s);
        const Vec3 to{p.x, p.y, z};
        if (piece->kind == ContourPiece::Kind::arcClockwise) {
            path.clockwise(to, piece->centre, feed);
        } else {
            path.feed(to, feed);
        }
    }

    const Contour& contour_;
    double whole_;
    std::vector<TabStretch> tabs_;
    double tabTop_;
};

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
                     const Contour& contour) {
    // Long edges are pieces 0 (+Y, toward the bridge) and 4 (-Y, toward the head).
    const ContourPiece& edge = contour[tab.side > 0 ? 0 : 4];
    const double before = tab.side > 0 ? 0 : lengthOf({contour.begin(), contour.begin() + 4});
    const Vec2 foot = setup.fromInstrument.toSetup({tab.x, board.edge(tab.side, tab.x), 0}).xy();
    const Vec2 along = edge.to - edge.from;
    const double s = before + dot(foot - edge.from, along) / length(along);
    const double half = tab.length / 2 + bit.radius();
    return {s - half, s + half};
}

Lapper lapperFor(const Contour& contour, const BoardPart& board, const Setup& setup, const Bit& bit,
                 const CutSettings& cut, const std::vector<Tab>& tabs) {
    std::vector<TabStretch> stretches;
    for (const Tab& tab : tabs) {
        stretches.push_back(stretchOf(tab, board, setup, bit, contour));
    }
    return Lapper(contour, stretches, setup.bottomZ() + cut.tabHeight);
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

std::vector<TabWish> tabWishes(const std::string& text) {
    std::vector<TabWish> wishes;
    std::istringstream in(text);
    for (std::string word; in >> word;) {
        const char edge = word.front();
        if (edge != 'b' && edge != 't') {
            throw Error(fmt::format("\"{}\" is not a tab; b or t for the bass or treble edge and "
                                    "a distance from the nut were expected, as in b60.",
                                    word));
        }
        wishes.push_back({edge == 'b', parseLength(word.substr(1), LengthUnit::mm)});
    }
    return wishes;
}

std::string tabWishesText(const std::vector<TabWish>& wishes) {
    std::string text;
    for (const TabWish& w : wishes) {
        text += fmt::format("{}{}{:g}", text.empty() ? "" : " ", w.bass ? 'b' : 't',
                            std::round(w.x * 10) / 10);
    }
    return text;
}

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
        for (const TabWish& w : tabWishes(cut.tabPlaces)) {
            tabs.push_back({w.x, w.bass ? bass : -bass, cut.tabLength});
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
    const Contour channel = cutterContour(board, setup, bit.radius() + cut.wallSkin);
    const Lapper lapper = lapperFor(channel, board, setup, bit, cut, tabs);
    const double clear = setup.topZ() + clearanceHeight;
    const double top = setup.bottomZ() + setup.facedTop();
    const double bottom = setup.bottomZ() - bit.tipHeight() - cut.through;
    const int laps =
        std::max(1, static_cast<int>(std::ceil((top - bottom) / feeds.depthPerPass - 1e-9)));
    const double ramp = std::min(rampLength, channel[0].length() / 2);

    PathBuilder path({0, 0, clear});
    path.travelTo(lapper.at(0), clear, setup.topZ() + approachHeight);
    path.feed({lapper.at(0).x, lapper.at(0).y, top}, feeds.plunge);
    double z = top;
    for (int lap = 1; lap <= laps; ++lap) {
        const double next = top + (bottom - top) * lap / laps;
        lapper.run(path, 0, ramp, z, next, feeds.feed);
        lapper.run(path, ramp, lapper.whole(), next, next, feeds.feed);
        z = next;
    }
    lapper.run(path, 0, ramp, z, z, feeds.feed); // the last ramp's own wedge
    if (cut.wallSkin > 0) {
        const Contour wall = cutterContour(board, setup, bit.radius());
        const Lapper last = lapperFor(wall, board, setup, bit, cut, tabs);
        const double start = ramp + leadLength;
        const auto over = [&](const Lapper& on, double s) {
            const Vec2 p = on.at(s);
            return Vec3{p.x, p.y, on.overTabs(s, z)};
        };
        // Obliquely onto the wall, once round and a little further, and off it again.
        const Vec3 on = over(last, start);
        const Vec3 off = over(lapper, start + 2 * leadLength);
        if (on.z > z) {
            path.feed({path.at().x, path.at().y, on.z}, feeds.feed);
        }
        path.feed(on, feeds.feed);
        last.run(path, start, last.whole(), z, z, feeds.feed);
        last.run(path, 0, start + leadLength, z, z, feeds.feed);
        path.feed({off.x, off.y, std::max(off.z, path.at().z)}, feeds.feed);
    }
    path.rapid({path.at().x, path.at().y, clear});
    return path.take();
}

} // namespace wren
