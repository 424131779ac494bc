#include "job/cut_list.h"
#include "job/own_woods.h"

#include "base/csv.h"
#include "job/wants.h"
#include "shop/wood.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

std::vector<SawnPiece> sawnPieces(const Derived& d) {
    const Sawing& saw = d.project.sawing;
    std::vector<SawnPiece> out;
    for (const WoodPiece& w : woodList(d)) {
        const Wood wood = woodOf(d.project, w.wood);
        SawnPiece one;
        one.piece = w.piece;
        one.wood = w.wood;
        one.planing = wood.sheet || wood.cast ? 0 : saw.planing;
        one.length = w.length + saw.longer;
        one.width = w.width / w.strips + saw.wider;
        one.thickness = w.thickness + one.planing;
        if (w.bookmatched) {
            one.leaves = w.strips;
            one.thickness = one.leaves * one.thickness + (one.leaves - 1) * saw.kerf;
            out.push_back(one);
            continue;
        }
        one.strips = w.strips;
        for (int i = 0; i < w.strips; ++i) {
            out.push_back(one);
            if (w.strips > 1) {
                out.back().piece = fmt::format("{}, strip {} of {}", w.piece, i + 1, w.strips);
            }
        }
    }
    return out;
}

std::string thenDo(const SawnPiece& p) {
    return p.leaves > 1   ? fmt::format("resawn into {} leaves", p.leaves)
           : p.strips > 1 ? "glued up side by side"
                          : "";
}

/// What is left of a board, whole.
struct Left {
    std::size_t board;
    double x, y, length, width;
};

class Layout {
public:
    explicit Layout(const Sawing& saw) : saw_(saw) {
        for (std::size_t i = 0; i < saw.boards.size(); ++i) {
            left_.push_back({i, 0, 0, saw.boards[i].length, saw.boards[i].width});
        }
    }

    void put(SawnPiece& piece) {
        auto best = left_.end();
        for (auto it = left_.begin(); it != left_.end(); ++it) {
            if (holds(*it, piece) && (best == left_.end() || room(*it) < room(*best))) {
                best = it;
            }
        }
        if (best == left_.end()) {
            return;
        }
        const Left from = *best;
        left_.erase(best);
        piece.board = from.board;
        piece.x = from.x;
        piece.y = from.y;
        part(from, piece);
    }

private:
    bool holds(const Left& l, const SawnPiece& p) const {
        const RoughBoard& b = saw_.boards[l.board];
        return b.wood == p.wood && b.thickness >= p.thickness - 1e-9 &&
               l.length >= p.length - 1e-9 && l.width >= p.width - 1e-9;
    }
    double room(const Left& l) const { return l.length * l.width * saw_.boards[l.board].thickness; }

    /// Sawn across or ripped first, whichever leaves the larger piece whole.
    void part(const Left& from, const SawnPiece& p) {
        const double longer = from.length - p.length - saw_.kerf;
        const double wider = from.width - p.width - saw_.kerf;
        const bool across = longer * from.width >= wider * from.length;
        add({from.board, from.x + p.length + saw_.kerf, from.y, longer,
             across ? from.width : p.width});
        add({from.board, from.x, from.y + p.width + saw_.kerf, across ? p.length : from.length,
             wider});
    }
    void add(const Left& l) {
        if (l.length > 0 && l.width > 0) {
            left_.push_back(l);
        }
    }

    const Sawing& saw_;
    std::vector<Left> left_;
};

} // namespace

CutList cutList(const Derived& d) {
    const Sawing& saw = d.project.sawing;
    CutList out;
    out.pieces = sawnPieces(d);
    std::vector<SawnPiece*> order;
    for (SawnPiece& p : out.pieces) {
        order.push_back(&p);
    }
    std::stable_sort(order.begin(), order.end(), [](const SawnPiece* a, const SawnPiece* b) {
        return a->length * a->width > b->length * b->width;
    });
    Layout layout(saw);
    for (SawnPiece* p : order) {
        layout.put(*p);
    }
    out.yields.assign(saw.boards.size(), 0);
    for (const SawnPiece& p : out.pieces) {
        if (p.board) {
            const RoughBoard& b = saw.boards[*p.board];
            out.yields[*p.board] += p.length * p.width / (b.length * b.width);
        }
    }
    double begun = 0, used = 0;
    for (std::size_t i = 0; i < saw.boards.size(); ++i) {
        const RoughBoard& b = saw.boards[i];
        begun += out.yields[i] > 0 ? b.length * b.width * b.thickness : 0;
    }
    for (const SawnPiece& p : out.pieces) {
        const double thick = p.thickness - (p.leaves - 1) * saw.kerf - p.leaves * p.planing;
        used += p.board ? (p.length - saw.longer) * (p.width - saw.wider) * thick : 0;
    }
    out.yield = begun > 0 ? used / begun : 0;
    return out;
}

std::string cutListCsv(const Derived& d) {
    std::string out = "piece,wood,length_mm,width_mm,thickness_mm,then,board,x_mm,y_mm\n";
    for (const SawnPiece& p : cutList(d).pieces) {
        out += fmt::format("{},{},{:.1f},{:.1f},{:.1f},{},", quoted(p.piece),
                           quoted(woodOf(d.project, p.wood).name), p.length, p.width, p.thickness,
                           thenDo(p));
        out += p.board ? fmt::format("{},{:.1f},{:.1f}\n", *p.board + 1, p.x, p.y)
                       : std::string("to buy,,\n");
    }
    return out;
}

} // namespace wren
