#pragma once

#include "geom/contour.h"

#include <limits>
#include <optional>
#include <string>
#include <vector>

namespace wren {

/// A node of a closed outline.
struct ShapeNode {
    Vec2 at;
    bool smooth = false;         ///< passes through without a corner
    double round = 0;            ///< radius a corner is rounded with
    std::optional<double> bulge; ///< of the arc to the next node: tan of a quarter of its sweep,
                                 ///< positive counter-clockwise; 0 for a straight line
    std::string unknown{};       ///< what a file held of it that this version does not know

    friend bool operator==(const ShapeNode&, const ShapeNode&) = default;
};

/// Reads "0 -90 s, 40 -60 c, 40 60 r8, 0 70 c b0.41": X, Y, then s (smooth), c (corner) or a
/// rounded corner's radius, and at will the bulge toward the next node. Throws Error with the node
/// in question: not a node, two in one place, fewer than three (two when joined by arcs).
std::vector<ShapeNode> shapeNodes(const std::string& text);
/// What shapeNodes() asks of nodes beside their being readable. Throws Error.
void checkNodes(const std::vector<ShapeNode>& nodes);
/// Places to a ten-thousandth of a millimetre, so that arcs still meet tangent.
std::vector<ShapeNode> roundedNodes(std::vector<ShapeNode> nodes);

/// One half and the other half mirrored about the centreline: nodes within 0.01 mm of it belong to
/// both. Throws Error when the half crosses the centreline.
std::vector<ShapeNode> mirroredShape(const std::vector<ShapeNode>& half);

/// The closed outline, clockwise: given lines and arcs as they are, pairs of arcs (biarcs) through
/// smooth nodes in the direction of the circle through them and their neighbours, corners rounded
/// last. Throws Error: a rounding that finds no room, an outline that crosses itself or encloses
/// nothing.
Contour shapeOutline(const std::vector<ShapeNode>& nodes);

/// The nodes that give a closed outline of lines and arcs back, as corners with bulges.
std::vector<ShapeNode> nodesOf(const Contour& closed);

/// Nodes of a rectangle with rounded corners, turned by `angle` (radians) about its middle.
std::vector<ShapeNode> boxShape(Vec2 middle, double length, double width, double round,
                                double angle = 0);

/// The arc or line between two points with a bulge, see ShapeNode.
ContourPiece bulgedPiece(Vec2 from, Vec2 to, double bulge);

/// Where a closed outline crosses itself, if it does.
std::optional<Vec2> selfCrossing(const Contour& closed);

/// The bend or corner of a border that turns left the tightest, where a bit on the left of it has
/// to fit in.
struct Hollow {
    double radius = std::numeric_limits<double>::infinity(); ///< mm; 0: a sharp corner
    Vec2 at;
};

/// Infinite without any. A slight kink, as outlines refitted from short lines have them, counts as
/// the largest radius that leaves no more than `leave` mm of wood in it.
Hollow hollowOf(const Contour& border, double leave = 0.01);
double tightestHollow(const Contour& border, double leave = 0.01); ///< its radius alone

} // namespace wren
