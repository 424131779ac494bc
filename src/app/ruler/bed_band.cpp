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

constexpr double roomWidth = 230;
constexpr double headRoom = 30;

QRectF drawingArea(const QSize& size) {
    return {10, headRoom + 4, size.width() - roomWidth - 34.0, size.height() - headRoom - 12.0};
}

} // namespace

struct BedBand::Lying {
    const PartJob* job = nullptr;
    std::size_t side = 0;
    std::size_t station = 0;
};

BedBand::BedBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("The machine's bed"));
    for (auto signal : {&Sheet::derivedChanged, &Sheet::leafChanged}) {
        connect(&sheet_, signal, this, qOverload<>(&QWidget::update));
    }
    connect(&sheet_, &Sheet::partChanged, this, [this] {
        way_ = 0;
        chosen_.reset();
        update();
    });
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

std::vector<BedBand::Lying> BedBand::waysOfLying() const {
    std::vector<Lying> out;
    const PartJob* job = sheet_.jobInHand();
    for (std::size_t side = 0; job && side < job->held.sides(); ++side) {
        const std::size_t stations = job->held.side(side).stations.size();
        for (std::size_t k = 0; k < std::max<std::size_t>(1, stations); ++k) {
            out.push_back({job, side, k});
        }
    }
    return out;
}

std::optional<BedBand::Lying> BedBand::lying() const {
    const std::vector<Lying> all = waysOfLying();
    if (all.empty()) {
        return {};
    }
    return all[std::min(way_, all.size() - 1)];
}

std::optional<std::size_t> BedBand::chosen() const {
    const std::optional<Lying> here = lying();
    if (!here || !chosen_) {
        return {};
    }
    const auto own = clampsOf(sheet_.project(), here->job->id, here->side);
    return std::find(own.begin(), own.end(), *chosen_) != own.end() ? chosen_ : std::nullopt;
}

QPointF BedBand::placeOf(std::size_t clamp) const {
    const std::optional<Lying> here = lying();
    return here ? BedDrawing(sheet_, *here->job, here->side, here->station, drawingArea(size()))
                      .onBlank(sheet_.project().clamps.at(clamp).at)
                : QPointF();
}

void BedBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    p.setRenderHint(QPainter::Antialiasing);
    const std::optional<Lying> here = lying();
    if (!here) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect().adjusted(80, 0, -80, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("The bed is shown here once there is a blank to lay on it."));
    } else {
        const QRectF area = drawingArea(size());
        const Setup& setup = here->job->held.side(here->side);
        const BedDrawing drawing(sheet_, *here->job, here->side, here->station, area);
        p.save();
        p.setClipRect(QRectF(0, headRoom, area.right() + 10, height() - headRoom));
        drawing.bed(p);
        drawing.blank(p);
        drawing.clamps(p, chosen());
        drawing.way(p);
        p.restore();
        const double divider = width() - roomWidth - 18;
        p.setPen(QPen(colour::rule, 1));
        p.drawLine(QPointF(divider, 8), QPointF(divider, height() - 8.0));
        drawing.room(p, QRectF(divider + 12, 10, roomWidth - 6, height() - 20.0));
        p.setFont(words(13, true));
        p.setPen(colour::ink);
        const QString title = tr("%1, %2, on the bed from above, front below")
                                  .arg(qs(here->job->name()), qs(setup.nameIn(here->station)));
        p.drawText(QPointF(14, 22), title);
        const double used = p.fontMetrics().horizontalAdvance(title);
        p.setFont(words(12));
        p.setPen(colour::faded);
        const QString keys =
            waysOfLying().size() > 1
                ? tr("S: the next setup. N: the next clamp; drag it, R turns it, Delete")
                : tr("N: the next clamp; drag it, R turns it, Delete");
        p.drawText(QRectF(30 + used, 10, divider - used - 36, 18), Qt::AlignLeft,
                   p.fontMetrics().elidedText(keys, Qt::ElideRight, int(divider - used - 40)));
    }
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void BedBand::mousePressEvent(QMouseEvent* e) {
    setFocus(Qt::MouseFocusReason);
    const std::optional<Lying> here = lying();
    if (!here || e->button() != Qt::LeftButton) {
        return;
    }
    const BedDrawing drawing(sheet_, *here->job, here->side, here->station, drawingArea(size()));
    chosen_ = drawing.clampAt(e->position());
    if (chosen_) {
        grip_ = sheet_.project().clamps[*chosen_].at - drawing.setupAt(e->position());
        dragging_ = true;
        sheet_.document().beginDrag();
    }
    update();
}

void BedBand::mouseMoveEvent(QMouseEvent* e) {
    const std::optional<Lying> here = lying();
    if (!here) {
        return;
    }
    const BedDrawing drawing(sheet_, *here->job, here->side, here->station, drawingArea(size()));
    if (dragging_ && chosen()) {
        moveTo(*chosen_, drawing.setupAt(e->position()) + grip_);
        return;
    }
    const auto over = drawing.clampAt(e->position());
    setCursor(over ? Qt::SizeAllCursor : Qt::ArrowCursor);
    setToolTip(over ? tr("clamp %1, %2").arg(*over + 1).arg(
                          QLatin1String(clampName(sheet_.project().clamps[*over].kind)))
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
        clamp, [&](Clamp& c) { c.at = {whole(at.x), whole(at.y)}; },
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
    const std::size_t n = waysOfLying().size();
    way_ = n == 0 ? 0 : (std::min(way_, n - 1) + 1) % n;
    chosen_.reset();
    update();
}

void BedBand::chooseNext() {
    const std::optional<Lying> here = lying();
    if (!here) {
        return;
    }
    const auto own = clampsOf(sheet_.project(), here->job->id, here->side);
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
    if (e->key() == Qt::Key_S) {
        next();
    } else if (e->key() == Qt::Key_N) {
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
    const std::optional<Lying> here = lying();
    if (!here) {
        return tr("nothing lies on it");
    }
    const std::size_t n = clampsOf(sheet_.project(), here->job->id, here->side).size();
    const QString lies = tr("%1, %2, %3")
                             .arg(qs(here->job->name()),
                                  qs(here->job->held.side(here->side).nameIn(here->station)),
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
