#pragma once

#include "ruler/strips.h"

namespace wren::app {

// The neck's strips along the shared ruler. All need a derived neck.

void drawNeckPlan(const StripContext& c);
/// Seen from the side: board, glue plane, head's face, the back on the spine and at the edges, the
/// rod.
void drawNeckSide(const StripContext& c);
void drawWoodUnderRod(const StripContext& c);
/// How the back bends along the spine and both shoulders.
void drawCurvature(const StripContext& c);
/// The lowest each cut goes along the neck, in the heights of the side that is up.
void drawNeckDepth(const StripContext& c, int side);
/// What the proof found on one side, over the plan; and along it.
void drawNeckDeviation(const StripContext& c, const DeviationView& view);
/// The back's deviation laid flat, the way round it across.
void drawUnrolledBack(const StripContext& c, const Unrolled& flat);
void drawNeckDeviationProfile(const StripContext& c, const DeviationView& view, int side);

/// The neck cut across at the cursor, with the board on it and the figures of that place.
void drawNeckSection(QPainter& p, const QRectF& area, const Sheet& sheet);

/// Heights of the side strip.
struct HeightScale;
HeightScale neckHeights(const StripContext& c);
double neckPlanScale(const StripContext& c);
double neckMiddle(const Derived& d); ///< Y in the middle of the plan strip

} // namespace wren::app
