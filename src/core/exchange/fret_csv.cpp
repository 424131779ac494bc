#include "exchange/fret_csv.h"

#include <fmt/format.h>

namespace wren {

std::string fretTableCsv(const Fretboard& board, LengthUnit unit) {
    const char* u = unit == LengthUnit::inch ? "in" : "mm";
    std::string out =
        fmt::format("fret,from_nut_{0},bass_edge_{0},treble_edge_{0},angle_deg,board_width_{0},"
                    "slot_length_{0},wire_length_{0},edge_thickness_{0},wood_under_slot_{0}\r\n",
                    u);
    for (const FretPlace& f : fretTable(board)) {
        const auto size = [unit](double mm) { return formatLengthValue(mm, unit); };
        out += fmt::format("{},{},{},{},{:.3f},{},{},{},{},{}\r\n", f.fret, size(f.fromNut),
                           size(f.onBassEdge), size(f.onTrebleEdge), f.angle, size(f.boardWidth),
                           size(f.slotLength), size(f.wireLength), size(f.edgeThickness),
                           size(f.woodUnderSlot));
    }
    return out;
}

std::string fretTableText(const Fretboard& board, LengthUnit unit) {
    const char* u = unit == LengthUnit::inch ? "in" : "mm";
    std::string out = fmt::format(
        "From the nut{}, parallel to the centreline; {}.\n{:>4}  {:>10}  {:>10}  {:>10}  {:>8}  "
        "{:>9}  {:>9}  {:>9}  {:>10}\n",
        board.zeroFret ? " (the zero fret's centre)" : "", u, "fret", "bass edge", "centre",
        "treble", "angle", "width", "wire", "edge", "under slot");
    for (const FretPlace& f : fretTable(board)) {
        const auto size = [unit](double mm) { return formatLengthValue(mm, unit); };
        out += fmt::format("{:>4}  {:>10}  {:>10}  {:>10}  {:>8.3f}  {:>9}  {:>9}  {:>9}  {:>10}\n",
                           f.fret, size(f.onBassEdge), size(f.fromNut), size(f.onTrebleEdge),
                           f.angle, size(f.boardWidth), size(f.wireLength), size(f.edgeThickness),
                           size(f.woodUnderSlot));
    }
    return out;
}

} // namespace wren
