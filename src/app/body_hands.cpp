#include "body_strips.h"

#include "base/length.h"
#include "strip_parts.h"
#include "text.h"

#include <fmt/format.h>

#include <cmath>

namespace wren::app {
namespace {

double rounded(double mm, LengthUnit unit) {
    const double step = unit == LengthUnit::mm ? 0.1 : mmPerInch / 64;
    return std::round(mm / step) * step;
}

/// Everything a handle needs to turn the pointer's place into what would be typed.
struct Hands {
    std::function<QPointF(Vec2)> px; ///< from the bridge line
    std::function<Vec2(QPointF)> mm; ///< to the bridge line, rounded
};

std::vector<Handle> nodeHandles(const Hands& hands, const std::string& text, const QString& what,
                                const QString& path) {
    std::vector<Handle> out;
    const std::vector<ShapeNode> nodes = shapeNodes(text);
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        out.push_back({hands.px(nodes[i].at), what, Qt::SizeAllCursor, [=](QPointF p) {
                           std::vector<ShapeNode> moved = nodes;
                           moved[i].at = hands.mm(p);
                           return Typed{path, qs(shapeText(moved))};
                       }});
    }
    return out;
}

/// Both ends of every contour's line.
std::vector<Handle> slopeHandles(const Hands& hands, const std::string& text, const QString& what,
                                 const QString& path) {
    std::vector<Handle> out;
    const std::vector<FaceSlope> slopes = slopeList(text);
    for (std::size_t i = 0; i < slopes.size(); ++i) {
        for (Vec2 FaceSlope::*end : {&FaceSlope::from, &FaceSlope::to}) {
            out.push_back({hands.px(slopes[i].*end), what, Qt::SizeAllCursor, [=](QPointF p) {
                               std::vector<FaceSlope> moved = slopes;
                               moved[i].*end = hands.mm(p);
                               return Typed{path, qs(slopeText(moved))};
                           }});
        }
    }
    return out;
}

} // namespace

std::vector<Handle> bodyPlanHandles(const StripContext& c) {
    std::vector<Handle> out;
    if (!c.sheet.showsBody() || c.sheet.station() != Station::body || c.sheet.scrubbing()) {
        return out;
    }
    const Derived& d = *c.sheet.derived();
    const Body& body = d.project.body;
    const BodyPlace place = d.body->part.place();
    const auto box = d.body->part.panel("body")->box();
    const double middle = (box[0].y + box[1].y) / 2;
    const double k = acrossScale(c, box[1].y - box[0].y + 8);
    const RulerScale scale = c.scale;
    const double centre = c.area.center().y();
    const LengthUnit unit = c.sheet.unit();
    const Hands hands{
        [=](Vec2 p) {
            const Vec2 q = place.at(p);
            return QPointF(scale.px(q.x), centre - (q.y - middle) * k);
        },
        [=](QPointF p) {
            const Vec2 q = place.fromBridge({scale.mm(p.x()), middle - (p.y() - centre) / k});
            return Vec2{rounded(q.x, unit), rounded(q.y, unit)};
        }};
    const auto take = [&](std::vector<Handle> some) {
        out.insert(out.end(), some.begin(), some.end());
    };
    take(nodeHandles(hands, body.nodes, QObject::tr("this node of the outline"),
                     QStringLiteral("body.outline")));
    if (!body.cavity.nodes.empty()) {
        take(nodeHandles(hands, body.cavity.nodes, QObject::tr("this node of the cavity"),
                         QStringLiteral("cavity.outline")));
    }
    take(slopeHandles(hands, body.faces.frontSlopes, QObject::tr("this end of the arm's line"),
                      QStringLiteral("body.front_slopes")));
    take(slopeHandles(hands, body.faces.backSlopes, QObject::tr("this end of the ribs' line"),
                      QStringLiteral("body.back_slopes")));
    for (std::size_t i = 0; i < body.pickups.size(); ++i) {
        if (body.pickups[i].kind != PickupKind::none) {
            out.push_back({hands.px({-body.pickups[i].fromBridge, 0}),
                           QObject::tr("pickup %1").arg(i + 1), Qt::SizeHorCursor, [=](QPointF p) {
                               return Typed{QStringLiteral("pickup%1.from_bridge").arg(i + 1),
                                            qs(fmt::format("{:.4f}mm", -hands.mm(p).x))};
                           }});
        }
    }
    const std::vector<Control> controls = controlList(body.controls);
    for (std::size_t i = 0; i < controls.size(); ++i) {
        out.push_back({hands.px(controls[i].at), QObject::tr("this %1").arg(qs(controls[i].what)),
                       Qt::SizeAllCursor, [=](QPointF p) {
                           std::string text;
                           for (std::size_t n = 0; n < controls.size(); ++n) {
                               const Vec2 at = n == i ? hands.mm(p) : controls[n].at;
                               text += fmt::format("{}{} {:g} {:g}", n ? ", " : "",
                                                   controls[n].what, at.x, at.y);
                           }
                           return Typed{QStringLiteral("cavity.controls"), qs(text)};
                       }});
    }
    return out;
}

} // namespace wren::app
