#include "tracing/import_desk.h"

#include "frame/text.h"
#include "frame/theme.h"

#include <QPainter>

#include <algorithm>

namespace wren::app {

void ImportDesk::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::paper);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF area = canvas();
    p.setPen(QPen(colour::rule, 1));
    p.setBrush(colour::sheet);
    p.drawRect(area);
    if (!outcome_ || outcome_->drawing.lines.empty()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(area, Qt::AlignCenter,
                   outcome_ ? outcome_->trouble : tr("Open a drawing to see what it holds."));
        return;
    }
    const double unit = millimetres();
    const Lie placed = lie();
    const auto at = [&](QPointF q) { return placed.at(q); };
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::faded, 1));
    for (const DrawnLine& l : outcome_->drawing.lines) {
        QPolygonF shown;
        for (Vec2 q : pointsOf(l.pieces, 0.1 / unit)) {
            shown << at({q.x * unit, -q.y * unit});
        }
        shown << at({l.pieces.back().to.x * unit, -l.pieces.back().to.y * unit});
        p.drawPolyline(shown);
    }
    if (measuring()) {
        p.setPen(QPen(colour::slate, 1.6));
        for (Vec2 m : marks_) {
            const QPointF q = pageAt(m);
            p.drawLine(q - QPointF(9, 0), q + QPointF(9, 0));
            p.drawLine(q - QPointF(0, 9), q + QPointF(0, 9));
            p.drawEllipse(q, 5, 5);
        }
    }
    if (!canTake()) {
        return;
    }
    const Contour& curve = outcome_->outline->drawn;
    QPolygonF outline;
    for (Vec2 q : pointsOf(curve, 0.02)) {
        outline << at({q.x, -q.y});
    }
    p.setPen(QPen(colour::russet, 1.8));
    p.drawPolygon(outline);
    p.setBrush(colour::sheet);
    for (const ContourPiece& piece : curve) {
        const QPointF node = at({piece.from.x, -piece.from.y});
        // Where lines and arcs meet: arcs' ends round, lines' square.
        if (piece.isArc()) {
            p.drawEllipse(node, 3, 3);
        } else {
            p.drawRect(QRectF(node - QPointF(3, 3), QSizeF(6, 6)));
        }
    }
    p.setFont(words(12.5));
    p.setPen(colour::russet);
    p.drawText(area.adjusted(12, 8, -12, -8), Qt::AlignTop | Qt::AlignLeft,
               tr("russet: as lines and arcs, their ends marked"));
    p.setPen(colour::faded);
    p.drawText(area.adjusted(12, 26, -12, -8), Qt::AlignTop | Qt::AlignLeft, tr("grey: as drawn"));
}

} // namespace wren::app
