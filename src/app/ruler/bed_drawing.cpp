#include "ruler/bed_drawing.h"

#include "frame/text.h"
#include "frame/theme.h"
#include "job/bed.h"
#include "job/clamps.h"
#include "job/probe_spot.h"
#include "job/register_advice.h"

#include <QPainterPath>

#include <cmath>

namespace wren::app {
namespace {

constexpr double missDrawn = 40; ///< times: how far the sides may miss each other
constexpr double apron = 40;     ///< mm of bed drawn outside the travel, where clamps may stand

/// Stops about a clamp, by the clamp's number.
bool stopped(const Derived& d, std::size_t clamp) {
    return std::any_of(d.findings.begin(), d.findings.end(), [&](const Finding& f) {
        return f.weight == Weight::stop && f.feature == FeatureId{FeatureKind::clamp, clamp};
    });
}

} // namespace

BedDrawing::BedDrawing(const Sheet& sheet, const PartJob& job, const HoldCard& card,
                       const QRectF& area)
    : sheet_(sheet), job_(job), card_(card), setup_(*card.setup), side_(card.setup->side),
      station_(card.station), machine_(sheet.project().machine) {
    const Vec2 whole{machine_.travel.x + 2 * apron, machine_.travel.y + 2 * apron};
    scale_ = std::min(area.width() / whole.x, area.height() / whole.y);
    const QPointF middle = area.center();
    corner_ = middle + QPointF(-machine_.travel.x, machine_.travel.y) * scale_ / 2;
}

QPointF BedDrawing::at(Vec2 machine) const {
    const Vec2 p = machine - machine_.lowCorner();
    return corner_ + QPointF(p.x, -p.y) * scale_;
}

Vec2 BedDrawing::machineAt(QPointF p) const {
    const QPointF off = (p - corner_) / scale_;
    return machine_.lowCorner() + Vec2{off.x(), -off.y()};
}

QPointF BedDrawing::onBlank(Vec2 setup) const {
    return at(setup_.zeroOn(station_) + setup);
}

Vec2 BedDrawing::setupAt(QPointF p) const {
    return machineAt(p) - setup_.zeroOn(station_);
}

QString BedDrawing::size(double mm) const {
    return qs(formatLengthValue(mm, sheet_.unit(), sheet_.unit() == LengthUnit::mm ? 1 : 3));
}

QPolygonF BedDrawing::polygon(const ClampBox& box) const {
    QPolygonF out;
    for (Vec2 corner : box.corners()) {
        out << onBlank(corner);
    }
    return out;
}

std::optional<std::size_t> BedDrawing::clampAt(QPointF p) const {
    constexpr double near = 3; // pixels
    std::optional<std::size_t> best;
    double least = 1e300;
    const Vec2 here = setupAt(p);
    for (std::size_t i : clampsOf(sheet_.project(), job_.id, side_, setup_.numberOf(station_))) {
        const auto box = boxOf(sheet_.project().clamps[i], setup_);
        const Vec2 own = box ? box->own(here) : Vec2{1e9, 0};
        const double room = near / scale_;
        if (box && std::abs(own.x) <= box->half.x + room && std::abs(own.y) <= box->half.y + room &&
            box->half.x * box->half.y < least) {
            least = box->half.x * box->half.y;
            best = i;
        }
    }
    return best;
}

void BedDrawing::bed(QPainter& p) const {
    const Vec2 low = machine_.lowCorner();
    const QRectF travel(at(low + Vec2{0, machine_.travel.y}), at(low + Vec2{machine_.travel.x, 0}));
    p.setPen(QPen(colour::rule, 1));
    p.setBrush(colour::paper);
    const double out = apron * scale_;
    p.drawRect(travel.adjusted(-out, -out, out, out));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawRect(travel);
    const SpoilBoard& board = machine_.spoil;
    if (board.hold != BedHold::plain) {
        p.setPen(QPen(colour::faded, 0.8));
        for (double y = board.first; y <= machine_.travel.y; y += board.pitch) {
            if (board.hold == BedHold::slots) {
                for (double off : {-4.0, 4.0}) {
                    p.drawLine(at(low + Vec2{0, y + off}),
                               at(low + Vec2{machine_.travel.x, y + off}));
                }
                continue;
            }
            for (double x = board.first; x <= machine_.travel.x; x += board.pitch) {
                p.drawEllipse(at(low + Vec2{x, y}), 2, 2);
            }
        }
    }
    p.setPen(QPen(colour::faded, 1, Qt::DashDotLine));
    for (double off : batchLinesOf(sheet_.project())) {
        const double y = at(machine_.crossing + Vec2{0, off}).y();
        p.drawLine(QPointF(travel.left(), y), QPointF(travel.right(), y));
    }
    const QPointF cross = at(machine_.crossing);
    p.drawLine(QPointF(cross.x(), travel.top()), QPointF(cross.x(), travel.bottom()));
}

/// Of a glued instrument the neck, which lies where no cut goes.
void BedDrawing::neckBeside(QPainter& p) const {
    const Derived& d = *sheet_.derived();
    if (!d.neck || !d.body) {
        return;
    }
    QPolygonF drawn;
    for (Vec2 q : pointsOf(d.neck->part.outline().contour(), 0.3)) {
        const Vec3 inBody = d.body->part.place().toBody({q.x, q.y, 0});
        drawn << onBlank(setup_.fromInstrument.toSetup(inBody).xy());
    }
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::grain);
    p.drawPolygon(drawn);
}

void BedDrawing::blank(QPainter& p) const {
    const Blank& b = setup_.blank;
    const bool free = job_.panel && job_.panel->free;
    const QRectF box(onBlank({0, b.width}), onBlank({b.length, 0}));
    p.setPen(free ? QPen(colour::faded, 1, Qt::DashLine) : QPen(colour::ink, 1.4));
    p.setBrush(free ? QBrush(Qt::NoBrush) : QBrush(colour::wood));
    if (free) {
        neckBeside(p);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(colour::faded, 1, Qt::DashLine));
    }
    p.drawRect(box);
    const Contour outline = outlineOf(*sheet_.derived(), job_);
    for (const SetupFromInstrument& place : setup_.places) {
        QPolygonF drawn;
        for (Vec2 q : pointsOf(outline, 0.3)) {
            drawn << onBlank(place.toSetup({q.x, q.y, 0}).xy());
        }
        p.setPen(QPen(free ? colour::ink : colour::moss, free ? 1.4 : 1.2));
        p.setBrush(free ? QBrush(colour::wood) : QBrush(Qt::NoBrush));
        p.drawPolygon(drawn);
        if (job_.held.back) { // as the other side's cuts may come to lie
            p.setPen(QPen(colour::heather, 1, Qt::DotLine));
            p.drawPolygon(drawn.translated(0, -job_.held.expectedError * missDrawn * scale_));
        }
    }
    p.setPen(QPen(colour::ink, 1.2));
    p.setBrush(colour::sheet);
    for (const RegisterPin& pin : job_.held.pins) {
        const Vec3 on = setup_.fromInstrument.toSetup({pin.at.x, pin.at.y, 0});
        const double r = std::max(2.5, job_.held.pinSize / 2 * scale_);
        p.drawEllipse(onBlank(on.xy()), r, r);
    }
}

void BedDrawing::clamps(QPainter& p, std::optional<std::size_t> chosen) const {
    for (std::size_t i : clampsOf(sheet_.project(), job_.id, side_, setup_.numberOf(station_))) {
        const auto box = boxOf(sheet_.project().clamps[i], setup_);
        if (!box) {
            continue;
        }
        const bool here = chosen == i;
        const bool bad = stopped(*sheet_.derived(), i);
        p.setPen(QPen(here || bad ? colour::russet : colour::slate, here ? 2.4 : 1.3,
                      bad ? Qt::DashLine : Qt::SolidLine));
        QColor inside = colour::sheet;
        inside.setAlpha(215);
        p.setBrush(inside);
        p.drawPolygon(polygon(*box));
        p.setFont(figures(11, here));
        p.setPen(here || bad ? colour::russet : colour::slate);
        const QPointF middle = onBlank(box->middle);
        p.drawText(QRectF(middle - QPointF(20, 9), QSizeF(40, 18)), Qt::AlignCenter,
                   QString::number(i + 1) + (bad ? QStringLiteral("!") : QString()));
    }
}

void BedDrawing::note(QPainter& p, QPointF at, const QString& words) const {
    QRectF box(at + QPointF(7, -8), QSizeF(p.fontMetrics().horizontalAdvance(words) + 6, 15));
    // What would run out of the picture is moved back over the bed.
    const Vec2 low = machine_.lowCorner();
    const double right = this->at(low + Vec2{machine_.travel.x, 0}).x() + apron * scale_;
    box.translate(std::min(0.0, right - 2 - box.right()), 0);
    QColor ground = colour::sheet;
    ground.setAlpha(225);
    p.fillRect(box, ground);
    p.drawText(box, Qt::AlignCenter, words);
}

void BedDrawing::way(QPainter& p) const {
    const Vec2 zero = setup_.zeroOn(station_) + setup_.zeroOf(station_);
    const QPointF home = at({0, 0});
    const QPointF cross = at(machine_.crossing);
    const QPointF start = at(zero);
    p.setPen(QPen(colour::moss, 1.2, Qt::DotLine));
    p.drawLine(home, cross);
    p.setPen(QPen(colour::russet, 1.4, Qt::DotLine));
    p.drawLine(cross, start);
    p.setPen(QPen(colour::russet, 2));
    p.drawLine(start, start + QPointF(14, 0));
    p.drawLine(start, start - QPointF(0, 14));
    p.setPen(Qt::NoPen);
    p.setBrush(colour::moss);
    p.drawEllipse(home, 5, 5);
    p.setFont(figures(11));
    p.setPen(colour::moss);
    const bool right = machine_.lowCorner().x < -1;
    const auto label = [&](QPointF where, const QString& words, bool left) {
        const double wide = p.fontMetrics().horizontalAdvance(words) + 6;
        note(p, left ? where - QPointF(wide + 14, 0) : where, words);
    };
    label(home, tr("home"), right);
    label(cross, tr("crossing %1, %2").arg(size(machine_.crossing.x), size(machine_.crossing.y)),
          false);
    p.setPen(colour::russet);
    label(start + QPointF(0, 14), tr("zero %1, %2").arg(size(zero.x), size(zero.y)), false);
    if (card_.probe) {
        const QPointF spot = at(*card_.probe);
        const double half = plateHalf * scale_;
        p.setPen(QPen(colour::ochre, 1.4));
        p.setBrush(QBrush(colour::ochre, Qt::DiagCrossPattern));
        p.drawRect(QRectF(spot - QPointF(half, half), QSizeF(2 * half, 2 * half)));
        p.setPen(colour::ochre);
        label(spot - QPointF(half, 0), tr("probe Z"), true);
    }
}

void BedDrawing::laying(QPainter& p, const QRectF& area) const {
    double y = area.top();
    const auto head = [&](const QString& words) {
        if (y + 40 > area.bottom()) {
            y = area.bottom(); // nothing would fit under it
            return;
        }
        p.setFont(app::words(13, true));
        p.setPen(colour::ink);
        p.drawText(QRectF(area.left(), y, area.width(), 18), Qt::AlignLeft, words);
        y += 22;
    };
    const auto row = [&](const QString& name, const QString& value) {
        if (y + 16 > area.bottom()) {
            return;
        }
        p.setFont(app::words(12));
        p.setPen(colour::faded);
        p.drawText(QRectF(area.left(), y, area.width(), 16), Qt::AlignLeft, name);
        p.setFont(figures(12));
        p.setPen(colour::slate);
        p.drawText(QRectF(area.left(), y, area.width(), 16), Qt::AlignRight, value);
        y += 18;
    };
    const auto note = [&](const QString& words) {
        p.setFont(app::words(12));
        p.setPen(colour::faded);
        const QRectF room(area.left(), y, area.width(), 400);
        const double tall = p.boundingRect(room, Qt::TextWordWrap, words).height();
        if (y + tall <= area.bottom()) { // in a low window the last ones are left out
            p.drawText(room, Qt::TextWordWrap, words);
            y += tall + 4;
        }
    };
    const auto signedSize = [this](double v) {
        return (v < 0 ? QStringLiteral("-") : QStringLiteral("+")) + size(std::abs(v));
    };
    head(tr("The way to its zero"));
    for (std::size_t i = 0; i < card_.jogs.size(); ++i) {
        const Jog& jog = card_.jogs[i];
        const QString name = i == 0                       ? tr("home, spindle up")
                             : i == 1                     ? tr("to the crossing")
                             : i + 1 == card_.jogs.size() ? tr("on to the zero")
                                                          : tr("to its own line");
        row(name, i == 0 ? QStringLiteral("0, 0")
                         : signedSize(jog.by.x) + QStringLiteral(", ") + signedSize(jog.by.y));
    }
    note(tr("The zero is the %1.").arg(qs(setup_.datum)));
    y += 6;
    head(tr("Z"));
    note(!card_.probe ? tr("There is no place for the probe plate: see what is found below.")
         : setup_.zZero == ZZero::top ? tr("The plate on the blank's face, where no program cuts.")
         : card_.onFixture ? tr("The plate on the fixture board's face, beside the blank.")
                           : tr("The plate on the bed, beside the blank."));
    if (const auto advice = registerAdvice(sheet_.project(), job_)) {
        y += 6;
        head(tr("How the sides meet"));
        row(tr("by pins, within"), qs(formatLengthValue(advice->byPins, sheet_.unit(), 2)));
        row(tr("by marks, within"), qs(formatLengthValue(advice->byMarks, sheet_.unit(), 2)));
        note(tr("Dotted: the other side's outline, off by %1, drawn %2 times as far.")
                 .arg(qs(formatLength(job_.held.expectedError, sheet_.unit(), 2)))
                 .arg(missDrawn, 0, 'f', 0));
        note(told(advice->why, sheet_.unit()));
    }
}

void BedDrawing::room(QPainter& p, const QRectF& area) const {
    p.setFont(words(13, true));
    p.setPen(colour::ink);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt::AlignLeft,
               tr("Room under the spindle"));
    if (!card_.room) {
        p.setFont(words(12));
        p.setPen(colour::faded);
        p.drawText(area.adjusted(0, 24, 0, 0), Qt::TextWordWrap, tr("no program yet"));
        return;
    }
    const SpindleSum& sum = card_.room->sum;
    const std::optional<double> gap = machine_.end.gap;
    const QRectF bars(area.left(), area.top() + 26, 54, area.height() - 76);
    const double k = bars.height() / std::max(sum.total(), gap.value_or(0));
    struct Piece {
        QString name;
        double high;
        QColor fill;
    };
    const std::vector<Piece> pieces{
        {tr("fixture board"), sum.fixture, colour::paper},
        {tr("blank"), sum.blank, colour::wood},
        {tr("lift"), sum.lift, colour::sheet},
        {tr("bit, %1").arg(qs(card_.room->bit)), sum.bit, colour::paper},
        {tr("collet nut"), sum.nut, colour::woodDark}};
    double y = bars.bottom();
    double nextText = bars.bottom() + 8;
    for (const Piece& piece : pieces) {
        if (piece.high <= 0) {
            continue;
        }
        const QRectF bar(bars.left(), y - piece.high * k, bars.width(), piece.high * k);
        p.setPen(QPen(colour::ink, 1));
        p.setBrush(piece.fill);
        p.drawRect(bar);
        y = bar.top();
        const double row = std::min(bar.center().y(), nextText - 9);
        nextText = row - 7;
        p.setFont(words(12));
        p.setPen(colour::faded);
        const QRectF text(bars.right() + 10, row - 8, area.width() - bars.width() - 10, 16);
        p.drawText(text, Qt::AlignLeft,
                   p.fontMetrics().elidedText(piece.name, Qt::ElideRight, int(text.width() - 52)));
        p.setFont(figures(12));
        p.setPen(colour::slate);
        p.drawText(text, Qt::AlignRight, size(piece.high));
    }
    if (gap) {
        const double line = bars.bottom() - *gap * k;
        p.setPen(QPen(sum.total() > *gap ? colour::russet : colour::moss, 2));
        p.drawLine(QPointF(bars.left() - 6, line), QPointF(bars.right() + 6, line));
    }
    p.setFont(words(12, true));
    p.setPen(gap && sum.total() > *gap ? colour::russet : colour::ink);
    p.drawText(QRectF(area.left(), bars.bottom() + 8, area.width(), 40), Qt::TextWordWrap,
               gap ? tr("%1 of %2 are taken, most by %3")
                         .arg(size(sum.total()), size(*gap), qs(card_.room->program.substr(0, 2)))
                   : tr("%1 are taken; how much there is, from nose to bed, is told at Tools, The "
                        "router")
                         .arg(size(sum.total())));
}

} // namespace wren::app
