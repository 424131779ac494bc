#pragma once

#include "ruler/handles.h"

namespace wren::app {

// The body's strips along the shared ruler. All need a derived body.

/// What the ruler spans: the whole instrument, or the blank of the piece in hand, so that the plan
/// is drawn to one scale along and across.
std::pair<double, double> bodyExtent(const Sheet& sheet, const QRectF& strips);

/// The body with neck, board and strings in place; elsewhere the piece in hand in its blank.
void drawBodyPlan(const StripContext& c);
/// Cut along the centreline: pocket floors, hollows, heel, strings and bridge.
void drawBodySide(const StripContext& c);
/// Body and neck cut along the centreline; `at` carries X and Z of the body's frame to the picture.
void drawCentreCut(QPainter& p, const Derived& d, double step,
                   const std::function<QPointF(double, double)>& at);
/// The same small, beside the plan.
void drawBodySideBeside(QPainter& p, const QRectF& area, const Sheet& sheet);
/// What the proof found on one side of the piece in hand.
void drawPieceDeviation(const StripContext& c, const DeviationView& view, int side);

/// The pieces as a stack to choose from, and the body cut across at the cursor.
void drawBodySection(QPainter& p, const QRectF& area, const Sheet& sheet);
/// The piece of the stack under a place; -1 where there is none.
int pieceAt(const QRectF& area, const Sheet& sheet, QPointF at);

/// How the body's own plan lies in its strip.
struct BodyView {
    double k = 1;      ///< pixels a mm across
    double middle = 0; ///< body's Y at the strip's middle
};
BodyView bodyView(const StripContext& c);
/// A place of the body's own plan, in the body's frame.
Vec2 bodyPlaceAt(const StripContext& c, QPointF at);

/// What of the body can be dragged in its plan: every thing by its middle, the outline's nodes, and
/// nodes and ends of the thing in hand.
std::vector<Handle> bodyPlanHandles(const StripContext& c);
/// The thing that a path names, or whose node it names.
std::string thingOf(const std::string& path);
/// The thing in hand, and how far it is from what is near.
void drawTaken(const StripContext& c);

/// What a piece is called: "core", "top", "body", "lid".
QString pieceName(const PartJob& job);

} // namespace wren::app
