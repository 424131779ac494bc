#include "ruler/strip_parts.h"

#include "frame/text.h"
#include "frame/theme.h"
#include "job/clamps.h"

#include <algorithm>
#include <cmath>

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

HeightScale cutHeights(const StripContext& c) {
    const Project& p = c.sheet.derived()->project;
    return HeightScale::of(c, -p.cut.through - 0.8, p.blank.thickness + 0.6);
}

HeightScale depthHeights(const StripContext& c, const Blank& blank) {
    return HeightScale::of(c, -1.5, blank.thickness + 1);
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
    const Vec3 origin = d.lies(Role::board)->fromInstrument.toInstrument({0, 0, 0});
    const double mid = c.area.center().y();
    return {QPointF(c.scale.px(origin.x), mid - (origin.y + b.width) * k),
            QPointF(c.scale.px(origin.x + b.length), mid - origin.y * k)};
}

void label(QPainter& p, QPointF at, const QString& text, const QColor& colour) {
    p.setFont(figures(11));
    p.setPen(colour);
    p.drawText(at, text);
}

void labelOver(QPainter& p, QPointF at, const QString& text, const QColor& colour) {
    const QRectF box = QFontMetricsF(figures(11)).boundingRect(text).translated(at);
    QColor paper = colour::sheet;
    paper.setAlpha(215);
    p.fillRect(box.adjusted(-2, -1, 2, 1), paper);
    label(p, at, text, colour);
}

QPolygonF PlanView::polygon(const Contour& contour) const {
    QPolygonF out;
    for (Vec2 p : pointsOf(contour, 0.05)) {
        out << at(p);
    }
    return out;
}

QRectF PlanView::blank(const Setup& setup) const {
    const Vec3 a = setup.fromInstrument.toInstrument({0, 0, 0});
    const Vec3 b = setup.fromInstrument.toInstrument({setup.blank.length, setup.blank.width, 0});
    return QRectF(at(a.xy()), at(b.xy())).normalized();
}

void PlanView::clamps(const Project& project, const PartJob& job) const {
    QPainter& p = c.painter;
    for (std::size_t side = 0; side < job.held.sides(); ++side) {
        const Setup& setup = job.held.side(side);
        for (std::size_t i : clampsOf(project, job.id, side)) {
            const std::optional<ClampBox> box = boxOf(project.clamps[i], setup);
            if (!box) {
                continue;
            }
            QPolygonF drawn;
            for (Vec2 corner : box->corners()) {
                drawn << at(setup.fromInstrument.toInstrument({corner.x, corner.y, 0}).xy());
            }
            p.setPen(QPen(colour::slate, 1.4, side == 0 ? Qt::SolidLine : Qt::DashLine));
            p.setBrush(side == 0 ? QBrush(colour::paper) : QBrush(Qt::NoBrush));
            p.drawPolygon(drawn);
            p.setFont(words(12));
            p.drawText(drawn.boundingRect() & c.area, Qt::AlignCenter,
                       QString::number(qulonglong(i + 1))); // what of it is in sight
        }
    }
    p.setBrush(Qt::NoBrush);
}

void PlanView::stock(const StockView& stock) const {
    QPainter& p = c.painter;
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(blank(stock.setup), stock.plan);
    p.setPen(QPen(colour::russet, 1.6));
    p.setBrush(Qt::NoBrush);
    const Vec3 tip = stock.setup.fromInstrument.toInstrument(stock.tool);
    p.drawEllipse(at(tip.xy()), stock.bitDiameter / 2 * c.scale.perMm, stock.bitDiameter / 2 * k);
}

void drawDepths(const StripContext& c, const Setup& setup, const std::vector<RunProgram>& programs,
                const QString& top) {
    QPainter& p = c.painter;
    const Blank& b = setup.blank;
    const HeightScale z = depthHeights(c, b);
    const double end0 = setup.fromInstrument.toInstrument({0, 0, 0}).x;
    const double end1 = setup.fromInstrument.toInstrument({b.length, 0, 0}).x;
    const double x0 = c.scale.px(std::min(end0, end1));
    const double x1 = c.scale.px(std::max(end0, end1));
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(x0, z.y(b.thickness)), QPointF(x1, z.y(b.thickness)));
    p.drawLine(QPointF(x0, z.y(0)), QPointF(x1, z.y(0)));
    // The lowest place each cut reaches in every two pixels.
    constexpr double untouched = 1e9;
    const int first = static_cast<int>(c.area.left() / 2);
    const int columns = static_cast<int>(c.area.width() / 2) + 1;
    for (const RunProgram& program : programs) {
        std::vector<double> lowest(static_cast<std::size_t>(columns), untouched);
        for (const Move& m : program.path) {
            if (!m.cuts()) {
                continue;
            }
            const double from = c.scale.px(setup.fromInstrument.toInstrument(m.from).x) / 2 - first;
            const double to = c.scale.px(setup.fromInstrument.toInstrument(m.to).x) / 2 - first;
            const int low = std::max(0, static_cast<int>(std::floor(std::min(from, to))));
            const int high =
                std::min(columns - 1, static_cast<int>(std::floor(std::max(from, to))));
            const double rise = from == to ? 0 : (m.to.z - m.from.z) / (to - from);
            for (int k = low; k <= high; ++k) {
                const double at = std::clamp<double>(k, std::min(from, to), std::max(from, to));
                double& h = lowest[static_cast<std::size_t>(k)];
                h = std::min(h, m.from.z + rise * (at - from) - setup.bottomZ());
            }
        }
        p.setPen(penOf(program.kinds.front(), 1.4));
        QPolygonF run;
        for (int k = 0; k < columns; ++k) {
            const double h = lowest[static_cast<std::size_t>(k)];
            if (h == untouched) {
                p.drawPolyline(run);
                run.clear();
            } else {
                run << QPointF((first + k) * 2 + 1, z.y(h));
            }
        }
        p.drawPolyline(run);
    }
    label(p, {x1 + 14, z.y(b.thickness) + 4}, top, colour::faded);
    label(p, {x1 + 14, z.y(0) + 4}, QObject::tr("bed"), colour::faded);
}

} // namespace wren::app
