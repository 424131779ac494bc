#pragma once

#include "cut/panel_order.h"
#include "cut/panel_paths.h"

#include <optional>

namespace wren {

/// The cuts a panel's blank gets whatever is made of it. Nothing when it wants none, or no bit
/// serves: then the chooser has said so.
std::optional<OpenTask> facingTask(const Held& setups, const BodyCut& cut, BitChooser& chooser);
std::optional<OpenTask> notchTask(const PanelWork& work, const Held& setups, BitChooser& chooser);

} // namespace wren
