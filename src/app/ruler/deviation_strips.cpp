#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/neck_strips.h"
#include "ruler/strip_parts.h"
#include "ruler/strips.h"

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
    const double most =
        std::max({0.04, d.proofOf(Role::board)->excessMax, d.proofOf(Role::board)->gougeMax});
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
        const double x =
            c.scale.px(d.lies(Role::board)->fromInstrument.toInstrument({along, 0, 0}).x);
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

void drawUnrolledBack(const StripContext& c, const Unrolled& flat) {
    QPainter& p = c.painter;
    const double k = std::min(c.scale.perMm, c.area.height() / (2 * flat.half()));
    const double middle = c.area.center().y();
    const double left = c.scale.px(flat.from);
    const double right = c.scale.px(flat.from + flat.picture.width() * flat.pitch);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(QRectF(left, middle - flat.half() * k, right - left, 2 * flat.half() * k),
                flat.picture);
    QPolygonF edge;
    const std::size_t n = flat.edges.size();
    const auto add = [&](std::size_t i, std::size_t side) {
        const double x = flat.from + (static_cast<double>(i) + 0.5) * flat.pitch;
        edge << QPointF(c.scale.px(x), middle - flat.edges[i][side] * k);
    };
    for (std::size_t i = 0; i < n; ++i) {
        add(i, 1);
    }
    for (std::size_t i = n; i-- > 0;) {
        add(i, 0);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawPolygon(edge);
}

void drawNeckDeviationProfile(const StripContext& c, const DeviationView& view, int side) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const ProofReport& r = d.job(Role::neck)->proof->sides[static_cast<std::size_t>(side)];
    const double most = std::max({0.05, r.excessMax, r.gougeMax});
    const double k = c.area.height() / (1.5 * most);
    const double zero = c.area.bottom() - 0.5 * most * k;
    const double allowed = d.project.neckCut.scallop + excessBeyondScallop;
    const double x0 = c.scale.px(d.neck->part.outline().tip());
    const double x1 = c.scale.px(d.neck->part.outline().end());
    const auto line = [&](double h, const QPen& pen) {
        p.setPen(pen);
        p.drawLine(QPointF(x0, zero - h * k), QPointF(x1, zero - h * k));
    };
    line(0, QPen(colour::faded, 1));
    line(allowed, QPen(colour::ochre, 1, Qt::DashLine));
    line(-gougeAllowed, QPen(colour::russet, 1, Qt::DashLine));
    const Setup& setup = *d.job(Role::neck)->held.back;
    QVector<QLineF> spans;
    const auto step = static_cast<std::size_t>(std::max(1.0, 0.7 / (c.scale.perMm * view.cell)));
    for (std::size_t i = 0; i < view.most.size(); i += step) {
        if (view.most[i] != 0 || view.least[i] != 0) {
            const double along = (static_cast<double>(i) + 0.5) * view.cell;
            // Pictures were turned to run with the instrument already.
            const double low =
                std::min(setup.fromInstrument.toInstrument({0, 0, 0}).x,
                         setup.fromInstrument.toInstrument({setup.blank.length, 0, 0}).x);
            const double x = c.scale.px(low + along);
            spans << QLineF(x, zero - view.most[i] * k, x, zero - view.least[i] * k);
        }
    }
    p.setPen(QPen(colour::slate, 1));
    p.drawLines(spans);
    label(p, {x1 + 8, zero - allowed * k + 4}, qs(fmt::format("+{:.3f} allowed", allowed)),
          colour::ochre);
    label(p, {x1 + 8, zero + gougeAllowed * k + 8}, qs(fmt::format("-{:.3f} stop", gougeAllowed)),
          colour::russet);
}

} // namespace wren::app
