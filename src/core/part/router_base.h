#pragma once

#include "part/panel.h"

namespace wren {

/// Whether and how a hand router tips on a board it is guided by, in words that follow "The board";
/// empty when it stands firm. `base` is its base's diameter, `land` how wide the board is round an
/// opening; mm.
std::string routerTips(const Panel& board, double base, double land);

} // namespace wren
