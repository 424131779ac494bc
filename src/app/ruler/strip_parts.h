#pragma once

#include "ruler/strips.h"

#include <QPolygonF>

namespace wren::app {

// What several strips draw with.

/// Pixels a mm across: the same as along, unless the strip is too low for that.
double acrossScale(const StripContext& c, double widthMm);
/// From millimetres to a plan strip whose middle shows Y `middle`, `k` pixels a mm across.
struct PlanView {
    const StripContext& c;
    double k;
    double middle;

    QPointF at(Vec2 p) const { return {c.scale.px(p.x), c.area.center().y() - (p.y - middle) * k}; }
    Vec2 mm(QPointF p) const {
        return {c.scale.mm(p.x()), middle - (p.y() - c.area.center().y()) / k};
    }
    QPolygonF polygon(const Contour& contour) const;
    QRectF blank(const Setup& setup) const;
    /// What holds a part down; dashed where it stands once that is turned over.
    void clamps(const Project& project, const PartJob& job) const;
    /// Wood at a moment of the tape with the bit over it.
    void stock(const StockView& stock) const;
};
/// The lowest each program goes along the ruler, in the heights of its setup.
void drawDepths(const StripContext& c, const Setup& setup, const std::vector<RunProgram>& programs,
                const QString& top);
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
/// The side view's own, the board's cut depths', and those of any other part's setup.
HeightScale sideHeights(const StripContext& c);
HeightScale cutHeights(const StripContext& c);
HeightScale depthHeights(const StripContext& c, const Blank& blank);

/// The board's outline about the strip's middle, `k` pixels a mm across.
QPolygonF boardPolygon(const StripContext& c, const BoardPart& b, double k);
/// Where the blank, and with it a picture of the stock, lies. Needs a setup.
QRectF stockArea(const StripContext& c, const Derived& d, double k);
/// A figure beside a strip.
void label(QPainter& p, QPointF at, const QString& text, const QColor& colour);
/// The same where lines run underneath.
void labelOver(QPainter& p, QPointF at, const QString& text, const QColor& colour);

} // namespace wren::app
