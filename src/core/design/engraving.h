#pragma once

#include "design/body.h"

#include <string>
#include <vector>

namespace wren {

/// Throws Error for words and shapes that cannot be drawn.
void checkEngraving(const Engraving& engraving);

/// The lines in the body's frame. A left-handed body has shapes and places mirrored; words never
/// are, from whichever face they are read. Throws Error like lettering() and shapeOutline().
std::vector<Contour> engravedLines(const Engraving& engraving, const BodyPlace& place);

} // namespace wren
