#include "exchange/fret_csv.h"

#include <fmt/format.h>

namespace wren {

std::string fretTableCsv(const Fretboard& board, LengthUnit unit) {
    const char* u = unit == LengthUnit::inch ? "in" : "mm";
    std::string out = fmt::format("fret,from_nut_{0},board_width_{0},wood_under_slot_{0}\r\n", u);
    for (const FretPlace& f : fretTable(board)) {
        out += fmt::format("{},{},{},{}\r\n", f.fret, formatLengthValue(f.fromNut, unit),
                           formatLengthValue(f.boardWidth, unit),
                           formatLengthValue(f.woodUnderSlot, unit));
    }
    return out;
}

std::string fretTableText(const Fretboard& board, LengthUnit unit) {
    const char* u = unit == LengthUnit::inch ? "in" : "mm";
    std::string out =
        fmt::format("{:>4}  {:>12}  {:>12}  {:>16}\n", "fret", fmt::format("from nut {}", u),
                    fmt::format("width {}", u), fmt::format("under slot {}", u));
    for (const FretPlace& f : fretTable(board)) {
        out += fmt::format(
            "{:>4}  {:>12}  {:>12}  {:>16}\n", f.fret, formatLengthValue(f.fromNut, unit),
            formatLengthValue(f.boardWidth, unit), formatLengthValue(f.woodUnderSlot, unit));
    }
    return out;
}

} // namespace wren
