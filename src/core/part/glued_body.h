#pragma once

#include "part/body_part.h"

#include <optional>

namespace wren {

/// Wings and neck glued up, as a piece to be cut: what lies over the seams and is not in the wings
/// yet, pockets, holes, lines and contours, from the front and, turned over, from behind. Edges and
/// an arch, which follow the outline over the neck, are left to the hand. None where nothing is
/// left to cut, or the body has no wings.
std::optional<Panel> gluedInstrument(const BodyPart& body);

/// Holes of the body that a wing has already.
bool wingHas(const BodyPart& body, const Hole& hole);

} // namespace wren
