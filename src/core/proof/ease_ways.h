#pragma once

#include "cut/feeds.h"
#include "proof/load.h"

namespace wren {

// What a heavy way is gone over with before it is cut, in the setup's frame; mm.

/// The part of a move between two fractions of it.
Move partOf(const Move& move, double from, double to);

/// The place `way` mm before a stretch, not over rapids or plunges.
PathStretch begunEarlier(const Path& path, PathStretch stretch, double way);
Path piecesOf(const Path& path, const PathStretch& stretch);

/// How high the wood stands over the tool's end along a way.
double woodOver(const Stock& stock, const EndShape& tool, const Path& way);

/// The way gone over higher up, from the uppermost pass down, and back to its start each time. The
/// tool stands at the start, where it has cut already.
Path passesOver(const Path& way, double wood, double depth, double clear, const Feeds& feeds);

/// Down through `wood` mm over a place by a ramp to and fro along the way that follows, instead of
/// straight; ends at the place. Nothing when no way follows.
Path rampDown(const Path& path, std::size_t plunge, double wood, double depth, const Feeds& feeds);

} // namespace wren
