#pragma once

#include <string>

namespace wren {

/// A program that goes round what another one cuts, the spindle standing, at that one's own safe
/// height: first the rectangle its tip cuts in, then the tightest line without hollows round it, so
/// that a maker sees where the work will be and whether a clamp stands there. The tip's middle is
/// led; the bit reaches its radius further.
///
/// Throws Error: a line that cannot be read, a program that cuts nothing, or one that never stands
/// above all it cuts.
std::string outlineTrace(const std::string& program, const std::string& name);

} // namespace wren
