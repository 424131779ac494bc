// How the ruler's band is drawn: rule, strips, cursor, section.

#include "ruler/ruler_band.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/body_strips.h"
#include "ruler/neck_strips.h"
#include "ruler/rule.h"
#include "ruler/ruler_layout.h"
#include "ruler/section.h"
#include "ruler/strip_parts.h"
#include "ruler/strips.h"

#include <QPainter>
#include <QPolygonF>

#include <cmath>

namespace wren::app {

void RulerBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    p.setRenderHint(QPainter::Antialiasing);
    const Derived* d = sheet_.derived();
    if (!d || !d->board || (sheet_.part() == Part::neck && !d->neck) ||
        (sheet_.part() == Part::body && !d->body && !sheet_.scrubbing())) {
        drawNothing(p);
        return;
    }
    for (const Strip& strip : strips_) {
        drawStrip(p, strip);
    }
    p.fillRect(QRectF(0, 0, width() - sectionWidth, rulerHeight), colour::sheet);
    for (const Column& column : columns()) {
        drawRuler(p, column);
        drawCursor(p, column);
    }
    drawSection(p);
    drawHandles(p);
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void RulerBand::drawNothing(QPainter& p) const {
    const Derived* d = sheet_.derived();
    p.setFont(words(17));
    p.setPen(colour::faded);
    QString text = tr("The drawing follows as soon as the numbers allow it.");
    if (d && d->board && sheet_.part() == Part::body && !d->project.wantsBody()) {
        text =
            tr("This instrument has no body yet.\nBelow, choose what it is made of: one piece, or "
               "a core with a top. Everything else has a start.");
    } else if (d && d->board && sheet_.part() == Part::neck && !d->wantsNeck()) {
        text = tr(
            "This instrument has no neck yet.\nBelow, choose how it meets the body: bolted on or "
            "set in. Everything else has a start.");
    } else if (d) {
        for (const Finding& f : d->findings) {
            if (f.weight == Weight::stop) {
                text = (!d->board ? tr("No board can be drawn from these numbers.\n%1")
                        : sheet_.part() == Part::body
                            ? tr("No body can be drawn from these numbers.\n%1")
                            : tr("No neck can be drawn from these numbers.\n%1"))
                           .arg(told(f.message, sheet_.unit()));
                break;
            }
        }
    }
    p.drawText(rect().adjusted(80, 0, -80, 0), Qt::AlignCenter | Qt::TextWordWrap, text);
}

void RulerBand::drawRuler(QPainter& p, const Column& column) const {
    const QRectF& area = column.area;
    const QRectF rule(area.left() - 8, 8, area.width() + 16, rulerHeight - 10);
    drawRule(p, rule, shifted(column.shift), sheet_);
    if (sheet_.showsBody()) {
        return;
    }
    nameRule(p, rule, sheet_);
}

void RulerBand::drawStrip(QPainter& p, const Strip& strip) {
    if (bodyStation()) {
        p.save();
        p.setClipRect(QRectF(0, strip.area.top() - 5, width() - sectionWidth - 8.0,
                             strip.area.height() + 12));
        drawBodyPlan({p, scale_, sheet_, strip.area});
        p.restore();
        return;
    }
    if (showsPiece()) {
        drawHead(p, strip);
        p.save();
        const double notes = strip.shift > 0 ? endNotes : 0;
        p.setClipRect(strip.area.adjusted(-8, -4, 8 + notes, 6));
        drawBodyStrip({p, shifted(strip.shift), sheet_, strip.area}, strip.kind);
        p.restore();
        return;
    }
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QRectF(14, strip.area.top(), nameWidth - 18, 18), Qt::AlignLeft, strip.name);
    p.setPen(colour::faded);
    p.setFont(words(11.5));
    // Whole lines of the note only: in a low window the last may have no room.
    const QRectF note(14, strip.area.top() + 18, nameWidth - 18, 48);
    const int lines = static_cast<int>((strip.area.bottom() + 5 - note.top()) / 15);
    p.drawText(note, Qt::AlignLeft,
               noteOf(strip).split(QLatin1Char('\n')).mid(0, lines).join(QLatin1Char('\n')));
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(14, strip.area.bottom() + 6),
               QPointF(width() - sectionWidth - 12, strip.area.bottom() + 6));
    p.save();
    p.setClipRect(QRectF(nameWidth - 10, strip.area.top() - 4,
                         width() - sectionWidth - nameWidth + 6, strip.area.height() + 9));
    const StripContext c{p, scale_, sheet_, strip.area};
    const bool proved = sheet_.deviation(Role::board) != nullptr;
    switch (strip.kind) {
    case Strip::plan:
        drawPlan(c);
        break;
    case Strip::distances:
        drawFretDistances(c);
        break;
    case Strip::side:
        drawSide(c);
        break;
    case Strip::depth:
        drawCutDepth(c);
        break;
    case Strip::wood:
        drawWoodUnderSlots(c);
        break;
    case Strip::deviationPlan:
        if (proved) {
            drawDeviationPlan(c, *sheet_.deviation(Role::board));
        } else {
            drawPlan(c);
        }
        break;
    case Strip::deviationProfile:
        if (proved) {
            drawDeviationProfile(c, *sheet_.deviation(Role::board));
        } else {
            waiting(p, strip.area);
        }
        break;
    default:
        drawNeckStrip(c, strip.kind);
        break;
    }
    p.restore();
}

/// Its name and note on one line over it.
void RulerBand::drawHead(QPainter& p, const Strip& strip) const {
    const QRectF line(strip.area.left(), strip.area.top() - headHeight + 2, strip.area.width(),
                      headHeight - 4);
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(line, Qt::AlignLeft | Qt::AlignVCenter, strip.name);
    const double after = p.fontMetrics().horizontalAdvance(strip.name) + 12;
    p.setPen(colour::faded);
    p.setFont(words(11.5));
    p.drawText(line.adjusted(after, 1, 0, 1), Qt::AlignLeft | Qt::AlignVCenter, noteOf(strip));
}

void RulerBand::waiting(QPainter& p, const QRectF& area) {
    const Derived& d = *sheet_.derived();
    const PartJob* piece = sheet_.showsBody() ? sheet_.pieceInHand() : nullptr;
    const bool coming = piece                ? piece->placed && sheet_.step() < 3
                        : sheet_.showsNeck() ? d.job(Role::neck)->placed
                                             : d.lies(Role::board) != nullptr;
    p.setFont(words(14));
    p.setPen(colour::faded);
    p.drawText(area, Qt::AlignCenter,
               coming ? tr("Reading the programs back and cutting them into the blank ...")
                      : tr("Nothing to prove: the findings say why."));
}

void RulerBand::drawNeckStrip(const StripContext& c, Strip::Kind kind) {
    const auto drawn = [&](const auto& found, auto draw) {
        if (found) {
            draw(*found);
        } else {
            waiting(c.painter, c.area);
        }
    };
    switch (kind) {
    case Strip::neckPlan:
        drawNeckPlan(c);
        break;
    case Strip::neckSide:
        drawNeckSide(c);
        break;
    case Strip::neckRod:
        drawWoodUnderRod(c);
        break;
    case Strip::neckBend:
        drawCurvature(c);
        break;
    case Strip::neckFaceDepth:
        drawNeckDepth(c, 0);
        break;
    case Strip::neckBackDepth:
        drawNeckDepth(c, 1);
        break;
    case Strip::neckFaceMiss:
        drawn(sheet_.deviation(Role::neck, 0),
              [&](const auto& view) { drawNeckDeviation(c, view); });
        break;
    case Strip::neckBackMiss:
        drawn(sheet_.neckUnrolled(), [&](const auto& flat) { drawUnrolledBack(c, flat); });
        break;
    case Strip::neckBackProfile:
        drawn(sheet_.deviation(Role::neck, 1),
              [&](const auto& view) { drawNeckDeviationProfile(c, view, 1); });
        break;
    default:
        break;
    }
}

void RulerBand::drawBodyStrip(const StripContext& c, Strip::Kind kind) {
    const PartJob& job = *sheet_.pieceInHand();
    const auto miss = [&](int side) {
        if (const DeviationViewPtr view = sheet_.deviation(job.id, side)) {
            drawPieceDeviation(c, *view, side);
        } else {
            waiting(c.painter, c.area);
        }
    };
    switch (kind) {
    case Strip::bodySide:
        drawBodySide(c);
        break;
    case Strip::pieceFaceDepth:
        drawDepths(c, job.held.face, job.read[0], tr("face"));
        break;
    case Strip::pieceBackDepth:
        drawDepths(c, *job.held.back, job.read[1], tr("back"));
        break;
    case Strip::pieceFaceMiss:
        miss(0);
        break;
    case Strip::pieceBackMiss:
        miss(1);
        break;
    default:
        drawBodyPlan(c);
        break;
    }
}

void RulerBand::drawCursor(QPainter& p, const Column& column) const {
    const double x = shifted(column.shift).px(sheet_.cursor());
    const QRectF& area = column.area;
    if (x < area.left() - 9 || x > area.right() + 9) {
        return;
    }
    p.setPen(QPen(colour::russet, 1.2));
    p.drawLine(QPointF(x, rulerHeight - 4), QPointF(x, area.bottom()));
    const QString text =
        QString::fromStdString(formatLengthValue(sheet_.cursor(), sheet_.unit(), 1));
    p.setFont(figures(13, true));
    const double w = p.fontMetrics().horizontalAdvance(text) + 14;
    const QRectF tag(x - w / 2, 4, w, 22);
    p.setPen(Qt::NoPen);
    p.setBrush(colour::russet);
    p.drawPolygon(QPolygonF{tag.topLeft(),
                            tag.topRight(),
                            tag.bottomRight(),
                            {x + 5, tag.bottom()},
                            {x, tag.bottom() + 8},
                            {x - 5, tag.bottom()},
                            tag.bottomLeft()});
    p.setPen(colour::sheet);
    p.drawText(tag, Qt::AlignCenter, text);
}

void RulerBand::drawSection(QPainter& p) const {
    const QRectF area = sectionArea();
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(area.left() - 10, 8), QPointF(area.left() - 10, height() - 8.0));
    if (bodyStation()) {
        // Under the section where there is room for both.
        constexpr double roomForBoth = 340;
        const double low = area.height() > roomForBoth ? area.height() * 0.3 : 0;
        drawBodySection(p, area.adjusted(0, 0, 0, -low), sheet_);
        if (low > 0) {
            drawBodySideBeside(p, QRectF(area.left(), area.bottom() - low, area.width(), low),
                               sheet_);
        }
    } else if (sheet_.showsBody()) {
        drawBodySection(p, area, sheet_);
    } else if (sheet_.showsNeck()) {
        drawNeckSection(p, area, sheet_);
    } else {
        drawCrossSection(p, area, sheet_);
    }
}

} // namespace wren::app
