#include "ruler/whole_drawing.h"

#include "base/length.h"
#include "design/fan.h"
#include "design/setup_solver.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/balance.h"
#include "job/keys.h"
#include "job/setup_report.h"
#include "ruler/body_strips.h"
#include "ruler/ruler_layout.h"
#include "ruler/strip_parts.h"

#include <QPolygonF>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren::app {
namespace {

constexpr double heightsTall = 86; ///< pixels of the strings over the frets
constexpr double gaps = 18;        ///< between the three
constexpr double mostOver = 3.2;   ///< mm over a fret that are shown

/// How far a string's height over the frets is enlarged: they are tenths of a millimetre.
double enlarged(double tall) {
    return (tall - 26) / mostOver;
}

/// Z of the body's frame, from the head's lowest place or the body's back to over the highest
/// string.
std::pair<double, double> sideReach(const Derived& d, const SetupGeometry& setup) {
    const NeckPart& neck = d.neck->part;
    const double tip = neck.outline().tip() + 4;
    const double head = d.body->part.place().toBody({tip, 0, -neck.back().depth(tip, 0)}).z;
    return {std::min(-d.body->part.thickness(), head) - 6,
            std::max({setup.middleSaddle, setup.saddleHigh, setup.proud + 10, 4.0}) + 8};
}

/// Where the instrument balances.
void centreMark(QPainter& p, QPointF at, bool dives) {
    constexpr double r = 7;
    p.setPen(QPen(dives ? colour::russet : colour::ink, 1.3));
    p.setBrush(colour::sheet);
    p.drawEllipse(at, r, r);
    p.drawLine(at - QPointF(r + 4, 0), at + QPointF(r + 4, 0));
    p.drawLine(at - QPointF(0, r + 4), at + QPointF(0, r + 4));
}

} // namespace

RulerScale WholeDrawing::fit(const Derived& d, const QRectF& area) {
    const auto box = d.body->part.panel(Role::body)->box();
    const double low = d.neck->part.outline().tip() - 8;
    const double high = box[1].x + 8;
    const auto [bottom, top] = sideReach(d, setupGeometry(d.body->part, d.neck->part));
    const double tall = box[1].y - box[0].y + 12 + top - bottom;
    const double perMm =
        std::min(area.width() / (high - low), (area.height() - heightsTall - gaps) / tall);
    // What is left over in width lies on both sides.
    const double spare = (area.width() / perMm - (high - low)) / 2;
    return {area.left(), low - spare, std::max(0.1, perMm)};
}

WholeDrawing::WholeDrawing(const Sheet& sheet, const RulerScale& scale, const QRectF& area)
    : sheet_(sheet), d_(*sheet.derived()), scale_(scale),
      setup_(setupGeometry(d_.body->part, d_.neck->part)),
      strings_(stringSides(d_.project.neck, d_.project.board, d_.project.body.aims)) {
    const auto [low, high] = sideReach(d_, setup_);
    top_ = high;
    const double tall = std::min((high - low) * scale.perMm, area.height() * 0.42);
    heights_ = {area.left(), area.bottom() - heightsTall, area.width(), heightsTall};
    side_ = {area.left(), heights_.top() - tall - 8, area.width(), tall};
    plan_ = {area.left(), area.top(), area.width(), side_.top() - area.top() - 6};
}

QPointF WholeDrawing::at(double x, double z) const {
    return {scale_.px(x), side_.top() + (top_ - z) * scale_.perMm};
}

double WholeDrawing::overAt(double height) const {
    return heights_.bottom() - 16 - height * enlarged(heights_.height());
}

void WholeDrawing::plan(QPainter& p) const {
    p.save();
    p.setClipRect(plan_.adjusted(-8, -2, 8, 2));
    const StripContext c{p, scale_, sheet_, plan_};
    drawBodyPlan(c);
    if (d_.weighed) {
        const Balance balance = balanceAsKnown(d_);
        const BodyView view = bodyView(c);
        const QPointF at(scale_.px(balance.centre.x),
                         plan_.center().y() - (balance.centre.y - view.middle) * view.k);
        centreMark(p, at, balance.dives());
        const double strings = (d_.project.board.bridgeSpread / 2 + 4) * view.k; // clear of them
        labelOver(p, at + QPointF(12, strings + 14),
                  balance.dives() ? QObject::tr("balances here: the head goes down")
                                  : QObject::tr("balances here"),
                  balance.dives() ? colour::russet : colour::ink);
    }
    p.restore();
}

void WholeDrawing::boardSide(QPainter& p) const {
    const BodyPlace& place = d_.body->part.place();
    const Neck& neck = d_.project.neck;
    const BoardPart& board = *d_.board;
    QPolygonF outline;
    const auto corner = [&](double x, double z) {
        const Vec3 b = place.toBody({x, 0, z});
        outline << at(b.x, b.z);
    };
    const double over = neck.accent + d_.project.board.thickness;
    corner(board.xLow(), neck.accent);
    corner(board.xLow(), over);
    corner(board.xHigh(), over);
    corner(board.xHigh(), neck.accent);
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::woodDark);
    p.drawPolygon(outline);
    p.setPen(QPen(colour::ink, 1.6));
    for (const FretSlot& slot : board.slots()) {
        const Vec3 low = place.toBody({slot.middle(), 0, over});
        const Vec3 high =
            place.toBody({slot.middle(), 0, over + d_.project.board.wire.crownHeight});
        p.drawLine(at(low.x, low.z), at(high.x, high.z));
    }
}

void WholeDrawing::stringsSide(QPainter& p) const {
    const BodyPart& part = d_.body->part;
    const BodyPlace& place = part.place();
    const Bridge& b = d_.project.body.bridge;
    const double anchorX = place.bridge + part.design().bridgeAt() + b.holesBehind;
    const double anchorZ = part.bridgeStandsOn() + b.anchorHeight;
    for (std::size_t i = 0; i < strings_.size(); ++i) {
        const StringSide& s = strings_[i];
        const double end = s.saddle().x + setup_.strings[i].compensation;
        const Vec3 nut = place.toBody({s.nut().x, 0, s.atNut()});
        const Vec3 saddle = place.toBody({end, 0, s.over(end)});
        p.setPen(QPen(colour::russet, 0.9));
        p.drawLine(at(nut.x, nut.z), at(saddle.x, saddle.z));
        p.drawLine(at(saddle.x, saddle.z), at(anchorX, anchorZ));
        if (i < d_.neck->part.tuners().size()) {
            const TunerPlace& t = d_.neck->part.tuners()[i];
            const Vec3 post = place.toBody(
                {t.winds.x, 0,
                 d_.neck->part.face(t.winds.x) + d_.project.neck.head.plate + t.postHeight});
            const Vec3 held = t.held ? place.toBody(*t.held) : nut;
            p.drawPolyline(QPolygonF{at(nut.x, nut.z), at(held.x, held.z), at(post.x, post.z)});
        }
    }
}

void WholeDrawing::hardwareSide(QPainter& p) const {
    const BodyPart& part = d_.body->part;
    const BodyPlace& place = part.place();
    const Bridge& b = d_.project.body.bridge;
    // Pickups lie on their pockets' floors.
    p.setPen(QPen(colour::heather, 1.2));
    p.setBrush(Qt::NoBrush);
    for (const PickupPlace& k : part.pickups()) {
        const Pickup& unit = d_.project.body.pickups.at(k.feature.index);
        if (unit.mount != PickupMount::back) {
            p.drawRect(QRectF(at(k.middle.x - k.along / 2, k.height - unit.depth),
                              at(k.middle.x + k.along / 2, -unit.depth)));
        }
    }
    // Where the saddles can be, and where they are.
    const double middle = place.bridge + part.design().bridgeAt();
    p.setPen(QPen(colour::slate, 1.2, Qt::DashLine));
    p.drawRect(QRectF(at(middle - b.travel / 2, setup_.saddleHigh),
                      at(middle + b.travel / 2, setup_.saddleLow)));
    p.setPen(QPen(colour::slate, 1));
    p.drawLine(at(place.bridge, part.bridgeStandsOn()), at(place.bridge, setup_.middleSaddle));
    p.setPen(Qt::NoPen);
    p.setBrush(colour::russet);
    for (std::size_t i = 0; i < strings_.size(); ++i) {
        const double end = strings_[i].saddle().x + setup_.strings[i].compensation;
        p.drawEllipse(at(place.toBody({end, 0, strings_[i].over(end)}).x, setup_.strings[i].saddle),
                      1.8, 1.8);
    }
}

void WholeDrawing::lens(QPainter& p, const QRectF& area) const {
    if (area.height() < 90) {
        return;
    }
    const BodyPart& part = d_.body->part;
    const Bridge& b = d_.project.body.bridge;
    const double middle = part.place().bridge + part.design().bridgeAt();
    const double ahead = std::max(b.travel / 2, 6.0) + 6;
    const double behind = std::max(b.travel / 2, b.holesBehind) + 8;
    const QRectF view = area.adjusted(10, 22, -10, 0);
    WholeDrawing near = *this;
    near.side_ = view;
    near.top_ = std::max(setup_.saddleHigh, setup_.middleSaddle) + 4;
    const double low = std::min(part.bridgeStandsOn(), 0.0) - 8;
    const double perMm =
        std::min(view.width() / (ahead + behind), view.height() / (near.top_ - low));
    near.scale_ = RulerScale{view.left(), middle - ahead, perMm};
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(
        QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
        QObject::tr("At the bridge, %1 times enlarged").arg(perMm / scale_.perMm, 0, 'f', 0));
    near.side(p);
    const double right = near.scale_.px(middle + b.travel / 2) + 5;
    for (double z : {setup_.saddleHigh, setup_.saddleLow}) {
        labelOver(p, QPointF(right, near.at(0, z).y() + 4),
                  qs(formatLengthValue(z, sheet_.unit(), 1)), colour::slate);
    }
}

void WholeDrawing::side(QPainter& p) const {
    p.save();
    p.setClipRect(side_.adjusted(-8, -2, 8, 6));
    drawCentreCut(p, d_, std::max(0.5, 1 / scale_.perMm),
                  [this](double x, double z) { return at(x, z); });
    boardSide(p);
    hardwareSide(p);
    stringsSide(p);
    p.restore();
}

void WholeDrawing::heights(QPainter& p) const {
    const double zero = overAt(0);
    p.setPen(QPen(colour::ink, 1));
    p.drawLine(QPointF(scale_.px(0), zero), QPointF(scale_.px(strings_[0].saddle().x), zero));
    const int frets = d_.project.board.frets;
    p.setFont(figures(11));
    p.setClipRect(heights_.adjusted(-8, 0, 8, 0));
    for (const bool bass : {true, false}) {
        const StringSide& s = bass ? strings_.front() : strings_.back();
        QPolygonF line;
        for (int n = 1; n <= std::max(frets, 12); ++n) {
            line << QPointF(scale_.px(s.fret(n).x), overAt(s.overFret(n)));
        }
        p.setPen(QPen(colour::russet, 1.4, bass ? Qt::SolidLine : Qt::DashLine));
        p.drawPolyline(line);
        p.setPen(colour::russet);
        for (int n : {1, 12, frets}) {
            if (n > 0 && n <= std::max(frets, 12) && (n != frets || frets > 12)) {
                const QPointF place(scale_.px(s.fret(n).x), overAt(s.overFret(n)));
                labelOver(p, place + QPointF(4, bass ? -5 : 13),
                          qs(formatLengthValue(s.overFret(n), sheet_.unit(), 2)), colour::russet);
            }
        }
    }
    p.setPen(QPen(colour::ink, 1.2));
    for (int n = 1; n <= frets; ++n) {
        const double x = scale_.px((strings_.front().fret(n).x + strings_.back().fret(n).x) / 2);
        p.drawLine(QPointF(x, zero), QPointF(x, zero + 5));
        if (n == 1 || n % 12 == 0 || n == frets) {
            p.drawText(QPointF(x - 4, zero + 15), QString::number(n));
        }
    }
    p.setClipping(false);
}

void WholeDrawing::names(QPainter& p) const {
    const auto name = [&](const QRectF& area, const QString& word, const QString& note) {
        p.setPen(colour::ink);
        p.setFont(words(13, true));
        p.drawText(QRectF(14, area.top(), nameWidth - 18, 18), Qt::AlignLeft, word);
        p.setPen(colour::faded);
        p.setFont(words(11.5));
        p.drawText(QRectF(14, area.top() + 18, nameWidth - 18, 48), Qt::AlignLeft, note);
        p.setPen(QPen(colour::rule, 1));
        p.drawLine(QPointF(14, area.top() - 4), QPointF(area.right() + 4, area.top() - 4));
    };
    name(plan_, QObject::tr("Plan"),
         d_.project.board.hand == Hand::left ? QObject::tr("bass side above")
                                             : QObject::tr("bass side below"));
    name(side_, QObject::tr("Side"), QObject::tr("same scale"));
    name(heights_, QObject::tr("Over the frets"),
         QObject::tr("heights \u00d7%1\nwhole line: bass\ndashed: treble")
             .arg(enlarged(heights_.height()) / scale_.perMm, 0, 'f', 0));
}

void WholeDrawing::table(QPainter& p, const QRectF& area) const {
    const std::array<QString, 6> heads{QObject::tr("no."),      QObject::tr("saddle"),
                                       QObject::tr("up, down"), QObject::tr("fore, back"),
                                       QObject::tr("bend"),     QObject::tr("pull")};
    const std::array<double, 7> ends{0, 0.07, 0.22, 0.45, 0.69, 0.84, 1}; // of the columns
    const auto value = [&](double v, int places) {
        return qs(formatLengthValue(v, sheet_.unit(), places));
    };
    const auto pair = [&](double a, double b) {
        return QStringLiteral("%1 %2").arg(value(a, 1), value(b, 1));
    };
    const auto row = [&](double y, const std::array<QString, 6>& cells) {
        for (std::size_t i = 0; i < cells.size(); ++i) {
            p.drawText(QRectF(area.left() + ends.at(i) * area.width(), y,
                              (ends.at(i + 1) - ends.at(i)) * area.width(), 18),
                       (i == 0 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, cells.at(i));
        }
    };
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
               QObject::tr("Strings at the bridge"));
    p.setPen(colour::faded);
    p.setFont(words(12));
    row(area.top() + 20, heads);
    double y = area.top() + 38;
    for (const StringSetup& s : setup_.strings) {
        const bool reaches = s.saddle >= s.saddleLow && s.saddle <= s.saddleHigh;
        p.setPen(reaches && s.ahead >= 0 && s.behind >= 0 ? colour::slate : colour::russet);
        p.setFont(figures(11.5));
        row(y, {QString::number(s.number), value(s.saddle, 1),
                pair(s.saddleHigh - s.saddle, s.saddle - s.saddleLow), pair(s.ahead, s.behind),
                QStringLiteral("%1\u00b0").arg(s.breakAtSaddle, 0, 'f', 0),
                s.tension ? QStringLiteral("%1 N").arg(*s.tension, 0, 'f', 0)
                          : QStringLiteral("\u2013")});
        y += 17;
    }
    p.setPen(colour::faded);
    p.setFont(words(11.5));
    p.drawText(QRectF(area.left(), y + 4, area.width(), 60), Qt::AlignLeft | Qt::TextWordWrap,
               QObject::tr("saddle: string over the face. up, down, fore, back: way the saddle "
                           "still has. bend: over the saddle."));
}

QPointF WholeDrawing::angleAt() const {
    const Vec3 nut = d_.body->part.place().toBody({0, 0, 0});
    return at(nut.x, nut.z);
}

QPointF WholeDrawing::pocketAt() const {
    return at(d_.body->part.place().neckEnd, setup_.through ? setup_.proud : -setup_.pocketInner);
}

void WholeDrawing::solved(QPainter& p) const {
    const GivesWay what = d_.project.body.givesWay;
    if (what == GivesWay::saddles) {
        return;
    }
    const bool angle = what == GivesWay::angle;
    const QPointF mark = angle ? angleAt() : pocketAt();
    p.setPen(QPen(colour::slate, 1.4, Qt::DotLine));
    p.setBrush(colour::sheet);
    p.drawEllipse(mark, 6, 6);
    labelOver(p, mark + QPointF(10, angle ? 16 : 4),
              angle            ? QObject::tr("angle follows: %1\u00b0").arg(setup_.angle, 0, 'f', 2)
              : setup_.through ? QObject::tr("neck over the face follows: %1")
                                     .arg(qs(formatLength(setup_.proud, sheet_.unit())))
                               : QObject::tr("pocket follows: %1")
                                     .arg(qs(formatLength(setup_.pocketInner, sheet_.unit()))),
              colour::slate);
}

std::vector<Handle> WholeDrawing::handles() const {
    std::vector<Handle> out;
    const BodyPlace place = d_.body->part.place();
    const auto said = [](double v, const char* unit) {
        return QStringLiteral("%1%2").arg(v, 0, 'f', 3).arg(QLatin1String(unit));
    };
    // They outlive this drawing: what they need goes with them.
    const auto height = [top = top_, y0 = side_.top(), perMm = scale_.perMm](QPointF p) {
        return top - (p.y() - y0) / perMm;
    };
    // The head's end goes up and down with the angle: by where the glue plane comes to at the nut.
    // What is solved follows the others and is no handle.
    const GivesWay solved = d_.project.body.givesWay;
    if (solved != GivesWay::angle) {
        out.push_back({angleAt(), QObject::tr("the neck angle"), Qt::SizeVerCursor,
                       [said, height, proud = setup_.proud, reach = place.neckEnd](QPointF p) {
                           const double fall = (proud - height(p)) / reach;
                           const double angle = std::asin(std::clamp(fall, -0.5, 0.5));
                           return Typed{QStringLiteral("neck_pocket.angle"),
                                        said(angle * 180 / std::numbers::pi, "")};
                       }});
    }
    if (solved != GivesWay::pocket && setup_.through) {
        out.push_back({pocketAt(), QObject::tr("how far the neck stands over the face"),
                       Qt::SizeVerCursor, [said, height](QPointF p) {
                           return Typed{QStringLiteral("neck_pocket.proud"),
                                        said(std::max(leastProud, height(p)), "mm")};
                       }});
    } else if (solved != GivesWay::pocket) {
        out.push_back(
            {pocketAt(), QObject::tr("the pocket's depth"), Qt::SizeVerCursor,
             [said, height](QPointF p) {
                 return Typed{QStringLiteral("neck_pocket.depth"), said(-height(p), "mm")};
             }});
    }
    Handle bridge{at(place.bridge, setup_.middleSaddle),
                  QObject::tr("the strings' height over the bridge"), Qt::SizeVerCursor};
    bridge.moved = [height, said, project = d_.project](QPointF p) {
        // What gives way follows the height that is wanted; else the angle is solved once.
        return project.body.givesWay != GivesWay::saddles
                   ? withKey(project, "setup.saddle_height", said(height(p), "mm").toStdString())
                   : solveSetup(project, {"angle", height(p), {}, {}}).project;
    };
    out.push_back(std::move(bridge));
    const StringSide& bass = strings_.front();
    out.push_back({QPointF(scale_.px(bass.fret(12).x), overAt(bass.overFret(12))),
                   QObject::tr("the bass string's action"), Qt::SizeVerCursor,
                   [said, zero = overAt(0), k = enlarged(heights_.height())](QPointF p) {
                       return Typed{QStringLiteral("body.action"), said((zero - p.y()) / k, "mm")};
                   }});
    return out;
}

} // namespace wren::app
