#pragma once

#include "cut/feeds.h"
#include "cut/path_builder.h"

#include <vector>

namespace wren {

/// A hole in a setup: its axis, mouth and end.
struct Bore {
    Vec2 at;
    double top = 0, bottom = 0;
};

/// Heights rapids go across at and come down to, and how much is drilled at a time, mm.
struct HoleHeights {
    double clear = 0, approach = 0, peck = 5;
};

/// Drilled with pecks, out of the hole between them.
Path drillPath(const HoleHeights& heights, const std::vector<Bore>& holes, const Feeds& feeds);
/// Bored in a helix by a bit at most 0.9 of `diameter`, climbing.
Path borePath(const HoleHeights& heights, const std::vector<Bore>& holes, double diameter,
              const Bit& bit, const Feeds& feeds);

/// A notch to and fro between two places, level by level.
Path notchPath(const HoleHeights& heights, Vec2 mouth, Vec2 end, double top, double bottom,
               const Feeds& feeds);

/// How many levels of at most `perPass` a depth takes.
int levelsFor(double depth, double perPass);

} // namespace wren
