#include "ruler/whole_band.h"

#include "base/error.h"
#include "base/length.h"
#include "frame/text.h"
#include "frame/theme.h"
#include "ruler/rule.h"
#include "ruler/ruler_layout.h"
#include "ruler/whole_drawing.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

#include <cmath>

namespace wren::app {
namespace {

constexpr double tableWidth = 262;

QRectF drawingArea(const QSize& size) {
    return {nameWidth, rulerHeight + 8, size.width() - nameWidth - tableWidth - 26,
            size.height() - rulerHeight - 12.0};
}

} // namespace

WholeBand::WholeBand(Sheet& sheet, QWidget* parent) : QWidget(parent), sheet_(sheet) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("The whole instrument"));
    const auto refresh = [this] {
        if (fitted_ && !held_) {
            showAll();
        }
        update();
    };
    connect(&sheet_, &Sheet::derivedChanged, this, refresh);
    connect(&sheet_, &Sheet::stationChanged, this, refresh);
    connect(&sheet_.document(), &Document::unitChanged, this, qOverload<>(&QWidget::update));
}

void WholeBand::showAll() {
    fitted_ = true;
    if (sheet_.derived() && sheet_.derived()->body) {
        scale_ = WholeDrawing::fit(*sheet_.derived(), drawingArea(size()));
    }
    update();
}

void WholeBand::resizeEvent(QResizeEvent*) {
    if (fitted_) {
        showAll();
    }
}

void WholeBand::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), colour::sheet);
    p.setRenderHint(QPainter::Antialiasing);
    const Derived* d = sheet_.derived();
    if (!d || !d->body) {
        p.setFont(words(17));
        p.setPen(colour::faded);
        p.drawText(rect().adjusted(80, 0, -80, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("Strings, neck and bridge are seen together here once the instrument has a "
                      "neck and a body.\nAt the stations before this one, choose how the neck "
                      "meets the body and what the body is made of."));
        return;
    }
    const QRectF area = drawingArea(size());
    const WholeDrawing drawing(sheet_, scale_, area);
    drawing.names(p);
    drawing.plan(p);
    drawing.side(p);
    drawing.heights(p);
    const QRectF rule(area.left() - 8, 8, area.width() + 16, rulerHeight - 10);
    drawRule(p, rule, scale_, sheet_);
    nameRule(p, rule, sheet_);
    const QRectF table(area.right() + 20, 12, tableWidth - 14, height() - 24.0);
    p.setPen(QPen(colour::rule, 1));
    p.drawLine(QPointF(table.left() - 8, 8), QPointF(table.left() - 8, height() - 8.0));
    drawing.table(p, table);
    const double below = 100 + 17.0 * static_cast<double>(d->project.board.strings);
    drawing.lens(p, table.adjusted(0, below, 0, -4));
    drawing.solved(p);
    for (const Handle& h : drawing.handles()) {
        drawHandle(p, h.at, h.what == hovered_);
    }
    if (hasFocus()) {
        p.setPen(QPen(colour::russet, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
    }
}

std::vector<Handle> WholeBand::handles() const {
    if (!sheet_.derived() || !sheet_.derived()->body) {
        return {};
    }
    return WholeDrawing(sheet_, scale_, drawingArea(size())).handles();
}

void WholeBand::mousePressEvent(QMouseEvent* e) {
    dragFrom_ = e->position();
    if (e->button() != Qt::LeftButton) {
        return;
    }
    held_ = handleNear(handles(), e->position());
    if (held_) {
        grip_ = held_->at - e->position();
        sheet_.document().beginDrag();
    }
}

void WholeBand::mouseMoveEvent(QMouseEvent* e) {
    if (held_) {
        drag(e->position());
    } else if (e->buttons() & Qt::RightButton) {
        scale_.from -= (e->position().x() - dragFrom_.x()) / scale_.perMm;
        dragFrom_ = e->position();
        fitted_ = false;
        update();
    } else {
        const std::optional<Handle> near = handleNear(handles(), e->position());
        setCursor(near ? near->cursor : Qt::ArrowCursor);
        setToolTip(near ? tr("drag %1").arg(near->what) : QString());
        if (hovered_ != (near ? near->what : QString())) {
            hovered_ = near ? near->what : QString();
            update();
        }
    }
}

void WholeBand::mouseReleaseEvent(QMouseEvent*) {
    if (held_) {
        held_.reset();
        sheet_.document().endDrag();
    }
}

void WholeBand::drag(QPointF to) {
    try {
        if (held_->moved) {
            sheet_.document().change(held_->moved(to + grip_), tr("move %1").arg(held_->what));
        } else {
            const Typed t = held_->typed(to + grip_);
            sheet_.document().set(t.path, t.text);
        }
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

void WholeBand::wheelEvent(QWheelEvent* e) {
    scale_ = scale_.zoomed(std::pow(1.0015, e->angleDelta().y()), e->position().x());
    fitted_ = false;
    update();
}

void WholeBand::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Plus:
    case Qt::Key_Equal:
    case Qt::Key_Minus:
        scale_ = scale_.zoomed(e->key() == Qt::Key_Minus ? 0.8 : 1.25, width() / 2.0);
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

QString WholeBand::accessValue() const {
    const Derived* d = sheet_.derived();
    if (!d || !d->body) {
        return tr("nothing to show without a body");
    }
    const SetupGeometry g = setupGeometry(d->body->part, d->neck->part);
    const auto mm = [this](double v) { return qs(formatLength(v, sheet_.unit(), 1)); };
    return tr("neck angle %1 degrees, %2, strings %3 over the face at the bridge, whose saddles "
              "reach from %4 to %5")
        .arg(g.angle, 0, 'f', 2)
        .arg(g.through ? tr("neck %1 over the face").arg(mm(g.proud))
                       : tr("pocket %1 deep").arg(mm(g.pocketInner)),
             mm(g.middleSaddle), mm(g.saddleLow), mm(g.saddleHigh));
}

} // namespace wren::app
