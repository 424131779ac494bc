#pragma once

#include "job/derive.h"

namespace wren {

/// How far a thing of the body is from something near it.
struct Near {
    std::string what;    ///< "the edge", "pickup 2", "string 3"
    double distance = 0; ///< mm, wood between them or from its middle
    Vec2 from, to;       ///< body frame, where it is measured
};

/// The centreline, the bridge line, the body's edge, the nearest neighbour, string and fret. Empty
/// for a path that names nothing of a drawn body.
std::vector<Near> nearbyOf(const Derived& derived, const std::string& path);

/// A thing's borders in plan, body frame: pockets, holes, or its place alone.
std::vector<Contour> bordersOf(const Derived& derived, FeatureId feature);
/// The smallest thing whose borders hold a place of the body's frame; none where there is none.
FeatureId featureAt(const Derived& derived, Vec2 place);

} // namespace wren
