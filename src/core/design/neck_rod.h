#pragma once

#include "design/neck_back.h"

#include <optional>
#include <vector>

namespace wren {

/// The truss rod's slot on the centreline, X from and to; the adjuster's wider part at one end.
struct RodPlace {
    double from = 0, to = 0;
    double adjusterFrom = 0, adjusterTo = 0;
};
RodPlace rodPlace(const TrussRod& rod);

/// The room the rod takes, section by section.
class RodRoom {
public:
    RodRoom(const TrussRod& rod, const NeckBack& back);

    /// Depths below the glue plane: the side nearer to the strings and the one nearer to the back.
    struct Section {
        double width = 0;
        double roof = 0;
        double floor = 0;
    };
    std::optional<Section> at(double x) const; ///< nothing where there is no slot
    /// Depth of the plain slot's floor at x; one that follows the back keeps under it the wood it
    /// has where the shaft is thinnest.
    double floorAt(double x) const;

private:
    TrussRod rod_;
    const NeckBack& back_;
    RodPlace place_;
    double thinnest_ = 0; ///< shaft depth over the slot
};

/// Wood in front of a slot from the back: up to the glue plane, or to the floors of a carved face's
/// fret slots.
double woodOverRod(const Neck& neck, const Fretboard& board);

/// Shortest distance from a point in the wood to the carved back; negative outside.
double woodToBack(const NeckBack& back, Vec3 point);

/// The wood left between the rod's room and the carved back: for a slot from the back that is the
/// strip glued over it.
struct WoodUnder {
    double x = 0;
    double wood = 0;
};
/// Along the slot every `pitch` mm, its ends and the adjuster's included. A flat floor is measured
/// from its two corners, a round one from where it comes nearest.
std::vector<WoodUnder> woodUnderRod(const NeckBack& back, const TrussRod& rod, double pitch = 4);

} // namespace wren
