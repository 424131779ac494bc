#include "proof/designed.h"

#include "part/panel_field.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double gone = 1; ///< mm under the bed: no wood

/// Sets every column's heights from `heightAt(x, y)`, instrument frame to setup Z; `column(x)`
/// makes what all of one X share.
template <typename Column>
void fill(Stock& stock, const Setup& setup, Column column) {
    tbb::parallel_for(0, stock.columns(), [&](int c) {
        const double x = setup.fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const auto heightAt = column(x);
        for (int r = 0; r < stock.rows(); ++r) {
            const double y = setup.fromInstrument.toInstrument({0, stock.y(r), 0}).y;
            const std::optional<double> z = heightAt(y);
            stock.row(r)[c] = static_cast<float>(z ? setup.fromInstrument.toSetup({x, y, *z}).z
                                                   : stock.bottomZ() - gone);
        }
    });
}

bool within(const std::vector<std::array<double, 2>>& stretches, double y) {
    return std::any_of(stretches.begin(), stretches.end(),
                       [y](const std::array<double, 2>& s) { return y >= s[0] && y <= s[1]; });
}

double slottedFace(const BoardPart& board, Vec2 at) {
    const int slot = board.nearestSlot(at);
    if (slot >= 0) {
        const FretSlot& s = board.slots()[static_cast<std::size_t>(slot)];
        if (distanceToSegment(at, s.low, s.high) < board.design().slotWidth / 2) {
            return board.floor(at.x, at.y);
        }
    }
    return board.face(at.x, at.y);
}

} // namespace

Stock designedBoard(const BoardPart& board, const Setup& setup, double cell) {
    Stock stock(setup.blank, setup.bottomZ(), cell);
    fill(stock, setup, [&](double x) {
        return [&board, x](double y) -> std::optional<double> {
            if (board.outsideBy({x, y}) > 0) {
                return std::nullopt;
            }
            return slottedFace(board, {x, y});
        };
    });
    return stock;
}

Stock designedNeck(const NeckPart& part, const Held& held, double cell) {
    const auto drilled = [&part](Vec2 at, bool fromBack, double z) {
        for (const Hole& h : part.holes()) {
            if (!h.byHand && length(at - h.at) < h.diameter / 2 &&
                (h.through || h.fromBack == fromBack)) {
                z = fromBack ? std::max(z, h.floor) : std::min(z, h.floor);
                if (h.through) {
                    return std::optional<double>();
                }
            }
        }
        return std::optional(z);
    };
    Stock face(held.blank, held.face.bottomZ(), cell);
    fill(face, held.face, [&](double x) {
        return [&, x, wood = part.outline().stretches(x)](double y) -> std::optional<double> {
            double z = part.face(x);
            if (!within(wood, y)) {
                return std::nullopt;
            }
            if (part.onCarved({x, y}) > 0) {
                return drilled({x, y}, false, slottedFace(*part.carved(), {x, y}));
            }
            for (const NeckPocket& p : part.pockets()) {
                if (!p.fromBack && p.holds({x, y})) {
                    z = std::min(z, p.floorAt({x, y}));
                }
            }
            return drilled({x, y}, false, z);
        };
    });
    const Blank& b = held.blank;
    const double bottom = held.back->bottomZ();
    Stock whole = held.turn == TurnOver::sideForSide
                      ? face.turnedSideForSide(b.length, b.width, bottom)
                      : face.turnedEndForEnd(b.length, b.width, bottom);
    fill(whole, *held.back, [&](double x) {
        return [&, slice = part.back().slice(x),
                wood = part.outline().stretches(x)](double y) -> std::optional<double> {
            if (!within(wood, y)) {
                return std::nullopt;
            }
            return drilled({slice.x(), y}, true, -slice.depth(y));
        };
    });
    return whole;
}

Stock designedPanel(const Panel& panel, const Setup& setup, double cell) {
    Stock stock(setup.blank, setup.bottomZ(), cell);
    const PanelField field(panel, setup.fromInstrument,
                           {{stock.x(0), stock.y(0)}, cell, stock.columns(), stock.rows()});
    for (int r = 0; r < stock.rows(); ++r) {
        for (int c = 0; c < stock.columns(); ++c) {
            const auto i = static_cast<std::size_t>(r) * static_cast<std::size_t>(stock.columns()) +
                           static_cast<std::size_t>(c);
            if (!field.in(i) || field.open(i)) {
                stock.row(r)[c] = static_cast<float>(stock.bottomZ() - gone);
                continue;
            }
            const double a = setup.fromInstrument.toSetup({0, 0, field.front[i]}).z;
            const double b = setup.fromInstrument.toSetup({0, 0, field.back[i]}).z;
            stock.keepCell(c, r, std::min(a, b), std::max(a, b));
        }
    }
    return stock;
}

} // namespace wren
