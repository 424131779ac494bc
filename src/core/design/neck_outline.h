#pragma once

#include "design/fan.h"
#include "design/neck.h"
#include "geom/contour.h"

#include <vector>

namespace wren {

/// Reads "-20 -27 s, -44 -30.5 c". Throws Error: fewer than three nodes, or one not behind the nut.
std::vector<HeadNode> headNodes(const std::string& text);
/// What headNodes() asks of nodes beside their being readable. Throws Error.
void checkHeadNodes(const std::vector<HeadNode>& nodes);

/// Arcs in pairs (biarcs) through the nodes: smooth ones take the direction of the circle through
/// them and their neighbours, between two corners the line is straight. Begins at `from` along
/// `wayOut`, ends at `to` along `wayIn`; all directions are those of travel.
Contour curveThrough(const std::vector<HeadNode>& nodes, Vec2 from, Vec2 wayOut, Vec2 to,
                     Vec2 wayIn);

/// The neck seen from the front, instrument frame: shaft along the board's edges, heel, headstock.
class NeckOutline {
public:
    NeckOutline(const Neck& neck, const Fretboard& board);

    /// Clockwise from the head's end of the edge at +Y: that edge, the heel's end, the other edge,
    /// the headstock.
    const Contour& contour() const { return contour_; }
    const std::vector<Vec2>& points() const { return points_; } ///< chords within 0.002 mm
    /// Y of the shaft's edge as the board's edge gives it, straight on both ways; side -1 or +1.
    double edge(int side, double x) const;
    double headStart() const { return headStart_; } ///< X behind the nut where the head begins
    double tip() const { return tip_; }             ///< least X
    double end() const { return end_; }             ///< greatest X
    double heelStart() const { return heelStart_; }
    /// Low and high Y of the wood at x; low > high where there is none.
    std::array<double, 2> across(double x) const;
    /// The same from the lines and arcs themselves, for what must be exact.
    std::array<double, 2> exactAcross(double x) const;
    /// Every stretch of wood on the line X = x, low and high Y, in order.
    std::vector<std::array<double, 2>> stretches(double x) const;

private:
    Fan fan_;
    double headStart_ = 0;
    double end_ = 0;
    double heelStart_ = 0;
    double tip_ = 0;
    Contour contour_;
    std::vector<Vec2> points_;
};

} // namespace wren
