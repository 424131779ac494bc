#include "ruler/body_strips.h"

#include "base/length.h"
#include "design/fan.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "geom/inset.h"
#include "job/nearby.h"
#include "part/panel_field.h"
#include "ruler/neck_strips.h"
#include "ruler/section.h"
#include "ruler/strip_parts.h"
#include "ruler/wood_seen.h"

#include <QPainterPath>

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

bool showsPiece(const Sheet& sheet) {
    return (sheet.station() != Station::body && sheet.station() != Station::whole) ||
           sheet.scrubbing();
}

/// Of the piece in hand with the blank it lies in; where it is judged, by itself.
Vec2 pieceSize(const Sheet& sheet) {
    const PartJob& job = *sheet.pieceInHand();
    if (sheet.station() == Station::proof && !sheet.scrubbing()) {
        const auto box = job.panel->box();
        return box[1] - box[0] + Vec2{8, 8};
    }
    return {job.held.blank.length, job.held.blank.width};
}

/// The widest thing the plan has to show.
double planWidth(const Sheet& sheet) {
    if (showsPiece(sheet)) {
        return pieceSize(sheet).y + 6;
    }
    const auto box = sheet.derived()->body->part.panel(Role::body)->box();
    return box[1].y - box[0].y + 8;
}

double planMiddle(const Sheet& sheet) {
    const Panel& panel = showsPiece(sheet) ? *sheet.pieceInHand()->panel
                                           : *sheet.derived()->body->part.panel(Role::body);
    const auto box = panel.box();
    return (box[0].y + box[1].y) / 2;
}

PlanView viewOf(const StripContext& c) {
    return {c, acrossScale(c, planWidth(c.sheet)), planMiddle(c.sheet)};
}

/// Lines drawn into the front, and, dashed, into the back.
void drawEngraved(const PlanView& v, const Panel& panel) {
    QPainter& p = v.c.painter;
    constexpr double step = 0.4;
    for (const PanelLine& line : panel.engraved) {
        QPolygonF points;
        for (Vec2 at : placesAlong(line.way, step)) {
            points << v.at(at);
        }
        p.setPen(line.fromBack ? QPen(colour::faded, 1, Qt::DashLine) : QPen(colour::ink, 1.2));
        p.drawPolyline(points);
    }
}

void drawPockets(const PlanView& v, const Panel& panel) {
    QPainter& p = v.c.painter;
    const auto draw = [&](bool fromBack) {
        p.setPen(fromBack ? QPen(colour::faded, 1, Qt::DashLine) : QPen(colour::ink, 1));
        for (const PanelPocket& pocket : panel.pockets) {
            if (pocket.fromBack != fromBack) {
                continue;
            }
            const double share = std::clamp(pocket.depth() / panel.thickness(), 0.0, 1.0);
            QColor tone = colour::woodDark;
            tone.setAlphaF(static_cast<float>(fromBack ? 0 : 0.35 + 0.65 * share));
            p.setBrush(tone);
            for (const Contour& border : pocket.borders) {
                p.drawPolygon(v.polygon(border));
            }
        }
        p.setBrush(fromBack ? QBrush(Qt::NoBrush) : QBrush(colour::paper));
        for (const Hole& hole : panel.holes) {
            if (hole.fromBack == fromBack) {
                const double r = hole.diameter / 2;
                p.drawEllipse(v.at(hole.at), std::max(1.2, r * v.c.scale.perMm),
                              std::max(1.2, r * v.k));
            }
        }
    };
    draw(false);
    draw(true);
    drawEngraved(v, panel);
}

/// Where the faces begin to fall: the front's in full lines, the back's dashed.
void drawFalls(const PlanView& v, const BodyPart& part) {
    QPainter& p = v.c.painter;
    const Panel& body = *part.panel(Role::body);
    const std::vector<Vec2> outline = pointsOf(part.outline(), 0.1);
    p.setBrush(Qt::NoBrush);
    for (bool back : {false, true}) {
        const FaceFall& fall = body.fall(back);
        p.setPen(QPen(colour::moss, 1, back ? Qt::DashLine : Qt::SolidLine));
        if (!fall.edge().level()) {
            for (const Contour& line :
                 inset({counterClockwise(part.outline())}, fall.edge().reach())) {
                p.drawPolygon(v.polygon(line));
            }
        }
        for (const SlopeLine& s : fall.slopes()) {
            const Vec2 along{-s.out.y, s.out.x};
            constexpr double reach = 600;
            constexpr double step = 2;
            const auto crease = [&](double at) {
                const double turn = s.bow > 0 ? at / s.bow : 0;
                const Vec2 way = s.out * -std::cos(turn) + along * std::sin(turn);
                return s.bow > 0 ? s.centre + way * s.bow : s.at + along * at;
            };
            const double most = s.bow > 0 ? std::min(reach, 3.1 * s.bow) : reach;
            for (double at = -most; at < most; at += step) { // what of it lies in the wood
                const Vec2 a = crease(at);
                const Vec2 b = crease(at + step);
                if (inside(outline, a) && inside(outline, b)) {
                    p.drawLine(v.at(a), v.at(b));
                }
            }
        }
    }
}

/// How sharply the outline bends: teeth outward, as long as the curvature is great. Where it jumps
/// an eye sees a kink that the line alone hides.
void drawComb(const PlanView& v, const Contour& outline) {
    constexpr double step = 3;    // mm between teeth
    constexpr double tooth = 500; // mm long for a radius of 1 mm
    constexpr double longest = 22;
    QPainter& p = v.c.painter;
    p.setPen(QPen(colour::heather, 0.8));
    for (const ContourPiece& piece : outline) {
        if (!piece.isArc()) {
            continue;
        }
        const double l = std::min(longest, tooth / piece.radius());
        const int n = std::max(1, static_cast<int>(piece.length() / step));
        QPolygonF tips;
        for (int i = 0; i <= n; ++i) {
            const double s = piece.length() * i / n;
            const Vec2 at = piece.at(s);
            const Vec2 tip = at + leftOf(piece.wayAt(s)) * l; // it runs clockwise
            p.drawLine(v.at(at), v.at(tip));
            tips << v.at(tip);
        }
        p.drawPolyline(tips);
    }
}

/// A neck that goes through, where it is the body, between the lines its wings are glued on.
void drawNeckThrough(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    QPainterPath body;
    body.addPolygon(v.polygon(d.body->part.outline()));
    QPainterPath neck;
    neck.addPolygon(v.polygon(d.neck->part.outline().contour()));
    p.setPen(QPen(colour::slate, 1));
    p.setBrush(colour::grain);
    p.drawPath(body.intersected(neck));
}

/// Neck and board over the body, without a neck angle's shortening: it is less than a pen's width.
void drawNeckOver(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::wood);
    const QPolygonF neck = v.polygon(d.neck->part.outline().contour());
    if (d.body->part.winged()) { // as far as the body; what stands out behind is sawn off
        p.save();
        QPainterPath before;
        before.addRect(QRectF(v.at({-1e4, -1e4}), v.at({d.body->part.place().bridge, 1e4})));
        QPainterPath body;
        body.addPolygon(v.polygon(d.body->part.outline()));
        p.setClipPath(before.subtracted(body), Qt::IntersectClip);
        p.drawPolygon(neck);
        p.restore();
    } else {
        p.drawPolygon(neck);
    }
    if (!d.project.carved()) {
        p.setBrush(colour::woodDark);
        p.drawPolygon(v.polygon(d.board->outline()));
    }
    p.setPen(QPen(colour::faded, 0.7));
    for (const FretSlot& slot : d.board->slots()) {
        p.drawLine(v.at(slot.low), v.at(slot.high));
    }
    const Fan fan(d.project.board);
    for (double y : stringCentres(d.project.board, d.project.board.bridgeSpread)) {
        const double across = 2 * y / d.project.board.bridgeSpread;
        const Vec2 end = fan.string(across, 1);
        p.drawLine(v.at(fan.string(across, 0)),
                   v.at({d.body->part.place().bridge + end.x -
                             (fan.bassString(1).x + fan.trebleString(1).x) / 2,
                         end.y}));
    }
}

void drawBridge(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    const double x = d.body->part.place().bridge;
    const double half = d.project.board.bridgeSpread / 2 + 12;
    p.setPen(QPen(colour::slate, 1.2, Qt::DashDotLine));
    p.drawLine(v.at({x, -half}), v.at({x, half}));
    label(p, v.at({x, -half}) + QPointF(4, 10), QObject::tr("bridge line"), colour::slate);
}

void drawControls(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    p.setPen(QPen(colour::faded, 1, Qt::DotLine));
    p.setBrush(Qt::NoBrush);
    for (const Control& control : d.project.body.controls) {
        const QPointF at = v.at(d.body->part.place().at(control.at));
        const double r = control.what == "lever" ? 24 : control.what == "pot" ? 12.5 : 9;
        p.drawEllipse(at, r * v.c.scale.perMm, (control.what == "lever" ? 6 : r) * v.k);
    }
    p.setPen(QPen(colour::heather, 1.4));
    for (const BenchHole& hole : d.body->part.benchHoles()) {
        const QPointF at = v.at(hole.at);
        p.drawLine(at + QPointF(-4, -4), at + QPointF(4, 4));
        p.drawLine(at + QPointF(-4, 4), at + QPointF(4, -4));
        if (hole.to) {
            p.drawLine(at, v.at(*hole.to));
        }
    }
}

/// Round the heel, or round the lid: a point for every place, russet where there is hardly any
/// room.
void drawFit(const PlanView& v, int side) {
    const PartId piece = v.c.sheet.pieceInHand()->id;
    if (piece != Role::body && piece != Role::lid) {
        return;
    }
    const BodyDrawn& body = *v.c.sheet.derived()->body;
    const std::optional<Fit>& fit = side == 0 ? body.neckFit : body.lidFit;
    if (!fit || fit->places.empty() ||
        (piece != Role::body && !(piece == Role::lid && side == 0))) {
        return;
    }
    const std::optional<Fit>& shown = piece == Role::lid ? body.lidFit : fit;
    QPainter& p = v.c.painter;
    for (const FitPlace& place : shown->places) {
        p.setPen(QPen(place.room < 0.03 ? colour::russet : colour::moss, 1.6));
        const QPointF at = v.at(place.at);
        p.drawPoint(at);
    }
    labelOver(p, v.at(shown->places.front().at) + QPointF(8, -4),
              QObject::tr("room %1 to %2")
                  .arg(qs(formatLengthValue(shown->least, v.c.sheet.unit(), 3)),
                       qs(formatLengthValue(shown->most, v.c.sheet.unit(), 3))),
              colour::moss);
}

/// Plates over the front as they will lie, and where their screws stand.
void drawPlates(const PlanView& v, const BodyPart& part) {
    QPainter& p = v.c.painter;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::slate, 1.2, Qt::DashDotLine));
    for (const Panel& panel : part.panels()) {
        if (panel.id.role == Role::plate && panel.liesAsIn(*part.panel(Role::body))) {
            p.drawPolygon(v.polygon(panel.outline));
        }
    }
}

void drawPiece(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const PartJob& job = *c.sheet.pieceInHand();
    const Panel& panel = *job.panel;
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    const StockViewPtr stock = c.sheet.stock();
    if (c.sheet.scrubbing() && stock && stock->part == Part::body) {
        v.stock(*stock);
        p.setPen(QPen(colour::ink, 1, Qt::DotLine));
        p.drawPolygon(v.polygon(panel.outline));
        return;
    }
    drawWoodPhotos(v, job);
    p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(v.blank(job.held.face));
    p.setPen(QPen(colour::ink, 1.2));
    for (const RegisterPin& pin : job.held.pins) {
        const double r = job.held.pinSize / 2;
        p.drawEllipse(v.at(pin.at), r * c.scale.perMm, r * v.k);
    }
    v.clamps(c.sheet.project(), job);
    if (job.held.sawn) { // what the saw leaves
        p.setPen(QPen(colour::russet, 1, Qt::DashLine));
        for (const Contour& line : inset({clockwise(panel.outline)}, job.held.sawn->off)) {
            p.drawPolygon(v.polygon(line));
        }
        for (const SawnEar& e : job.held.sawn->ears) {
            const Vec2 way = unit(e.pin - e.at);
            const Vec2 side = leftOf(way) * SawnOutside::half;
            const Vec2 end = e.pin + way * SawnOutside::half;
            p.drawPolyline(QPolygonF(
                {v.at(e.at + side), v.at(end + side), v.at(end - side), v.at(e.at - side)}));
        }
    }
    p.setPen(QPen(colour::ink, 1.4, panel.outlined ? Qt::SolidLine : Qt::DashLine));
    p.setBrush(woodOver(v, &job));
    p.drawPolygon(v.polygon(panel.outline));
    drawPockets(v, panel);
    drawWoodMarks(v, job);
    if (panel.id == Role::body) {
        drawFalls(v, d.body->part);
    }
    if (c.sheet.station() == Station::cuts) {
        p.setPen(QPen(colour::moss, 3));
        p.setBrush(Qt::NoBrush);
        std::vector<PanelTab> tabs = job.panelPlan().tabs;
        for (const PanelPlug& plug : job.panelPlan().plugs) {
            tabs.insert(tabs.end(), plug.tabs.begin(), plug.tabs.end());
        }
        for (const PanelTab& tab : tabs) {
            p.drawEllipse(v.at(tab.at), tab.half * c.scale.perMm, tab.half * v.k);
        }
    }
}

} // namespace

QString pieceName(const PartJob& job) {
    return qs(job.panel->name());
}

std::pair<double, double> bodyExtent(const Sheet& sheet, const QRectF& strips) {
    const Derived& d = *sheet.derived();
    double a = 0;
    double b = 0;
    if (showsPiece(sheet)) {
        const PartJob& job = *sheet.pieceInHand();
        const auto box = job.panel->box();
        const double middle = (box[0].x + box[1].x) / 2;
        const double half = pieceSize(sheet).x / 2 + 4;
        a = middle - half;
        b = middle + half;
    } else {
        a = d.body->part.panel(Role::body)->box()[0].x - 10; // the neck runs out of the picture
        b = d.body->part.panel(Role::body)->box()[1].x + 6;
    }
    const double tall = strips.height() - 10;
    const double width = std::max(b - a, planWidth(sheet) * strips.width() / std::max(1.0, tall));
    if (showsPiece(sheet)) {
        return {(a + b - width) / 2, (a + b + width) / 2};
    }
    const double spare = (width - (b - a)) * 0.35; // the neck has the rest
    return {b + spare - width, b + spare};
}

BodyView bodyView(const StripContext& c) {
    const PlanView v = viewOf(c);
    return {v.k, v.middle};
}

Vec2 bodyPlaceAt(const StripContext& c, QPointF at) {
    return viewOf(c).mm(at);
}

void drawTaken(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const std::string thing = thingOf(c.sheet.taken());
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    for (const Feature& f : c.sheet.things()) {
        if (f.path != thing) {
            continue;
        }
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(colour::russet, 2.2));
        for (const Contour& border : bordersOf(d, f.id)) {
            p.drawPolyline(v.polygon(border));
        }
    }
    for (const Near& n : nearbyOf(d, thing)) {
        const bool told = n.what.rfind("string", 0) == 0 || n.what.rfind("fret", 0) == 0;
        if (n.distance < 0.05 || told) { // strings and frets stand in the ledger
            continue;
        }
        const QPointF a = v.at(n.from);
        const QPointF b = v.at(n.to);
        if (std::hypot(b.x() - a.x(), b.y() - a.y()) < 14) {
            continue; // no room for a figure: the ledger has it
        }
        p.setPen(QPen(colour::slate, 1, Qt::DashLine));
        p.drawLine(a, b);
        labelOver(p, (a + b) / 2 + QPointF(3, -2),
                  qs(formatLengthValue(n.distance, c.sheet.unit(), 1)), colour::slate);
    }
}

void drawBodyPlan(const StripContext& c) {
    if (showsPiece(c.sheet)) {
        drawPiece(c);
        return;
    }
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(colour::wood);
    p.drawPolygon(v.polygon(d.body->part.outline()));
    if (d.body->part.winged()) {
        drawNeckThrough(v, d);
    }
    drawPockets(v, *d.body->part.panel(Role::body));
    drawFalls(v, d.body->part);
    if (c.sheet.station() == Station::body && c.sheet.leaf() == 0) {
        drawComb(v, d.body->part.outline());
    }
    drawNeckOver(v, d);
    if (const Panel* core = d.body->part.panel(Role::core)) {
        p.setPen(QPen(colour::ochre, 1, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        for (const PanelPocket& pocket : core->pockets) {
            p.drawPolygon(v.polygon(pocket.borders.front()));
        }
    }
    if (d.project.body.bookmatch && d.body->part.panel(Role::top)) {
        const auto box = d.body->part.panel(Role::body)->box();
        p.setPen(QPen(colour::faded, 1, Qt::DashDotDotLine));
        p.drawLine(v.at({box[0].x, 0}), v.at({box[1].x, 0}));
    }
    drawControls(v, d);
    drawBridge(v, d);
    drawPlates(v, d.body->part);
    if (!c.sheet.taken().empty()) {
        drawTaken(c);
    }
}

void drawPieceDeviation(const StripContext& c, const DeviationView& view, int side) {
    const PartJob& job = *c.sheet.pieceInHand();
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    p.setPen(Qt::NoPen);
    p.setBrush(colour::paper);
    const Panel& panel = *job.panel;
    p.drawPolygon(v.polygon(panel.outline));
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(v.blank(job.held.last()), view.picture);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawPolygon(v.polygon(panel.outline));
    p.setPen(QPen(colour::faded, 0.8));
    for (const PanelPocket& pocket : panel.pockets) {
        if (pocket.fromBack == (side == 1)) {
            p.drawPolygon(v.polygon(pocket.borders.front()));
        }
    }
    drawFit(v, side);
}

std::vector<Handle> pieceBlankHandles(const StripContext& c) {
    const PartJob* job = c.sheet.pieceInHand();
    return job && c.sheet.part() == Part::body ? woodHandles(c, viewOf(c), *job)
                                               : std::vector<Handle>();
}

} // namespace wren::app
