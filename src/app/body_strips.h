#pragma once

#include "handles.h"

namespace wren::app {

// The body's strips along the shared ruler. All need a derived body.

/// What the ruler spans: the whole instrument, or the blank of the piece in hand, so that the plan
/// is drawn to one scale along and across.
std::pair<double, double> bodyExtent(const Sheet& sheet, const QRectF& strips);

/// The body with neck, board and strings in place; elsewhere the piece in hand in its blank.
void drawBodyPlan(const StripContext& c);
/// Cut along the centreline: pocket floors, hollows, heel, strings and bridge.
void drawBodySide(const StripContext& c);
/// What the proof found on one side of the piece in hand.
void drawPieceDeviation(const StripContext& c, const DeviationView& view, int side);

/// The pieces as a stack to choose from, and the body cut across at the cursor.
void drawBodySection(QPainter& p, const QRectF& area, const Sheet& sheet);
/// The piece of the stack under a place; -1 where there is none.
int pieceAt(const QRectF& area, const Sheet& sheet, QPointF at);

/// What of the body can be dragged in its plan: outline's and cavity's nodes, pickups, controls.
std::vector<Handle> bodyPlanHandles(const StripContext& c);

/// What a piece is called: "core", "top", "body", "lid".
QString pieceName(const PartJob& job);

} // namespace wren::app
