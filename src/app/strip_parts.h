#pragma once

#include "strips.h"

#include <QPolygonF>

namespace wren::app {

// What several strips draw with.

/// Pixels a mm across: the same as along, unless the strip is too low for that.
double acrossScale(const StripContext& c, double widthMm);
/// The board's outline about the strip's middle, `k` pixels a mm across.
QPolygonF boardPolygon(const StripContext& c, const BoardPart& b, double k);
/// Where the blank, and with it a picture of the stock, lies. Needs a setup.
QRectF stockArea(const StripContext& c, const Derived& d, double k);
/// A figure beside a strip.
void label(QPainter& p, QPointF at, const QString& text, const QColor& colour);

} // namespace wren::app
