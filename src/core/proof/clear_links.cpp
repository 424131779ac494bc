#include "proof/clear_links.h"

#include "cut/settings.h"
#include "proof/clamp_check.h"

#include <algorithm>
#include <limits>
#include <optional>

namespace wren {
namespace {

constexpr double clearOf = 3; ///< mm of a clamp, of whatever comes nearest to it

/// The ways of one bit at one height between clamps.
class Ways {
public:
    Ways(const std::vector<ClampBox>& clamps, const Bit& bit, const Setup& setup,
         std::size_t station, const Machine& machine)
        : clamps_(clamps), bit_(bit), zero_(setup.zeroOn(station)), machine_(machine) {}

    bool meets(Vec3 from, Vec3 to, double clear) const {
        const Move m = straightMove(Motion::rapid, from, to, 0);
        return std::any_of(clamps_.begin(), clamps_.end(), [&](const ClampBox& c) {
            return touches(m, bit_, c, machine_.end, clear);
        });
    }

    /// The places a way round goes by, the end last; none where there is no way.
    std::vector<Vec2> round(Vec2 from, Vec2 to, double z) const {
        std::vector<Vec2> at{from, to};
        for (const ClampBox& c : clamps_) {
            for (Vec2 corner : cornersOf(c, z)) {
                if (reached(corner)) {
                    at.push_back(corner);
                }
            }
        }
        return shortest(at, z);
    }

    /// High enough over all that a straight way meets.
    double over(Vec3 from, Vec3 to) const {
        constexpr double step = 1;
        double z = from.z;
        while (meets({from.x, from.y, z}, {to.x, to.y, z}, clearOf)) {
            z += step;
        }
        return z;
    }

private:
    /// Where the tool stands just clear of a clamp.
    std::array<Vec2, 4> cornersOf(ClampBox c, double z) const {
        constexpr double more = 0.01;
        const double off =
            widestBelow(bit_, machine_.end, c.high + clearOf - z) + clearOf + more;
        c.half = c.half + Vec2{off, off};
        return c.corners();
    }

    bool reached(Vec2 p) const {
        const Vec2 on = zero_ + p - machine_.lowCorner();
        return on.x >= 0 && on.y >= 0 && on.x <= machine_.travel.x && on.y <= machine_.travel.y;
    }

    /// From the first to the second of these places (Dijkstra, Numerische Mathematik 1, 1959). A
    /// way may begin or end nearer to a clamp than it goes past one: there the cut decides.
    std::vector<Vec2> shortest(const std::vector<Vec2>& at, double z) const {
        const std::size_t n = at.size();
        std::vector<double> far(n, std::numeric_limits<double>::infinity());
        std::vector<std::size_t> by(n, 0);
        std::vector<char> done(n, 0);
        far[0] = 0;
        for (std::size_t turn = 0; turn < n; ++turn) {
            std::size_t next = n;
            for (std::size_t i = 0; i < n; ++i) {
                if (!done[i] && far[i] < std::numeric_limits<double>::infinity() &&
                    (next == n || far[i] < far[next])) {
                    next = i;
                }
            }
            if (next == n || next == 1) {
                break;
            }
            done[next] = 1;
            for (std::size_t i = 1; i < n; ++i) {
                const double way = far[next] + length(at[i] - at[next]);
                if (!done[i] && way < far[i] && free(at, next, i, z)) {
                    far[i] = way;
                    by[i] = next;
                }
            }
        }
        std::vector<Vec2> out;
        for (std::size_t i = 1; far[1] < std::numeric_limits<double>::infinity() && i != 0;
             i = by[i]) {
            out.insert(out.begin(), at[i]);
        }
        return out;
    }

    bool free(const std::vector<Vec2>& at, std::size_t a, std::size_t b, double z) const {
        const double clear = a == 0 || b == 1 ? 0 : clearOf;
        return !meets({at[a].x, at[a].y, z}, {at[b].x, at[b].y, z}, clear);
    }

    const std::vector<ClampBox>& clamps_;
    const Bit& bit_;
    Vec2 zero_;
    const Machine& machine_;
};

/// A level way over the work.
bool isLink(const Move& m, Vec3 at) {
    return m.motion == Motion::rapid && m.to.xy() != at.xy() && m.to.z == at.z;
}

/// A cut's path with its links led clear; `at` is where the tool comes from, and then stands.
Path ledClear(const Path& path, const Ways& ways, Vec3& at) {
    Path out;
    out.reserve(path.size());
    const auto go = [&](Vec3 to) {
        Move m = straightMove(Motion::rapid, at, to, 0);
        out.push_back(m);
        at = to;
    };
    for (const Move& m : path) {
        if (!isLink(m, at) || !ways.meets(at, m.to, 0)) {
            out.push_back(m);
            at = m.to;
            continue;
        }
        const std::vector<Vec2> round = ways.round(at.xy(), m.to.xy(), at.z);
        for (Vec2 p : round) {
            go({p.x, p.y, at.z});
        }
        if (round.empty()) {
            const double z = ways.over(at, m.to);
            go({at.x, at.y, z});
            go({m.to.x, m.to.y, z});
            go(m.to);
        }
        out.back().dwell = m.dwell;
        out.back().spindleOn = m.spindleOn;
    }
    return out;
}

} // namespace

void clearLinks(SidePlan& side, const ClampsByStation& clamps, const Machine& machine) {
    const Cut* before = nullptr;
    Vec3 at;
    for (Cut& cut : side.cuts) {
        const std::vector<ClampBox>& standing = clamps[cut.station];
        const bool begins = !before || before->bit.name != cut.bit.name ||
                            before->station != cut.station || !cut.handBefore.empty();
        if (begins) { // a program begins over its zero
            const Vec2 zero = side.setup.zeroOf(cut.station);
            at = {zero.x, zero.y, side.setup.topZ() + clearanceHeight};
        }
        if (!standing.empty()) {
            const Ways ways(standing, cut.bit, side.setup, cut.station, machine);
            cut.path = ledClear(cut.path, ways, at);
        } else if (!cut.path.empty()) {
            at = cut.path.back().to;
        }
        before = &cut;
    }
}

} // namespace wren
