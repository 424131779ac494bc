#include "cut/marker_cut.h"

#include "cut/path_builder.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double drillFit = 0.03; ///< mm a drill may differ from the dot
constexpr double ringStep = 0.4;  ///< of the diameter, between rings
constexpr double peck = 2;        ///< mm a drill goes between clearing its chips
constexpr double pastEdge = 0.5;  ///< mm a wrap's bit stands clear of the board
constexpr double airAbove = 0.3;  ///< mm over the face where feeding begins

class MarkerWriter {
public:
    MarkerWriter(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds)
        : board_(board), setup_(setup), bit_(bit), feeds_(feeds),
          clear_(setup.topZ() + clearanceHeight), path_({0, 0, clear_}) {}

    void drill(const MarkerPocket& pocket) {
        const Vec3 at = lay(pocket.place.at, pocket.floor - bit_.tipHeight());
        const double top = topOver(pocket);
        path_.travelTo(at.xy(), clear_, setup_.topZ() + approachHeight);
        for (double z = top; z > at.z + 1e-9;) {
            z = std::max(at.z, z - peck);
            path_.feed({at.x, at.y, z}, feeds_.plunge);
            if (z > at.z + 1e-9) {
                path_.feed({at.x, at.y, top + airAbove}, feeds_.feed);
            }
        }
        path_.dwell(0.2);
        lift();
    }

    void pocket(const MarkerPocket& pocket) {
        const std::vector<Contour> rings = ringsOf(pocket, 0);
        const double top = topOver(pocket);
        const double floor = setup_.fromInstrument.toSetup({0, 0, pocket.floor}).z;
        const int levels = levelsFor(top - floor);
        const Vec2 start = lay(rings.back().back().to, 0).xy();
        path_.travelTo(start, clear_, setup_.topZ() + approachHeight);
        path_.feed({start.x, start.y, top}, feeds_.plunge);
        double z = top;
        for (int level = 1; level <= levels; ++level) {
            const double next = top + (floor - top) * level / levels;
            back(rings.back(), z, next); // down along the innermost ring
            for (auto ring = rings.rbegin(); ring != rings.rend(); ++ring) {
                const Vec2 on = lay(ring->back().to, 0).xy();
                path_.feed({on.x, on.y, next}, feeds_.feed);
                back(*ring, next, next);
            }
            z = next;
            if (level < levels) {
                path_.feed({start.x, start.y, z}, feeds_.feed);
            }
        }
        lift();
    }

    void wrap(const MarkerPocket& pocket) {
        // As drawn it reaches past the edge; the bit's axis must stand clear of that, and of the
        // edge where it slants away.
        const std::vector<Contour> rings =
            ringsOf(pocket, 2 * (bit_.radius() + pastEdge) + pocket.beyond);
        const double top = topOver(pocket);
        const double floor = setup_.fromInstrument.toSetup({0, 0, pocket.floor}).z;
        const int levels = levelsFor(top - floor);
        bool entered = false;
        for (int level = 1; level <= levels; ++level) {
            const double z = top + (floor - top) * level / levels;
            for (auto ring = rings.rbegin(); ring != rings.rend(); ++ring) {
                // In along one side, round, out along the other; the foot stays open. Backward, so
                // that the wall lies on the climbing side.
                const Vec2 on = lay((*ring)[2].to, 0).xy();
                if (!entered) {
                    path_.travelTo(on, clear_, setup_.topZ() + approachHeight);
                    entered = true;
                }
                path_.feed({on.x, on.y, path_.at().z}, feeds_.feed);
                path_.feed({on.x, on.y, z}, feeds_.plunge);
                back({ring->begin(), ring->begin() + 3}, z, z);
            }
        }
        lift();
    }

    Path take() { return path_.take(); }

private:
    Vec3 lay(Vec2 p, double z) const { return setup_.fromInstrument.toSetup({p.x, p.y, z}); }

    /// Setup Z just over the face where it is highest in the marker.
    double topOver(const MarkerPocket& pocket) const {
        double high = 0;
        for (const ContourPiece& piece : pocket.outline) {
            for (int i = 0; i < 8; ++i) {
                const Vec2 p = piece.at(piece.length() * i / 8);
                high = std::max(high, board_.face(p.x, p.y));
            }
        }
        return setup_.fromInstrument.toSetup({0, 0, high + airAbove}).z;
    }

    int levelsFor(double depth) const {
        return std::max(1, static_cast<int>(std::ceil(depth / feeds_.depthPerPass - 1e-9)));
    }

    /// Rings for the bit's axis, the wall's first, each close enough to the next that nothing
    /// stands between them, the last close enough to the middle.
    std::vector<Contour> ringsOf(const MarkerPocket& pocket, double beyond) const {
        const Markers& m = board_.design().markers;
        const double half = m.size / 2;
        const double r = bit_.radius();
        std::vector<Contour> rings;
        const double deepest = std::max(r, half - 0.9 * r);
        const int n =
            static_cast<int>(std::ceil((deepest - r) / (ringStep * bit_.diameter) - 1e-9));
        for (int i = 0; i <= n; ++i) {
            // A bit of just the marker's width still needs a ring: a hair's breadth.
            const double inset = std::min(n > 0 ? r + (deepest - r) * i / n : r, half - 0.001);
            rings.push_back(markerOutline(m, pocket.place, inset, beyond));
        }
        return rings;
    }

    /// Along a ring against its own clockwise sense, so that its wall is climbed; the height falls
    /// evenly.
    void back(const Contour& ring, double z0, double z1) {
        const double whole = lengthOf(ring);
        double done = 0;
        for (auto piece = ring.rbegin(); piece != ring.rend(); ++piece) {
            done += piece->length();
            const double z = z0 + (z1 - z0) * done / whole;
            const Vec2 to = lay(piece->from, 0).xy();
            if (piece->kind == ContourPiece::Kind::line) {
                path_.feed({to.x, to.y, z}, feeds_.feed);
            } else {
                path_.counter({to.x, to.y, z}, lay(piece->centre, 0).xy(), feeds_.feed);
            }
        }
    }

    void lift() { path_.rapid({path_.at().x, path_.at().y, clear_}); }

    const BoardPart& board_;
    const Setup& setup_;
    const Bit& bit_;
    const Feeds& feeds_;
    double clear_;
    PathBuilder path_;
};

} // namespace

const char* markerWayName(MarkerWay way) {
    switch (way) {
    case MarkerWay::drilled:
        return "drilled";
    case MarkerWay::bored:
        return "bored";
    case MarkerWay::pocketed:
        break;
    }
    return "pocketed";
}

std::optional<MarkerWay> markerWay(const Markers& m, const Bit& bit) {
    if (bit.kind == BitKind::drill) {
        const bool fits =
            m.shape == MarkerShape::dot && std::abs(bit.diameter - m.size) <= drillFit;
        return fits ? std::optional(MarkerWay::drilled) : std::nullopt;
    }
    if (!cutsFlat(bit.kind) || bit.radius() > tightestRadius(m) - 0.01) {
        return std::nullopt;
    }
    const bool oneHelix = m.shape == MarkerShape::dot && bit.diameter >= m.size / 2;
    return oneHelix ? MarkerWay::bored : MarkerWay::pocketed;
}

Path markerPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds) {
    MarkerWriter writer(board, setup, bit, feeds);
    const Markers& m = board.design().markers;
    for (const MarkerPocket& pocket : board.pockets()) {
        if (bit.kind == BitKind::drill) {
            writer.drill(pocket);
        } else if (m.shape == MarkerShape::wrap) {
            writer.wrap(pocket);
        } else {
            writer.pocket(pocket);
        }
    }
    return writer.take();
}

} // namespace wren
