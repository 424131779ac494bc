#pragma once

#include "part/neck_part.h"
#include "part/panel.h"

#include <functional>

namespace wren {

/// Whether a place of the part's own frame (mm) is wood by the definition itself, nothing meshed
/// and nothing cut: what a solid or a mesh of the part is held against. Holds copies of what it
/// asks; may be asked from several threads.
using Definition = std::function<bool(Vec3)>;

Definition definitionOf(const BoardPart& board); ///< instrument frame
Definition definitionOf(const NeckPart& part);   ///< instrument frame; a carved face included
Definition definitionOf(const Panel& panel);     ///< the body's frame

} // namespace wren
