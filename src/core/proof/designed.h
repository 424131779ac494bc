#pragma once

#include "hold/neck_setup.h"
#include "hold/panel_setup.h"
#include "proof/stock.h"

namespace wren {

/// The finished part as wood in a stock's cells, straight from the design: for looking at, and to
/// hold simulated wood against.
Stock designedBoard(const BoardPart& board, const Setup& setup, double cell);
/// In the back's setup, pockets and holes out; a rod from the back is closed in.
Stock designedNeck(const NeckPart& part, const Held& held, double cell);
/// In that setup of the panel.
Stock designedPanel(const Panel& panel, const Setup& setup, double cell);

} // namespace wren
