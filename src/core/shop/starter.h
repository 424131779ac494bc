#pragma once

#include "shop/bit.h"

namespace wren {

/// The drawer a new project starts with: ordinary sizes, no maker's catalogue.
Drawer starterDrawer();

} // namespace wren
