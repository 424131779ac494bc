#pragma once

#include "cut/move.h"
#include "shop/machine.h"

namespace wren {

/// Distance over feed, rapids at the machine's rapid rate: what a pocket calculator says. Seconds.
double plainSeconds(const Path& path, const Machine& machine);

} // namespace wren
