#pragma once

#include "ruler/handles.h"

namespace wren::app {

/// What of the neck can be dragged in its plan: nodes of the head, tuners, heel, rod's end.
std::vector<Handle> neckPlanHandles(const StripContext& c);
/// In its side view: stations along and in thickness, the transitions' ends, heel and head.
std::vector<Handle> neckSideHandles(const StripContext& c);
/// In its section, while the cursor stands on a station: that station's shape.
std::vector<Handle> neckSectionHandles(const QRectF& area, const Sheet& sheet);

} // namespace wren::app
