#pragma once

#include "base/finding.h"
#include "geom/vec.h"

#include <vector>

namespace wren {

class NeckPart;
struct Scarf;

/// The wood of a blank over one X, instrument Z.
struct WoodSpan {
    double under = 0, over = 0;
};

/// A blank glued up with a scarf joint, seen from the side: the plank from the joint to the heel,
/// the head's piece hanging from it at the tilt, and, where the back asks for more than that, a
/// block glued under the joint's end. Instrument frame, mm.
struct ScarfedBlank {
    double headStart = 0; ///< the head's face falls away from the glue plane here
    double fall = 0;      ///< of face and underside, per mm toward the tip
    double plank = 0;     ///< thickness
    double atFace = 0;    ///< where the line of the joint and the head's underside meets the face
    double atBack = 0;    ///< the plank's underside begins here
    double block = 0;     ///< depth of the block under the head's piece; 0 for none
    double blockFrom = 0; ///< it reaches from here to the plank

    WoodSpan at(double x) const;

    /// Its outline seen from the side between two X, closed, X and Z.
    std::vector<Vec2> side(double from, double to) const;
};

/// What a neck glued up by those two cuts is cut from.
ScarfedBlank scarfedBlank(const NeckPart& part, const Scarf& scarf);

/// Its two cuts in words, a plank too thin for it, and what the head's piece is short of.
void judgeScarf(Findings& out, const NeckPart& part, const Scarf& scarf);

} // namespace wren
