#pragma once

#include "proof/panel_proof.h"

namespace wren {

/// Whether the trench round a panel's outline is through, whether anything still ties the panel to
/// its frame, and whether each tab does. `field` is the design over the cells of the final stock.
Findings judgePanelHolding(const PanelSides& sides, const PanelPlan& plan, const PanelField& field,
                           const Stock& stock);

} // namespace wren
