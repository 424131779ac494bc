#pragma once

#include "exchange/drawing.h"

namespace wren {

/// The drawing as SVG 1.1 at full size: width and height in mm, one user unit a millimetre, one
/// group for each layer (its id is the layer's name), arcs as arcs. The viewBox keeps the drawing's
/// own origin; Y points downward there, as SVG has it.
std::string toSvg(const Drawing& drawing);

} // namespace wren
