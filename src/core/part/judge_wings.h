#pragma once

#include "part/body_part.h"

namespace wren {

/// A neck that goes through against the wings at its sides: whether it is long and deep enough for
/// them, where they meet the shaft, its back-set, what is cut after gluing.
Findings judgeWings(const BodyPart& body, const NeckPart& neck);

/// How much is planed off the face of a straight plank at a place, mm, so that its one end becomes
/// the glue plane of a neck that leans or stands proud and the other the body's face; the board's
/// end lies between. `x` from the nut, instrument frame.
double planedOffAt(const BodyPart& body, double x);

} // namespace wren
