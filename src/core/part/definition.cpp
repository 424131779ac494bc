#include "part/definition.h"

#include "geom/bands.h"

#include <algorithm>

namespace wren {
namespace {

/// The front's height over a place of the board.
double openTop(const BoardPart& board, Vec2 at) {
    const Fretboard& design = board.design();
    double z = board.face(at.x, at.y);
    if (const int nearest = board.nearestSlot(at); nearest >= 0) {
        const FretSlot& s = board.slots()[static_cast<std::size_t>(nearest)];
        // A through slot runs on past the edges, a blind one ends square.
        const double along = dot(at - s.low, s.along());
        const bool within = !s.blind || (along > 0 && along < length(s.high - s.low));
        if (within && std::abs(s.offset(at)) < design.slotWidth / 2) {
            z = std::min(z, board.floor(at.x, at.y));
        }
    }
    if (board.onShelf(at)) {
        z = std::min(z, board.shelf()->floor);
    }
    return z;
}

struct OpenMarker {
    double floor;
    Bands outline;
};

constexpr double chord = 0.001; ///< of arcs as points, mm

} // namespace

Definition definitionOf(const BoardPart& board) {
    std::vector<OpenMarker> open;
    if (board.design().markers.inlay == Inlay::pressed) {
        for (const MarkerPocket& m : board.pockets()) {
            open.push_back({m.floor, Bands({pointsOf(m.outline, chord)})});
        }
    }
    return [board, open](Vec3 p) {
        const Vec2 at{p.x, p.y};
        if (p.z < 0 || board.outsideBy(at) > 0 || p.z > openTop(board, at)) {
            return false;
        }
        return std::none_of(open.begin(), open.end(), [&](const OpenMarker& m) {
            return p.z > m.floor && m.outline.holds(at);
        });
    };
}

Definition definitionOf(const NeckPart& part) {
    std::optional<Definition> carved;
    if (part.carved()) {
        carved = definitionOf(*part.carved());
    }
    return [part, carved, outline = Bands({pointsOf(part.outline().contour(), chord)})](Vec3 p) {
        const Vec2 at{p.x, p.y};
        if (!outline.holds(at)) {
            return false;
        }
        if (carved && p.z > 0 && (*carved)(p)) {
            return true;
        }
        if (p.z > part.face(p.x) || p.z < -part.back().depth(p.x, p.y)) {
            return false;
        }
        for (const NeckPocket& k : part.pockets()) {
            if (!k.fromBack && k.holds(at) && p.z > k.floorAt(at)) {
                return false;
            }
        }
        return std::none_of(part.holes().begin(), part.holes().end(), [&](const Hole& h) {
            const bool deep = h.through || (h.fromBack ? p.z < h.floor : p.z > h.floor);
            return !h.byHand && deep && length(at - h.at) < h.diameter / 2;
        });
    };
}

namespace {

/// What a pocket or a hollow takes of the wood, side by side with nothing else: places are asked by
/// the hundred thousand.
struct Hollow {
    Bands region;
    double floor, slope, levelAt;
    double ceiling; ///< of a closed one
    enum class Open { up, down, through, none } open;

    bool takes(const Vec3& p) const {
        const double z = floor + slope * (p.x - levelAt);
        const bool deep = open == Open::up     ? p.z > z
                          : open == Open::down ? p.z < z
                          : open == Open::none ? p.z > floor && p.z < ceiling
                                               : true;
        return deep && region.holds({p.x, p.y});
    }
};

std::vector<Hollow> hollowsOf(const Panel& panel) {
    std::vector<Hollow> out;
    for (const PanelPocket& p : panel.pockets) {
        const Hollow::Open open = p.through    ? Hollow::Open::through
                                  : p.fromBack ? Hollow::Open::down
                                               : Hollow::Open::up;
        out.push_back({Bands(polygonsOf(p.borders)), p.floor, p.slope, p.levelAt, 0, open});
    }
    for (const PanelPocket& p : panel.shutIn) {
        const auto [low, high] = std::minmax(p.floor, p.mouth);
        out.push_back(
            {Bands(polygonsOf({p.borders.front()})), low, 0, 0, high, Hollow::Open::none});
    }
    return out;
}

} // namespace

Definition definitionOf(const Panel& panel) {
    return [panel, hollows = hollowsOf(panel),
            outline = Bands({pointsOf(panel.outline, chord)})](Vec3 p) {
        const Vec2 at{p.x, p.y};
        // A face falls, never rises: what lies beyond its level needs no more looking.
        if (p.z > panel.top || p.z < panel.bottom || !outline.holds(at) ||
            p.z > panel.faceAt(at, false) || p.z < panel.faceAt(at, true)) {
            return false;
        }
        return std::none_of(hollows.begin(), hollows.end(),
                            [&](const Hollow& h) { return h.takes(p); }) &&
               std::none_of(panel.holes.begin(), panel.holes.end(), [&](const Hole& h) {
                   const bool deep = h.through || (h.fromBack ? p.z < h.floor : p.z > h.floor);
                   return deep && length(at - h.at) < h.diameter / 2;
               });
    };
}

} // namespace wren
