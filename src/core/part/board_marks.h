#pragma once

#include "part/panel.h"

namespace wren {

/// A hole for a locating pin of diameter `size` (mm) through a board for the shop.
void addLocatingPin(Panel& board, Vec2 at, double size);
/// One at each of the two places farthest apart; none when no two places differ.
void addLocatingPins(Panel& board, const std::vector<Vec2>& places, double size);

/// Words engraved in a board's face, `high` mm high and as deep as told, about a place. Throws
/// Error like lettering().
void engraveWords(Panel& board, const std::string& words, Vec2 middle, double high, double depth);

} // namespace wren
