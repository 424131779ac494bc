#pragma once

#include <string>
#include <vector>

namespace wren {

enum class BitKind {
    flat, ///< up-cut
    downCut,
    compression,
    ball,
    bullNose,
    taperedBall,
    vee,
    drill,
    fretSlot,
    surfacing
};

const char* bitKindName(BitKind kind);            ///< "flat", "down-cut", "fret-slot" ...
BitKind bitKindFromName(const std::string& name); ///< throws Error naming the known kinds
const std::vector<std::string>& bitKindNames();

/// A cutter as it sits in the drawer. Lengths in mm.
struct Bit {
    std::string name;
    BitKind kind = BitKind::flat;
    double diameter = 6;
    double fluteLength = 22; ///< how deep it may go below the wood around it
    int flutes = 2;
    double shank = 6;   ///< diameter above the flutes
    double corner = 0;  ///< a bull-nose's corner radius
    double tip = 0;     ///< diameter of a tapered ball's end
    double angle = 0;   ///< degrees, whole: of a V or a drill's point, or of a taper
    double reach = 0;   ///< from the tip to the collet nut; 0: the usual for its flutes
    double collet = 0;  ///< size of the collet it needs; 0: the shank's
    double maxRpm = 0;  ///< 0: no limit of its own
    double maxFeed = 0; ///< mm/min; 0: no limit of its own
    std::string unknown{}; ///< what a file held of it that this version does not know

    double radius() const { return diameter / 2; }
    /// Flutes and as much again, 16 mm of shank at least; common practice, no source.
    double reachOrUsual() const {
        return reach > 0 ? reach : fluteLength + (fluteLength > 16 ? fluteLength : 16);
    }
    double colletOrShank() const { return collet > 0 ? collet : shank; }
    /// How far the tip stands below the full diameter: what a through cut has to add.
    double tipHeight() const;

    friend bool operator==(const Bit&, const Bit&) = default;
};

/// Cuts a level floor and an upright wall: flat, down-cut or compression.
bool cutsFlat(BitKind kind);

/// The cutting end, as a body of revolution seen from the side: a flat disc, a rounding that
/// starts at its rim, and a cone that starts where the rounding has turned up to the cone's own
/// slope. mm.
struct EndShape {
    double flat = 0;     ///< radius of the level disc
    double rounding = 0; ///< radius of the corner
    double slope = 0;    ///< rise of the cone per mm outward; 0: no cone
    double radius = 0;   ///< of the whole bit

    static EndShape of(const Bit& bit);

    bool ball() const { return flat == 0 && slope == 0; }
    bool plainFlat() const { return rounding == 0 && slope == 0; }
    /// How high over the tip the surface stands `d` from the axis, 0 <= d <= radius.
    double heightAt(double d) const;
    /// How wide it is so high over the tip, as a radius; height >= 0.
    double radiusAt(double height) const;
    /// The derivative of heightAt().
    double slopeAt(double d) const;
};

using Drawer = std::vector<Bit>;

/// The bit of that name, or nullptr.
const Bit* findBit(const Drawer& drawer, const std::string& name);

} // namespace wren
