#pragma once

#include "cut/feeds.h"
#include "cut/path_builder.h"
#include "geom/contour.h"

#include <functional>
#include <optional>
#include <vector>

namespace wren {

/// A stretch of a closed contour, mm along it, over which the tip stays at `top` or higher.
struct TabStretch {
    double from, to;
    double top;
};

/// Goes round a closed clockwise contour of lines and arcs, lifting over the tabs: up and down them
/// at 45 degrees. Setup frame.
class ContourPass {
public:
    /// The lowest the tip need stand over a place of the contour.
    using Floor = std::function<double(Vec2)>;

    ContourPass(Contour contour, std::vector<TabStretch> tabs, Floor floor = {})
        : contour_(std::move(contour)), whole_(lengthOf(contour_)), tabs_(std::move(tabs)),
          floor_(std::move(floor)) {
        for (const ContourPiece& piece : contour_) {
            lengths_.push_back(piece.length());
        }
    }

    double whole() const { return whole_; }
    /// The lowest the tip may or need stand at `s` when the pass wants `z`.
    double overTabs(double s, double z) const;
    /// From s0 to s1, both within one turn, with the wanted height falling from z0 to z1; slower
    /// down the slopes of tabs.
    void run(PathBuilder& path, double s0, double s1, double z0, double z1,
             const Feeds& feeds) const;
    Vec2 at(double s) const { return locate(s).second; }
    double placeOf(Vec2 p) const; ///< the `s` nearest to a place, within 0.25 mm

private:
    std::vector<double> pieceEnds(double s0, double s1) const;
    std::pair<const ContourPiece*, Vec2> locate(double s) const;
    void step(PathBuilder& path, double s, double z, const Feeds& feeds) const;

    Contour contour_;
    std::vector<double> lengths_; ///< of its pieces
    double whole_;
    std::vector<TabStretch> tabs_;
    Floor floor_; ///< none: as low as the pass wants
};

/// Arc length along a contour of its place nearest to `p`, within 0.25 mm.
double placeOn(const Contour& line, Vec2 p);

/// Laps round a part, climbing, down a ramp at each pass; then, led in obliquely from their
/// channel, a last one along the wall at full depth.
struct ContourPasses {
    ContourPass channel;             ///< stands off the wall by the stock to leave
    std::optional<ContourPass> wall; ///< none: the channel's laps are all
    double top = 0;                  ///< where wood begins
    double bottom = 0;               ///< of the last lap
    double clear = 0;                ///< rapids go across at this height
    double approach = 0;             ///< and come down to this
    double longestRamp = 0;
    double lead = 5; ///< along the edge over which the last lap comes on and goes off
};
/// How long that lead may be on a wall whose outward bends are no tighter than `radius`, so that it
/// does not cut across them from a channel `stock` off.
double leadOver(double radius, double stock);

Path contourPath(const ContourPasses& job, const Feeds& feeds);

} // namespace wren
