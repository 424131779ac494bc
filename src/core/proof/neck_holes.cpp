#include "proof/neck_holes.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double allowed = 0.03;   ///< mm of wood or air too much on a floor, or of a skin
constexpr double besideWall = 0.3; ///< of the hole's radius, which the paths are asked about

struct Seen {
    double tooMuch = 0, tooLittle = 0;
    Vec2 muchAt, littleAt;
};

/// How far the bored wood stands over a hole's designed floor, cell by cell. A drill ends in its
/// own cone, which is granted.
Seen lookInto(const Hole& hole, const Setup& back, double point, const Stock& stock) {
    const SetupFromInstrument& frame = back.fromInstrument;
    const Vec2 middle = frame.toSetup({hole.at.x, hole.at.y, 0}).xy();
    const double r = hole.diameter / 2 - besideWall;
    Seen seen;
    const int reach = static_cast<int>(std::ceil(r / stock.cell())) + 1;
    const int column = static_cast<int>(std::lround(stock.column(middle.x)));
    const int row = static_cast<int>(std::lround(stock.row(middle.y)));
    for (int j = std::max(0, row - reach); j <= std::min(stock.rows() - 1, row + reach); ++j) {
        for (int i = std::max(0, column - reach);
             i <= std::min(stock.columns() - 1, column + reach); ++i) {
            const Vec2 at{stock.x(i), stock.y(j)};
            if (length(at - middle) > r) {
                continue;
            }
            double much = 0;
            double little = 0;
            if (hole.through) {
                much = stock.high(i, j) - stock.low(i, j);
            } else if (hole.fromBack) {
                const double floor = frame.toSetup({0, 0, hole.floor}).z;
                much = stock.high(i, j) - floor - point;
                little = floor - stock.high(i, j);
            } else {
                const double floor = frame.toSetup({0, 0, hole.floor}).z;
                much = floor - stock.low(i, j) - point;
                little = stock.low(i, j) - floor;
            }
            if (much > seen.tooMuch) {
                seen.tooMuch = much;
                seen.muchAt = at;
            }
            if (little > seen.tooLittle) {
                seen.tooLittle = little;
                seen.littleAt = at;
            }
        }
    }
    return seen;
}

} // namespace

Findings judgeNeckHoles(const NeckPart& part, const Setup& back, const NeckPlan& plan,
                        const Stock& stock) {
    Findings out;
    const auto bitOf = [&](const Hole& hole) -> const Bit* {
        for (const SidePlan& side : plan.sides) {
            for (const Cut& cut : side.cuts) {
                const bool fits = cut.bit.kind == BitKind::drill
                                      ? std::abs(cut.bit.diameter - hole.diameter) < 0.1
                                      : cut.bit.diameter < hole.diameter;
                if (cut.kind == CutKind::holes && cut.of == hole.feature.kind && fits) {
                    return &cut.bit;
                }
            }
        }
        return nullptr;
    };
    const auto say = [&](const Hole& hole, const char* code, double value, Vec2 at,
                         const char* what) {
        const Vec3 p = back.fromInstrument.toInstrument({at.x, at.y, 0});
        Finding& f =
            sayOf(Role::neck, out, Weight::stop, code,
                  fmt::format("A {} hole {} {:.2f} mm at {:.1f} mm from the nut and {:.1f} mm off "
                              "the centreline; {:.2f} mm is allowed.",
                              hole.what, what, value, p.x, p.y, allowed),
                  value, allowed);
        f.atX = p.x;
    };
    for (const Hole& hole : part.holes()) {
        const Bit* bit = hole.byHand ? nullptr : bitOf(hole);
        if (!bit) {
            continue; // nothing bores it, which is said elsewhere
        }
        const double point = bit->kind == BitKind::drill ? bit->tipHeight() : 0;
        const Seen seen = lookInto(hole, back, point, stock);
        if (seen.tooMuch > allowed) {
            say(hole, "hole-not-open", seen.tooMuch, seen.muchAt,
                hole.through ? "keeps wood where it should be open:" : "is too shallow by");
        }
        if (seen.tooLittle > allowed) {
            say(hole, "hole-too-deep", seen.tooLittle, seen.littleAt, "is too deep by");
        }
    }
    return out;
}

} // namespace wren
