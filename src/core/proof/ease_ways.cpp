#include "proof/ease_ways.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// A way as a chain of points, up to `most` mm long.
struct Chain {
    std::vector<Vec3> points;
    std::vector<double> at; ///< mm from its start

    double whole() const { return at.back(); }
};
Chain chainOf(const Path& path, std::size_t first, double most) {
    constexpr double chord = 0.002;
    Chain chain{{path[first].from}, {0}};
    for (std::size_t i = first;
         i < path.size() && path[i].cuts() && !goesStraightDown(path[i]) && chain.whole() < most;
         ++i) {
        const int n = chordsFor(path[i], chord);
        for (int k = 1; k <= n && chain.whole() < most; ++k) {
            const Vec3 from = chain.points.back();
            Vec3 to = path[i].at(static_cast<double>(k) / n);
            double l = length(to.xy() - from.xy());
            if (chain.whole() + l > most) {
                to = from + (to - from) * ((most - chain.whole()) / l);
                l = most - chain.whole();
            }
            chain.points.push_back(to);
            chain.at.push_back(chain.whole() + l);
        }
    }
    return chain;
}

} // namespace

Move partOf(const Move& m, double from, double to) {
    Move part = m;
    part.from = from > 0 ? m.at(from) : m.from;
    part.to = to < 1 ? m.at(to) : m.to;
    part.dwell = to < 1 ? 0 : m.dwell;
    return part;
}

PathStretch begunEarlier(const Path& path, PathStretch s, double way) {
    double there = path[s.firstMove].length() * s.firstFraction;
    while (there < way && s.firstMove > 0) {
        const Move& before = path[s.firstMove - 1];
        if (!before.cuts() || length(before.to.xy() - before.from.xy()) < 1e-6) {
            s.firstFraction = 0;
            return s;
        }
        --s.firstMove;
        there += before.length();
    }
    const double l = path[s.firstMove].length();
    s.firstFraction = l > 0 ? std::max(0.0, (there - way) / l) : 0;
    return s;
}

Path piecesOf(const Path& path, const PathStretch& s) {
    Path out;
    for (std::size_t i = s.firstMove; i <= s.lastMove; ++i) {
        const double from = i == s.firstMove ? s.firstFraction : 0;
        const double to = i == s.lastMove ? s.lastFraction : 1;
        if (to - from > 1e-9) {
            out.push_back(partOf(path[i], from, to));
        }
    }
    return out;
}

double woodOver(const Stock& stock, const EndShape& tool, const Path& way) {
    constexpr double pitch = 1;
    double most = 0;
    for (const Move& m : way) {
        const int n = std::max(1, static_cast<int>(std::ceil(m.length() / pitch)));
        for (int i = 0; i <= n; ++i) {
            const Vec3 at = m.at(static_cast<double>(i) / n);
            const int r0 = std::max(0, static_cast<int>(stock.row(at.y - tool.radius)));
            const int r1 =
                std::min(stock.rows() - 1, static_cast<int>(stock.row(at.y + tool.radius)) + 1);
            const int c0 = std::max(0, static_cast<int>(stock.column(at.x - tool.radius)));
            const int c1 = std::min(stock.columns() - 1,
                                    static_cast<int>(stock.column(at.x + tool.radius)) + 1);
            for (int r = r0; r <= r1; ++r) {
                for (int c = c0; c <= c1; ++c) {
                    const double d = length(Vec2{stock.x(c), stock.y(r)} - at.xy());
                    if (d < tool.radius && stock.wood(c, r)) {
                        most = std::max(most, stock.high(c, r) - at.z - tool.heightAt(d));
                    }
                }
            }
        }
    }
    return most;
}

Path passesOver(const Path& way, double wood, double depth, double clear, const Feeds& feeds) {
    const int passes = std::max(2, static_cast<int>(std::ceil(wood / depth - 1e-9)));
    const Vec3 start = way.front().from;
    Path out;
    Vec3 at = start;
    const auto go = [&](Motion motion, Vec3 to, double feed) {
        if (!(to == at)) {
            out.push_back(straightMove(motion, at, to, feed));
            at = to;
        }
    };
    const double top = std::max(clear, start.z + wood + 1);
    for (int k = passes - 1; k >= 1; --k) {
        const Vec3 lift{0, 0, wood * k / passes};
        if (k < passes - 1) {
            go(Motion::rapid, {at.x, at.y, top}, 0);
            go(Motion::rapid, {start.x, start.y, top}, 0);
            go(Motion::rapid, start + lift + Vec3{0, 0, approachHeight}, 0);
        }
        go(at.z > start.z + lift.z ? Motion::line : Motion::rapid, start + lift, feeds.plunge);
        for (Move m : way) {
            m.from = m.from + lift;
            m.to = m.to + lift;
            out.push_back(m);
            at = m.to;
        }
    }
    go(Motion::rapid, {at.x, at.y, top}, 0);
    go(Motion::rapid, {start.x, start.y, top}, 0);
    go(Motion::rapid, start + Vec3{0, 0, approachHeight}, 0);
    go(Motion::line, start, feeds.plunge);
    return out;
}

Path rampDown(const Path& path, std::size_t plunge, double wood, double depth, const Feeds& feeds) {
    constexpr double longest = 25; ///< of a leg, mm
    constexpr double slope = 0.12;
    const Chain chain = chainOf(path, plunge + 1, longest);
    if (plunge + 1 >= path.size() || chain.whole() < 1) {
        return {};
    }
    // Where a leg turns round, the next one meets the wedge of both.
    const double leg = std::min(depth / 2, slope * chain.whole());
    const int legs = 2 * static_cast<int>(std::ceil(wood / leg / 2)); // ends where it began
    const Vec3 place = path[plunge].to;
    Path out;
    Vec3 at = path[plunge].from;
    const auto go = [&](Vec3 to, double feed) {
        if (!(to == at)) {
            out.push_back(straightMove(Motion::line, at, to, feed));
            at = to;
        }
    };
    go({place.x, place.y, std::min(at.z, place.z + wood)}, feeds.plunge);
    for (int k = 0; k < legs; ++k) {
        const std::size_t n = chain.points.size();
        for (std::size_t i = 1; i < n; ++i) {
            const std::size_t p = k % 2 == 0 ? i : n - 1 - i;
            const double gone =
                k % 2 == 0 ? chain.at[p] : chain.whole() - chain.at[p]; // of this leg
            const double lift = wood * (1 - (k + gone / chain.whole()) / legs);
            // Never below the way itself, and level with its start at the end.
            go(chain.points[p] + Vec3{0, 0, std::max(0.0, lift)}, feeds.feed);
        }
    }
    return out;
}

} // namespace wren
