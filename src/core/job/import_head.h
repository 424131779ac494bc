#pragma once

#include "design/neck_outline.h"

namespace wren {

/// A drawn headstock as the nodes the neck's outline goes through.
struct DrawnHead {
    std::vector<HeadNode> nodes;
    double deviation = 0; ///< of their curve from the drawing's, mm
};

/// `outline`: closed, clockwise, the nut's end at X = 0 on the centreline, the tip at negative X,
/// of a right-handed neck. What lies nearer to the nut than `margin` is left to the neck's own
/// edges. As many nodes as the tolerance asks. Throws Error: nothing behind the nut, more nodes
/// than a project holds.
DrawnHead headFrom(const Contour& outline, double tolerance, double margin = 10);

} // namespace wren
