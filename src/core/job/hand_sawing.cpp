#include "base/error.h"
#include "job/cut_list.h"
#include "job/hand_sheet.h"
#include "job/hand_text.h"
#include "job/own_woods.h"
#include "shop/wood.h"

#include <fmt/format.h>

namespace wren {
namespace {

void box(Drawing& d, const char* layer, Vec2 low, Vec2 size) {
    const Vec2 high = low + size;
    d.line(layer, low, {high.x, low.y});
    d.line(layer, {high.x, low.y}, high);
    d.line(layer, high, {low.x, high.y});
    d.line(layer, {low.x, high.y}, low);
}

/// The shop's boards, those begun one above the other, with the pieces on them.
Drawing drawn(const Derived& d, const CutList& list) {
    Drawing out;
    out.title = d.project.name + " sawing";
    const std::vector<RoughBoard>& boards = d.project.sawing.boards;
    double y = 0;
    for (std::size_t b = 0; b < boards.size(); ++b) {
        if (list.yields[b] == 0) {
            continue;
        }
        y -= boards[b].width;
        box(out, "outline", {0, y}, {boards[b].length, boards[b].width});
        out.text("words", {-90, y + boards[b].width / 2}, 14, fmt::format("{}", b + 1));
        for (std::size_t i = 0; i < list.pieces.size(); ++i) {
            const SawnPiece& p = list.pieces[i];
            if (p.board == b) {
                box(out, "piece", {p.x, y + p.y}, {p.length, p.width});
                out.text("words", {p.x + 10, y + p.y + 8}, 14, fmt::format("{}", i + 1));
            }
        }
        y -= 40;
    }
    return out;
}

} // namespace

HandSheet sawingSheet(const Derived& d, const HandSizes& size) {
    const CutList list = cutList(d);
    if (list.pieces.empty()) {
        throw Error("There is no piece of wood to saw yet.");
    }
    const Sawing& saw = d.project.sawing;
    HandSheet out{"sawing", "Pieces to saw", {}, {}, {}, drawn(d, list), false};
    HandSheet::Table table{
        "Pieces, sawn sizes", {"piece", "long", "wide", "thick", "wood", "board"}, {}};
    for (std::size_t i = 0; i < list.pieces.size(); ++i) {
        const SawnPiece& p = list.pieces[i];
        table.rows.push_back(
            {fmt::format("{} {}{}", i + 1, p.piece, p.leaves > 1 ? ", to be resawn" : ""),
             size(p.length), size(p.width), size(p.thickness), woodOf(d.project, p.wood).name,
             p.board ? fmt::format("{}", *p.board + 1) : std::string("to buy")});
    }
    out.tables.push_back(table);
    if (!saw.boards.empty()) {
        HandSheet::Table boards{
            "Boards in the shop", {"board", "wood", "long", "wide", "thick", "used"}, {}};
        for (std::size_t b = 0; b < saw.boards.size(); ++b) {
            const RoughBoard& one = saw.boards[b];
            boards.rows.push_back({fmt::format("{}", b + 1), woodOf(d.project, one.wood).name,
                                   size(one.length, 0), size(one.width, 0), size(one.thickness),
                                   fmt::format("{:.0f} %", 100 * list.yields[b])});
        }
        out.tables.push_back(boards);
    }
    out.steps = {fmt::format("Sizes count {:g} mm of length, {:g} mm of width and {:g} mm of "
                             "thickness for saw and planer, and {:g} mm for each cut.",
                             saw.longer, saw.wider, saw.planing, saw.kerf),
                 "The grain runs along the length. Keep knots, sapwood and old nails out of the "
                 "pieces: move them where the board asks for it.",
                 "Let sawn pieces rest before they are planed to their blank."};
    out.cautions = {"Look for metal in the board first. Push sticks and the riving knife; eye and "
                    "ear protection."};
    return out;
}

} // namespace wren
