#pragma once

#include "part/panel.h"

#include <TopoDS_Shape.hxx>

namespace wren {

/// Whether an edge is wider than the outline's corners are round: it runs to crests there, which
/// the library's own roundings and chamfers do not follow.
bool edgeHasCrests(const Panel& panel, bool back);

/// Whether a face falls by more than the library's own cuts and edges make: what it is shifted by
/// comes last, once everything else is cut, so that no spline surface is ever cut by another body.
bool fallsLast(const Panel& panel, bool back);

/// A panel's solid whose front or back is level, but for an edge without crests, with that face
/// brought to what it falls besides. By the definition all of it is added up: an edge runs down a
/// slope without changing its shape in plan. The face is parted first where the nearest side of the
/// outline changes, since crests lie there. Throws Standard_Failure or Error when no such face
/// comes.
TopoDS_Shape withFallenFace(const TopoDS_Shape& wood, const Panel& panel, bool back);

} // namespace wren
