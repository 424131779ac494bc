#pragma once

#include "geom/vec.h"

#include <vector>

namespace wren {

/// One side of a neck's section in its blank, which stands upright at the section's widest place
/// and lies flat under its deepest: `across` from the spine outward, `depth` below the glue plane,
/// mm. The flats a maker takes off it before rounding; each touches the section.
struct Facets {
    // The first, at 45 degrees.
    double downSide = 0; ///< from the glue plane down the blank's side to where it begins
    double inBack = 0;   ///< from the blank's edge in along its back to where it ends
    // The two that halve its corners, at 22.5 and 67.5 degrees off the side.
    double upperDownSide = 0; ///< of the one beside the blank's side
    double upperOnFirst = 0;  ///< it ends so far down the first facet from that one's upper edge
    double lowerInBack = 0;   ///< of the one beside the back
    double lowerOnFirst = 0;  ///< it begins so far up the first facet from that one's lower edge
};

/// `section`: places (across, depth) along one side of the section, at most a few hundredths of a
/// millimetre apart where they shall be true to a thousandth; the section bulges outward
/// everywhere. The line at angle a off the side that touches it stands max(y cos a + d sin a) from
/// the origin.
Facets facetsOf(const std::vector<Vec2>& section);

} // namespace wren
