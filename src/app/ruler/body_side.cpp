// The body cut along its centreline.

#include "ruler/body_strips.h"

#include "base/length.h"
#include "design/fan.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "part/panel_field.h"
#include "part/setup_geometry.h"
#include "ruler/strip_parts.h"

#include <algorithm>
#include <cmath>

namespace wren::app {

void drawCentreCut(QPainter& p, const Derived& d, double step,
                   const std::function<QPointF(double, double)>& at) {
    const BodyPart& part = d.body->part;
    const Panel& body = *part.panel(Role::body);
    const auto box = body.box();
    const PanelField field(
        body, SetupFromInstrument::faceUp({}),
        {{box[0].x, 0}, step, static_cast<int>((box[1].x - box[0].x) / step), 1});
    QPolygonF front;
    QPolygonF back;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        if (field.in(i)) {
            const double x = field.at(i).x;
            front << at(x, std::max(field.front[i], field.back[i]));
            back << at(x, field.back[i]);
        }
    }
    std::reverse(back.begin(), back.end());
    p.setPen(QPen(colour::ink, 1.3));
    p.setBrush(colour::wood);
    p.drawPolygon(front + back);
    if (const Panel* core = part.panel(Role::core)) {
        p.setPen(QPen(colour::faded, 1));
        p.drawLine(at(box[0].x, core->top), at(box[1].x, core->top));
        if (part.panel(Role::back)) {
            p.drawLine(at(box[0].x, core->bottom), at(box[1].x, core->bottom));
        }
    }
    // The neck's own side, laid on the pocket's floor; one that goes through is the body from its
    // mouth on.
    const BodyPlace& place = part.place();
    const NeckPart& neck = d.neck->part;
    const double end = part.winged() ? place.toInstrument({setupGeometry(part, neck).mouth, 0, 0}).x
                                     : neck.outline().end();
    QPolygonF spine;
    QPolygonF face;
    for (double x = neck.outline().tip() + 0.5; x < end; x += 2) {
        const Vec3 under = place.toBody({x, 0, -neck.back().depth(x, 0)});
        const Vec3 over = place.toBody({x, 0, neck.frontAt({x, 0})});
        spine << at(under.x, under.z);
        face << at(over.x, over.z);
    }
    std::reverse(face.begin(), face.end());
    p.setBrush(colour::grain);
    p.setPen(QPen(colour::slate, 1.1));
    p.drawPolygon(spine + face);
}

void drawBodySide(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const BodyPart& part = d.body->part;
    const BodyPlace& place = part.place();
    QPainter& p = c.painter;
    const double atBridge = part.stringHeight(place.bridge);
    const double tallest = std::max(atBridge, 8.0) + 6;
    const double k =
        std::min(c.area.height() / (part.thickness() + tallest + 4), c.scale.perMm * 2);
    const double zero = c.area.top() + (tallest + 2) * k;
    const auto at = [&](double x, double z) { return QPointF(c.scale.px(x), zero - z * k); };
    drawCentreCut(p, d, std::max(0.5, 1 / c.scale.perMm), at);
    const auto strung = [&](double x) {
        return at(place.toBody({x, 0, 0}).x, part.stringHeight(place.toBody({x, 0, 0}).x));
    };
    p.setPen(QPen(colour::russet, 1));
    p.drawLine(strung(0), at(place.bridge, atBridge));
    p.setPen(QPen(colour::slate, 1.2, Qt::DashDotLine));
    p.drawLine(at(place.bridge, part.bridgeStandsOn()), at(place.bridge, atBridge));
}

void drawBodySideBeside(QPainter& p, const QRectF& area, const Sheet& sheet) {
    const BodyPart& part = sheet.derived()->body->part;
    const auto box = part.panel(Role::body)->box();
    const QRectF view = area.adjusted(0, 22, 0, 0);
    const RulerScale scale = RulerScale::fit(box[0].x - 8, box[1].x + 4, view.left(), view.width());
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(
        QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
        QObject::tr("Centreline, strings %1 over it")
            .arg(qs(formatLengthValue(part.stringHeight(part.place().bridge), sheet.unit(), 1))));
    p.save();
    p.setClipRect(view);
    drawBodySide({p, scale, sheet, view});
    p.restore();
}

} // namespace wren::app
