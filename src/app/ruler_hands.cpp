// Dragging by the ruler's handles, and what the mouse does.

#include "base/error.h"
#include "body_strips.h"
#include "neck_hands.h"
#include "ruler_band.h"
#include "ruler_layout.h"
#include "theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>

#include <cmath>

namespace wren::app {
namespace {

/// The nearest handle within reach of the pointer.
std::optional<Handle> handleAt(const std::vector<Handle>& all, QPointF at) {
    constexpr double reach = 9;
    std::optional<Handle> best;
    double nearest = reach;
    for (const Handle& h : all) {
        const double d = std::hypot(h.at.x() - at.x(), h.at.y() - at.y());
        if (d < nearest) {
            nearest = d;
            best = h;
        }
    }
    return best;
}

} // namespace

QRectF RulerBand::sectionArea() const {
    return {width() - sectionWidth + 4, 8, sectionWidth - 20, height() - 16.0};
}

std::vector<Handle> RulerBand::handles() {
    std::vector<Handle> all;
    if (!sheet_.derived() || !sheet_.derived()->board ||
        (sheet_.part() == Part::neck && !sheet_.showsNeck()) ||
        (sheet_.part() == Part::body && !sheet_.showsBody())) {
        return all;
    }
    QPainter none; // handles are asked for where they are, not drawn
    const auto take = [&all](std::vector<Handle> some) {
        all.insert(all.end(), some.begin(), some.end());
    };
    for (const Strip& strip : strips_) {
        const StripContext c{none, scale_, sheet_, strip.area};
        if (strip.kind == Strip::plan) {
            take(planHandles(c));
        } else if (strip.kind == Strip::side) {
            take(sideHandles(c));
        } else if (strip.kind == Strip::neckPlan) {
            take(neckPlanHandles(c));
        } else if (strip.kind == Strip::neckSide) {
            take(neckSideHandles(c));
        } else if (strip.kind == Strip::bodyPlan) {
            take(bodyPlanHandles(c));
        }
    }
    if (sheet_.showsBody()) {
        return all;
    }
    take(sheet_.showsNeck() ? neckSectionHandles(sectionArea(), sheet_)
                            : sectionHandles(sectionArea(), sheet_));
    return all;
}

void RulerBand::drawHandles(QPainter& p) {
    const QRectF area = stripsArea();
    for (const Handle& h : handles()) {
        const bool inSection = h.at.x() > width() - sectionWidth;
        if (!inSection && (h.at.x() < area.left() - 9 || h.at.x() > area.right() + 9)) {
            continue; // zoomed out of sight
        }
        const bool here = h.what == hovered_;
        const double r = here ? 5.5 : 4;
        p.setPen(QPen(here ? colour::russet : colour::ink, 1.2));
        p.setBrush(here ? colour::russet : colour::sheet);
        p.drawPolygon(QPolygonF{h.at + QPointF(0, -r), h.at + QPointF(r, 0), h.at + QPointF(0, r),
                                h.at + QPointF(-r, 0)});
    }
}

void RulerBand::drag(QPointF to) {
    try {
        const Typed t = held_->typed(to + grip_);
        sheet_.document().set(t.path, t.text);
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

void RulerBand::hover(QPointF at) {
    const auto handle = handleAt(handles(), at);
    const QString what = handle ? handle->what : QString();
    setCursor(handle ? handle->cursor : Qt::ArrowCursor);
    if (what != hovered_) {
        hovered_ = what;
        setToolTip(what.isEmpty() ? QString() : tr("drag: %1").arg(what));
        update();
    }
}

void RulerBand::mousePressEvent(QMouseEvent* e) {
    setFocus(Qt::MouseFocusReason);
    dragFrom_ = e->position();
    if (e->button() != Qt::LeftButton) {
        return;
    }
    held_ = handleAt(handles(), e->position());
    if (held_) {
        grip_ = held_->at - e->position();
        sheet_.document().beginDrag();
    } else if (sheet_.showsBody() && pieceAt(sectionArea(), sheet_, e->position()) >= 0) {
        sheet_.setPiece(pieceAt(sectionArea(), sheet_, e->position()));
    } else if (e->position().x() < width() - sectionWidth) {
        sheet_.setCursor(scale_.mm(e->position().x()));
    }
}

void RulerBand::mouseMoveEvent(QMouseEvent* e) {
    if (held_) {
        drag(e->position());
    } else if (e->buttons() & Qt::LeftButton && dragFrom_.x() < width() - sectionWidth) {
        sheet_.setCursor(scale_.mm(e->position().x()));
    } else if (e->buttons() & Qt::RightButton) {
        scale_.from -= (e->position().x() - dragFrom_.x()) / scale_.perMm;
        dragFrom_ = e->position();
        fitted_ = false;
        update();
    } else {
        hover(e->position());
    }
}

void RulerBand::mouseReleaseEvent(QMouseEvent*) {
    if (held_) {
        held_.reset();
        sheet_.document().endDrag();
        if (fitted_) {
            showAll();
        }
    }
}

} // namespace wren::app
