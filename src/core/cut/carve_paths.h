#pragma once

#include "cut/panel_paths.h"

namespace wren {

// Edges, arch and contours of a panel's face, cut with a ball once everything that needs the flat
// is done. Paths are in the setup's frame and start and end at clearance height.

/// Which face a setup sees.
struct CarvedFace {
    const FaceFall& fall;
    bool back = false;
};

/// Roughing clears its channel beside the edge so far below the ball's tip, mm.
inline constexpr double channelBelowTip = 0.3;

/// How far below the level face the ball's tip goes where the outline's wall begins, at most.
double carveDepth(const FaceFall& fall, double ballRadius);

/// How far below the level face roughing and ball together leave the waste beside the outline, at a
/// place of it; what ties a part there must lie lower.
double carveTrench(const FaceFall& fall, Vec2 at, double ballRadius);

/// About how many mm of cutting a ball needs for the finish, and for roughing's channel for it.
double carveLength(const Panel& panel, const FaceFall& fall, double ballRadius, double ridge);

/// Clears what lies over the stock to leave, level by level, with a flat bit: beside the outline a
/// channel wide enough for the ball. `keepOff` are circles no path may enter: the pins.
Path carveRoughPath(const PanelWork& work, const CarvedFace& face, double ballRadius,
                    const std::vector<Hole>& keepOff, const Bit& bit, const Feeds& feeds);

/// The ball along the edge's own lines from the level face outward, then along the contours',
/// touching the surface exactly at every point; straight runs within 0.002 mm of the true way.
/// Plain edges stay arcs.
Path carveFinishPath(const PanelWork& work, const CarvedFace& face, const Bit& bit,
                     const Feeds& feeds);

} // namespace wren
