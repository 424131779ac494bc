#include "proof/filling.h"

#include "proof/proof.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double chordError = 0.001; ///< mm
constexpr double proud = 0.4;        ///< mm a filling stands over the face before it is skimmed

} // namespace

ConvexRows::ConvexRows(std::vector<Vec2> points) : points_(std::move(points)) {
    low_ = std::numeric_limits<double>::infinity();
    high_ = -low_;
    for (Vec2 p : points_) {
        low_ = std::min(low_, p.y);
        high_ = std::max(high_, p.y);
    }
}

std::pair<double, double> ConvexRows::at(double y) const {
    double from = std::numeric_limits<double>::infinity();
    double to = -from;
    if (y < low_ || y > high_) {
        return {from, to};
    }
    for (std::size_t i = 0; i < points_.size(); ++i) {
        const Vec2 a = points_[i];
        const Vec2 b = points_[(i + 1) % points_.size()];
        if ((a.y - y) * (b.y - y) > 0) {
            continue;
        }
        const double x = a.y == b.y ? a.x : a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y);
        from = std::min(from, x);
        to = std::max(to, x);
    }
    return {from, to};
}

ConvexRows rowsOf(const Contour& contour, const Setup& setup) {
    std::vector<Vec2> points;
    for (const ContourPiece& piece : contour) {
        int n = 1;
        if (piece.isArc()) {
            const double step = std::sqrt(8 * piece.radius() * chordError);
            n = std::max(4, static_cast<int>(std::ceil(piece.length() / step)));
        }
        for (int i = 0; i < n; ++i) {
            const Vec2 p = piece.at(piece.length() * i / n);
            points.push_back(setup.fromInstrument.toSetup({p.x, p.y, 0}).xy());
        }
    }
    return ConvexRows(std::move(points));
}

std::vector<Filling> fillingsOf(const BoardPart& board, const Setup& setup,
                                const std::vector<RunProgram>& programs) {
    std::vector<Filling> fillings;
    if (board.design().markers.inlay != Inlay::filled) {
        return fillings;
    }
    const auto programOf = [&](CutKind cut) {
        return std::find_if(programs.begin(), programs.end(),
                            [cut](const RunProgram& p) { return p.has(cut); });
    };
    const auto skim = programOf(CutKind::skim);
    const auto pockets = programOf(CutKind::markers);
    if (skim == programs.end()) {
        return fillings;
    }
    const bool drilled = pockets != programs.end() && pockets->bit.kind == BitKind::drill;
    for (std::size_t i = 0; i < setup.places.size(); ++i) {
        const Setup here = setup.at(i);
        const auto height = [&](double z) { return here.fromInstrument.toSetup({0, 0, z}).z; };
        for (const MarkerPocket& pocket : board.pockets()) {
            Filling f;
            f.beforeProgram = static_cast<std::size_t>(skim - programs.begin());
            const Markers& m = board.design().markers;
            // A filling runs into every hair's breadth the bit really took.
            f.pocket = rowsOf(markerOutline(m, pocket.place, -wallAllowed, pocket.beyond), here);
            f.floor = rowsOf(markerOutline(m, pocket.place, 0.05), here);
            f.floorZ = height(pocket.floor);
            f.point = drilled ? pockets->bit.tipHeight() : 0;
            f.fillTo = height(board.design().thickness) + proud;
            f.atX = pocket.place.at.x;
            f.what = "A marker's pocket";
            fillings.push_back(std::move(f));
        }
    }
    return fillings;
}

Findings judgeFilledFloors(PartId part, const std::vector<Filling>& fillings,
                           const std::vector<FloorSeen>& floors) {
    // Pockets that are filled cannot be measured afterwards; they were, just before.
    Findings out;
    for (std::size_t i = 0; i < fillings.size() && out.empty(); ++i) {
        const Filling& f = fillings[i];
        if (!floors[i].seen) {
            continue;
        }
        const double deep = f.floorZ - f.point - floors[i].lowest;
        const double shallow = floors[i].highest - f.floorZ;
        const double error = std::max(deep, shallow);
        if (error > wallAllowed) {
            sayOf(part, out, Weight::stop, "pocket-depth",
                  fmt::format("{} is {:.3f} mm too {} before it is filled, {:.1f} mm from the nut; "
                              "{:.2f} mm is allowed.",
                              f.what, error, deep > shallow ? "deep" : "shallow", f.atX,
                              wallAllowed),
                  error, wallAllowed)
                .atX = f.atX;
        }
    }
    return out;
}

} // namespace wren
