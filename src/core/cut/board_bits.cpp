#include "cut/board_bits.h"

#include "cut/marker_cut.h"
#include "cut/radius_cut.h"
#include "cut/slot_cut.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

/// The slot a bit cuts may differ from the wanted one by the walls' tolerance on each side.
constexpr double wallTolerance = 0.02;
// Common practice, no source:
constexpr double leastFrame = 3;      ///< narrower, the frame beside the outline bends and tears
constexpr double widestOutline = 6.5; ///< a wider bit only makes more dust
constexpr double leastFacing = 5;     ///< diameter of a bit worth facing with
constexpr double nutAbove = 1;        ///< the collet nut stays this far over the blank

/// The collet nut must not meet the blank when the tip stands `depth` below its face.
bool reaches(const Bit& bit, double depth) {
    return bit.reachOrUsual() >= depth + nutAbove;
}

/// The common part: the maker's own bit, or all bits that serve, or a stop that says why not.
Candidates pick(const BitQuestion& q, const CutOverrides& own, const char* what, const char* code,
                double depth, const std::function<bool(const Bit&)>& serves,
                const std::string& wanted) {
    Candidates c;
    if (!own.bit.empty()) {
        c.byHand = true;
        const Bit* bit = findBit(q.drawer, own.bit);
        if (!bit) {
            sayOfBoard(
                c.findings, Weight::stop, "no-bit",
                fmt::format("The bit \"{}\" set for the {} is not in the drawer.", own.bit, what),
                0, 0);
        } else {
            c.bits.push_back(bit);
        }
        return c;
    }
    const Bit* tooShort = nullptr;
    for (const Bit& bit : q.drawer) {
        if (serves(bit) && reaches(bit, depth)) {
            c.bits.push_back(&bit);
        } else if (serves(bit)) {
            tooShort = &bit;
        }
    }
    if (c.bits.empty() && tooShort) {
        sayOfBoard(c.findings, Weight::stop, "no-reach",
                   fmt::format("{} reaches {:.1f} mm below the collet nut; the {} needs {:.1f} mm.",
                               tooShort->name, tooShort->reachOrUsual(), what, depth + nutAbove),
                   tooShort->reachOrUsual(), depth + nutAbove);
    } else if (c.bits.empty()) {
        sayOfBoard(c.findings, Weight::stop, code, fmt::format("No {}.", wanted), 0, depth);
    }
    return c;
}

/// The widest slot the fret wire still sits in.
double widestSlot(const Fretboard& b) {
    return std::max(b.slotWidth + wallTolerance, b.wire.tangWidth + b.wire.fitMost);
}

} // namespace

double frameMargin(const BoardPart& board, const Setup& setup) {
    const auto box = board.boundingBox();
    double margin = std::numeric_limits<double>::infinity();
    for (const SetupFromInstrument& place : setup.places) {
        const Vec3 low = place.toSetup(box[0]);
        const Vec3 high = place.toSetup(box[1]);
        margin = std::min(
            {margin, low.x, low.y, setup.blank.length - high.x, setup.blank.width - high.y});
    }
    if (setup.places.size() > 1) {
        margin = std::min(margin, setup.blank.gap);
    }
    return margin;
}

Candidates bitsForFacing(const BitQuestion& q) {
    const double depth = q.setup.faced;
    return pick(
        q, q.cut.faced, "facing", "no-facing-bit", depth,
        [&](const Bit& bit) {
            return bit.kind == BitKind::surfacing ||
                   (cutsFlat(bit.kind) && bit.diameter >= leastFacing);
        },
        fmt::format("surfacing bit, and no flat bit of {:.0f} mm or more, is in the drawer; the "
                    "blank's face cannot be taken down",
                    leastFacing));
}

Candidates bitsForRadius(const BitQuestion& q) {
    double low = q.board.design().thickness;
    for (double x : {q.board.xLow(), q.board.xHigh()}) {
        low = std::min(low, q.board.edgeThickness(x));
    }
    const double depth = q.setup.facedTop() - low;
    Candidates c = pick(
        q, q.cut.radius, "radius", "no-radius-bit", depth + q.setup.faced,
        [&](const Bit& bit) {
            // Its passes run past a board's edge by up to their own width; the next board must
            // stand clear of that.
            const double past = (EndShape::of(bit).flat > 0 ? bit.diameter : bit.radius()) + 3;
            const bool clear = q.setup.places.size() < 2 || past <= q.setup.blank.gap;
            return canDoRadius(bit) && bit.fluteLength >= depth && clear;
        },
        fmt::format("flat, ball or bull-nose bit in the drawer has flutes of {:.2f} mm or more, "
                    "which the radius needs",
                    depth));
    if (!c.bits.empty() && !canDoRadius(*c.bits.front())) {
        sayOfBoard(c.findings, Weight::stop, "no-bit",
                   fmt::format("{} is a {} bit; the radius needs a flat, ball or bull-nose end.",
                               c.bits.front()->name, bitKindName(c.bits.front()->kind)),
                   0, 0);
        c.bits.clear();
    }
    return c;
}

Candidates bitsForSlots(const BitQuestion& q) {
    const Fretboard& b = q.board.design();
    const double wanted = b.slotWidth;
    Candidates c;
    if (!q.cut.slots.bit.empty()) {
        c = pick(q, q.cut.slots, "slots", "no-slot-bit", 0, {}, "");
        if (!c.bits.empty() && c.bits.front()->diameter > wanted + 2 * wallTolerance) {
            const Bit& bit = *c.bits.front();
            const bool fits = bit.diameter <= b.wire.tangWidth + b.wire.fitMost + 1e-9;
            sayOfBoard(c.findings, fits ? Weight::caution : Weight::stop, "slot-bit-too-wide",
                       fmt::format("The bit {} cuts {:.2f} mm, wider than the {:.2f} mm slot; {}",
                                   bit.name, bit.diameter, wanted,
                                   fits ? "the tang still holds in it."
                                        : fmt::format("a tang of {:.2f} mm holds up to {:.2f} mm.",
                                                      b.wire.tangWidth,
                                                      b.wire.tangWidth + b.wire.fitMost)),
                       bit.diameter, fits ? wanted : widestSlot(b));
        }
        return c;
    }
    // One bit, the widest that fits: it is stiffer, and its floor needs fewer passes.
    const Bit* best = nullptr;
    double reach = 0;
    for (const Bit& bit : q.drawer) {
        if (bit.kind != BitKind::fretSlot) {
            continue;
        }
        reach = fluteReachForSlots(q.board, q.setup, q.cut, bit);
        const bool fits = bit.diameter <= wanted + wallTolerance && bit.fluteLength >= reach &&
                          reaches(bit, reach);
        if (fits && (!best || bit.diameter > best->diameter)) {
            best = &bit;
        }
    }
    if (best) {
        c.bits.push_back(best);
        c.why = best->diameter < wanted - 1e-9
                    ? fmt::format("The widest slotting bit that fits {:.2f} mm and reaches; it "
                                  "cuts the two walls in turn.",
                                  wanted)
                    : fmt::format("As wide as the slot, {:.2f} mm, so one line cuts both walls.",
                                  wanted);
        return c;
    }
    if (reach == 0) {
        reach = fluteReachForSlots(q.board, q.setup, q.cut, Bit{});
    }
    sayOfBoard(c.findings, Weight::stop, "no-slot-bit",
               fmt::format("No slotting bit in the drawer is at most {:.2f} mm wide with flutes of "
                           "{:.2f} mm or more, which slots {} the radius need.",
                           wanted, reach, q.cut.school == School::slotsFirst ? "before" : "after"),
               0, reach);
    return c;
}

Candidates bitsForShelf(const BitQuestion& q) {
    const double depth = q.setup.facedTop() - q.board.shelf()->floor;
    return pick(
        q, q.cut.shelf, "nut's ledge", "no-shelf-bit", depth + q.setup.faced,
        [&](const Bit& bit) {
            return cutsFlat(bit.kind) && bit.fluteLength >= depth && bit.diameter >= 2 &&
                   bit.diameter <= 12.5;
        },
        fmt::format("flat bit of 2 to 12.5 mm in the drawer has flutes of {:.2f} mm or more, "
                    "which the nut's ledge needs",
                    depth));
}

Candidates bitsForMarkers(const BitQuestion& q) {
    const Markers& m = q.board.design().markers;
    const double depth = m.depth + 0.5;
    const double tightest = tightestRadius(m);
    Candidates c = pick(
        q, q.cut.markers, "markers", "marker-too-fine", depth,
        [&](const Bit& bit) { return markerWay(m, bit) && bit.fluteLength >= depth; },
        fmt::format("bit in the drawer cuts the markers: their tightest corner has a radius of "
                    "{:.2f} mm, so a flat bit under {:.2f} mm with flutes of {:.1f} mm is needed",
                    tightest, 2 * tightest, depth));
    if (!c.bits.empty() && !markerWay(m, *c.bits.front())) {
        const Bit& bit = *c.bits.front();
        sayOfBoard(c.findings, Weight::stop, "marker-too-fine",
                   fmt::format("{} has a radius of {:.2f} mm; the markers' tightest corner has "
                               "{:.2f} mm, so it cannot cut them.",
                               bit.name, bit.radius(), tightest),
                   bit.radius(), tightest);
        c.bits.clear();
    }
    return c;
}

Candidates bitsForOutline(const BitQuestion& q) {
    const double depth = q.setup.facedTop() + q.cut.through;
    const double margin = frameMargin(q.board, q.setup);
    Candidates c = pick(
        q, q.cut.outline, "outline", "no-outline-bit", depth + q.setup.faced,
        [&](const Bit& bit) { return cutsFlat(bit.kind) && bit.fluteLength >= depth; },
        fmt::format("flat bit in the drawer has flutes of {:.2f} mm or more, which cutting through "
                    "this blank needs",
                    depth));
    if (c.bits.empty()) {
        return c;
    }
    const auto frame = [&](const Bit& bit) { return margin - bit.diameter - q.cut.wallStock; };
    if (!c.byHand) {
        std::vector<const Bit*> fit;
        for (const Bit* bit : c.bits) {
            if (bit->diameter <= widestOutline && bit->diameter >= 2 && frame(*bit) >= leastFrame) {
                fit.push_back(bit);
            }
        }
        if (fit.empty()) {
            c.bits = {*std::min_element(c.bits.begin(), c.bits.end(), [](auto* a, auto* b) {
                return a->diameter < b->diameter;
            })};
            c.why = "The smallest flat bit that reaches through: the waste is narrow.";
        } else {
            c.bits = fit;
            c.why = fmt::format("it reaches {:.2f} mm and leaves a frame of {:.1f} mm or more",
                                depth, leastFrame);
        }
    }
    const Bit& bit = *c.bits.front();
    if (frame(bit) <= 0) {
        sayOfBoard(c.findings, Weight::stop, "no-room-for-tabs",
                   fmt::format("The outline's channel is {:.2f} mm wide but only {:.2f} mm of "
                               "blank lie beside the board; no frame is left for the tabs to "
                               "hold to, {:.2f} mm or more is needed.",
                               bit.diameter + q.cut.wallStock, margin,
                               bit.diameter + q.cut.wallStock + leastFrame),
                   margin, bit.diameter + q.cut.wallStock + leastFrame);
    } else if (frame(bit) < leastFrame) {
        sayOfBoard(
            c.findings, Weight::caution, "thin-frame",
            fmt::format("Only {:.1f} mm of frame is left beside the outline; {:.1f} mm or more "
                        "holds the tabs safely.",
                        frame(bit), leastFrame),
            frame(bit), leastFrame);
    }
    return c;
}

SlotsFirst slotsFirst(const BitQuestion& q) {
    CutSettings first = q.cut;
    first.school = School::slotsFirst;
    const Bit* longest = nullptr;
    for (const Bit& bit : q.drawer) {
        if (bit.kind == BitKind::fretSlot &&
            bit.diameter <= q.board.design().slotWidth + wallTolerance &&
            (!longest || bit.fluteLength > longest->fluteLength)) {
            longest = &bit;
        }
    }
    if (!longest) {
        return {false, "No slotting bit in the drawer fits the slot."};
    }
    const double reach = fluteReachForSlots(q.board, q.setup, first, *longest);
    return {longest->fluteLength >= reach,
            fmt::format("Slots before the radius need {:.2f} mm of flute (the slot, the arc's drop "
                        "and the wood still on top); {} has {:.2f} mm.",
                        reach, longest->name, longest->fluteLength)};
}

} // namespace wren
