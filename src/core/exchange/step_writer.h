#pragma once

#include <string>

class TopoDS_Shape;

namespace wren {

/// The shape as the text of a STEP file (AP214, mm), without the time it was made, so that the same
/// shape gives the same bytes. Throws Error.
std::string stepText(const TopoDS_Shape& shape, const std::string& name);

} // namespace wren
