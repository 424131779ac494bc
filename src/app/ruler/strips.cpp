#include "ruler/strips.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/strip_parts.h"
#include "ruler/wood_seen.h"

#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

/// So much of `b` in `a`.
QColor mixed(const QColor& a, const QColor& b, double share) {
    const auto mix = [share](int x, int y) { return static_cast<int>(x + (y - x) * share); };
    return {mix(a.red(), b.red()), mix(a.green(), b.green()), mix(a.blue(), b.blue())};
}

/// Where the level line at `y` runs inside a convex outline; empty (first > second) where it does
/// not.
std::pair<double, double> spanAt(const QPolygonF& outline, double y) {
    double from = 1e9;
    double to = -1e9;
    for (int i = 0; i < outline.size(); ++i) {
        const QPointF a = outline[i];
        const QPointF b = outline[(i + 1) % outline.size()];
        if ((a.y() - y) * (b.y() - y) <= 0 && a.y() != b.y()) {
            const double x = a.x() + (b.x() - a.x()) * (y - a.y()) / (b.y() - a.y());
            from = std::min(from, x);
            to = std::max(to, x);
        }
    }
    return {from, to};
}

/// A few quiet wavy lines along the wood, as far as they stay inside. Cutting them off by a clip
/// path would take longer than all the rest of the plan.
void drawGrain(QPainter& p, const QPolygonF& outline) {
    constexpr double wave = 3; // pixels, a little more than the lines sway
    const QRectF box = outline.boundingRect();
    p.setPen(QPen(colour::grain, 1));
    p.setBrush(Qt::NoBrush);
    int n = 0;
    for (double y = box.top() + 5; y < box.bottom(); y += 9 + (n * 7) % 5, ++n) {
        const auto above = spanAt(outline, y - wave);
        const auto below = spanAt(outline, y + wave);
        const double from = std::max(above.first, below.first);
        const double to = std::min(above.second, below.second);
        if (from >= to) {
            continue;
        }
        // Short straight lines: a stroked curve takes ten times as long.
        QList<QLineF> lines;
        QPointF last(from, y);
        for (double x = from; x < to;) {
            const int wavelet = static_cast<int>(x / 90);
            const double sway = ((n * 37 + wavelet * 11) % 7 - 3) * 0.4;
            x = std::min(x + 15, to);
            const double phase = std::fmod(x, 90) / 90;
            const QPointF next(x, y + sway * 4 * phase * (1 - phase));
            lines << QLineF(last, next);
            last = next;
        }
        p.drawLines(lines);
    }
}

void drawStrings(const StripContext& c, const Derived& d, double k) {
    const Fretboard& b = d.project.board;
    const double mid = c.area.center().y();
    const Fan fan(b);
    const auto at = [&](Vec2 p) { return QPointF(c.scale.px(p.x), mid - p.y * k); };
    // From the nut to the board's end, each string keeping its share of the spread.
    const double share = std::min(1.0, fan.lastShare() * 1.04);
    c.painter.setPen(QPen(colour::faded, 0.7));
    for (double place : stringCentres(b, 2)) {
        c.painter.drawLine(at(fan.string(place, 0)), at(fan.string(place, share)));
    }
}

void drawBlank(const StripContext& c, const Derived& d, double k) {
    const Blank& blank = d.project.blank;
    const double mid = c.area.center().y();
    const double x0 = (d.board->xLow() + d.board->xHigh() - blank.length) / 2;
    const QRectF r =
        d.lies(Role::board)
            ? stockArea(c, d, k)
            : QRectF(QPointF(c.scale.px(x0), mid - blank.width / 2 * k),
                     QPointF(c.scale.px(x0 + blank.length), mid + blank.width / 2 * k));
    if (const PartJob* job = d.job(Role::board)) {
        drawWoodPhotos(PlanView{c, k, 0}, *job);
    }
    c.painter.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
    c.painter.setBrush(Qt::NoBrush);
    c.painter.drawRect(r);
    if (c.sheet.station() == Station::blank || c.sheet.station() == Station::cuts) {
        // The datum: where X-Y zero stands.
        const QPointF o = r.bottomLeft();
        c.painter.setPen(QPen(colour::russet, 2));
        c.painter.drawLine(o, o + QPointF(16, 0));
        c.painter.drawLine(o, o - QPointF(0, 16));
        c.painter.drawEllipse(o, 4, 4);
        if (const PartJob* job = d.job(Role::board)) {
            PlanView{c, k, 0}.clamps(d.project, *job);
        }
    }
}

void drawContour(const StripContext& c, const Contour& contour, double k) {
    const double mid = c.area.center().y();
    QPolygonF line;
    for (const ContourPiece& piece : contour) {
        const int n = piece.kind == ContourPiece::Kind::line ? 1 : 24;
        for (int i = 0; i < n; ++i) {
            const Vec2 p = piece.at(piece.length() * i / n);
            line << QPointF(c.scale.px(p.x), mid - p.y * k);
        }
    }
    c.painter.drawPolygon(line);
}

/// Face markers as they are drawn, side dots just outside the bass edge.
void drawMarkers(const StripContext& c, const BoardPart& b, double k) {
    QPainter& p = c.painter;
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(b.design().markers.inlay == Inlay::filled ? QBrush(colour::heather)
                                                         : QBrush(colour::paper));
    for (const MarkerPocket& pocket : b.pockets()) {
        drawContour(c, pocket.outline, k);
    }
    p.setBrush(colour::ink);
    const double mid = c.area.center().y();
    for (const SideDot& dot : sideDots(b.design())) {
        const double out = dot.at.y < 0 ? 3 : -3;
        p.drawEllipse(QPointF(c.scale.px(dot.at.x), mid - dot.at.y * k + out), 1.6, 1.6);
    }
    p.setBrush(Qt::NoBrush);
}

void drawTabs(const StripContext& c, const Derived& d, double k) {
    if (!d.boardPlan() || c.sheet.station() == Station::board) {
        return;
    }
    const double mid = c.area.center().y();
    c.painter.setPen(QPen(colour::heather, 1));
    c.painter.setBrush(QBrush(colour::heather, Qt::Dense4Pattern));
    for (const Tab& t : d.boardPlan()->tabs) {
        const double y = mid - (d.board->edge(t.side, t.x) + t.side * 2) * k;
        c.painter.drawRect(
            QRectF(c.scale.px(t.x - t.length / 2), y - 3, t.length * c.scale.perMm, 6));
    }
}

void drawTool(const StripContext& c, const Derived& d, const StockView& v, double k) {
    const Vec3 tip = d.lies(Role::board)->fromInstrument.toInstrument(v.tool);
    const double mid = c.area.center().y();
    const double r = std::max(3.0, v.bitDiameter / 2 * k);
    const QPointF at(c.scale.px(tip.x), mid - tip.y * k);
    c.painter.setBrush(Qt::NoBrush);
    c.painter.setPen(QPen(colour::russet, 1.6));
    c.painter.drawEllipse(at, r, r);
    c.painter.drawLine(at - QPointF(r + 4, 0), at + QPointF(r + 4, 0));
    c.painter.drawLine(at - QPointF(0, r + 4), at + QPointF(0, r + 4));
}

} // namespace

void drawPlan(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const BoardPart& b = *d.board;
    QPainter& p = c.painter;
    const double k = planScale(c);
    const QPolygonF outline = boardPolygon(c, b, k);
    const StockViewPtr stock = c.sheet.stock();
    const bool showStock = stock && d.lies(Role::board) &&
                           (c.sheet.scrubbing() || c.sheet.station() == Station::proof);
    if (c.sheet.station() != Station::board || showStock) {
        drawBlank(c, d, k);
    }
    if (showStock) {
        p.setRenderHint(QPainter::SmoothPixmapTransform);
        p.drawImage(stockArea(c, d, k), stock->plan);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(colour::ink, 0.6, Qt::DotLine));
        p.drawPolygon(outline);
        if (c.sheet.scrubbing()) {
            drawTool(c, d, *stock, k);
        }
        return;
    }
    QPainterPath path;
    path.addPolygon(outline);
    path.closeSubpath();
    const PlanView view{c, k, 0};
    const QColor tint = woodOver(view, d.job(Role::board));
    p.setPen(Qt::NoPen);
    p.setBrush(tint);
    p.drawPath(path);
    if (tint.alpha() == 255) {
        drawGrain(p, outline);
    }
    drawStrings(c, d, k);
    const double mid = c.area.center().y();
    const int near = b.nearestSlot({c.sheet.cursor(), 0});
    for (std::size_t i = 0; i < b.slots().size(); ++i) {
        const FretSlot& slot = b.slots()[i];
        const bool here =
            static_cast<int>(i) == near && std::abs(slot.middle() - c.sheet.cursor()) < 1;
        p.setPen(QPen(here ? colour::russet : colour::ink,
                      std::max(1.1, d.project.board.slotWidth * c.scale.perMm)));
        p.drawLine(QPointF(c.scale.px(slot.low.x), mid - slot.low.y * k),
                   QPointF(c.scale.px(slot.high.x), mid - slot.high.y * k));
    }
    drawMarkers(c, b, k);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.5));
    p.drawPath(path);
    p.setPen(QPen(colour::faded, 0.8, Qt::DashDotLine));
    p.drawLine(QPointF(c.scale.px(b.xLow() - 12), mid), QPointF(c.scale.px(b.xHigh() + 12), mid));
    drawTabs(c, d, k);
    if (const PartJob* job = d.job(Role::board)) {
        drawWoodMarks(view, *job);
    }
}

/// The fret table where it belongs: each distance under its own fret.
void drawFretDistances(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const int near = d.board->nearestSlot({c.sheet.cursor(), 0});
    const int nearFret = near < 0 ? -1 : d.board->slots()[static_cast<std::size_t>(near)].fret;
    // In a low window smaller rather than cut off.
    const QFontMetricsF usual(figures(11, true));
    const double longest = usual.horizontalAdvance(
        qs(formatLengthValue(d.frets.empty() ? 0 : d.frets.back().fromNut, c.sheet.unit())));
    const double size = 11 * std::min(1.0, c.area.height() / std::max(1.0, longest));
    double lastPx = -100;
    for (const FretPlace& f : d.frets) {
        const double x = c.scale.px(f.fromNut);
        const bool here = f.fret == nearFret && std::abs(f.fromNut - c.sheet.cursor()) < 1;
        p.setPen(QPen(here ? colour::russet : colour::rule, 1));
        p.drawLine(QPointF(x, c.area.top()), QPointF(x, c.area.bottom()));
        if (x - lastPx < 13 && !here) {
            continue; // zoom in to read these
        }
        lastPx = x;
        p.save();
        p.translate(x + 13, c.area.bottom());
        p.rotate(-90);
        p.setFont(figures(size, here));
        p.setPen(here ? colour::russet : colour::ink);
        p.drawText(QPointF(0, 0), qs(formatLengthValue(f.fromNut, c.sheet.unit())));
        p.restore();
    }
}

void drawSide(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const BoardPart& b = *d.board;
    const Blank& blank = d.project.blank;
    QPainter& p = c.painter;
    const HeightScale z = sideHeights(c);
    QPolygonF body;
    const double x0 = c.scale.px(b.xLow());
    const double x1 = c.scale.px(b.xHigh());
    body << QPointF(x0, z.y(0)) << QPointF(x0, z.y(b.design().thickness))
         << QPointF(x1, z.y(b.design().thickness)) << QPointF(x1, z.y(0));
    p.setPen(Qt::NoPen);
    p.setBrush(colour::wood);
    p.drawPolygon(body);
    // The edge stands lower than the crown: the face seen from the side.
    QPolygonF edge;
    for (double x : {b.xLow(), b.xHigh()}) {
        edge << QPointF(c.scale.px(x), z.y(b.edgeThickness(x)));
    }
    QPolygonF face;
    face << body[1] << body[2] << edge[1] << edge[0];
    p.setBrush(colour::woodDark);
    p.drawPolygon(face);
    p.setPen(QPen(colour::ink, 1));
    for (const FretSlot& slot : b.slots()) {
        const double w = std::max(1.2, b.design().slotWidth * c.scale.perMm);
        const Vec2 end = slot.low; // seen from the front
        p.fillRect(QRectF(c.scale.px(end.x) - w / 2, z.y(b.face(end.x, end.y)), w,
                          (b.face(end.x, end.y) - b.floor(end.x, end.y)) * z.perMm),
                   colour::ink);
    }
    if (b.shelf()) {
        const double wall = c.scale.px(b.shelf()->wallLow.x);
        p.fillRect(
            QRectF(QPointF(x0, z.y(b.design().thickness)), QPointF(wall, z.y(b.shelf()->floor))),
            colour::paper);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.3));
    p.drawPolygon(body);
    if (c.sheet.station() != Station::board && d.lies(Role::board)) {
        const double from = d.lies(Role::board)->fromInstrument.toInstrument({0, 0, 0}).x;
        p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
        p.drawRect(QRectF(QPointF(c.scale.px(from), z.y(blank.thickness)),
                          QPointF(c.scale.px(from + blank.length), z.y(0))));
    }
    const double end = c.sheet.station() == Station::board
                           ? b.xHigh()
                           : std::max(b.xHigh(), (b.length() + blank.length) / 2);
    label(p, {c.scale.px(end) + 8, z.y(b.design().thickness / 2) + 4},
          qs(formatLengthValue(b.design().thickness, c.sheet.unit())), colour::ink);
}

namespace {

/// Every cutting move as its trace in X and Z; of the slots only each pass's crossing of the
/// centreline, which is all a trace from the side can tell apart.
void drawTraces(const StripContext& c, const Derived& d, const HeightScale& z) {
    for (const RunProgram& program : d.read(Role::board)) {
        const CutKind kind = program.kinds.front();
        const bool slots = kind == CutKind::slots;
        QPen pen = penOf(kind, slots ? 1.6 : 1.2);
        if (c.sheet.scrubbing()) { // paler, not translucent: that would take five times as long
            pen.setColor(mixed(pen.color(), colour::sheet, 0.6));
        }
        if (slots) {
            pen.setStyle(Qt::SolidLine); // a ladder of short rungs is pattern enough
        }
        c.painter.setPen(pen);
        QVector<QLineF> lines;
        for (const Move& m : program.path) {
            if (!m.cuts()) {
                continue;
            }
            const Vec3 a = d.lies(Role::board)->fromInstrument.toInstrument(m.from);
            const Vec3 b = d.lies(Role::board)->fromInstrument.toInstrument(m.to);
            if (!slots) {
                lines << QLineF(c.scale.px(a.x), z.y(a.z), c.scale.px(b.x), z.y(b.z));
            } else if ((a.y <= 0) != (b.y <= 0)) {
                const double x = c.scale.px(a.x);
                lines << QLineF(x - 3, z.y(a.z), x + 3, z.y(a.z));
            }
        }
        c.painter.drawLines(lines);
    }
}

void drawReached(const StripContext& c, const Derived& d, const HeightScale& z) {
    const StockViewPtr v = c.sheet.stock();
    const Stock& s = *v->stock;
    const int mid = s.rows() / 2;
    QPolygonF line;
    for (int i = 0; i < s.columns(); ++i) {
        const double x = d.lies(Role::board)->fromInstrument.toInstrument({s.x(i), 0, 0}).x;
        const double top = std::max<double>(s.high(i, mid), s.low(i, mid));
        const QPointF at(c.scale.px(x), z.y(top - s.bottomZ()));
        // A level run needs only its two ends.
        const qsizetype k = line.size();
        if (k >= 2 && std::abs(line[k - 1].y() - at.y()) < 0.1 &&
            std::abs(line[k - 2].y() - at.y()) < 0.1) {
            line.back() = at;
        } else {
            line << at;
        }
    }
    c.painter.setPen(QPen(colour::ink, 1.2));
    c.painter.drawPolyline(line);
    const Vec3 tip = d.lies(Role::board)->fromInstrument.toInstrument(v->tool);
    const QPointF at(c.scale.px(tip.x), z.y(std::min(tip.z, s.topZ() - s.bottomZ() + 1)));
    c.painter.setPen(QPen(colour::russet, 2));
    c.painter.drawLine(at, at - QPointF(0, 16));
    c.painter.setBrush(colour::russet);
    c.painter.drawPolygon(QPolygonF{at, at + QPointF(-4, -7), at + QPointF(4, -7)});
}

} // namespace

void drawCutDepth(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const Blank& blank = d.project.blank;
    const HeightScale z = cutHeights(c);
    const double x0 = c.scale.px((d.board->length() - blank.length) / 2);
    const double x1 = c.scale.px((d.board->length() + blank.length) / 2);
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(x0, z.y(blank.thickness)), QPointF(x1, z.y(blank.thickness)));
    p.drawLine(QPointF(x0, z.y(0)), QPointF(x1, z.y(0)));
    if (d.boardPlan()) {
        drawTraces(c, d, z);
    }
    if (c.sheet.scrubbing() && c.sheet.stock() && d.lies(Role::board)) {
        drawReached(c, d, z);
    }
    const double right = std::max(x1, c.scale.px(d.board->length())) + 8;
    const double through = blank.thickness + d.project.cut.through;
    label(p, {right, z.y(blank.thickness) + 4}, QStringLiteral("0 top"), colour::faded);
    label(p, {right, z.y(-d.project.cut.through) + 6},
          QStringLiteral("%1 through").arg(qs(formatLengthValue(through, c.sheet.unit()))),
          colour::moss);
}

void drawWoodUnderSlots(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    double most = 1;
    for (const FretPlace& f : d.frets) {
        most = std::max(most, f.woodUnderSlot);
    }
    const double k = (c.area.height() - 4) / most;
    const double base = c.area.bottom();
    const double caution = base - 0.8 * k;
    p.setPen(QPen(colour::ochre, 1, Qt::DashLine));
    p.drawLine(QPointF(c.scale.px(0), caution), QPointF(c.scale.px(d.board->length()), caution));
    for (const FretPlace& f : d.frets) {
        const bool thin = f.woodUnderSlot < 0.8;
        const double x = c.scale.px(f.fromNut);
        p.setPen(QPen(thin ? colour::russet : colour::moss, 3));
        p.drawLine(QPointF(x, base), QPointF(x, base - std::max(0.0, f.woodUnderSlot) * k));
    }
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(c.scale.px(0), base), QPointF(c.scale.px(d.board->length()), base));
    if (!d.frets.empty()) {
        label(p, {c.scale.px(d.board->length()) + 8, base - d.frets.back().woodUnderSlot * k + 4},
              qs(formatLengthValue(d.frets.back().woodUnderSlot, c.sheet.unit())), colour::ink);
    }
    label(p, {c.scale.px(d.board->length()) + 8, caution + 4},
          QStringLiteral("%1 caution").arg(qs(formatLengthValue(0.8, c.sheet.unit()))),
          colour::ochre);
}

std::vector<Handle> boardBlankHandles(const StripContext& c) {
    const PartJob* job = c.sheet.derived() ? c.sheet.derived()->job(Role::board) : nullptr;
    return job && c.sheet.part() == Part::board
               ? woodHandles(c, PlanView{c, planScale(c), 0}, *job)
               : std::vector<Handle>();
}

} // namespace wren::app
