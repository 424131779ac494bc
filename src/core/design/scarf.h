#pragma once

#include "design/neck_back.h"

#include <optional>
#include <vector>

namespace wren {

/// A tilted head glued to the shaft on a long ramp, out of one plank; instrument frame, mm.
///
/// The plank is sawn through at the tilt. The piece sawn off is turned over, planed to the head's
/// thickness and glued onto the ramp, its own sawn end flush with the glue plane: so the head's
/// face begins behind the nut and the joint comes out under the board. With the tilt a, the plank's
/// thickness t and the head's h (plane trigonometry):
///   ramp's length t / sin a, its run along the plank t / tan a,
///   the joint comes out h / sin a from the head's start on the face, and t / tan a further back
///   on the plank's underside.
struct Scarf {
    double angle = 0;       ///< radians
    double least = 0;       ///< thickness the plank needs, that of the deepest shaft or heel
    double plank = 0;       ///< thickness it has
    double ramp = 0;        ///< length of the sawn face
    double run = 0;         ///< of the ramp along the plank
    double atFace = 0;      ///< X where the joint meets the glue plane
    double atBack = 0;      ///< X where it meets the plank's underside
    double neckPiece = 0;   ///< length of the neck's piece along its face, heel's end to the joint
    double headPiece = 0;   ///< length of the head's piece along its shorter side
    double plankLength = 0; ///< both, the ramp between them and the saw's kerf
    double shortBy =
        0; ///< wood the back asks for below the head's piece, where the plank has ended
    double shortAt = 0; ///< X of that
};

/// Waste at each end of the piece a scarfed neck is glued up from, for pins and frame.
inline constexpr double scarfMargin = 30;

/// Nothing for a head that is not scarfed. The plank is `spare` thicker than it must be, or as
/// thick as `measured`, which may be too little.
std::optional<Scarf> scarfOf(const Neck& neck, const NeckOutline& outline, const NeckBack& back,
                             std::optional<double> measured = {}, double spare = 0);

} // namespace wren
