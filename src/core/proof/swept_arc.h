#pragma once

#include "cut/move.h"
#include "proof/swept.h"

#include <array>
#include <vector>

namespace wren {

/// A piece of a level arc of tool travel, no more than half a turn, and the shape that travels (mm,
/// a stock's frame): what lies between the rays from the centre to its ends, no further from the
/// arc than the tool reaches. What it covers beyond those rays its end's discs cover.
class SweptArc {
public:
    SweptArc(Vec3 from, Vec3 to, Vec2 centre, bool counter, const EndShape& tool);

    double yMin() const { return yMin_; }
    double yMax() const { return yMax_; }
    double zMin() const { return z_; }

    using Span = std::pair<double, double>; ///< of X; empty (first > second) when nothing is
    /// Those the piece covers on the line y, ends' discs aside: up to two, on either side of the
    /// arc's hollow.
    std::array<Span, 2> spans(double y) const;

    /// Lowest the tool's surface comes over places of a row within the piece.
    void heights(const PlacesInRow& places, const float* now, double* out) const;

    /// The same at one place; +infinity outside.
    double height(Vec2 p) const;

    /// How far along, as a fraction of the piece, the tool takes the wood over places (x, y), as
    /// Swept::reached(): before 0 what it takes on the way to the piece, past 1 after it.
    void reached(const double* x, int count, double y, double* out) const;

private:
    Vec2 centre_;
    Vec2 first_, last_; ///< from the centre, the ends of the wedge counter-clockwise
    Vec2 middle_;       ///< unit, from the centre
    double turn_;       ///< signed by the way it is travelled
    double radius_;
    double z_;
    double r_;
    EndShape tool_;
    bool ball_;
    double yMin_, yMax_;
};

/// Level, and seen from above.
bool isLevelArc(const Move& move);

/// A level arc in pieces as above; none for any other move.
std::vector<SweptArc> arcPiecesOf(const Move& move, const EndShape& tool);

/// The angle of (x, y) from the X axis within 5e-8, quicker than the library's by far. The
/// polynomial is 4.4.49 of Abramowitz and Stegun, Handbook of Mathematical Functions (1964).
double quickAngle(double y, double x);

} // namespace wren
