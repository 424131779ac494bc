#include "part/board_marks.h"

#include "design/letters.h"

namespace wren {

void addLocatingPin(Panel& board, Vec2 at, double size) {
    board.holes.push_back({"locating pin", at, size, board.top, board.bottom, false, true});
}

void addLocatingPins(Panel& board, const std::vector<Vec2>& places, double size) {
    std::array<Vec2, 2> best{};
    for (Vec2 p : places) {
        for (Vec2 q : places) {
            if (length(p - q) > length(best[0] - best[1])) {
                best = {p, q};
            }
        }
    }
    if (best[0] == best[1]) {
        return;
    }
    for (Vec2 at : best) {
        addLocatingPin(board, at, size);
    }
}

void engraveWords(Panel& board, const std::string& words, Vec2 middle, double high, double depth) {
    const Lettering letters = lettering(words, high);
    for (const Contour& line : letters.lines) {
        board.engraved.push_back({'"' + words + '"',
                                  movedBy(line, middle - Vec2{letters.width, high} * 0.5),
                                  depth,
                                  false,
                                  {}});
    }
}

} // namespace wren
