#pragma once

#include "part/panel.h"

#include <TopoDS_Shape.hxx>

namespace wren {

/// Whether a face falls by more than its edge and slopes alone: what it is shifted by comes last,
/// once everything else is cut, so that no spline surface is ever cut by another body.
bool fallsLast(const FaceFall& fall);

/// A panel's solid whose front or back is level but for its edge, with that face brought to what it
/// falls besides. By the definition both are added up: an edge runs down a slope without changing
/// its shape in plan. An arch's face is parted first where the nearest side of the outline changes,
/// since it has crests there. Throws Standard_Failure or Error when no such face comes.
TopoDS_Shape withFallenFace(const TopoDS_Shape& wood, const Panel& panel, bool back);

} // namespace wren
