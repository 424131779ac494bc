#include "ruler/shaded_band.h"

#include "frame/theme.h"
#include "state/background.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace wren::app {

ShadedBand::ShadedBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Shaded view"));
    const std::array names{tr("The wood"), tr("As designed"), tr("What it misses")};
    for (std::size_t i = 0; i < looks_.size(); ++i) {
        looks_[i] = new QPushButton(names[i], this);
        looks_[i]->setObjectName(QStringLiteral("word"));
        looks_[i]->setCheckable(true);
        looks_[i]->setFocusPolicy(Qt::NoFocus);
        connect(looks_[i], &QPushButton::clicked, this, [this, i] { setLook(Look(i)); });
    }
    setLook(Look::wood);
    connect(&sheet_, &Sheet::stockChanged, this, &ShadedBand::redraw);
}

void ShadedBand::setLook(Look look) {
    look_ = look;
    int x = 8;
    for (std::size_t i = 0; i < looks_.size(); ++i) {
        looks_[i]->setFont(words(13.5, Look(i) == look));
        looks_[i]->setChecked(Look(i) == look);
        looks_[i]->adjustSize();
        looks_[i]->move(x, 6);
        x += looks_[i]->width() + 6;
    }
    redraw();
}

std::function<QImage()> ShadedBand::drawing(const ReliefView& view, QSize size) const {
    const DerivedPtr d = sheet_.derivedPtr();
    const StockViewPtr stock = sheet_.stock();
    const PartJob* job = sheet_.jobInHand();
    if (look_ == Look::wood && stock && stock->part == sheet_.part()) {
        return [=] { return drawRelief(*stock->stock, view, size); };
    }
    if (look_ == Look::designed && job && job->placed) {
        return [=] {
            constexpr double lookCell = 0.4;
            return drawRelief(designedStock(*d, *job, lookCell), view, size);
        };
    }
    if (look_ == Look::missed && job && job->proof) {
        return [=, keep = d] { // the job is a part of it
            const auto& sides = job->proof->sides;
            const std::size_t up = job->held.back ? 1 : 0;
            return drawRelief(*job->proof->stock, view, size,
                              {&sides[up].deviation, up == 1 ? &sides[0].deviation : nullptr,
                               std::max(0.005, sides[up].excessMax),
                               std::max(gougeAllowed, sides[up].gougeMax)});
        };
    }
    return nullptr;
}

void ShadedBand::redraw() {
    if (!isVisible()) {
        return;
    }
    if (busy_) {
        wanted_ = true;
        return;
    }
    ReliefView view = view_;
    view.enlargeZ = sheet_.showsNeck() || sheet_.showsBody() ? 1 : 2; // a neck has height enough
    const double ratio = devicePixelRatioF();
    const std::function<QImage()> draw = drawing(view, (QSizeF(size()) * ratio).toSize());
    if (!draw) {
        image_ = {};
        update();
        return;
    }
    busy_ = true;
    inBackground(
        this,
        [draw, ratio] {
            QImage image = draw();
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
    if (image_.isNull()) {
        p.setFont(words(17));
        p.drawText(rect(), Qt::AlignCenter,
                   look_ == Look::missed
                       ? tr("What the wood misses appears here as soon as it is proved.")
                       : tr("The wood appears here as soon as there are programs."));
        return;
    }
    p.drawImage(0, 0, image_);
    const QString scale =
        sheet_.showsNeck() || sheet_.showsBody() ? QString() : tr(", heights doubled");
    p.drawText(QPointF(14, 46), look_ == Look::wood ? tr("as the tape leaves it") + scale
                                : look_ == Look::designed
                                    ? tr("the finished part") + scale
                                    : tr("slate: wood left, russet: too deep") + scale);
    p.drawText(
        QRectF(0, height() - 24, width() - 16.0, 18), Qt::AlignRight,
        tr("drag or arrows turn it, wheel comes nearer, D for the next look, S returns to the "
           "strips"));
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
    case Qt::Key_D:
        setLook(Look((static_cast<int>(look_) + 1) % 3));
        return;
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
