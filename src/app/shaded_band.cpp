#include "shaded_band.h"

#include "background.h"
#include "theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace wren::app {

ShadedBand::ShadedBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Shaded view"));
    connect(&sheet_, &Sheet::stockChanged, this, &ShadedBand::redraw);
}

void ShadedBand::redraw() {
    const StockViewPtr stock = sheet_.stock();
    if (!isVisible() || !stock) {
        update();
        return;
    }
    if (busy_) {
        wanted_ = true;
        return;
    }
    busy_ = true;
    ReliefView view = view_;
    view.enlargeZ = stock->side < 0 ? 2 : 1; // a neck has height enough
    const double ratio = devicePixelRatioF();
    const QSize size = (QSizeF(this->size()) * ratio).toSize();
    inBackground(
        this,
        [stock, view, size, ratio] {
            QImage image = drawRelief(*stock->stock, view, size);
            image.setDevicePixelRatio(ratio);
            return image;
        },
        [this](QImage image) {
            image_ = std::move(image);
            busy_ = false;
            update();
            if (std::exchange(wanted_, false)) {
                redraw();
            }
        });
}

void ShadedBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    p.setPen(colour::faded);
    p.setFont(words(12.5));
    if (!sheet_.stock()) {
        p.setFont(words(17));
        p.drawText(rect(), Qt::AlignCenter,
                   tr("The wood appears here as soon as there are programs."));
        return;
    }
    p.drawImage(0, 0, image_);
    p.setPen(colour::ink);
    p.setFont(words(13, true));
    p.drawText(QPointF(14, 24), tr("The wood"));
    p.setPen(colour::faded);
    p.setFont(words(12.5));
    p.drawText(QPointF(14, 42), sheet_.stock()->side < 0
                                    ? tr("as the tape leaves it, heights doubled")
                                    : tr("as the tape leaves it"));
    p.drawText(QRectF(0, height() - 24, width() - 16.0, 18), Qt::AlignRight,
               tr("drag or arrows turn it, wheel comes nearer, S returns to the strips"));
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

void ShadedBand::mousePressEvent(QMouseEvent* e) {
    dragFrom_ = e->position();
}

void ShadedBand::mouseMoveEvent(QMouseEvent* e) {
    const QPointF d = e->position() - dragFrom_;
    dragFrom_ = e->position();
    view_.yaw -= d.x() * 0.006;
    view_.roll += d.y() * 0.008;
    redraw();
}

void ShadedBand::wheelEvent(QWheelEvent* e) {
    view_.zoom = std::clamp(view_.zoom * std::pow(1.0015, e->angleDelta().y()), 0.4, 12.0);
    redraw();
}

void ShadedBand::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Left:
        view_.yaw += 0.08;
        break;
    case Qt::Key_Right:
        view_.yaw -= 0.08;
        break;
    case Qt::Key_Up:
        view_.roll -= 0.1;
        break;
    case Qt::Key_Down:
        view_.roll += 0.1;
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        view_.zoom = std::min(view_.zoom * 1.2, 12.0);
        break;
    case Qt::Key_Minus:
        view_.zoom = std::max(view_.zoom / 1.2, 0.4);
        break;
    default:
        QWidget::keyPressEvent(e);
        return;
    }
    redraw();
}

} // namespace wren::app
