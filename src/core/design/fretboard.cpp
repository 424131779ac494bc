#include "design/fretboard.h"

#include "design/scale.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

/// Wood left between a slot's floor and the glue plane at the board's edge. A thin board with a
/// small radius can keep 0.6 mm and live (common practice, no source); much less breaks in
/// handling.
constexpr double leastWoodUnderSlot = 0.3;
constexpr double wantedWoodUnderSlot = 0.8;

/// Closer slots than this leave a strip that crumbles (common practice, no source).
constexpr double leastFretGap = 5.0;

double taperOf(const Fretboard& b) {
    return (b.lastFretWidth - b.nutWidth) / fretFromNut(b.scaleLength, b.frets);
}

double widestOf(const Fretboard& b) {
    const double end = fretFromNut(b.scaleLength, b.frets) + b.pastLastFret;
    return std::max(b.nutWidth, b.nutWidth + taperOf(b) * end);
}

double floorAt(const Fretboard& b, double y) {
    const double r = b.radius - b.slotDepth;
    return b.thickness - b.radius + std::sqrt(std::max(0.0, r * r - y * y));
}

Finding stop(std::string code, std::string message, double value, double limit) {
    Finding f;
    f.weight = Weight::stop;
    f.code = std::move(code);
    f.part = "fretboard";
    f.message = std::move(message);
    f.value = value;
    f.limit = limit;
    f.overridable = false; // there is no board to cut
    return f;
}

} // namespace

std::vector<FretPlace> fretTable(const Fretboard& b) {
    std::vector<FretPlace> table;
    for (int n = 1; n <= b.frets; ++n) {
        FretPlace p;
        p.fret = n;
        p.fromNut = fretFromNut(b.scaleLength, n);
        p.boardWidth = b.nutWidth + taperOf(b) * p.fromNut;
        p.woodUnderSlot = floorAt(b, p.boardWidth / 2);
        table.push_back(p);
    }
    return table;
}

double stringPitchAtNut(const Fretboard& b) {
    return (b.nutWidth - 2 * b.overhang) / (b.strings - 1);
}

Findings judgeFretboard(const Fretboard& b) {
    Findings out;
    const double widest = widestOf(b);
    if (b.slotDepth >= b.thickness) {
        out.push_back(stop("slot-through-board",
                           fmt::format("The fret slots are {:.2f} mm deep in a board {:.2f} mm "
                                       "thick; they would cut it into pieces.",
                                       b.slotDepth, b.thickness),
                           b.slotDepth, b.thickness));
        return out;
    }
    if (b.radius - b.slotDepth <= widest / 2 + 6) {
        out.push_back(stop("radius-too-small",
                           fmt::format("A radius of {:.1f} mm cannot span a board {:.1f} mm wide "
                                       "and the waste beside it; at least {:.1f} mm is needed.",
                                       b.radius, widest, widest / 2 + 6 + b.slotDepth),
                           b.radius, widest / 2 + 6 + b.slotDepth));
        return out;
    }
    if (b.nutWidth - 2 * b.overhang <= 0) {
        out.push_back(stop("no-room-for-strings",
                           fmt::format("An overhang of {:.1f} mm a side leaves no room for strings "
                                       "on a nut {:.1f} mm wide.",
                                       b.overhang, b.nutWidth),
                           b.overhang, b.nutWidth / 2));
    }
    const double endWidth =
        b.nutWidth + taperOf(b) * (fretFromNut(b.scaleLength, b.frets) + b.pastLastFret);
    if (endWidth < 10) {
        out.push_back(stop("board-tapers-away",
                           "The board narrows to less than 10 mm before its end; the width at the "
                           "last fret or the length beyond it is wrong.",
                           endWidth, 10));
    }
    double wood = b.thickness;
    for (const FretPlace& f : fretTable(b)) {
        wood = std::min(wood, f.woodUnderSlot);
    }
    if (wood < wantedWoodUnderSlot) {
        Finding f =
            stop("thin-under-slot",
                 wood > 0 ? fmt::format("Only {:.2f} mm of wood is left under the fret slots at "
                                        "the board's edges; {:.1f} mm or more is wanted.",
                                        wood, wantedWoodUnderSlot)
                          : fmt::format("The fret slots come out through the underside at the "
                                        "board's edges, by {:.2f} mm; {:.1f} mm of wood or more "
                                        "is wanted there.",
                                        -wood, wantedWoodUnderSlot),
                 wood, wantedWoodUnderSlot);
        f.overridable = wood > 0;
        f.weight = wood < leastWoodUnderSlot ? Weight::stop : Weight::caution;
        f.atX = fretFromNut(b.scaleLength, b.frets);
        out.push_back(f);
    }
    if (b.frets > 1) {
        const double gap =
            fretFromNut(b.scaleLength, b.frets) - fretFromNut(b.scaleLength, b.frets - 1);
        if (gap < leastFretGap) {
            Finding f;
            f.weight = Weight::caution;
            f.code = "frets-close";
            f.part = "fretboard";
            f.message =
                fmt::format("The last two frets stand only {:.2f} mm apart; under {:.1f} mm "
                            "the wood between the slots crumbles easily.",
                            gap, leastFretGap);
            f.value = gap;
            f.limit = leastFretGap;
            f.atX = fretFromNut(b.scaleLength, b.frets);
            out.push_back(f);
        }
    }
    return out;
}

} // namespace wren
