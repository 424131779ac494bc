#pragma once

#include "strips.h"

#include <QPolygonF>

namespace wren::app {

// What several strips draw with.

/// Pixels a mm across: the same as along, unless the strip is too low for that.
double acrossScale(const StripContext& c, double widthMm);
/// The plan's own.
double planScale(const StripContext& c);

/// Vertical scale of the strips that show heights.
struct HeightScale {
    double zero; ///< pixel of Z 0 (the underside)
    double perMm;
    double y(double z) const { return zero - z * perMm; }
    double z(double pixel) const { return (zero - pixel) / perMm; }

    static HeightScale of(const StripContext& c, double low, double high);
};
/// The side view's own.
HeightScale sideHeights(const StripContext& c);

/// The board's outline about the strip's middle, `k` pixels a mm across.
QPolygonF boardPolygon(const StripContext& c, const BoardPart& b, double k);
/// Where the blank, and with it a picture of the stock, lies. Needs a setup.
QRectF stockArea(const StripContext& c, const Derived& d, double k);
/// A figure beside a strip.
void label(QPainter& p, QPointF at, const QString& text, const QColor& colour);

} // namespace wren::app
