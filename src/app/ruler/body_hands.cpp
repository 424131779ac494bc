#include "ruler/body_strips.h"

#include "base/length.h"
#include "frame/text.h"
#include "job/feature_edits.h"
#include "job/list_keys.h"
#include "ruler/strip_parts.h"

#include <fmt/format.h>

#include <cmath>

namespace wren::app {
namespace {

constexpr double pull = 5; ///< pixels within which a place snaps

double rounded(double mm, LengthUnit unit) {
    const double step = unit == LengthUnit::mm ? 0.1 : mmPerInch / 64;
    return std::round(mm / step) * step;
}

/// Where a place goes to, and what holds it there.
struct Snap {
    Vec2 at;
    QString onto;
};

/// Everything a handle needs to turn the pointer's place into a change.
class Hands {
public:
    Hands(const StripContext& c)
        : sheet_(c.sheet), view_(bodyView(c)), place_(c.sheet.derived()->body->part.place()),
          area_(c.area), scale_(c.scale) {}

    QPointF px(Vec2 fromBridge) const { return toPx(place_.at(fromBridge)); }

    /// A node or an end: the key of that path follows the pointer.
    Handle point(const std::string& key, const QString& what, const std::string& taken) const {
        const Vec2 at = std::get<Vec2>(keyAt(project(), key).get(project()));
        Handle h{px(at), what, Qt::SizeAllCursor};
        h.path = taken;
        h.moved = [self = *this, key](QPointF p) {
            Project changed = self.project();
            const Key k = keyAt(changed, key);
            const KeyValue value = self.snapped(p, key).at;
            checkValue(k, value);
            k.set(changed, value);
            return key.rfind("body.outline.", 0) == 0 ? settledOnEdge(changed) : changed;
        };
        h.onto = [self = *this, key](QPointF p) { return self.snapped(p, key).onto; };
        return h;
    }

    /// A whole thing by its middle.
    Handle whole(const Feature& f) const {
        Handle h{px(f.at), qs(f.name), Qt::SizeAllCursor};
        h.path = f.path;
        h.moved = [self = *this, path = f.path, edge = f.side == "edge"](QPointF p) {
            const Project& now = self.project();
            for (const Feature& g : featuresOf(now)) {
                if (g.path == path) {
                    const Project moved = movedBy(now, path, self.snapped(p, path).at - g.at);
                    return edge ? settledOnEdge(moved) : moved;
                }
            }
            return now;
        };
        h.onto = [self = *this, path = f.path](QPointF p) { return self.snapped(p, path).onto; };
        return h;
    }

private:
    const Project& project() const { return sheet_.project(); }

    QPointF toPx(Vec2 body) const {
        return {scale_.px(body.x), area_.center().y() - (body.y - view_.middle) * view_.k};
    }

    Vec2 mm(QPointF p) const {
        return place_.fromBridge(
            {scale_.mm(p.x()), view_.middle - (p.y() - area_.center().y()) / view_.k});
    }

    /// On the centreline, level with another thing or opposite one, over a fret or the bridge line.
    Snap snapped(QPointF p, const std::string& own) const {
        const Vec2 at = mm(p);
        const LengthUnit unit = sheet_.unit();
        Snap s{{rounded(at.x, unit), rounded(at.y, unit)}, {}};
        const auto pulls = [&](double Vec2::*axis, double to, const QString& word) {
            const double k = axis == &Vec2::x ? scale_.perMm : view_.k;
            if (std::abs(at.*axis - to) * k < pull && s.at.*axis != to) {
                s.at.*axis = to;
                s.onto += (s.onto.isEmpty() ? QString() : QStringLiteral(", ")) + word;
                return true;
            }
            return false;
        };
        const std::vector<Feature> all = featuresOf(project());
        bool along = pulls(&Vec2::x, 0, QObject::tr("on the bridge line"));
        bool across = pulls(&Vec2::y, 0, QObject::tr("on the centreline"));
        for (const Feature& f : all) {
            const bool itself = own.compare(0, f.path.size(), f.path) == 0;
            if (!f.id || itself || f.at == Vec2{}) {
                continue;
            }
            const QString name = qs(f.name);
            along = along || pulls(&Vec2::x, f.at.x, QObject::tr("level with %1").arg(name));
            across = across || pulls(&Vec2::y, f.at.y, QObject::tr("in line with %1").arg(name)) ||
                     pulls(&Vec2::y, -f.at.y, QObject::tr("opposite %1").arg(name));
        }
        for (const FretPlace& f : sheet_.derived()->frets) {
            const double x = place_.fromBridge({f.fromNut, 0}).x;
            along = along || pulls(&Vec2::x, x, QObject::tr("at fret %1").arg(f.fret));
        }
        return s;
    }

    const Sheet& sheet_;
    BodyView view_;
    BodyPlace place_;
    QRectF area_;
    RulerScale scale_;
};

/// The nodes of an outline.
void nodeHandles(std::vector<Handle>& out, const Hands& hands, const Project& p,
                 const std::string& list, const QString& of) {
    const std::size_t n = listAt(p, list).items->size(p);
    for (std::size_t i = 0; i < n; ++i) {
        const std::string node = fmt::format("{}.{}", list, i);
        out.push_back(
            hands.point(node + ".at", QObject::tr("node %1 of %2").arg(i + 1).arg(of), node));
    }
}

/// Nodes and ends of the thing in hand.
void innerHandles(std::vector<Handle>& out, const Hands& hands, const Project& p,
                  const Feature& f) {
    if (f.id.kind == FeatureKind::outline || f.id.kind == FeatureKind::pickup) {
        return; // the outline's own are there already
    }
    const std::string outline = f.path + ".outline";
    for (const ListKey& list : listsOf(p)) {
        if (list.path == outline) {
            nodeHandles(out, hands, p, outline, qs(f.name));
        }
    }
    for (const Key& key : keysOf(p)) {
        const bool end = key.path == f.path + ".from" || key.path == f.path + ".to";
        if (end && key.kind == KeyKind::place) {
            out.push_back(
                hands.point(key.path, QObject::tr("this end of %1").arg(qs(f.name)), f.path));
        }
    }
}

} // namespace

std::string thingOf(const std::string& path) {
    const std::size_t at = path.find(".outline.");
    return at == std::string::npos ? path : path.substr(0, at);
}

std::vector<Handle> bodyPlanHandles(const StripContext& c) {
    std::vector<Handle> out;
    if (!c.sheet.showsBody() || c.sheet.station() != Station::body || c.sheet.scrubbing()) {
        return out;
    }
    const Hands hands(c);
    const Project& p = c.sheet.project();
    const std::string taken = thingOf(c.sheet.taken());
    for (const Feature& f : c.sheet.things()) {
        if (f.id.kind == FeatureKind::plate &&
            p.body.plates[f.id.index].kind == PlateKind::rodCover) {
            continue; // it lies on the headstock
        }
        const bool ownPlace = itemPath(f.path) || f.id.kind == FeatureKind::cavity;
        if (ownPlace) {
            out.push_back(hands.whole(f));
        }
        if (f.path == taken) {
            innerHandles(out, hands, p, f);
        }
    }
    nodeHandles(out, hands, p, "body.outline", QObject::tr("the outline"));
    return out;
}

} // namespace wren::app
