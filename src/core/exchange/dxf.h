#pragma once

#include "exchange/drawing.h"

namespace wren {

/// The drawing as DXF (release 2000, millimetres by $INSUNITS = 4): LINE, ARC, CIRCLE and TEXT,
/// each on its layer. Throws Error when the computer has no room for the temporary file this needs.
std::string toDxf(const Drawing& drawing);

} // namespace wren
