#pragma once

#include "geom/vec.h"

#include <array>
#include <vector>

namespace wren {

/// A piece of a plane contour: a straight line, or an arc about `centre`.
struct ContourPiece {
    enum class Kind { line, arcClockwise, arcCounter };
    Kind kind = Kind::line;
    Vec2 from;
    Vec2 to;
    Vec2 centre; ///< arcs only

    double radius() const { return wren::length(from - centre); }
    double length() const;
    /// The point `along` mm from `from`, 0 <= along <= length().
    Vec2 at(double along) const;
    /// Unit, the way of travel there.
    Vec2 wayAt(double along) const;
    /// Unit, the way of travel at the two ends; without the trigonometry of wayAt().
    Vec2 wayOut() const { return isArc() ? turned(from - centre) : unit(to - from); }
    Vec2 wayIn() const { return isArc() ? turned(to - centre) : unit(to - from); }
    bool isArc() const { return kind != Kind::line; }

private:
    Vec2 turned(Vec2 out) const {
        return unit(kind == Kind::arcClockwise ? Vec2{out.y, -out.x} : Vec2{-out.y, out.x});
    }
};

using Contour = std::vector<ContourPiece>;

double lengthOf(const Contour& contour);

/// The closed contour a cutter's centre follows outside a convex one: each piece moved outward by
/// `distance` (> 0, mm), joined by arcs about the corners. `convex` runs clockwise seen from +Z
/// (climb cutting with a clockwise spindle), and so does the result: piece 2 i is piece i moved.
Contour offsetOutward(const Contour& convex, double distance);

/// The same for any closed clockwise contour: where it turns inward the neighbours are cut off
/// where they meet. Throws Error when a hollow arc is tighter than `distance`, or neighbours no
/// longer meet: a cutter of that radius cannot follow the contour there.
Contour offsetAround(const Contour& closed, double distance);

/// The contour seen from behind: Y taken negative, still clockwise.
Contour mirroredInY(const Contour& closed);
Contour circleContour(Vec2 middle, double diameter); ///< clockwise, two half turns
Contour movedBy(Contour contour, Vec2 shift);

/// The contour's place nearest to a point, and how far it is from it.
Vec2 nearestOn(const Contour& contour, Vec2 p);
double distanceTo(const Contour& contour, Vec2 p);
/// Places along an open or closed contour, both its ends among them, at most `step` mm apart.
std::vector<Vec2> placesAlong(const Contour& contour, double step);
/// A closed contour as points, its chords within `tolerance` mm of its arcs.
std::vector<Vec2> pointsOf(const Contour& closed, double tolerance);
/// Low and high corner of what a contour goes round, within 0.005 mm; of nothing (1e9, -1e9).
std::array<Vec2, 2> boxOf(const Contour& closed);
/// Of the inside of a closed one, mm2.
double areaOf(const Contour& closed);
double signedAreaOf(const Contour& closed); ///< positive when it runs counter-clockwise
Contour reversed(const Contour& contour);   ///< travelled the other way

/// Whether a point lies inside a closed polygon.
bool inside(const std::vector<Vec2>& polygon, Vec2 p);

/// Distance from a point to the segment a-b.
double distanceToSegment(Vec2 p, Vec2 a, Vec2 b);

} // namespace wren
