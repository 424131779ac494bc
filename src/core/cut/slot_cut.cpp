#include "cut/slot_cut.h"

#include "cut/contact.h"
#include "cut/path_builder.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

/// The chords of a pass stay within this of the true curve, mm; well inside the 0.01 allowed.
constexpr double chordTolerance = 0.002;
constexpr double rampLength = 12; ///< mm along a blind slot for one pass's descent

/// One slot's way for the bit's axis, from its low to its high end.
class SlotRun {
public:
    SlotRun(const BoardPart& board, const Setup& setup, const FretSlot& slot, const Bit& bit,
            const CutSettings& cut)
        : board_(board), setup_(setup), end_(EndShape::of(bit)), slot_(slot),
          radiusFirst_(cut.school == School::radiusFirst) {
        const Vec2 u = slot.along();
        if (slot.blind) {
            from_ = slot.low + u * bit.radius();
            to_ = slot.high - u * bit.radius();
        } else {
            // Square to the edge the bit must be clear of it, so along a slanted slot further.
            const double out = slotEntryBeyondEdge(bit);
            from_ = slot.low - u * (out / slant(-1, u));
            to_ = slot.high + u * (out / slant(1, u));
        }
    }

    /// From the wood's surface to the slot's floor at the deepest place.
    double whole() const {
        if (radiusFirst_) {
            return board_.design().slotDepth;
        }
        return setup_.facedTop() -
               std::min(board_.floor(from_.x, from_.y), board_.floor(to_.x, to_.y));
    }

    /// The tip's way along one wall when the slot has been taken down by `down` of the whole.
    /// Chords of the true floor.
    std::vector<Vec3> way(double wall, double down) const {
        const ArchedFace floor =
            board_.face().raised(radiusFirst_ ? -down : -board_.design().slotDepth);
        const double cap = radiusFirst_ ? -1e9 : setup_.facedTop() - down;
        const Vec2 side = slot_.across() * wall;
        const double r = std::min(floor.radiusAt(from_.x), floor.radiusAt(to_.x));
        const double l = length(to_ - from_);
        const int n =
            std::max(2, static_cast<int>(std::ceil(l / std::sqrt(8 * r * chordTolerance))));
        std::vector<Vec3> way;
        for (int i = 0; i <= n; ++i) {
            const Vec2 p = from_ + (to_ - from_) * (static_cast<double>(i) / n) + side;
            const Vec3 at{p.x, p.y, std::max(tipOver(floor, p.x, p.y, end_), cap)};
            const std::size_t k = way.size();
            // A level run needs only its two ends.
            if (k >= 2 && way[k - 1].z == at.z && way[k - 2].z == at.z) {
                way.back() = at;
            } else {
                way.push_back(at);
            }
        }
        return way;
    }

private:
    /// Sine of the angle between the slot and the long edge it crosses.
    double slant(int side, Vec2 u) const {
        const double slope = board_.edge(side, 1) - board_.edge(side, 0);
        return std::abs(u.y - slope * u.x) / std::sqrt(1 + slope * slope);
    }

    const BoardPart& board_;
    const Setup& setup_;
    EndShape end_;
    const FretSlot& slot_;
    bool radiusFirst_;
    Vec2 from_;
    Vec2 to_;
};

/// Lets a pass begin where the last one left off, down a ramp of its first stretch and back over
/// that ramp's own wedge, which the next pass would meet on top of its own depth.
void ramp(std::vector<Vec3>& way, double from) {
    std::vector<Vec3> first{way.front()};
    std::vector<double> at{0};
    for (std::size_t i = 1; i < way.size() && at.back() < rampLength; ++i) {
        const double step = length(way[i].xy() - way[i - 1].xy());
        const double share = std::min(1.0, (rampLength - at.back()) / std::max(step, 1e-9));
        first.push_back(way[i - 1] + (way[i] - way[i - 1]) * share);
        at.push_back(at.back() + step * share);
    }
    std::vector<Vec3> out;
    for (std::size_t i = 0; i < first.size(); ++i) {
        out.push_back(first[i] + Vec3{0, 0, from * (1 - at[i] / at.back())});
    }
    out.insert(out.end(), first.rbegin() + 1, first.rend());
    out.insert(out.end(), way.begin() + 1, way.end());
    way = std::move(out);
}

} // namespace

double slotEntryBeyondEdge(const Bit& bit) {
    return bit.radius() + 0.4;
}

double fluteReachForSlots(const BoardPart& board, const Setup& setup, const CutSettings& cut,
                          const Bit& bit) {
    if (cut.school == School::slotsFirst) {
        double deepest = board.design().slotDepth;
        for (const FretSlot& slot : board.slots()) {
            deepest = std::max(deepest, SlotRun(board, setup, slot, bit, cut).whole());
        }
        return deepest;
    }
    // Roughing leaves its stock and, between its passes, ridges up to as much again.
    return board.design().slotDepth + 2 * cut.stockToLeave;
}

Path slotPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
              const CutSettings& cut) {
    const double clear = setup.topZ() + clearanceHeight;
    PathBuilder path({0, 0, clear});
    const double offset = std::max(0.0, (board.design().slotWidth - bit.diameter) / 2);
    for (const FretSlot& slot : board.slots()) {
        const SlotRun run(board, setup, slot, bit, cut);
        // Ridges left on the face stand over it; fine ones are next to nothing.
        const bool ridged =
            cut.school == School::radiusFirst && cut.scallop > feeds.depthPerPass / 4;
        const double over = ridged ? cut.scallop : 0;
        const double whole = run.whole() + over;
        const int passes =
            std::max(1, static_cast<int>(std::ceil(whole / feeds.depthPerPass - 1e-9)));
        bool forward = true;
        bool entered = false;
        const auto one = [&](double wall, double down, double rampFrom) {
            std::vector<Vec3> way = run.way(wall, down);
            if (!forward) {
                std::reverse(way.begin(), way.end());
            }
            if (rampFrom > 0) {
                ramp(way, rampFrom);
            }
            for (Vec3& p : way) {
                p = setup.fromInstrument.toSetup(p);
            }
            if (!entered) {
                path.travelTo(way[0].xy(), clear, setup.topZ() + approachHeight);
                entered = true;
            }
            path.feed(way[0], feeds.plunge);
            for (std::size_t i = 1; i < way.size(); ++i) {
                path.feed(way[i], feeds.feed);
            }
            forward = !forward;
        };
        // One line down the middle, or out along one wall and back along the other.
        const std::vector<double> walls =
            offset > 0 ? std::vector{offset, -offset} : std::vector{0.0};
        const double step = whole / passes;
        for (int pass = 1; pass <= passes; ++pass) {
            for (double wall : walls) {
                one(wall, pass * step - over, slot.blind && wall == walls.front() ? step : 0);
            }
        }
        path.rapid({path.at().x, path.at().y, clear});
    }
    return path.take();
}

} // namespace wren
