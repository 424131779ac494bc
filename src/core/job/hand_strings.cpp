// Nut, frets and markers by hand.

#include "base/error.h"
#include "design/markers.h"
#include "design/string_line.h"
#include "job/hand_sheet.h"
#include "job/hand_text.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

Drawing drawingOf(const Derived& d, const char* name) {
    Drawing out;
    out.title = d.project.name + " " + name;
    return out;
}

std::vector<double> centresBy(Fretboard board, StringSpacing rule) {
    board.spacing = rule;
    return stringCentres(board, board.nutSpread);
}

/// What the nut stands on, Z.
double nutSeat(const Project& p) {
    if (p.neck.joint != NeckJoint::none && p.neck.nutSlot > 0) {
        return -p.neck.nutSlot;
    }
    return p.board.nutShelf > 0 ? p.neck.accent + p.board.shelfFloor : 0;
}

void cross(Drawing& d, Vec2 at, double arm) {
    d.line("holes", at - Vec2{arm, 0}, at + Vec2{arm, 0});
    d.line("holes", at - Vec2{0, arm}, at + Vec2{0, arm});
}

} // namespace

HandSheet nutSheet(const Derived& d, const HandSizes& size) {
    const Project& p = d.project;
    const Fretboard& b = p.board;
    const auto n = static_cast<std::size_t>(b.strings);
    const bool gauged = b.gauges.size() == n;
    const double seat = nutSeat(p);
    const double low = -b.nutSpread / 2 - b.overhangBass;
    const double high = b.nutSpread / 2 + b.overhangTreble;
    HandSheet out{"nut", "Slots of the nut", {}, {}, {}, drawingOf(d, "nut"), true};
    HandSheet::Table slots{
        "From the nut's bass end", {"string", "as designed", "equal middles"}, {}};
    if (gauged) {
        slots.columns.emplace_back("equal gaps");
        slots.columns.emplace_back("string thick");
    }
    slots.columns.emplace_back("floor over seat");
    const std::vector<double> now = stringCentres(b, b.nutSpread);
    const std::vector<double> middles = centresBy(b, StringSpacing::centres);
    const std::vector<double> gaps = centresBy(b, StringSpacing::gaps);
    const std::vector<StringSide> sides = stringSides(p.neck, b, p.body.aims);
    Drawing& draw = out.drawing;
    double highest = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const double floor = sides[i].atNut() - seat;
        highest = std::max(highest, floor);
        slots.rows.push_back(
            {std::to_string(n - i), size(now[i] - low, 2), size(middles[i] - low, 2)});
        if (gauged) {
            slots.rows.back().push_back(size(gaps[i] - low, 2));
            slots.rows.back().push_back(size(b.gauges[i].thickness, 2));
        }
        slots.rows.back().push_back(size(floor, 2));
        draw.line("slots", {now[i], floor}, {now[i], floor + 4});
        draw.line("slots", {now[i] - 0.6, floor}, {now[i] + 0.6, floor});
        draw.text("words", {now[i] - 0.8, floor + 5}, 2.2, std::to_string(n - i));
    }
    draw.line("outline", {low, 0}, {high, 0});
    draw.line("outline", {low, 0}, {low, highest + 3});
    draw.line("outline", {high, 0}, {high, highest + 3});
    // The arc over the frets, off which a pencil split in half draws the least height of the blank.
    const ArchedFace face = faceOf(b);
    const double crown = b.frets > 0 ? b.wire.crownHeight : 0;
    const double nutX = b.zeroFret ? -b.behindZero : 0;
    for (int i = 0; i < 40; ++i) {
        const auto at = [&](int k) {
            const double y = low + (high - low) * k / 40;
            return Vec2{y, p.neck.accent + face.heightAt(nutX, y) + crown - seat};
        };
        draw.line("reference", at(i), at(i + 1));
    }
    // The same places as scales to glue along the blank.
    const auto scale = [&](double z, const std::vector<double>& centres, const char* words) {
        draw.line("outline", {low, z}, {high, z});
        for (double y : centres) {
            draw.line("slots", {y, z}, {y, z + 4});
        }
        draw.text("words", {high + 3, z}, 2.2, words);
    };
    scale(-9, middles, "equal middles");
    if (gauged) {
        scale(-17, gaps, "equal gaps");
    }
    draw.line("centreline", {0, -20}, {0, highest + 8});
    out.tables.push_back(slots);
    out.tables.push_back({"The blank",
                          {"", "size"},
                          {{"long", size(high - low)},
                           {"thick", size(p.neck.nutThickness)},
                           {"high at least", size(highest + 2)}}});
    out.steps = {
        "Check the printed square first, then lay the print against the nut, bass end on "
        "bass end, seen from the bridge.",
        "Mark the slots by one rule, not by both; saw each a little wider than its string.",
        b.zeroFret ? "The zero fret carries the strings: file the slots a little below its "
                     "crown, so that the nut only guides."
                   : "The floors given keep a little air over the first fret: file the "
                     "last of it with the strings on.",
        "Let each floor fall toward its tuner, highest where the string leaves it."};
    if (!gauged) {
        out.cautions.emplace_back("Equal gaps between the strings' edges want the thickness of "
                                  "every string: enter the set first.");
    }
    return out;
}

HandSheet fretSheet(const Derived& d, const HandSizes& size) {
    if (d.frets.empty()) {
        throw Error("There are no frets on this board.");
    }
    const Fretboard& b = d.project.board;
    HandSheet out{"frets", "Lengths of wire", {}, {}, {}, {}, false};
    HandSheet::Table table{
        "Fret by fret", {"fret", "from nut", "wire edge to edge", "tang in the slot"}, {}};
    double sum = 0;
    const auto tang = [&](int fret, double wire) {
        const auto slot = std::find_if(d.board->slots().begin(), d.board->slots().end(),
                                       [&](const FretSlot& s) { return s.fret == fret; });
        return slot != d.board->slots().end() && slot->blind ? length(slot->high - slot->low)
                                                             : wire;
    };
    for (const FretPlace& f : d.frets) {
        table.rows.push_back({std::to_string(f.fret), size(f.fromNut, 2), size(f.wireLength),
                              size(tang(f.fret, f.wireLength))});
        sum += f.wireLength;
    }
    out.tables.push_back(table);
    out.tables.push_back({"Wire",
                          {"", "size"},
                          {{"in all, ends to nip not counted", size(sum, 0)},
                           {"crown high", size(b.wire.crownHeight, 2)},
                           {"tang wide", size(b.wire.tangWidth, 2)},
                           {"tang deep", size(b.wire.tangDepth, 2)},
                           {"slot deep below the face", size(b.slotDepth, 2)},
                           {"slot wide", size(b.wire.measuredSlot.value_or(b.slotWidth), 2)}}});
    out.steps = {"Bend the wire a little tighter than the board's radius.",
                 "Nip each fret some millimetres longer than the wire's length.",
                 b.blindMargin > 0 ? "Nip the tang short at both ends: it must not stand in the "
                                     "wood before the slot's end."
                                   : "File the ends flush toward the neck, never away from it.",
                 "Break the slot's edges with a three-cornered file before pressing."};
    out.cautions = {"Nipped ends fly: wear eye protection."};
    return out;
}

HandSheet dotSheet(const Derived& d, const HandSizes& size) {
    const Fretboard& b = d.project.board;
    const std::vector<SideDot> side = sideDots(b);
    const std::vector<MarkerPlace> face =
        b.markers.shape == MarkerShape::dot ? markerPlaces(b) : std::vector<MarkerPlace>{};
    if (side.empty() && face.empty()) {
        throw Error("There are no dots in this board.");
    }
    HandSheet out{"dots", "Drilling dots", {}, {}, {}, drawingOf(d, "dots"), true};
    Drawing& draw = out.drawing;
    draw.line("outline", {d.board->xLow(), 0}, {d.board->xHigh(), 0});
    if (!side.empty()) {
        HandSheet::Table table{
            "In the bass edge", {"fret", "along the edge from nut", "over the underside"}, {}};
        for (const SideDot& dot : side) {
            table.rows.push_back(
                {std::to_string(dot.fret), size(dot.fromNut, 2), size(dot.fromUnderside, 2)});
            cross(draw, {dot.fromNut, dot.fromUnderside}, 1.5);
            draw.text("words", {dot.fromNut - 1, -5}, 2.2, std::to_string(dot.fret));
        }
        out.tables.push_back(table);
        out.tables.push_back(
            {"Side dots",
             {"", "size"},
             {{"across", size(b.markers.sideSize, 2)}, {"deep", size(b.markers.sideDepth, 2)}}});
    }
    if (!face.empty()) {
        HandSheet::Table table{"In the face", {"fret", "from nut", "off centreline"}, {}};
        for (const MarkerPlace& m : face) {
            const std::string off =
                std::abs(m.at.y) < 0.005
                    ? std::string("on it")
                    : fmt::format("{} {}", size(std::abs(m.at.y), 2), sideWord(d.project, m.at.y));
            table.rows.push_back({std::to_string(m.fret), size(m.at.x, 2), off});
            draw.lines.push_back(
                {"holes", circleContour({m.at.x, m.at.y - 40}, b.markers.size), true});
        }
        draw.line("centreline", {d.board->xLow(), -40}, {d.board->xHigh(), -40});
        out.tables.push_back(table);
        out.tables.push_back({"Dots in the face",
                              {"", "size"},
                              {{"across", size(b.markers.size, 2)},
                               {"deep over the middle", size(b.markers.depth, 2)}}});
    }
    out.steps = {
        "Check the printed square, lay the print's line on the board's lower edge with the "
        "nut's end on the nut's line, and prick every cross.",
        "Drill in a guide clamped to the board; the drill's point must not come through."};
    return out;
}

} // namespace wren
