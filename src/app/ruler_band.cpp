#include "ruler_band.h"

#include "base/length.h"
#include "body_strips.h"
#include "neck_strips.h"
#include "ruler_layout.h"
#include "section.h"
#include "strip_parts.h"
#include "strips.h"
#include "text.h"
#include "theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>
#include <QTimer>
#include <QWheelEvent>

#include <cmath>

namespace wren::app {
RulerBand::RulerBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Ruler and strips"));
    setToolTip({});
    const auto refresh = [this] {
        if (fitted_ && !held_) { // a scale that moved under the pointer could not be dragged by
            showAll();
        }
        layoutStrips();
        update();
    };
    connect(&sheet_, &Sheet::derivedChanged, this, refresh);
    // In the turn after the other bands': together they would take too long at twice the density.
    connect(&sheet_, &Sheet::stationChanged, this,
            [this, refresh] { QTimer::singleShot(0, this, refresh); });
    connect(&sheet_, &Sheet::stockChanged, this, refresh);
    connect(&sheet_, &Sheet::partChanged, this,
            [this, refresh] { QTimer::singleShot(0, this, refresh); });
    connect(&sheet_, &Sheet::cursorChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_, &Sheet::takenChanged, this, qOverload<>(&QWidget::update));
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

bool RulerBand::bodyStation() const {
    return sheet_.showsBody() && sheet_.station() == Station::body && !sheet_.scrubbing();
}

bool RulerBand::showsPiece() const {
    return sheet_.showsBody() && !bodyStation();
}

std::vector<RulerBand::Column> RulerBand::columns() const {
    const QRectF all = stripsArea();
    const PartJob* job = showsPiece() ? sheet_.pieceInHand() : nullptr;
    const bool one = !job || (sheet_.station() == Station::proof && !job->held.back);
    if (one) {
        return {{all, 0}};
    }
    // The right one's notes run out over its end.
    const bool notes = sheet_.station() != Station::proof;
    const double wide = (all.width() - columnGap - (notes ? endNotes : 0)) / 2;
    const double shift = wide + columnGap;
    return {{QRectF(all.left(), all.top(), wide, all.height()), 0},
            {QRectF(all.left() + shift, all.top(), wide, all.height()), shift}};
}

RulerScale RulerBand::shifted(double by) const {
    RulerScale s = scale_;
    s.left += by;
    return s;
}

double RulerBand::cursorAt(QPointF at) const {
    const std::vector<Column> all = columns();
    const bool second = all.size() > 1 && at.x() > all.back().area.left() - columnGap / 2;
    return shifted(second ? all.back().shift : 0).mm(at.x());
}

QRectF RulerBand::stripsArea() const {
    if (bodyStation() || showsPiece()) { // as wide as long: the plan takes all there is
        return {14, rulerHeight + 6, width() - 28.0 - sectionWidth, height() - rulerHeight - 12.0};
    }
    return {nameWidth, rulerHeight + 6, width() - nameWidth - sectionWidth - endNotes,
            height() - rulerHeight - 12.0};
}

/// What the ruler has to span: the board, or its blank where that is on the sheet.
std::pair<double, double> RulerBand::extent() const {
    const Derived* d = sheet_.derived();
    if (!d || !d->board) {
        return {-10, 480};
    }
    if (sheet_.showsBody()) {
        const double head = showsPiece() ? headHeight + 4 : 0;
        return bodyExtent(sheet_, columns().front().area.adjusted(0, head, 0, 0));
    }
    if (sheet_.showsNeck()) {
        const NeckOutline& o = d->neck->part.outline();
        if (sheet_.station() == Station::neck) {
            return {o.tip() - 6, o.end() + 4};
        }
        const double half = d->job(Role::neck)->held.blank.length / 2 + 4;
        const double middle = (o.tip() + o.end()) / 2;
        return {middle - half, middle + half};
    }
    double a = -6;
    double b = d->board->length() + 4;
    if (sheet_.station() != Station::board) {
        const double blank = d->project.blank.length;
        const double middle = d->board->length() / 2;
        a = std::min(a, middle - blank / 2 - 4);
        b = std::max(b, middle + blank / 2 + 4);
    }
    return {a, b};
}

void RulerBand::showAll() {
    fitted_ = true;
    const auto [a, b] = extent();
    const QRectF area = columns().front().area;
    scale_ = RulerScale::fit(a, b, area.left(), area.width());
    update();
}

void RulerBand::resizeEvent(QResizeEvent*) {
    if (fitted_) {
        showAll();
    }
    layoutStrips();
}

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

/// A steel rule: distances along its lower edge, the frets let in along its upper one.
void RulerBand::drawRuler(QPainter& p, const Column& column) const {
    const RulerScale scale = shifted(column.shift);
    const QRectF& area = column.area;
    const QRectF rule(area.left() - 8, 8, area.width() + 16, rulerHeight - 10);
    p.setPen(QPen(colour::ink, 1));
    p.setBrush(colour::paper);
    p.drawRect(rule);
    p.save();
    p.setClipRect(rule);
    const bool inches = sheet_.unit() == LengthUnit::inch;
    const double unit = inches ? mmPerInch : 1;
    double major = inches ? 1 : 50;
    while (major * unit * scale.perMm < 60) {
        major *= 2;
    }
    while (major * unit * scale.perMm > 160) {
        major /= inches ? 2 : (major == 50 || major == 5 ? 5 : 2);
    }
    const double minor = major / (inches ? 8 : 10);
    const double first = std::floor(scale.mm(rule.left()) / unit / minor) * minor;
    p.setFont(figures(11));
    for (int i = 0;; ++i) {
        const double v = first + i * minor;
        const double x = scale.px(v * unit);
        if (x > rule.right()) {
            break;
        }
        const double turns = v / major;
        const bool big = std::abs(turns - std::round(turns)) < 1e-6;
        p.setPen(QPen(colour::ink, big ? 1.2 : 0.7));
        p.drawLine(QPointF(x, rule.bottom()), QPointF(x, rule.bottom() - (big ? 19 : 5)));
        const QString number = QString::number(std::abs(v) < 1e-9 ? 0 : v);
        if (big && x + 5 + p.fontMetrics().horizontalAdvance(number) < rule.right()) {
            p.drawText(QPointF(x + 4, rule.bottom() - 8), number);
        }
    }
    p.setPen(Qt::NoPen);
    p.setBrush(colour::ink);
    for (const FretSlot& slot : sheet_.derived()->board->slots()) {
        const double x = scale.px(slot.middle());
        p.drawPolygon(QPolygonF{{x - 2.5, rule.top()}, {x + 2.5, rule.top()}, {x, rule.top() + 7}});
    }
    p.restore();
    if (sheet_.showsBody()) {
        return;
    }
    p.setFont(words(12));
    p.setPen(colour::faded);
    p.drawText(QRectF(14, rule.top(), nameWidth - 24, rule.height()),
               Qt::AlignVCenter | Qt::AlignLeft, inches ? tr("inches") : tr("mm from nut"));
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

void RulerBand::toFret(int direction) {
    const Derived* d = sheet_.derived();
    if (!d || !d->board) {
        return;
    }
    double best = direction > 0 ? d->board->xHigh() : d->board->xLow();
    for (const FretSlot& slot : d->board->slots()) {
        const double x = slot.middle();
        if (direction > 0 ? x > sheet_.cursor() + 1e-6 && x < best
                          : x < sheet_.cursor() - 1e-6 && x > best) {
            best = x;
        }
    }
    sheet_.setCursor(best);
}

void RulerBand::wheelEvent(QWheelEvent* e) {
    scale_ =
        scale_.zoomed(std::pow(1.0015, e->angleDelta().y()), scale_.px(cursorAt(e->position())));
    fitted_ = false;
    update();
}

void RulerBand::keyPressEvent(QKeyEvent* e) {
    if (ownKey(*e)) {
        const bool fine = e->modifiers() & Qt::ShiftModifier;
        const double step =
            sheet_.unit() == LengthUnit::mm ? (fine ? 0.1 : 1) : mmPerInch / (fine ? 64 : 16);
        switch (e->key()) {
        case Qt::Key_Left:
            return nudge({-step, 0});
        case Qt::Key_Right:
            return nudge({step, 0});
        case Qt::Key_Up:
            return nudge({0, step});
        case Qt::Key_Down:
            return nudge({0, -step});
        case Qt::Key_D:
            return doubleIt();
        case Qt::Key_M:
            return mirror();
        case Qt::Key_Escape:
            return sheet_.take({});
        default:
            return remove();
        }
    }
    const bool byFret = e->modifiers() & Qt::ControlModifier;
    const double centre = scale_.px(sheet_.cursor());
    switch (e->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right: {
        const int direction = e->key() == Qt::Key_Right ? 1 : -1;
        if (byFret) {
            toFret(direction);
        } else {
            sheet_.setCursor(sheet_.cursor() + direction);
        }
        break;
    }
    case Qt::Key_Plus:
    case Qt::Key_Equal:
    case Qt::Key_Minus:
        scale_ = scale_.zoomed(e->key() == Qt::Key_Minus ? 0.8 : 1.25, centre);
        fitted_ = false;
        update();
        break;
    case Qt::Key_0:
        showAll();
        break;
    default:
        QWidget::keyPressEvent(e);
    }
}

QAccessible::Role RulerBand::accessRole() const {
    return QAccessible::Canvas;
}

QString RulerBand::accessValue() const {
    QString said =
        tr("cursor %1 from the nut").arg(qs(formatLength(sheet_.cursor(), sheet_.unit(), 1)));
    for (const Feature& f : sheet_.things()) {
        if (f.path == thingOf(sheet_.taken())) {
            said += tr(", %1 in hand").arg(qs(f.name));
        }
    }
    return said;
}

} // namespace wren::app
