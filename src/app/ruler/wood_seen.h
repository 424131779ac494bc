#pragma once

#include "ruler/handles.h"
#include "ruler/strip_parts.h"

namespace wren::app {

// Where the blank is shown: the photograph of a part's blank, under the part, and what is marked in
// it, over all of it.
void drawWoodPhotos(const PlanView& view, const PartJob& job);
void drawWoodMarks(const PlanView& view, const PartJob& job);
/// What the part is filled with: its tint, thin enough for a photograph under it to be seen.
QColor woodOver(const PlanView& view, const PartJob* job);

/// Its two known places and the ends of marks, to be dragged where the blank is in hand.
std::vector<Handle> woodHandles(const StripContext& c, const PlanView& view, const PartJob& job);
// Of the part in hand, in its plan; nothing where another is.
std::vector<Handle> boardBlankHandles(const StripContext& c);
std::vector<Handle> neckBlankHandles(const StripContext& c);
std::vector<Handle> pieceBlankHandles(const StripContext& c);

} // namespace wren::app
