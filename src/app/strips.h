#pragma once

#include "ruler_scale.h"
#include "sheet.h"

#include <QPainter>
#include <QRectF>

namespace wren::app {

/// Each strip draws one aspect of the part into `area`, along the shared ruler.
struct StripContext {
    QPainter& painter;
    const RulerScale& scale;
    const Sheet& sheet;
    QRectF area;
};

void drawPlan(const StripContext& c);
void drawFretDistances(const StripContext& c);
void drawSide(const StripContext& c);
void drawCutDepth(const StripContext& c);
void drawWoodUnderSlots(const StripContext& c);
void drawDeviationPlan(const StripContext& c, const QImage& picture);
void drawDeviationProfile(const StripContext& c);

/// The deviation as colours: slate where wood is left, russet where it is gouged, hatched at the
/// deepest gouge. One pixel a cell, row 0 at the back. For a worker thread.
QImage deviationPicture(const ProofReport& proof);

} // namespace wren::app
