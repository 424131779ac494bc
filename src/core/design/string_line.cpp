#include "design/string_line.h"

#include "design/fan.h"

namespace wren {
namespace {

constexpr double airOverFret = 0.5; ///< mm over the first frets' crowns; common practice, no source

double middle(const Fan& fan, double share) {
    return (fan.bassString(share).x + fan.trebleString(share).x) / 2;
}

double crowns(const Neck& neck, const Fretboard& board) {
    return neck.accent + board.thickness + board.wire.crownHeight;
}

} // namespace

double stringHeightAtNut(const Neck& neck, const Fretboard& board) {
    return crowns(neck, board) + (board.zeroFret ? 0 : airOverFret);
}

StringLine::StringLine(const Neck& neck, const Fretboard& board, double action)
    : atNut_(stringHeightAtNut(neck, board)) {
    const Fan fan(board);
    saddle_ = middle(fan, 1);
    lastFret_ = board.frets > 0 ? middle(fan, Fan::share(board.frets)) : 0;
    slope_ = (crowns(neck, board) + action - atNut_) / middle(fan, Fan::share(12));
    pressed_ = board.frets > 0 ? crowns(neck, board) : atNut_;
}

} // namespace wren
