#include "part/centres.h"

#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double cell = 1; ///< mm

/// Calls f(place) for the middles of columns between two X, and between the Y that `across` gives.
template <typename Across, typename F>
void overColumns(double xLow, double xHigh, Across across, F f) {
    const int nx = std::max(1, static_cast<int>(std::ceil((xHigh - xLow) / cell)));
    const double dx = (xHigh - xLow) / nx;
    for (int i = 0; i < nx; ++i) {
        const double x = xLow + (i + 0.5) * dx;
        const std::array<double, 2> y = across(x);
        const int ny = std::max(1, static_cast<int>(std::ceil((y[1] - y[0]) / cell)));
        const double dy = (y[1] - y[0]) / ny;
        for (int k = 0; k < ny && dy > 0; ++k) {
            f(Vec2{x, y[0] + (k + 0.5) * dy}, dx * dy);
        }
    }
}

double faceOf(const NeckPart& neck, Vec2 at) {
    return neck.onCarved(at) > 0 ? neck.carved()->face(at.x, at.y) : neck.face(at.x);
}

/// Z of what the first `among` of the neck's pockets leave of its face there.
double leftBy(const NeckPart& neck, std::size_t among, Vec2 at) {
    double top = faceOf(neck, at);
    for (std::size_t i = 0; i < among; ++i) {
        const NeckPocket& p = neck.pockets()[i];
        if (!p.fromBack && p.holds(at)) {
            top = std::min(top, p.floorAt(at));
        }
    }
    return top;
}

} // namespace

Vec3 centreOf(const BoardPart& board) {
    Lump wood;
    overColumns(
        board.xLow(), board.xHigh(),
        [&](double x) {
            return board.across(x).value_or(std::array<double, 2>{0, 0});
        },
        [&](Vec2 at, double area) {
            const double top = board.onShelf(at) ? board.shelf()->floor : board.face(at.x, at.y);
            wood.column(at, 0, top, area);
        });
    for (const FretSlot& slot : board.slots()) {
        const Vec2 at = (slot.low + slot.high) * 0.5;
        wood.takeColumn(at, board.floor(at.x, at.y), board.face(at.x, at.y),
                        length(slot.high - slot.low) * board.design().slotWidth);
    }
    return wood.centre();
}

Lump pocketedOf(const NeckPart& neck, const std::function<bool(Vec2)>& counts) {
    Lump out;
    for (std::size_t i = 0; i < neck.pockets().size(); ++i) {
        const NeckPocket& p = neck.pockets()[i];
        if (p.fromBack) {
            continue;
        }
        const auto across = [&](double) { return std::array{p.box[0].y, p.box[1].y}; };
        overColumns(p.box[0].x, p.box[1].x, across, [&](Vec2 own, double area) {
            const Vec2 at = p.out(own);
            const std::array<double, 2> edges = neck.outline().across(at.x);
            const bool inWood = at.x > neck.outline().tip() && at.x < neck.outline().end() &&
                                at.y > edges[0] && at.y < edges[1];
            if (inWood && counts(at)) {
                out.column(at, p.floorAt(at), leftBy(neck, i, at), area);
            }
        });
    }
    return out;
}

Vec3 centreOf(const NeckPart& neck) {
    return woodOf(neck, [](Vec2) { return true; }).centre();
}

Lump woodOf(const NeckPart& neck, const std::function<bool(Vec2)>& counts) {
    Lump wood;
    const NeckOutline& outline = neck.outline();
    std::optional<NeckBack::Slice> slice;
    overColumns(
        outline.tip(), outline.end(),
        [&](double x) {
            slice = neck.back().slice(x);
            return outline.across(x);
        },
        [&](Vec2 at, double area) {
            if (!counts(at)) {
                return;
            }
            wood.column(at, -slice->depth(at.y), faceOf(neck, at), area);
        });
    const Lump pockets = pocketedOf(neck, counts);
    wood.add(-pockets.volume, pockets.centre());
    for (const Hole& h : neck.holes()) {
        if (!h.byHand && counts(h.at)) {
            wood.takeColumn(h.at, std::min(h.mouth, h.floor), std::max(h.mouth, h.floor),
                            std::numbers::pi / 4 * h.diameter * h.diameter);
        }
    }
    return wood;
}

} // namespace wren
