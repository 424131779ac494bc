#include "proof/pieces_by_place.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {

PiecesByPlace::PiecesByPlace(const std::vector<RunProgram>& programs, const Setup& setup,
                             const std::vector<Contour>& walls) {
    layCells(walls);
    for (const RunProgram& p : programs) {
        ends_.push_back(EndShape::of(p.bit));
    }
    for (std::size_t p = 0; p < programs.size(); ++p) {
        for (const Move& m : programs[p].path) {
            if (m.cuts()) {
                add(m, setup, ends_[p], p, programs[p].bit.kind == BitKind::drill);
            }
        }
    }
}

void PiecesByPlace::layCells(const std::vector<Contour>& walls) {
    std::vector<Vec2> places;
    for (const Contour& wall : walls) {
        const std::vector<Vec2> own = placesAlong(wall, width / 2);
        places.insert(places.end(), own.begin(), own.end());
    }
    Vec2 high = places.empty() ? Vec2{0, 0} : places.front();
    low_ = high;
    for (Vec2 p : places) {
        low_ = {std::min(low_.x, p.x), std::min(low_.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    low_ = low_ - Vec2{width, width};
    nx_ = static_cast<int>((high.x - low_.x) / width) + 2;
    ny_ = static_cast<int>((high.y - low_.y) / width) + 2;
    asked_.assign(cell(0, ny_), 0);
    listed_.resize(asked_.size());
    for (Vec2 p : places) {
        const Range r = within(p, p, width / 2); // what is asked lies between two of the places
        for (int j = r.j0; j <= r.j1; ++j) {
            std::fill_n(asked_.begin() + std::ptrdiff_t(cell(r.i0, j)), r.i1 - r.i0 + 1, 1);
        }
    }
    before_.assign(static_cast<std::size_t>(nx_ + 1) * (ny_ + 1), 0);
    const auto sum = [&](int i, int j) -> int& {
        return before_[static_cast<std::size_t>(j) * (nx_ + 1) + i];
    };
    for (int j = 0; j < ny_; ++j) {
        for (int i = 0; i < nx_; ++i) {
            sum(i + 1, j + 1) = sum(i, j + 1) + sum(i + 1, j) - sum(i, j) + asked_[cell(i, j)];
        }
    }
}

PiecesByPlace::Range PiecesByPlace::within(Vec2 a, Vec2 b, double reach) const {
    const auto at = [](double v, double low, int n) {
        return static_cast<int>(std::clamp((v - low) / width, 0.0, n - 1.0));
    };
    return {
        at(std::min(a.x, b.x) - reach, low_.x, nx_), at(std::min(a.y, b.y) - reach, low_.y, ny_),
        at(std::max(a.x, b.x) + reach, low_.x, nx_), at(std::max(a.y, b.y) + reach, low_.y, ny_)};
}

bool PiecesByPlace::anyNear(const Range& r) const {
    const auto sum = [&](int i, int j) {
        return before_[static_cast<std::size_t>(j) * (nx_ + 1) + i];
    };
    return sum(r.i1 + 1, r.j1 + 1) - sum(r.i0, r.j1 + 1) - sum(r.i1 + 1, r.j0) + sum(r.i0, r.j0) >
           0;
}

void PiecesByPlace::add(const Move& move, const Setup& setup, const EndShape& end,
                        std::size_t program, bool drills) {
    const double reach = end.radius + 1;
    // An arc stays within its own diameter of both its ends.
    const double bow = move.isArc() ? 2 * move.radius() : 0;
    const Vec2 from = setup.fromInstrument.toInstrument(move.from).xy();
    const Vec2 to = setup.fromInstrument.toInstrument(move.to).xy();
    if (!anyNear(within(from, to, reach + bow))) {
        return;
    }
    overPieces(move, [&](const Vec3& a, const Vec3& b) {
        const CutPiece piece{setup.fromInstrument.toInstrument(a),
                             setup.fromInstrument.toInstrument(b),
                             &end,
                             program,
                             move.line,
                             drills};
        const Range r = within(piece.a.xy(), piece.b.xy(), reach);
        if (!anyNear(r)) {
            return;
        }
        const auto index = static_cast<std::uint32_t>(pieces_.size());
        pieces_.push_back(piece);
        for (int j = r.j0; j <= r.j1; ++j) {
            for (int i = r.i0; i <= r.i1; ++i) {
                if (asked_[cell(i, j)]) {
                    listed_[cell(i, j)].push_back(index);
                }
            }
        }
    });
}

const std::vector<std::uint32_t>& PiecesByPlace::near(Vec2 p) const {
    const Range r = within(p, p, 0);
    return listed_[cell(r.i0, r.j0)];
}

PiecesByPlace::Near PiecesByPlace::nearest(Vec2 at, double z, bool fromBack) const {
    Near best;
    for (std::uint32_t k : near(at)) {
        const CutPiece& p = pieces_[k];
        // Of a falling piece only what lies deep enough counts.
        Vec3 a = p.a;
        Vec3 b = p.b;
        const auto deep = [&](const Vec3& q) { return fromBack ? q.z >= z : q.z <= z; };
        if (!deep(a) && !deep(b)) {
            continue;
        }
        if (deep(a) != deep(b)) {
            const Vec3 cut = a + (b - a) * ((z - a.z) / (b.z - a.z));
            (deep(a) ? b : a) = cut;
        }
        const Vec2 way = b.xy() - a.xy();
        const double t = dot(way, way) > 0
                             ? std::clamp(dot(at - a.xy(), way) / dot(way, way), 0.0, 1.0)
                         : std::abs(a.z - z) > std::abs(b.z - z) ? 0.0
                                                                 : 1.0;
        const Vec3 tip = a + (b - a) * t;
        // A ball or a V is as wide as it is so high over its tip; a drill's point is granted.
        const double wide = p.drills ? p.end->radius : p.end->radiusAt(std::abs(z - tip.z));
        const double off = length(at - tip.xy()) - wide;
        if (off < best.off) {
            best = {off, &p};
        }
    }
    return best;
}

PiecesByPlace::Tip PiecesByPlace::tipAt(Vec2 at, double z, bool fromBack) const {
    constexpr double samePlace = 0.005;
    Tip best;
    for (std::uint32_t k : near(at)) {
        const CutPiece& p = pieces_[k];
        if (p.end->flat > 0) {
            continue;
        }
        const Vec2 way = p.b.xy() - p.a.xy();
        const double whole = dot(way, way);
        const double t = whole > 0 ? std::clamp(dot(at - p.a.xy(), way) / whole, 0.0, 1.0) : 1;
        const Vec3 tip = p.a + (p.b - p.a) * t;
        const double aside = length(at - tip.xy());
        const double below = fromBack ? tip.z - z : z - tip.z;
        if (aside < best.aside - samePlace ||
            (aside < best.aside + samePlace && below > best.below)) {
            best = {aside, below};
        }
    }
    return best;
}

double PiecesByPlace::overBall(Vec3 at, bool fromBack) const {
    double best = std::numeric_limits<double>::infinity();
    for (std::uint32_t k : near(at.xy())) {
        const CutPiece& p = pieces_[k];
        if (!p.end->ball()) {
            continue;
        }
        const Vec3 up{0, 0, fromBack ? -p.end->radius : p.end->radius};
        const Vec3 a = p.a + up;
        const Vec3 way = p.b - p.a;
        const double whole = dot(way, way);
        const double t = whole > 0 ? std::clamp(dot(at - a, way) / whole, 0.0, 1.0) : 0;
        const Vec3 off = at - (a + way * t);
        best = std::min(best, std::sqrt(dot(off, off)) - p.end->radius);
    }
    return best;
}

} // namespace wren
