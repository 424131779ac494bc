#include "ruler/body_strips.h"

#include "base/length.h"
#include "design/fan.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "part/panel_field.h"
#include "ruler/section.h"
#include "ruler/strip_parts.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

constexpr double stackTop = 24;
constexpr double stackShare = 0.42; ///< of the band's height, at most, where there are many

double layerHeight(const QRectF& area, std::size_t pieces) {
    return std::clamp(area.height() * stackShare /
                          static_cast<double>(std::max<std::size_t>(1, pieces)),
                      13.0, 19.0);
}

QRectF layerRect(const QRectF& area, std::size_t index, std::size_t pieces) {
    const double high = layerHeight(area, pieces);
    return {area.left(), area.top() + stackTop + static_cast<double>(index) * high, area.width(),
            high - (high > 16 ? 3 : 1)};
}

/// How the pieces lie on one another when they are together: what is in front on top.
std::vector<int> stackOrder(const Derived& d) {
    std::vector<int> order;
    for (Role role :
         {Role::top, Role::core, Role::back, Role::wing, Role::body, Role::lid, Role::inlay}) {
        for (std::size_t i = 0; i < d.pieces().size(); ++i) {
            if (d.pieces()[i]->id.role == role) {
                order.push_back(static_cast<int>(i));
            }
        }
    }
    for (std::size_t i = 0; i < d.pieces().size(); ++i) { // plates and the shop's boards after it
        if (d.pieces()[i]->id.role > Role::inlay) {
            order.push_back(static_cast<int>(i));
        }
    }
    return order;
}

QString stateOf(const Sheet& sheet, const PartJob& job) {
    if (!job.placed) {
        return QObject::tr("no blank");
    }
    if (!job.proof) {
        return sheet.step() < 3 ? QObject::tr("...") : QObject::tr("not proved");
    }
    return job.proof->passed() ? QObject::tr("proved") : QObject::tr("stop");
}

double drawStack(QPainter& p, const QRectF& area, const Sheet& sheet) {
    const Derived& d = *sheet.derived();
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
               QObject::tr("Pieces, front to back"));
    const std::vector<int> order = stackOrder(d);
    for (std::size_t i = 0; i < order.size(); ++i) {
        const PartJob& job = *d.pieces()[static_cast<std::size_t>(order[i])];
        const bool here = &job == sheet.pieceInHand();
        const QRectF r = layerRect(area, i, order.size());
        const QString name = pieceName(job);
        p.setPen(QPen(here ? colour::russet : colour::faded, here ? 1.8 : 1));
        p.setBrush(job.id == Role::body ? colour::woodDark : colour::wood);
        p.drawRect(r);
        p.setFont(words(r.height() > 14 ? 12 : 11, here));
        p.setPen(colour::ink);
        const QString told = job.panel->layers.empty() ? name : QObject::tr("glued body");
        p.drawText(r.adjusted(7, 0, -6, 0), Qt::AlignVCenter | Qt::AlignLeft,
                   here ? QStringLiteral("\u25B8 ") + told : told);
        p.drawText(r.adjusted(6, 0, -7, 0), Qt::AlignVCenter | Qt::AlignRight, stateOf(sheet, job));
    }
    return area.top() + stackTop +
           static_cast<double>(order.size()) * layerHeight(area, order.size()) + 12;
}

/// What stands in the wood at one place, by name.
QString standingAt(const BodyPart& part, double x) {
    QStringList names;
    for (const PanelPocket& pocket : part.pockets()) {
        double low = 1e9;
        double high = -1e9;
        for (Vec2 q : pointsOf(pocket.borders.front(), 0.5)) {
            low = std::min(low, q.x);
            high = std::max(high, q.x);
        }
        if (x > low && x < high && !names.contains(qs(pocket.what))) {
            names << qs(pocket.what);
        }
    }
    return names.isEmpty() ? QObject::tr("plain wood") : names.mid(0, 3).join(QStringLiteral(", "));
}

} // namespace

int pieceAt(const QRectF& area, const Sheet& sheet, QPointF at) {
    const std::vector<int> order = stackOrder(*sheet.derived());
    for (std::size_t i = 0; i < order.size(); ++i) {
        if (layerRect(area, i, order.size()).contains(at)) {
            return order[i];
        }
    }
    return -1;
}

void drawBodySection(QPainter& p, const QRectF& area, const Sheet& sheet) {
    const Derived& d = *sheet.derived();
    const double top = drawStack(p, area, sheet);
    if (!d.body) {
        return; // a fixture alone
    }
    const BodyPart& part = d.body->part;
    const Panel& body = *part.panel(Role::body);
    const auto box = body.box();
    const double x = std::clamp(sheet.cursor(), box[0].x + 0.5, box[1].x - 0.5);
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left(), top, area.width(), 18), Qt::AlignLeft,
               QObject::tr("Cut across at %1").arg(qs(formatLength(x, sheet.unit(), 1))));
    p.setFont(words(11.5));
    p.setPen(colour::faded);
    p.drawText(QRectF(area.left(), top + 19, area.width(), 16), Qt::AlignLeft, standingAt(part, x));
    const double k = area.width() / (box[1].y - box[0].y + 6);
    const double middle = (box[0].y + box[1].y) / 2;
    const double over = std::max(4.0, part.stringHeight(x)) + 2;
    const double zero = top + 46 + over * k;
    const auto at = [&](double y, double z) {
        return QPointF(area.center().x() + (y - middle) * k, zero - z * k);
    };
    constexpr double step = 0.5;
    const int n = static_cast<int>((box[1].y - box[0].y) / step);
    const PanelField field(body, SetupFromInstrument::faceUp({}), {{x, box[0].y}, step, 1, n});
    const Panel* core = part.panel(Role::core);
    const std::optional<PanelField> hollows =
        core ? std::optional(PanelField::like(field, *core)) : std::nullopt;
    p.setPen(Qt::NoPen);
    double thin = 1e9;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        if (!field.in(i) || field.open(i)) {
            continue;
        }
        const double y = field.at(i).y;
        thin = std::min<double>(thin, field.front[i] - field.back[i]);
        p.setBrush(colour::wood);
        p.fillRect(QRectF(at(y - step / 2, field.front[i]), at(y + step / 2, field.back[i])),
                   colour::wood);
        if (hollows && hollows->frontBy[i] >= 0) {
            p.fillRect(QRectF(at(y - step / 2, core->top), at(y + step / 2, hollows->front[i])),
                       colour::sheet);
        }
    }
    p.setPen(QPen(colour::ink, 1.2));
    QPolygonF front;
    QPolygonF back;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        if (field.in(i)) {
            front << at(field.at(i).y, std::max(field.front[i], field.back[i]));
            back << at(field.at(i).y, field.back[i]);
        } else if (!front.isEmpty()) {
            p.drawPolyline(front);
            p.drawPolyline(back);
            front.clear();
            back.clear();
        }
    }
    p.drawPolyline(front);
    p.drawPolyline(back);
    if (core) {
        p.setPen(QPen(colour::faded, 0.8));
        p.drawLine(at(box[0].y, core->top), at(box[1].y, core->top));
        if (part.panel(Role::back)) {
            p.drawLine(at(box[0].y, core->bottom), at(box[1].y, core->bottom));
        }
    }
    const Fan fan(d.project.board);
    p.setPen(Qt::NoPen);
    p.setBrush(colour::russet);
    const double share = part.place().toInstrument({x, 0, 0}).x /
                         ((fan.bassString(1).x + fan.trebleString(1).x) / 2);
    if (share > 0 && share <= 1.001) {
        for (double y : stringCentres(d.project.board, d.project.board.bridgeSpread)) {
            const Vec2 s = fan.string(2 * y / d.project.board.bridgeSpread, share);
            p.drawEllipse(at(s.y, part.stringHeight(x)), 1.6, 1.6);
        }
    }
    std::vector<std::pair<QString, QString>> rows;
    const auto row = [&](const QString& name, double mm) {
        rows.emplace_back(name, qs(formatLengthValue(mm, sheet.unit())));
    };
    row(QObject::tr("thickness"), part.thickness());
    if (thin < 1e8) {
        row(QObject::tr("least wood"), thin);
    }
    row(QObject::tr("strings over face"), part.stringHeight(x));
    row(QObject::tr("from bridge line"), x - part.place().bridge);
    drawFigures(p, area, zero + part.thickness() * k + 24, rows);
}

} // namespace wren::app
