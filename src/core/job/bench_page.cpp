#include "job/sheet_page.h"

#include <fmt/format.h>

namespace wren {

void SheetPage::benchPage() {
    const std::vector<SideDot> dots = sideDots(d_.project.board);
    if (d_.frets.empty() && dots.empty()) {
        return;
    }
    pdf_.page(pageWidth, pageHeight);
    pdf_.text({left, 17}, fmt::format("{}: {}, at the bench", d_.project.name, setup_.part.name()),
              7, Face::strong);
    pdf_.line({left, 21}, {right, 21}, strong);
    fretLengths();
    sideDotList(dots);
}

void SheetPage::fretLengths() {
    if (d_.frets.empty()) {
        return;
    }
    head(left, 30, "Frets: from the nut on the centreline, and wire edge to edge");
    double total = 0;
    for (std::size_t i = 0; i < d_.frets.size(); ++i) {
        const FretPlace& f = d_.frets[i];
        const std::size_t column = i / 13;
        const double x = left + 58 * static_cast<double>(column);
        const double y = 37 + (i % 13) * 6.0;
        box(x, y);
        pdf_.text({x + 5, y},
                  fmt::format("{:>2} {:>9} {:>8}", f.fret, size(f.fromNut), size(f.wireLength)),
                  3.2, Face::figures);
        total += f.wireLength;
    }
    const FretWire& w = d_.project.board.wire;
    pdf_.text({left, 124},
              fmt::format("{} of wire in all, without ends to nip; tang {} wide and {} deep, "
                          "slot {}{}",
                          sizeWithUnit(total), size(w.tangWidth), size(w.tangDepth),
                          size(w.measuredSlot.value_or(d_.project.board.slotWidth)),
                          w.measuredSlot ? " as measured in a test cut" : " as drawn"),
              small);
}

void SheetPage::sideDotList(const std::vector<SideDot>& dots) {
    if (dots.empty()) {
        return;
    }
    const Markers& m = d_.project.board.markers;
    head(left, 136,
         fmt::format("Side dots, by hand in the bass edge: {} across, {} deep", size(m.sideSize),
                     size(m.sideDepth)));
    pdf_.text({left, 141}, "from the nut's line along the board, above the underside", small);
    for (std::size_t i = 0; i < dots.size(); ++i) {
        const std::size_t column = i / 9;
        const double x = left + 66 * static_cast<double>(column);
        const double y = 148 + (i % 9) * 6.0;
        box(x, y);
        pdf_.text({x + 5, y},
                  fmt::format("fret {:>2} {:>8} {:>6}", dots[i].fret, size(dots[i].fromNut),
                              size(dots[i].fromUnderside)),
                  3.2, Face::figures);
    }
}

} // namespace wren
