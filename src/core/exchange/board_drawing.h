#pragma once

#include "exchange/drawing.h"
#include "part/board_part.h"

namespace wren {

/// Frets, markers and side dots alone, as a neck with a carved face shows them.
void addFace(Drawing& drawing, const BoardPart& board);

/// The board at full size, instrument frame: its outline, fret slots as centre lines (edge to edge,
/// or as far as blind ones go), markers, side dots as ticks outside the bass edge, nut line, centre
/// line and strings, each kind on a layer of its own; frets numbered. What a slotting template
/// shows.
Drawing boardDrawing(const BoardPart& board, const std::string& title);

} // namespace wren
