#pragma once

#include "base/watch.h"
#include "geom/mesh.h"
#include "part/panel.h"

namespace wren {

/// A piece of the body as closed triangles, body frame, mm, within `chord` of its definition: wood
/// between its faces and floors over every piece of its plan. Edges, slopes and arches need no
/// surfaces of a solid, so that whatever meets whatever comes out as it is machined. Throws Error
/// when the plan cannot be laid out, Cancelled when told to stop.
Mesh panelMesh(const Panel& panel, double chord = 0.01, const Watch& watch = {});

} // namespace wren
