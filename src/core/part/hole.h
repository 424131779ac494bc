#pragma once

#include "base/feature_id.h"
#include "geom/vec.h"

#include <string>

namespace wren {

/// A round hole square to a part's face: X and Y along it, Z out of it.
struct Hole {
    std::string what; ///< "tuner", "bolt", "string", "ferrule", "screw", "pot" ...
    Vec2 at;
    double diameter = 0;
    double mouth = 0; ///< Z where it enters the wood
    double floor = 0; ///< Z of its end, a drill's point not counted
    bool fromBack = false;
    bool through = false;
    /// How much further than on its axis its wall reaches out of the wood, at the mouth and at the
    /// end of one that goes through: a face that slants or is hollow is met by the rim first.
    double mouthOut = 0, endOut = 0;
    bool byHand = false; ///< drilled at the bench, no program's matter
    FeatureId feature{}; ///< of a body
    bool before = false; ///< a layer the piece is glued up from has it already

    double top() const { return mouth + (fromBack ? -mouthOut : mouthOut); }
    double end() const { return floor + (fromBack ? endOut : -endOut); }
};

} // namespace wren
