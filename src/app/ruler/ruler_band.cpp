#include "ruler/ruler_band.h"

#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/body_strips.h"
#include "ruler/neck_strips.h"
#include "ruler/ruler_layout.h"
#include "ruler/section.h"
#include "ruler/strip_parts.h"
#include "ruler/strips.h"

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
    connect(&sheet_.pictures(), &PictureStore::arrived, this, qOverload<>(&QWidget::update));
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
