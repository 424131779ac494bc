#include "ruler/bed_band.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "job/clamps.h"
#include "ruler/bed_drawing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

#include <cmath>

namespace wren::app {
namespace {

constexpr double layingWidth = 226;
constexpr double roomWidth = 226;
constexpr double headRoom = 30;

QRectF drawingArea(const QSize& size) {
    return {layingWidth + 24, headRoom + 2, size.width() - layingWidth - roomWidth - 56.0,
            size.height() - headRoom - 10.0};
}

} // namespace

BedBand::BedBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("The machine's bed"));
    for (auto signal : {&Sheet::derivedChanged, &Sheet::leafChanged, &Sheet::stationChanged,
                        &Sheet::partChanged}) {
        connect(&sheet_, signal, this, &BedBand::lieAnew);
    }
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

/// Only where it is seen: looking for the plate's place takes some milliseconds.
void BedBand::lieAnew() {
    const PartJob* job = sheet_.jobInHand();
    if (!sheet_.showsBed() || (shown_ == sheet_.derivedPtr() && job && part_ == job->id)) {
        update();
        return;
    }
    shown_ = sheet_.derivedPtr();
    cards_.clear();
    if (job && !(part_ == job->id)) {
        part_ = job->id;
        way_ = 0;
        chosen_.reset();
    }
    if (job && job->placed) {
        cards_ = holdCards(*shown_, *job);
    }
    update();
}

const HoldCard* BedBand::card() const {
    return cards_.empty() || !sheet_.jobInHand() ? nullptr
                                                 : &cards_[std::min(way_, cards_.size() - 1)];
}

BedDrawing BedBand::drawing() const {
    return {sheet_, *shown_->job(part_), *card(), drawingArea(size())};
}

std::vector<std::size_t> BedBand::clampsStanding() const {
    const HoldCard& c = *card();
    return clampsOf(sheet_.project(), part_, c.setup->side, c.setup->numberOf(c.station));
}

std::optional<std::size_t> BedBand::chosen() const {
    if (!card() || !chosen_) {
        return {};
    }
    const auto own = clampsStanding();
    return std::find(own.begin(), own.end(), *chosen_) != own.end() ? chosen_ : std::nullopt;
}

QPointF BedBand::placeOf(std::size_t clamp) const {
    return card() ? drawing().onBlank(sheet_.project().clamps.at(clamp).at) : QPointF();
}

void BedBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    p.setRenderHint(QPainter::Antialiasing);
    if (!card()) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect().adjusted(80, 0, -80, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("The bed is shown here once there is a blank to lay on it."));
    } else {
        paintBed(p);
    }
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void BedBand::paintBed(QPainter& p) const {
    const QRectF area = drawingArea(size());
    const BedDrawing drawn = drawing();
    p.save();
    p.setClipRect(area.adjusted(-6, 0, 6, 8));
    drawn.bed(p);
    drawn.blank(p);
    drawn.clamps(p, chosen());
    drawn.way(p);
    p.restore();
    p.setPen(QPen(colour::rule, 1));
    for (double x : {area.left() - 9, area.right() + 9}) {
        p.drawLine(QPointF(x, 8), QPointF(x, height() - 8.0));
    }
    drawn.laying(p, QRectF(14, 10, layingWidth - 8, height() - 20.0));
    drawn.room(p, QRectF(area.right() + 20, 10, roomWidth - 6, height() - 20.0));
    p.setFont(words(13, true));
    p.setPen(colour::ink);
    const QString title =
        tr("%1, %2, from above").arg(qs(part_.name()), qs(card()->setup->nameIn(card()->station)));
    p.drawText(QPointF(area.left(), 22), title);
    const double used = p.fontMetrics().horizontalAdvance(title) + 16;
    p.setFont(words(12));
    p.setPen(colour::faded);
    const QString keys = cards_.size() > 1
                             ? tr("Enter: next setup. C: next clamp; drag it, R turns it, Delete")
                             : tr("C: next clamp; drag it, R turns it, Delete");
    p.drawText(QRectF(area.left() + used, 10, area.width() - used, 18), Qt::AlignLeft,
               p.fontMetrics().elidedText(keys, Qt::ElideRight, int(area.width() - used)));
}

void BedBand::mousePressEvent(QMouseEvent* e) {
    setFocus(Qt::MouseFocusReason);
    if (!card() || e->button() != Qt::LeftButton) {
        return;
    }
    chosen_ = drawing().clampAt(e->position());
    if (chosen_) {
        grip_ = sheet_.project().clamps[*chosen_].at - drawing().setupAt(e->position());
        dragging_ = true;
        sheet_.document().beginDrag();
    }
    update();
}

void BedBand::mouseMoveEvent(QMouseEvent* e) {
    if (!card()) {
        return;
    }
    if (dragging_ && chosen()) {
        moveTo(*chosen_, drawing().setupAt(e->position()) + grip_);
        return;
    }
    const auto over = drawing().clampAt(e->position());
    setCursor(over ? Qt::SizeAllCursor : Qt::ArrowCursor);
    setToolTip(over ? tr("clamp %1, %2")
                          .arg(*over + 1)
                          .arg(QLatin1String(clampName(sheet_.project().clamps[*over].kind)))
                    : QString());
}

void BedBand::mouseReleaseEvent(QMouseEvent*) {
    if (dragging_) {
        dragging_ = false;
        sheet_.document().endDrag();
    }
}

void BedBand::change(std::size_t clamp, const std::function<void(Clamp&)>& how,
                     const QString& what) {
    Project next = sheet_.project();
    how(next.clamps.at(clamp));
    if (next == sheet_.project()) {
        return;
    }
    try {
        sheet_.document().change(std::move(next), what);
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

/// To whole millimetres, or 64ths where inches are shown: nobody sets a strap closer.
void BedBand::moveTo(std::size_t clamp, Vec2 at) {
    const double step = sheet_.unit() == LengthUnit::mm ? 1 : 25.4 / 64;
    const auto whole = [step](double v) { return std::round(v / step) * step; };
    change(
        clamp,
        [&](Clamp& c) {
            c.at = {whole(at.x), whole(at.y)};
        },
        tr("move clamp %1").arg(clamp + 1));
}

void BedBand::takeAway(std::size_t clamp) {
    Project next = sheet_.project();
    next.clamps.erase(next.clamps.begin() + static_cast<std::ptrdiff_t>(clamp));
    chosen_.reset();
    sheet_.document().change(std::move(next), tr("a clamp less"));
    Q_EMIT accepted();
}

void BedBand::next() {
    chosen_.reset();
    way_ = way_ + 1 < cards_.size() ? way_ + 1 : 0;
    update();
}

void BedBand::chooseNext() {
    if (!card()) {
        return;
    }
    const auto own = clampsStanding();
    const auto now = std::find(own.begin(), own.end(), chosen_.value_or(~std::size_t(0)));
    chosen_ = own.empty()                                ? std::nullopt
              : now == own.end() || now + 1 == own.end() ? std::optional(own.front())
                                                         : std::optional(*(now + 1));
    update();
}

void BedBand::keyPressEvent(QKeyEvent* e) {
    const double step = (e->modifiers() & Qt::ShiftModifier) != 0 ? 10 : 1;
    const std::optional<std::size_t> clamp = chosen();
    const auto nudge = [&](Vec2 by) {
        moveTo(*clamp, sheet_.project().clamps[*clamp].at +
                           by * (sheet_.unit() == LengthUnit::mm ? step : step * 25.4 / 16));
    };
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter) {
        next();
    } else if (e->key() == Qt::Key_C) {
        chooseNext();
    } else if (!clamp) {
        QWidget::keyPressEvent(e);
    } else if (e->key() == Qt::Key_Left) {
        nudge({-1, 0});
    } else if (e->key() == Qt::Key_Right) {
        nudge({1, 0});
    } else if (e->key() == Qt::Key_Up) {
        nudge({0, 1});
    } else if (e->key() == Qt::Key_Down) {
        nudge({0, -1});
    } else if (e->key() == Qt::Key_R) {
        change(
            *clamp, [](Clamp& c) { c.turn = c.turn >= 180 - 1e-9 ? c.turn - 270 : c.turn + 90; },
            tr("turn clamp %1").arg(*clamp + 1));
    } else if (e->key() == Qt::Key_Delete) {
        takeAway(*clamp);
    } else {
        QWidget::keyPressEvent(e);
    }
}

QString BedBand::accessValue() const {
    if (!card()) {
        return tr("nothing lies on it");
    }
    const std::size_t n = clampsStanding().size();
    const QString lies = tr("%1, %2, %3")
                             .arg(qs(part_.name()), qs(card()->setup->nameIn(card()->station)),
                                  counted(static_cast<int>(n), "clamp"));
    if (!chosen()) {
        return lies;
    }
    const Clamp& c = sheet_.project().clamps[*chosen_];
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit(), 1)); };
    return lies + tr("; clamp %1 in hand, %2 from the left end, %3 from the front edge")
                      .arg(*chosen_ + 1)
                      .arg(mm(c.at.x), mm(c.at.y));
}

} // namespace wren::app
