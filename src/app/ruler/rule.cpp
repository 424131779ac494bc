#include "ruler/rule.h"

#include "frame/sheet.h"
#include "frame/theme.h"
#include "ruler/ruler_layout.h"

#include <QPolygonF>

#include <cmath>

namespace wren::app {

void drawRule(QPainter& p, const QRectF& rule, const RulerScale& scale, const Sheet& sheet) {
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::paper);
    p.drawRect(rule);
    p.save();
    p.setClipRect(rule);
    const bool inches = sheet.unit() == LengthUnit::inch;
    const double unit = inches ? mmPerInch : 1;
    double major = inches ? 1 : 50;
    while (major * unit * scale.perMm < 60) {
        major *= 2;
    }
    while (major * unit * scale.perMm > 160) {
        major /= inches ? 2 : (major == 50 || major == 5 ? 5 : 2);
    }
    const double minor = major / (inches ? 8 : 10);
    const double first = std::floor(scale.mm(rule.left()) / unit / minor) * minor;
    p.setFont(figures(11));
    for (int i = 0;; ++i) {
        const double v = first + i * minor;
        const double x = scale.px(v * unit);
        if (x > rule.right()) {
            break;
        }
        const double turns = v / major;
        const bool big = std::abs(turns - std::round(turns)) < 1e-6;
        p.setPen(QPen(colour::ink, big ? 1.2 : 0.7));
        p.drawLine(QPointF(x, rule.bottom()), QPointF(x, rule.bottom() - (big ? 19 : 5)));
        const QString number = QString::number(std::abs(v) < 1e-9 ? 0 : v);
        if (big && x + 5 + p.fontMetrics().horizontalAdvance(number) < rule.right()) {
            p.drawText(QPointF(x + 4, rule.bottom() - 8), number);
        }
    }
    p.setPen(Qt::NoPen);
    p.setBrush(colour::ink);
    for (const FretSlot& slot : sheet.derived()->board->slots()) {
        const double x = scale.px(slot.middle());
        p.drawPolygon(QPolygonF{{x - 2.5, rule.top()}, {x + 2.5, rule.top()}, {x, rule.top() + 7}});
    }
    p.restore();
}

void nameRule(QPainter& p, const QRectF& rule, const Sheet& sheet) {
    p.setFont(words(12));
    p.setPen(colour::faded);
    p.drawText(
        QRectF(14, rule.top(), nameWidth - 24, rule.height()), Qt::AlignVCenter | Qt::AlignLeft,
        sheet.unit() == LengthUnit::inch ? QObject::tr("inches") : QObject::tr("mm from nut"));
}

} // namespace wren::app
