#pragma once

#include "proof/panel_proof.h"
#include "proof/walls.h"

namespace wren {

/// Walls of pockets and holes, and the outline, of one side; from the paths alone.
WallReport judgePanelWalls(const Panel& panel, const Setup& setup, const PanelPlan& plan,
                           const BodyCut& cut, const std::vector<RunProgram>& programs,
                           bool fromBack);

} // namespace wren
