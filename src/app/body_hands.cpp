#include "body_strips.h"

#include "base/length.h"
#include "design/engraving.h"
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

/// Nodes of one of several outlines that share a list; `write` puts the changed one back into it.
void outlineHandles(
    std::vector<Handle>& out, const Hands& hands, const std::vector<std::vector<ShapeNode>>& all,
    const QString& what, const QString& path,
    const std::function<std::string(const std::vector<std::vector<ShapeNode>>&)>& write) {
    for (std::size_t i = 0; i < all.size(); ++i) {
        for (std::size_t n = 0; n < all[i].size(); ++n) {
            out.push_back({hands.px(all[i][n].at), what, Qt::SizeAllCursor, [=](QPointF p) {
                               auto moved = all;
                               moved[i][n].at = hands.mm(p);
                               return Typed{path, qs(write(moved))};
                           }});
        }
    }
}

/// Chambers, recesses, channels, strap buttons and the jack.
void hollowHandles(std::vector<Handle>& out, const Hands& hands, const Body& body) {
    outlineHandles(out, hands, shapeList(body.chambers), QObject::tr("this node of a chamber"),
                   QStringLiteral("body.chambers"), [](const auto& shapes) {
                       std::string text;
                       for (const auto& nodes : shapes) {
                           text += (text.empty() ? "" : "; ") + shapeText(nodes);
                       }
                       return text;
                   });
    const std::vector<Recess> recesses = recessList(body.recesses);
    std::vector<std::vector<ShapeNode>> nodes;
    for (const Recess& r : recesses) {
        nodes.push_back(r.nodes);
    }
    outlineHandles(out, hands, nodes, QObject::tr("this node of a recess"),
                   QStringLiteral("body.recesses"), [recesses](const auto& shapes) {
                       std::vector<Recess> moved = recesses;
                       for (std::size_t i = 0; i < shapes.size(); ++i) {
                           moved[i].nodes = shapes[i];
                       }
                       return recessText(moved);
                   });
    const std::vector<Channel> channels = channelList(body.channels);
    for (std::size_t i = 0; i < channels.size(); ++i) {
        for (Vec2 Channel::*end : {&Channel::from, &Channel::to}) {
            out.push_back(
                {hands.px(channels[i].*end), QObject::tr("this end of a channel"),
                 Qt::SizeAllCursor, [=](QPointF p) {
                     std::vector<Channel> moved = channels;
                     moved[i].*end = hands.mm(p);
                     return Typed{QStringLiteral("body.channels"), qs(channelText(moved))};
                 }});
        }
    }
    const std::vector<Vec2> straps = placeList(body.straps);
    for (std::size_t i = 0; i < straps.size(); ++i) {
        out.push_back({hands.px(straps[i]), QObject::tr("this strap button"), Qt::SizeAllCursor,
                       [=](QPointF p) {
                           std::string text;
                           for (std::size_t n = 0; n < straps.size(); ++n) {
                               const Vec2 at = n == i ? hands.mm(p) : straps[n];
                               text += fmt::format("{}{:g} {:g}", n ? ", " : "", at.x, at.y);
                           }
                           return Typed{QStringLiteral("body.straps"), qs(text)};
                       }});
    }
}

/// The middles of words, and the nodes of shapes.
void engravingHandles(std::vector<Handle>& out, const Hands& hands, const Body& body) {
    const std::vector<Engraving> all = engravingList(body.engravings);
    std::vector<std::vector<ShapeNode>> nodes;
    for (std::size_t i = 0; i < all.size(); ++i) {
        nodes.push_back(all[i].nodes);
        if (all[i].nodes.empty()) {
            out.push_back(
                {hands.px(all[i].middle), QObject::tr("these words"), Qt::SizeAllCursor,
                 [=](QPointF p) {
                     std::vector<Engraving> moved = all;
                     moved[i].middle = hands.mm(p);
                     return Typed{QStringLiteral("body.engravings"), qs(engravingText(moved))};
                 }});
        }
    }
    outlineHandles(out, hands, nodes, QObject::tr("this node of an engraving"),
                   QStringLiteral("body.engravings"), [all](const auto& shapes) {
                       std::vector<Engraving> moved = all;
                       for (std::size_t i = 0; i < shapes.size(); ++i) {
                           moved[i].nodes = shapes[i];
                       }
                       return engravingText(moved);
                   });
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
    const auto box = d.body->part.panel(Role::body)->box();
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
    hollowHandles(out, hands, body);
    engravingHandles(out, hands, body);
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
