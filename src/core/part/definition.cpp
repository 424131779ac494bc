#include "part/definition.h"

#include "geom/bands.h"

#include <algorithm>

namespace wren {
namespace {

/// The front's height over a place of the board.
double openTop(const BoardPart& board, Vec2 at) {
    const Fretboard& design = board.design();
    double z = board.face(at.x, at.y);
    for (const FretSlot& s : board.slots()) {
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

Definition definitionOf(const Panel& panel) {
    struct Hollow {
        PanelPocket pocket;
        Bands region;
        bool closed;
    };
    std::vector<Hollow> hollows;
    for (const PanelPocket& p : panel.pockets) {
        hollows.push_back({p, Bands(polygonsOf(p.borders)), false});
    }
    for (const PanelPocket& p : panel.shutIn) {
        hollows.push_back({p, Bands(polygonsOf({p.borders.front()})), true});
    }
    return [panel, hollows, outline = Bands({pointsOf(panel.outline, chord)})](Vec3 p) {
        const Vec2 at{p.x, p.y};
        if (!outline.holds(at) || p.z > panel.faceAt(at, false) || p.z < panel.faceAt(at, true)) {
            return false;
        }
        for (const Hollow& h : hollows) {
            const PanelPocket& k = h.pocket;
            const double floor = k.floorAt(p.x);
            const bool deep =
                h.closed     ? p.z > std::min(k.floor, k.mouth) && p.z < std::max(k.floor, k.mouth)
                : k.through  ? true
                : k.fromBack ? p.z < floor
                             : p.z > floor;
            if (deep && h.region.holds(at)) {
                return false;
            }
        }
        return std::none_of(panel.holes.begin(), panel.holes.end(), [&](const Hole& h) {
            const bool deep = h.through || (h.fromBack ? p.z < h.floor : p.z > h.floor);
            return deep && length(at - h.at) < h.diameter / 2;
        });
    };
}

} // namespace wren
