#include "ruler/neck_strips.h"

#include "base/length.h"
#include "cut/neck_paths.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/strip_parts.h"
#include "ruler/wood_seen.h"

#include <QPainterPath>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

const Held& heldOf(const StripContext& c) {
    return c.sheet.derived()->job(Role::neck)->held;
}

const NeckDrawn& neckOf(const StripContext& c) {
    return *c.sheet.derived()->neck;
}

bool showsBlank(const StripContext& c) {
    return c.sheet.station() != Station::neck || c.sheet.scrubbing();
}

PlanView viewOf(const StripContext& c) {
    return {c, neckPlanScale(c), neckMiddle(*c.sheet.derived())};
}

/// Where the cuts of two stations meet.
void drawSeam(const PlanView& v, const Held& held) {
    if (held.pitch == 0) {
        return;
    }
    QPainter& p = v.c.painter;
    const QRectF area = v.blank(held.face);
    const double x = v.at(held.face.fromInstrument.toInstrument({held.seam, 0, 0}).xy()).x();
    p.setPen(QPen(colour::russet, 1.2, Qt::DashLine));
    p.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    p.setFont(words(12));
    constexpr double wide = 200;
    p.drawText(QRectF(x - wide - 6, area.top() - 18, wide, 16), Qt::AlignRight,
               QObject::tr("station 1"));
    p.drawText(QRectF(x + 6, area.top() - 18, wide, 16), Qt::AlignLeft, QObject::tr("station 2"));
}

void drawBlank(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    const QRectF area = v.blank(d.job(Role::neck)->held.face);
    drawWoodPhotos(v, *d.job(Role::neck));
    p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(area);
    const int strips = d.project.neckBlank.strips;
    p.setPen(QPen(colour::grain, 1));
    for (int i = 1; i < strips; ++i) { // the glue lines of a laminated blank
        const double y = area.top() + area.height() * i / strips;
        p.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
    }
    p.setPen(QPen(colour::ink, 1.2));
    for (const RegisterPin& pin : d.job(Role::neck)->held.pins) {
        const double r = d.job(Role::neck)->held.pinSize / 2;
        p.drawEllipse(v.at(pin.at), r * v.c.scale.perMm, r * v.k);
    }
    drawSeam(v, d.job(Role::neck)->held);
    v.clamps(d.project, *d.job(Role::neck));
    if (d.job(Role::neck)->held.notch) {
        const QPointF at = v.at(*d.job(Role::neck)->held.notch);
        p.drawPolyline(QPolygonF{at + QPointF(-4, 0), at + QPointF(-4, -5), at + QPointF(4, -5),
                                 at + QPointF(4, 0)});
    }
}

void drawTuners(const PlanView& v, const Derived& d) {
    QPainter& p = v.c.painter;
    const Tuners& t = d.project.neck.tuners;
    for (const TunerPlace& place : d.neck->part.tuners()) {
        QPolygonF body;
        for (Vec2 corner : tunerBody(t, place)) {
            body << v.at(corner);
        }
        p.setPen(QPen(colour::faded, 1, Qt::DotLine));
        p.setBrush(Qt::NoBrush);
        p.drawPolygon(body);
        p.setPen(QPen(colour::ink, 1.2));
        p.setBrush(colour::paper);
        p.drawEllipse(v.at(place.post), t.bushing / 2 * v.c.scale.perMm, t.bushing / 2 * v.k);
        p.setPen(QPen(colour::faded, 0.8));
        p.drawLine(v.at(place.nut), v.at(place.winds));
    }
    p.setPen(QPen(colour::slate, 2));
    for (std::size_t i = 0; i < t.trees.size(); ++i) { // a bar over the strings it holds
        double low = 1e9, high = -1e9;
        for (const TunerPlace& place : d.neck->part.tuners()) {
            if (place.held && std::abs(place.held->x - t.trees[i].at.x) < 1e-6) {
                low = std::min(low, place.held->y);
                high = std::max(high, place.held->y);
            }
        }
        const double x = t.trees[i].at.x;
        const double y = t.trees[i].at.y * (d.project.board.hand == Hand::left ? -1 : 1);
        p.drawLine(v.at({x, std::min(low, y) - 2}), v.at({x, std::max(high, y) + 2}));
    }
}

} // namespace

double neckMiddle(const Derived& d) {
    const auto box = d.neck->part.boundingBox();
    return (box[0].y + box[1].y) / 2;
}

double neckPlanScale(const StripContext& c) {
    const NeckDrawn& neck = neckOf(c);
    const auto box = neck.part.boundingBox();
    const double width = showsBlank(c) ? heldOf(c).blank.width : box[1].y - box[0].y;
    return acrossScale(c, width + 4);
}

HeightScale neckHeights(const StripContext& c) {
    const NeckDrawn& neck = neckOf(c);
    const double low =
        showsBlank(c) ? heldOf(c).blank.thickness - neck.part.blankTop() : neck.part.deepest();
    return HeightScale::of(c, -low - 1, c.sheet.derived()->project.board.thickness + 1);
}

void drawNeckPlan(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const NeckPart& part = d.neck->part;
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    const StockViewPtr stock = c.sheet.stock();
    if (c.sheet.scrubbing() && stock && stock->part == Part::neck) {
        v.stock(*stock);
        p.setPen(QPen(colour::ink, 1, Qt::DotLine));
        p.drawPolygon(v.polygon(part.outline().contour()));
        return;
    }
    if (showsBlank(c)) {
        drawBlank(v, d);
    }
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(woodOver(v, d.job(Role::neck)));
    p.drawPolygon(v.polygon(part.outline().contour()));
    p.setBrush(colour::woodDark);
    p.setPen(QPen(colour::ink, 0.8));
    for (const NeckPocket& pocket : part.pockets()) {
        if (pocket.kind == NeckPocketKind::ledge) {
            continue; // all of the wood beyond the carved face
        }
        QPolygonF sides;
        for (Vec2 corner : pocket.corners()) {
            sides << v.at(corner);
        }
        p.drawPolygon(sides);
    }
    const bool carved = part.carved().has_value(); // else the board will lie there
    p.setPen(QPen(carved ? colour::ink : colour::rule, 1));
    for (const FretSlot& slot : d.board->slots()) {
        p.drawLine(v.at(slot.low), v.at(slot.high));
    }
    if (carved) {
        p.setPen(QPen(colour::ink, 1));
        p.setBrush(colour::paper);
        for (const MarkerPocket& marker : part.carved()->pockets()) {
            p.drawPolygon(v.polygon(marker.outline));
        }
    }
    if (const PartJob* job = d.job(Role::neck); job && showsBlank(c)) {
        drawWoodMarks(v, *job);
    }
    p.setPen(QPen(colour::ink, 1.6));
    const NeckOutline& o = part.outline();
    p.drawLine(v.at({0, o.edge(-1, 0)}), v.at({0, o.edge(1, 0)}));
    drawTuners(v, d);
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::paper);
    for (const Hole& hole : part.holes()) {
        if (hole.feature.kind != FeatureKind::tuner) {
            const double r = hole.diameter / 2;
            p.drawEllipse(v.at(hole.at), std::max(1.2, r * c.scale.perMm), std::max(1.2, r * v.k));
        }
    }
    if (c.sheet.station() == Station::cuts) {
        p.setPen(QPen(colour::moss, 3));
        for (const NeckTab& tab : d.job(Role::neck)->neckPlan().tabs) {
            const Vec2 out{-tab.along.y, tab.along.x};
            const Vec2 foot = tab.at + out * 2;
            p.drawLine(v.at(foot - tab.along * tab.half), v.at(foot + tab.along * tab.half));
        }
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::faded, 0.7, Qt::DashDotLine));
    p.drawLine(v.at({o.tip(), 0}), v.at({o.end(), 0}));
}

void drawNeckSide(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const NeckPart& part = d.neck->part;
    const NeckOutline& o = part.outline();
    QPainter& p = c.painter;
    const HeightScale z = neckHeights(c);
    QPolygonF face;
    QPolygonF spine;
    QPolygonF edge;
    for (double x = o.tip() + 0.2; x < o.end(); x += std::max(1.0, 1.5 / c.scale.perMm)) {
        const NeckBack::Slice s = part.back().slice(x);
        const auto wood = o.across(x);
        if (wood[0] > wood[1]) {
            continue;
        }
        face << QPointF(c.scale.px(x), z.y(part.frontAt({x, 0})));
        spine << QPointF(c.scale.px(x), z.y(-s.depth(std::clamp(s.centre(), wood[0], wood[1]))));
        edge << QPointF(c.scale.px(x), z.y(-s.depth(wood[0])));
    }
    QPolygonF body = face;
    for (auto it = spine.rbegin(); it != spine.rend(); ++it) {
        body << *it;
    }
    p.setPen(Qt::NoPen);
    p.setBrush(colour::wood);
    p.drawPolygon(body);
    // The rod in its slot, as if the neck were cut along the middle.
    p.setBrush(colour::woodDark);
    for (const NeckPocket& pocket : part.pockets()) {
        if (pocket.kind != NeckPocketKind::carbon && pocket.kind != NeckPocketKind::ledge &&
            !pocket.fromBack) {
            const std::array<double, 2> reach = pocket.reach();
            const double end = std::min(reach[1], o.end());
            QPolygonF slot{{c.scale.px(end), z.y(0)}, {c.scale.px(reach[0]), z.y(0)}};
            slot << QPointF(c.scale.px(reach[0]), z.y(pocket.bottomAt(reach[0])));
            for (Vec2 q : pocket.run) {
                slot << QPointF(c.scale.px(std::min(q.x, end)), z.y(q.y));
            }
            slot << QPointF(c.scale.px(end), z.y(pocket.bottomAt(end)));
            p.drawPolygon(slot);
        }
    }
    const TrussRod& rod = d.project.neck.rod;
    if (rod.from == RodFrom::back) { // shut in under its strip
        const RodRoom room(rod, part.back());
        const RodPlace place = rodPlace(rod);
        for (double x = place.from; x < std::min(place.to, o.end()); x += 2) {
            if (const auto s = room.at(x)) {
                p.drawRect(QRectF(QPointF(c.scale.px(x), z.y(-s->roof)),
                                  QPointF(c.scale.px(x + 2), z.y(-s->floor))));
            }
        }
    }
    if (const std::optional<Scarf>& scarf = d.job(Role::neck)->held.scarf) { // the glue line
        p.setPen(QPen(colour::russet, 1.2, Qt::DashDotLine));
        p.drawLine(QPointF(c.scale.px(scarf->atFace), z.y(0)),
                   QPointF(c.scale.px(scarf->atBack), z.y(-scarf->plank)));
    }
    const double top = d.project.board.thickness + d.project.neck.accent;
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::faded, 1, Qt::DashLine));
    if (!part.carved()) {
        p.drawRect(QRectF(QPointF(c.scale.px(d.board->xLow()), z.y(top)),
                          QPointF(c.scale.px(d.board->xHigh()), z.y(0))));
    }
    p.setPen(QPen(colour::faded, 1));
    p.drawPolyline(edge);
    p.setPen(QPen(colour::ink, 1.3));
    p.drawPolyline(face);
    p.drawPolyline(spine);
    if (showsBlank(c)) {
        const Vec3 a = d.job(Role::neck)->held.face.fromInstrument.toInstrument({0, 0, 0});
        const Blank& b = d.job(Role::neck)->held.blank;
        p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
        const Setup& lies = d.job(Role::neck)->held.face;
        QPolygonF over;
        QPolygonF under;
        for (double x = a.x; x <= a.x + b.length; x += 2) {
            const WoodSpan wood = lies.woodAt(x);
            over << QPointF(c.scale.px(x), z.y(wood.over));
            under << QPointF(c.scale.px(x), z.y(wood.under));
        }
        std::reverse(under.begin(), under.end());
        p.drawPolygon(over + under);
    }
    // The stations the back is given by.
    p.setPen(QPen(colour::ochre, 1, Qt::DotLine));
    for (std::size_t i = 0; i < part.back().stations(); ++i) {
        const double x = part.back().stationX(i);
        p.drawLine(QPointF(c.scale.px(x), z.y(top)),
                   QPointF(c.scale.px(x), z.y(-part.back().slice(x).spine())));
    }
    label(p, {c.scale.px(o.end()) + 8, z.y(-d.project.neck.heelDepth / 2) + 4},
          qs(formatLengthValue(d.project.neck.heelDepth, c.sheet.unit())), colour::ink);
}

void drawWoodUnderRod(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const NeckPart& part = d.neck->part;
    QPainter& p = c.painter;
    const std::vector<WoodUnder>& wood = d.neck->woodUnder;
    const double base = c.area.bottom();
    double most = 6;
    for (const WoodUnder& w : wood) {
        most = std::max(most, w.wood);
    }
    const double k = (c.area.height() - 4) / most;
    const double x0 = c.scale.px(part.outline().tip());
    const double x1 = c.scale.px(part.outline().end());
    const auto bound = [&](double mm, const QColor& colour, const QString& word, double down) {
        p.setPen(QPen(colour, 1, Qt::DashLine));
        p.drawLine(QPointF(x0, base - mm * k), QPointF(x1, base - mm * k));
        label(p, {x1 + 8, base - mm * k + down},
              QStringLiteral("%1 %2").arg(qs(formatLengthValue(mm, c.sheet.unit())), word), colour);
    };
    QPolygonF line;
    for (const WoodUnder& w : wood) {
        line << QPointF(c.scale.px(w.x), base - std::max(0.0, w.wood) * k);
    }
    if (!line.isEmpty()) {
        QPolygonF under = line;
        under << QPointF(line.back().x(), base) << QPointF(line.front().x(), base);
        p.setPen(Qt::NoPen);
        p.setBrush(colour::wood);
        p.drawPolygon(under);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(colour::moss, 1.6));
        p.drawPolyline(line);
    } else {
        p.setFont(words(13));
        p.setPen(colour::faded);
        p.drawText(c.area, Qt::AlignCenter, QObject::tr("no truss rod"));
    }
    bound(rodWoodCaution, colour::ochre, QObject::tr("caution"), -2);
    bound(rodWoodStop, colour::russet, QObject::tr("stop"), 9);
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(x0, base), QPointF(x1, base));
}

void drawCurvature(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const NeckPart& part = d.neck->part;
    QPainter& p = c.painter;
    const double mid = c.area.center().y();
    // The comb's teeth stand for 1/radius; the tightest bend found fills the strip.
    double tightest = 1.0 / 200;
    for (double x = part.back().headFrom(); x < part.back().heelTo(); x += 2) {
        for (double u : {-0.7, 0.0, 0.7}) {
            tightest = std::max(tightest, std::abs(part.back().curvatureAlong(u, x)));
        }
    }
    const double k = c.area.height() / 2 / tightest;
    const double to = std::min(part.back().heelTo() + 10, part.outline().end());
    const auto comb = [&](double u, const QColor& colour, bool teeth) {
        QPolygonF line;
        QVector<QLineF> lines;
        for (double x = part.back().headFrom() - 10; x < to;
             x += std::max(2.0, 4 / c.scale.perMm)) {
            const double bend = std::clamp(part.back().curvatureAlong(u, x), -tightest, tightest);
            const QPointF at(c.scale.px(x), mid + bend * k);
            line << at;
            lines << QLineF(QPointF(at.x(), mid), at);
        }
        if (teeth) {
            p.setPen(QPen(colour, 0.8));
            p.drawLines(lines);
        }
        p.setPen(QPen(colour, 1.4, teeth ? Qt::SolidLine : Qt::DashLine));
        p.drawPolyline(line);
    };
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(c.scale.px(part.outline().tip()), mid),
               QPointF(c.scale.px(part.outline().end()), mid));
    comb(0.7, colour::heather, false);
    comb(-0.7, colour::ochre, false);
    comb(0, colour::slate, true);
    const double right = c.scale.px(part.outline().end()) + 8;
    label(p, {right, c.area.top() + 8}, QObject::tr("bulges"), colour::faded);
    label(p, {right, mid + 4},
          QStringLiteral("R %1").arg(qs(formatLengthValue(1 / tightest, c.sheet.unit(), 0))),
          colour::slate);
    label(p, {right, c.area.bottom() - 2}, QObject::tr("hollow"), colour::faded);
}

void drawNeckDepth(const StripContext& c, int side) {
    const auto k = static_cast<std::size_t>(side);
    drawDepths(c, heldOf(c).side(k), c.sheet.derived()->read(Role::neck, k),
               side == 0 ? QObject::tr("face") : QObject::tr("back"));
}

void drawNeckDeviation(const StripContext& c, const DeviationView& view) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const PlanView v = viewOf(c);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(v.blank(*d.job(Role::neck)->held.back), view.picture);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawPolygon(v.polygon(d.neck->part.outline().contour()));
}

std::vector<Handle> neckBlankHandles(const StripContext& c) {
    const PartJob* job = c.sheet.derived() ? c.sheet.derived()->job(Role::neck) : nullptr;
    return job && c.sheet.part() == Part::neck ? woodHandles(c, viewOf(c), *job)
                                               : std::vector<Handle>();
}

} // namespace wren::app
