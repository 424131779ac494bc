#include "ruler/neck_hands.h"

#include "base/length.h"
#include "design/fan.h"
#include "frame/text.h"
#include "ruler/neck_strips.h"
#include "ruler/strip_parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

double rounded(double mm, LengthUnit unit) {
    const double step = unit == LengthUnit::mm ? 0.1 : mmPerInch / 64;
    return std::round(mm / step) * step;
}

Typed typedLength(const char* path, double mm, LengthUnit unit) {
    return {QString::fromLatin1(path), qs(fmt::format("{:.4f}mm", rounded(mm, unit)))};
}

bool canBeDragged(const StripContext& c) {
    return c.sheet.showsNeck() && c.sheet.station() == Station::neck && !c.sheet.scrubbing();
}

/// The fret, in tenths, whose line crosses the centreline at x.
double fretAt(const Fretboard& board, double x) {
    const Fan fan(board);
    double low = 0;
    double high = 36;
    for (int i = 0; i < 40; ++i) {
        const double middle = (low + high) / 2;
        (fan.line(middle).middle() < x ? low : high) = middle;
    }
    return std::round(low * 10) / 10;
}

} // namespace

std::vector<Handle> neckPlanHandles(const StripContext& c) {
    std::vector<Handle> out;
    if (!canBeDragged(c)) {
        return out;
    }
    const Derived& d = *c.sheet.derived();
    const Neck& neck = d.project.neck;
    const LengthUnit unit = c.sheet.unit();
    const RulerScale scale = c.scale;
    const double k = neckPlanScale(c);
    const double zero = c.area.center().y() + neckMiddle(d) * k;
    const auto px = [&](Vec2 p) { return QPointF(scale.px(p.x), zero - p.y * k); };
    const auto mm = [scale, zero, k](QPointF p) {
        return Vec2{scale.mm(p.x()), (zero - p.y()) / k};
    };
    // Nodes and posts are kept as a right-handed neck has them.
    const double hand = d.project.board.hand == Hand::left ? -1 : 1;
    const Sheet* sheet = &c.sheet;
    for (std::size_t i = 0; i < neck.head.nodes.size(); ++i) {
        const Vec2 node = neck.head.nodes[i].at;
        Handle h{px({node.x, node.y * hand}), QObject::tr("node %1 of the headstock").arg(i + 1)};
        h.path = fmt::format("head.outline.{}", i);
        h.moved = [=](QPointF p) {
            Project changed = sheet->project();
            const Vec2 at = mm(p);
            changed.neck.head.nodes.at(i).at = {rounded(at.x, unit), rounded(at.y * hand, unit)};
            checkHeadNodes(changed.neck.head.nodes);
            return changed;
        };
        out.push_back(std::move(h));
    }
    for (std::size_t i = 0; i < neck.tuners.trees.size(); ++i) {
        const Vec2 at = neck.tuners.trees[i].at;
        Handle h{px({at.x, at.y * hand}), QObject::tr("this string tree")};
        h.path = fmt::format("tuners.trees.{}", i);
        h.moved = [=](QPointF p) {
            Project changed = sheet->project();
            const Vec2 here = mm(p);
            changed.neck.tuners.trees.at(i).at = {rounded(here.x, unit),
                                                  rounded(here.y * hand, unit)};
            return changed;
        };
        out.push_back(std::move(h));
    }
    std::vector<Vec2> posts;
    for (const TunerPlace& t : d.neck->part.tuners()) {
        posts.push_back({t.post.x, t.post.y * hand});
    }
    const QString what = neck.tuners.places.empty()
                             ? QObject::tr("this tuner alone; from then on each stands where it "
                                           "was put, and the rows' numbers move none")
                             : QObject::tr("this tuner");
    for (std::size_t i = 0; i < posts.size(); ++i) {
        Handle h{px({posts[i].x, posts[i].y * hand}), what};
        h.path = fmt::format("tuners.posts.{}", i);
        h.moved = [=](QPointF p) {
            Project changed = sheet->project();
            std::vector<TunerPost>& all = changed.neck.tuners.places;
            if (all.size() != posts.size()) { // from rows to places of their own
                all.clear();
                for (Vec2 at : posts) {
                    all.push_back({at});
                }
            }
            const Vec2 here = mm(p);
            all[i].at = {rounded(here.x, unit), rounded(here.y * hand, unit)};
            return changed;
        };
        out.push_back(std::move(h));
    }
    const double end = d.neck->part.outline().end();
    out.push_back({px({d.neck->part.outline().heelStart(), 0}), QObject::tr("length of the heel"),
                   Qt::SizeHorCursor, [=](QPointF p) {
                       return typedLength("neck.heel_length", end - mm(p).x, unit);
                   }});
    return out;
}

std::vector<Handle> neckSideHandles(const StripContext& c) {
    std::vector<Handle> out;
    if (!canBeDragged(c)) {
        return out;
    }
    const Derived& d = *c.sheet.derived();
    const Neck& neck = d.project.neck;
    const Fretboard board = d.project.board;
    const NeckBack& back = d.neck->part.back();
    const LengthUnit unit = c.sheet.unit();
    const RulerScale scale = c.scale;
    const HeightScale z = neckHeights(c);
    const auto add = [&](double x, double height, const QString& what, Qt::CursorShape cursor,
                         std::function<Typed(QPointF)> typed) {
        out.push_back({{scale.px(x), z.y(height)}, what, cursor, std::move(typed)});
    };
    const Sheet* sheet = &c.sheet;
    const double above = neck.over == ThickOver::board ? board.thickness + neck.accent : 0;
    for (std::size_t i = 0; i < neck.stations.size() && i < back.stations(); ++i) {
        const double x = back.stationX(i);
        add(x, -back.slice(x).spine(),
            QObject::tr("this station: thickness, and fret along the neck"), Qt::SizeAllCursor,
            nullptr);
        out.back().path = fmt::format("neck.stations.{}", i);
        out.back().moved = [=](QPointF p) {
            Project changed = sheet->project();
            NeckStation& s = changed.neck.stations.at(i);
            s.thickness = std::clamp(rounded(above - z.z(p.y()), unit), 5.0, 60.0);
            s.fret = fretAt(board, scale.mm(p.x()));
            checkStations(changed.neck.stations);
            return changed;
        };
    }
    const double headTo = back.headTo();
    const double headFrom = back.headFrom();
    add(headTo, -back.slice(headTo).spine(), QObject::tr("where the head's transition begins"),
        Qt::SizeHorCursor,
        [=](QPointF p) { return typedLength("head.transition_from", scale.mm(p.x()), unit); });
    add(headFrom, -back.slice(headFrom).spine(), QObject::tr("how long the head's transition is"),
        Qt::SizeHorCursor,
        [=](QPointF p) { return typedLength("head.transition", headTo - scale.mm(p.x()), unit); });
    const double heelTo = back.heelTo();
    add(back.heelFrom(), -back.slice(back.heelFrom()).spine(),
        QObject::tr("how long the heel's transition is"), Qt::SizeHorCursor, [=](QPointF p) {
            return typedLength("neck.heel_transition", heelTo - scale.mm(p.x()), unit);
        });
    const double heel = (heelTo + d.neck->part.outline().end()) / 2;
    add(heel, -neck.heelDepth, QObject::tr("depth of the heel"), Qt::SizeVerCursor,
        [=](QPointF p) { return typedLength("neck.heel_depth", -z.z(p.y()), unit); });
    if (neck.head.kind == HeadKind::flat) {
        const double x = d.neck->part.outline().tip() * 0.6;
        add(x, -neck.head.drop, QObject::tr("drop of the head's face"), Qt::SizeVerCursor,
            [=](QPointF p) { return typedLength("head.drop", -z.z(p.y()), unit); });
        add(x, -neck.head.drop - neck.head.thickness, QObject::tr("thickness of the head"),
            Qt::SizeVerCursor, [=, drop = neck.head.drop](QPointF p) {
                return typedLength("head.thickness", -z.z(p.y()) - drop, unit);
            });
    }
    return out;
}

} // namespace wren::app
