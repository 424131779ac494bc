#include "ruler/neck_hands.h"
#include "ruler/neck_strips.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/section.h"
#include "shop/wood.h"

#include <QPolygonF>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

QString placeWord(const Derived& d, double x) {
    const NeckPart& part = d.neck->part;
    if (x < part.outline().headStart()) {
        return QObject::tr("headstock");
    }
    if (x > part.back().heelTo()) {
        return QObject::tr("heel");
    }
    if (x > part.back().heelFrom()) {
        return QObject::tr("between shaft and heel");
    }
    return x < part.back().headTo() ? QObject::tr("between head and shaft") : QObject::tr("shaft");
}

/// Where the section's Y and Z lie.
struct NeckSectionScale {
    double k;
    QPointF zero; ///< Z 0 in the middle of the neck's own box
    double middle;

    QPointF at(double y, double z) const { return zero + QPointF((y - middle) * k, -z * k); }
    double z(QPointF p) const { return (zero.y() - p.y()) / k; }
};

NeckSectionScale neckSectionScale(const QRectF& area, const Derived& d) {
    const auto box = d.neck->part.boundingBox();
    const double k = area.width() / (box[1].y - box[0].y + 4);
    const double top = d.project.board.thickness + d.project.neck.accent;
    return {k, {area.center().x(), area.top() + 46 + top * k}, (box[0].y + box[1].y) / 2};
}

} // namespace

std::vector<Handle> neckSectionHandles(const QRectF& area, const Sheet& sheet) {
    constexpr double onStation = 6; // mm from it
    constexpr double share = 0.7;   // of the half width: where the shapes differ most
    std::vector<Handle> out;
    if (!sheet.showsNeck() || sheet.station() != Station::neck || sheet.scrubbing()) {
        return out;
    }
    const Derived& d = *sheet.derived();
    const NeckBack& back = d.neck->part.back();
    const std::vector<NeckStation>& stations = d.project.neck.stations;
    const NeckSectionScale scale = neckSectionScale(area, d);
    for (std::size_t i = 0; i < stations.size() && i < back.stations(); ++i) {
        if (std::abs(back.stationX(i) - sheet.cursor()) > onStation || !stations[i].trace.empty()) {
            continue;
        }
        const NeckBack::Slice s = back.slice(back.stationX(i));
        const double bassSide = d.project.board.hand == Hand::left ? 1 : -1;
        const bool even = stations[i].bass == stations[i].treble;
        for (const bool bass : {true, false}) {
            const double side = bass ? bassSide : -bassSide;
            const double y = s.centre() + side * share * s.halfWidth();
            Handle h{scale.at(y, -s.depth(y)),
                     even ? QObject::tr("this station's shape")
                          : (bass ? QObject::tr("this station's shape on the bass side")
                                  : QObject::tr("this station's shape on the treble side")),
                     Qt::SizeVerCursor};
            h.path = fmt::format("neck.stations.{}", i);
            h.moved = [=, now = &sheet, shoulder = d.project.neck.shoulder,
                       crest = d.project.neck.crest, spine = s.spine()](QPointF p) {
                const double depth = (-scale.z(p) - shoulder) / (spine - shoulder);
                const double shape = shapeThrough(share, depth, crest);
                const SectionMix mix = mixOf(std::round(shape * 20) / 20);
                Project changed = now->project();
                NeckStation& station = changed.neck.stations.at(i);
                if (bass || even) {
                    station.bass = mix;
                }
                if (!bass || even) {
                    station.treble = mix;
                }
                return changed;
            };
            out.push_back(std::move(h));
        }
    }
    return out;
}

void drawNeckSection(QPainter& p, const QRectF& area, const Sheet& sheet) {
    const Derived& d = *sheet.derived();
    const NeckPart& part = d.neck->part;
    const NeckOutline& o = part.outline();
    const double x = std::clamp(sheet.cursor(), o.tip() + 0.5, o.end() - 0.5);
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
               QObject::tr("Cut across at %1").arg(qs(formatLength(x, sheet.unit(), 1))));
    p.setFont(words(11.5));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), area.top() + 19, area.width(), 16), Qt::AlignLeft,
               placeWord(d, x));
    const NeckSectionScale scale = neckSectionScale(area, d);
    const double top = d.project.board.thickness + d.project.neck.accent;
    const double face = part.face(x);
    const double sunk = std::max(0.0, -face - 8); // a tilted head's section is drawn higher up
    const auto at = [&](double y, double z) { return scale.at(y, z + sunk); };
    QPolygonF wood;
    const std::vector<Vec2> back = part.section(x);
    for (Vec2 q : back) {
        wood << at(q.x, q.y);
    }
    const double low = back.front().x;
    const double high = back.back().x;
    const bool arched = part.onCarved({x, 0}) > 0;
    constexpr int strips = 30;
    for (int i = strips; i >= 0; i -= arched ? 1 : strips) {
        const double y = low + (high - low) * i / strips;
        wood << at(y, arched ? part.carved()->face(x, y) : face);
    }
    p.setPen(QPen(colour::ink, 1.4));
    p.setBrush(colour::wood);
    p.drawPolygon(wood);
    p.setBrush(colour::sheet);
    p.setPen(QPen(colour::ink, 1));
    for (const NeckPocket& pocket : part.pockets()) {
        if (x > pocket.box[0].x && x < pocket.box[1].x && pocket.kind != NeckPocketKind::nut &&
            pocket.kind != NeckPocketKind::ledge && !pocket.fromBack) {
            QPolygonF slot;
            for (int i = 0; i <= 16; ++i) {
                const double y = pocket.box[0].y + pocket.width() * i / 16;
                slot << at(y, pocket.floorAt({x, y}));
            }
            slot << at(pocket.box[1].y, face) << at(pocket.box[0].y, face);
            p.drawPolygon(slot);
        }
    }
    const RodRoom room(d.project.neck.rod, part.back());
    const auto rod = room.at(x);
    if (rod && d.project.neck.rod.from == RodFrom::back) {
        const double half = rod->width / 2;
        p.drawRect(QRectF(at(-half, -rod->roof), at(half, -rod->floor)));
        p.setPen(QPen(colour::ink, 0.8, Qt::DashLine)); // the strip over it
        for (double y : {-half, half}) {
            p.drawLine(at(y, -rod->floor), at(y, -part.back().depth(x, y)));
        }
    }
    if (const auto across = d.board->across(x); across && !part.carved()) {
        QPolygonF board{{at((*across)[0], d.project.neck.accent)}};
        for (int i = 0; i <= 30; ++i) {
            const double y = (*across)[0] + ((*across)[1] - (*across)[0]) * i / 30;
            board << at(y, d.project.neck.accent + d.board->face(x, y));
        }
        board << at((*across)[1], d.project.neck.accent);
        p.setPen(QPen(colour::ink, 1));
        p.setBrush(colour::woodDark);
        p.drawPolygon(board);
    }
    const NeckBack::Slice slice = part.back().slice(x);
    const double deep = slice.depth(std::clamp(slice.centre(), low, high));
    std::vector<std::pair<QString, QString>> rows;
    const auto row = [&](const QString& name, double mm) {
        rows.emplace_back(name, qs(formatLengthValue(mm, sheet.unit())));
    };
    row(QObject::tr("width"), high - low);
    row(QObject::tr("neck alone"), face + deep);
    if (d.board->across(x)) {
        row(part.carved() ? QObject::tr("with the face") : QObject::tr("with the board"),
            deep + top);
    }
    rows.emplace_back(QObject::tr("area"), qs(fmt::format("{:.0f} mm\u00B2", part.sectionArea(x))));
    row(QObject::tr("edge"), face + slice.depth(low));
    const auto under = std::min_element(d.neck->woodUnder.begin(), d.neck->woodUnder.end(),
                                        [x](const WoodUnder& a, const WoodUnder& b) {
                                            return std::abs(a.x - x) < std::abs(b.x - x);
                                        });
    if (under != d.neck->woodUnder.end() && std::abs(under->x - x) < 5) {
        row(QObject::tr("wood under rod"), under->wood);
    }
    const double bend = part.back().curvatureAlong(0, x);
    rows.emplace_back(QObject::tr("spine bends"),
                      std::abs(bend) < 1e-5 ? QObject::tr("straight")
                                            : QStringLiteral("R %1").arg(qs(formatLengthValue(
                                                  1 / std::abs(bend), sheet.unit(), 0))));
    const double lowest = std::max(deep - sunk, part.back().slice(o.end() - 1).spine() + 2);
    drawFigures(p, area, scale.zero.y() + lowest * scale.k + 24, rows);
}

} // namespace wren::app
