#include "strip_parts.h"
#include "strips.h"
#include "text.h"
#include "theme.h"

#include <algorithm>
#include <cmath>

namespace wren::app {
void drawDeviationPlan(const StripContext& c, const DeviationView& view) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const double k = acrossScale(c, d.board->widest() + 4);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(stockArea(c, d, k), view.picture);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawPolygon(boardPolygon(c, *d.board, k));
}

/// Most and least over the width at each place along the board.
void drawDeviationProfile(const StripContext& c, const DeviationView& view) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const double most = std::max({0.04, d.proof->excessMax, d.proof->gougeMax});
    const double k = c.area.height() / (1.5 * most);
    const double zero = c.area.bottom() - 0.5 * most * k;
    const double allowed = d.project.cut.scallop + excessBeyondScallop;
    const auto line = [&](double v, const QPen& pen) {
        p.setPen(pen);
        p.drawLine(QPointF(c.scale.px(d.board->xLow()), zero - v * k),
                   QPointF(c.scale.px(d.board->xHigh()), zero - v * k));
    };
    line(0, QPen(colour::faded, 1));
    line(allowed, QPen(colour::ochre, 1, Qt::DashLine));
    line(-gougeAllowed, QPen(colour::russet, 1, Qt::DashLine));
    QVector<QLineF> spans;
    const auto step = static_cast<std::size_t>(std::max(1.0, 0.7 / (c.scale.perMm * view.cell)));
    for (std::size_t i = 0; i < view.most.size(); i += step) {
        if (view.most[i] == 0 && view.least[i] == 0) {
            continue;
        }
        const double along = (static_cast<double>(i) + 0.5) * view.cell;
        const double x = c.scale.px(d.setup->fromInstrument.toInstrument({along, 0, 0}).x);
        spans << QLineF(x, zero - view.most[i] * k, x, zero - view.least[i] * k);
    }
    p.setPen(QPen(colour::slate, 1));
    p.drawLines(spans);
    const double right = c.scale.px(d.board->xHigh()) + 8;
    label(p, {right, zero - allowed * k + 4}, qs(fmt::format("+{:.3f} allowed", allowed)),
          colour::ochre);
    label(p, {right, zero + gougeAllowed * k + 8}, qs(fmt::format("-{:.3f} stop", gougeAllowed)),
          colour::russet);
}

} // namespace wren::app
