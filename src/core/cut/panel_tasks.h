#pragma once

#include "cut/panel_order.h"
#include "cut/panel_paths.h"

#include <optional>
#include <vector>

namespace wren {

// Tasks of a panel's setup that need no more than their bit; what they wait for is the recipe's
// matter. None when no bit does them, which the chooser has then said.

/// Holes of one kind and diameter (not empty): drilled, or bored where no drill fits.
std::optional<OpenTask> holesTask(const PanelWork& work, const std::vector<Hole>& holes,
                                  BitChooser& chooser);

/// Every line drawn into that face; none without lines.
std::optional<OpenTask> engraveTask(const PanelWork& work, bool back, BitChooser& chooser);

/// One lap round the outline for a bandsaw to follow.
std::optional<OpenTask> guideTask(const PanelWork& work, BitChooser& chooser);

} // namespace wren
