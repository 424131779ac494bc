#pragma once

#include "frame/sheet.h"
#include "ruler/ruler_scale.h"

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
void drawDeviationPlan(const StripContext& c, const DeviationView& view);
void drawDeviationProfile(const StripContext& c, const DeviationView& view);

} // namespace wren::app
