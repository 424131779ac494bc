#include "cut/outline_cut.h"

#include "cut/path_builder.h"
#include "geom/contour.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

constexpr double rampLength = 40; ///< mm along the edge for one pass's descent
constexpr double clearOfFret = 1; ///< mm between a tab's foot and the nearest slot

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

Contour cutterContour(const BoardPart& board, const Setup& setup, const Bit& bit) {
    std::vector<Vec2> corners;
    for (Vec2 c : board.corners()) {
        corners.push_back(setup.fromInstrument.toSetup({c.x, c.y, 0}).xy());
    }
    return offsetOutward(corners, bit.radius());
}

/// Where the axis must stay up so that `length` of wood is left between the bit's two flanks.
TabStretch stretchOf(const Tab& tab, const BoardPart& board, const Setup& setup, const Bit& bit,
                     const Contour& contour) {
    // Long edges are pieces 0 (treble, toward the end) and 4 (bass, toward the nut).
    const ContourPiece& edge = contour[tab.side > 0 ? 0 : 4];
    const double before = tab.side > 0 ? 0 : lengthOf({contour.begin(), contour.begin() + 4});
    const Vec2 foot =
        setup.fromInstrument.toSetup({tab.x, tab.side * board.halfWidth(tab.x), 0}).xy();
    const Vec2 along = edge.to - edge.from;
    const double s = before + dot(foot - edge.from, along) / length(along);
    const double half = tab.length / 2 + bit.radius();
    return {s - half, s + half};
}

} // namespace

std::vector<Tab> placeTabs(const BoardPart& board, const CutSettings& cut) {
    std::vector<double> edges{0};
    edges.insert(edges.end(), board.slotCentres().begin(), board.slotCentres().end());
    edges.push_back(board.length());
    // A tab's foot is wider than its top by the 45 degree slopes on both sides.
    const double foot = cut.tabLength + 2 * (cut.tabHeight + cut.through);
    const double needed = foot + board.design().slotWidth + 2 * clearOfFret;
    std::vector<double> middles;
    for (std::size_t i = 0; i + 1 < edges.size(); ++i) {
        if (edges[i + 1] - edges[i] >= needed) {
            middles.push_back((edges[i] + edges[i + 1]) / 2);
        }
    }
    std::vector<Tab> tabs;
    for (int i = 0; i < cut.tabsPerSide && !middles.empty(); ++i) {
        const double wanted = board.length() * (i + 0.5) / cut.tabsPerSide;
        const auto nearest =
            std::min_element(middles.begin(), middles.end(), [&](double a, double b) {
                return std::abs(a - wanted) < std::abs(b - wanted);
            });
        for (int side : {1, -1}) {
            tabs.push_back({*nearest, side, cut.tabLength});
        }
        middles.erase(nearest);
    }
    return tabs;
}

Path outlinePath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                 const CutSettings& cut, const std::vector<Tab>& tabs) {
    const Contour contour = cutterContour(board, setup, bit);
    std::vector<TabStretch> stretches;
    for (const Tab& tab : tabs) {
        stretches.push_back(stretchOf(tab, board, setup, bit, contour));
    }
    const double tabTop = setup.bottomZ() + cut.tabHeight;
    const Lapper lapper(contour, stretches, tabTop);
    const double top = setup.topZ();
    const double bottom = setup.bottomZ() - bit.tipHeight() - cut.through;
    const int laps =
        std::max(1, static_cast<int>(std::ceil((top - bottom) / feeds.depthPerPass - 1e-9)));
    const double ramp = std::min(rampLength, contour[0].length() / 2);

    PathBuilder path({0, 0, top + clearanceHeight});
    path.travelTo(lapper.at(0), top + clearanceHeight, top + approachHeight);
    path.feed({lapper.at(0).x, lapper.at(0).y, top}, feeds.plunge);
    double z = top;
    for (int lap = 1; lap <= laps; ++lap) {
        const double next = top + (bottom - top) * lap / laps;
        lapper.run(path, 0, ramp, z, next, feeds.feed);
        lapper.run(path, ramp, lapper.whole(), next, next, feeds.feed);
        z = next;
    }
    lapper.run(path, 0, ramp, z, z, feeds.feed); // the last ramp's own wedge
    path.rapid({path.at().x, path.at().y, top + clearanceHeight});
    return path.take();
}

} // namespace wren
