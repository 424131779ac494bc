#pragma once

#include "part/body_part.h"

namespace wren {

/// How a barrel jack sits in the edge; body frame, mm.
struct EdgeSeat {
    Vec2 at;                        ///< on the outline, nearest to where it is drawn
    Vec2 inward{};                  ///< unit, square to the edge there, into the wood
    double across{};                ///< of its washer
    std::optional<double> radius{}; ///< the tightest the edge has under the washer; none: straight
    /// How deep a flat seat for the washer must be sunk into the round edge; 0 on a straight one,
    /// and on one tighter than the washer.
    double dish = 0;
};
EdgeSeat edgeSeat(const BodyPart& part, const Jack& jack);

/// Wood from there to the cavity, square to the edge, mm, to a quarter of one; nothing where its
/// drill would not come into the cavity, or there is none.
std::optional<double> woodToCavity(const BodyPart& part, const Jack& jack);

/// Whether jacks and strap buttons meet the body's edge, and the edge has room for them.
Findings judgeEdges(const BodyPart& part);

} // namespace wren
