#pragma once

#include "shop/bit.h"
#include "shop/machine.h"

#include <vector>

namespace wren {

/// The drawer a new project starts with: ordinary sizes, no maker's catalogue.
Drawer starterDrawer();

/// Machines to start from, made up: a bench router (also the default), a small one that speaks
/// inches and no arcs, and a long one that homes at the back. Each has a name of its own.
const std::vector<Machine>& starterMachines();

} // namespace wren
