#pragma once

#include "base/length.h"

#include <string>

namespace wren {

/// A sentence written in millimetres, as a maker who works in inches reads it: numbers before "mm"
/// (also "10 to 12 mm", "30 x 20 x 4 mm", "22 by 15 mm"), places ("12.3, -4.5 from the bridge
/// line"), areas, volumes and feeds. Two more decimals keep what was told. What has no unit stays,
/// and so do words in quotation marks.
std::string inUnit(const std::string& text, LengthUnit unit);

} // namespace wren
