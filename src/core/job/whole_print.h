#pragma once

#include "exchange/drawing.h"
#include "job/derive.h"

namespace wren {

/// Plan and side of the whole instrument at full size, the side under the plan to the same X: what
/// makers pin to the wall before anything is cut. Body's frame where there is a body (a neck under
/// an angle is seen leaning), else the instrument's. Throws Error without a fretboard.
Drawing wholeDrawing(const Derived& drawn);

} // namespace wren
