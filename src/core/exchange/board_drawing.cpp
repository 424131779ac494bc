#include "exchange/board_drawing.h"

namespace wren {
namespace {

constexpr double beyond = 8; ///< how far the centre line passes the board's ends

void addFrets(Drawing& drawing, const BoardPart& board) {
    for (const FretSlot& slot : board.slots()) {
        drawing.line("slots", slot.low, slot.high);
        const double below = board.edge(-1, slot.low.x) - 5;
        drawing.text("numbers", {slot.low.x - 1, below}, 2.2, std::to_string(slot.fret));
    }
}

void addStrings(Drawing& drawing, const Fretboard& b) {
    const Fan fan(b);
    for (double place : stringCentres(b, 2)) { // -1 bass to +1 treble
        drawing.line("strings", fan.string(place, 0), fan.string(place, fan.lastShare()));
    }
}

void addMarkers(Drawing& drawing, const BoardPart& board) {
    for (const MarkerPocket& pocket : board.pockets()) {
        drawing.lines.push_back({"markers", pocket.outline, true});
    }
    for (const SideDot& dot : sideDots(board.design())) {
        const double out = dot.at.y < 0 ? -1 : 1;
        drawing.line("side-dots", {dot.at.x, dot.at.y + out}, {dot.at.x, dot.at.y + 4 * out});
    }
}

} // namespace

void addFace(Drawing& drawing, const BoardPart& board) {
    addFrets(drawing, board);
    addMarkers(drawing, board);
}

Drawing boardDrawing(const BoardPart& board, const std::string& title) {
    Drawing drawing;
    drawing.title = title;
    drawing.lines.push_back({"outline", board.outline(), true});
    drawing.line("centre", {board.xLow() - beyond, 0}, {board.xHigh() + beyond, 0});
    const FretLine nut = Fan(board.design()).line(0);
    if (!board.design().zeroFret) { // else the zero fret's own slot is there
        drawing.line("nut", nut.bass, nut.treble);
    }
    addFace(drawing, board);
    addStrings(drawing, board.design());
    return drawing;
}

} // namespace wren
