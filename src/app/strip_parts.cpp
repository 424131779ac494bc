#include "strip_parts.h"

#include "theme.h"

#include <algorithm>

namespace wren::app {

double acrossScale(const StripContext& c, double widthMm) {
    return std::min(c.scale.perMm, c.area.height() / std::max(1.0, widthMm));
}

double planScale(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const bool blank = c.sheet.station() != Station::board || c.sheet.scrubbing();
    const double width = d.board->widest();
    return acrossScale(c, (blank ? std::max(width, d.project.blank.width) : width) + 4);
}

HeightScale HeightScale::of(const StripContext& c, double low, double high) {
    const double k = std::min(c.area.height() / (high - low), 12.0);
    return {c.area.center().y() + (high + low) / 2 * k, k};
}

HeightScale sideHeights(const StripContext& c) {
    const Project& p = c.sheet.derived()->project;
    return HeightScale::of(c, -0.4, std::max(p.blank.thickness, p.board.thickness) + 0.4);
}

QPolygonF boardPolygon(const StripContext& c, const BoardPart& b, double k) {
    const double mid = c.area.center().y();
    QPolygonF poly;
    for (const ContourPiece& piece : b.outline()) {
        const int n = piece.kind == ContourPiece::Kind::line ? 1 : 24;
        for (int i = 0; i < n; ++i) {
            const Vec2 p = piece.at(piece.length() * i / n);
            poly << QPointF(c.scale.px(p.x), mid - p.y * k);
        }
    }
    return poly;
}

QRectF stockArea(const StripContext& c, const Derived& d, double k) {
    const Blank& b = d.project.blank;
    const Vec3 origin = d.setup->fromInstrument.toInstrument({0, 0, 0});
    const double mid = c.area.center().y();
    return {QPointF(c.scale.px(origin.x), mid - (origin.y + b.width) * k),
            QPointF(c.scale.px(origin.x + b.length), mid - origin.y * k)};
}

void label(QPainter& p, QPointF at, const QString& text, const QColor& colour) {
    p.setFont(figures(11));
    p.setPen(colour);
    p.drawText(at, text);
}

} // namespace wren::app
