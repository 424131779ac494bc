// Dragging by the ruler's handles, and what the mouse does.

#include "base/error.h"
#include "base/length.h"
#include "frame/theme.h"
#include "job/list_keys.h"
#include "job/nearby.h"
#include "ruler/body_strips.h"
#include "ruler/neck_hands.h"
#include "ruler/ruler_band.h"

#include "ruler/wood_seen.h"
#include "ruler/ruler_layout.h"
#include "ruler/strip_parts.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPolygonF>

#include <algorithm>
#include <cmath>

namespace wren::app {
QRectF RulerBand::sectionArea() const {
    return {width() - sectionWidth + 4, 8, sectionWidth - 20, height() - 16.0};
}

std::vector<Handle> RulerBand::handles() {
    std::vector<Handle> all;
    for (const Strip& strip : strips_) { // of its wood, where the blank is in hand
        QPainter nothing;
        const StripContext c{nothing, scale_, sheet_, strip.area};
        const auto some = strip.kind == Strip::plan       ? boardBlankHandles(c)
                          : strip.kind == Strip::neckPlan ? neckBlankHandles(c)
                          : strip.kind == Strip::bodyPlan ? pieceBlankHandles(c)
                                                          : std::vector<Handle>();
        all.insert(all.end(), some.begin(), some.end());
    }
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
        const bool taken = !h.path.empty() && h.path == sheet_.taken();
        const bool here = h.what == hovered_ || taken;
        drawHandle(p, h.at, here);
    }
    if (held_ && !onto_.isEmpty()) {
        labelOver(p, pointer_ + QPointF(14, -10), onto_, colour::moss);
    }
}

void RulerBand::drag(QPointF to) {
    const QPointF at = to + grip_;
    onto_ = held_->onto ? held_->onto(at) : QString();
    if (held_->moved) {
        tryChange(tr("move %1").arg(held_->what), [&] { return held_->moved(at); });
        return;
    }
    try {
        const Typed t = held_->typed(at);
        sheet_.document().set(t.path, t.text);
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

void RulerBand::tryChange(const QString& what, const std::function<Project()>& change) {
    try {
        sheet_.document().change(change(), what);
        Q_EMIT accepted();
    } catch (const Error& e) {
        Q_EMIT refused(QString::fromUtf8(e.what()));
    }
}

const RulerBand::Strip* RulerBand::planStrip() const {
    const auto it = std::find_if(strips_.begin(), strips_.end(),
                                 [](const Strip& s) { return s.kind == Strip::bodyPlan; });
    return bodyStation() && it != strips_.end() ? &*it : nullptr;
}

/// What lies under a place of the body's plan, to be moved as a whole.
std::optional<Handle> RulerBand::thingUnder(QPointF at) {
    const Strip* strip = planStrip();
    if (!strip || at.x() > width() - sectionWidth) {
        return {};
    }
    QPainter none;
    const StripContext c{none, scale_, sheet_, strip->area};
    const std::string path = pathOf(featureAt(*sheet_.derived(), bodyPlaceAt(c, at)));
    for (Handle& h : bodyPlanHandles(c)) {
        if (!path.empty() && h.path == path && h.what.indexOf(tr("end of")) < 0) {
            return h;
        }
    }
    if (path.empty()) {
        return {};
    }
    Handle fixed{at, {}}; // a bridge, a neck pocket: its numbers place it
    fixed.path = path;
    return fixed;
}

namespace {

/// A node's list and number: "body.outline.3".
std::optional<ItemPath> nodeIn(const std::string& path) {
    const std::optional<ItemPath> item = itemPath(path);
    const std::string outline = "outline";
    const bool node =
        item && item->list.size() > outline.size() &&
        item->list.compare(item->list.size() - outline.size(), outline.size(), outline) == 0;
    return node ? item : std::nullopt;
}

} // namespace

void RulerBand::nudge(Vec2 by) {
    tryChange(tr("move it"), [&] {
        const Project moved = movedBy(sheet_.project(), sheet_.taken(), by);
        return nodeIn(sheet_.taken()) ? settledOnEdge(moved) : moved;
    });
}

void RulerBand::remove() {
    const std::string path = sheet_.taken();
    tryChange(tr("remove it"), [&] {
        const std::optional<ItemPath> node = nodeIn(path);
        if (!itemPath(path)) {
            throw Error("That belongs to every body; it has numbers but cannot be removed.");
        }
        return node ? withoutNode(sheet_.project(), node->list, node->number)
                    : withRemoved(sheet_.project(), path);
    });
    sheet_.take({});
}

void RulerBand::doubleIt() {
    std::string fresh;
    tryChange(tr("double it"), [&] {
        const std::string path = sheet_.taken();
        if (nodeIn(path) || !itemPath(path)) {
            throw Error("Only things of which there can be several are doubled.");
        }
        return doubledAside(sheet_.project(), path, fresh);
    });
    if (!fresh.empty()) {
        sheet_.take(fresh);
    }
}

void RulerBand::mirror() {
    tryChange(tr("mirror it over the centreline"),
              [&] { return mirroredOver(sheet_.project(), sheet_.taken()); });
}

/// Where a new thing goes: under the pointer, or else at the cursor.
Vec2 RulerBand::placeForNew(const NewThing& thing) const {
    QPainter none;
    if (const Strip* strip = planStrip()) {
        const StripContext c{none, scale_, sheet_, strip->area};
        const bool over = strip->area.contains(pointer_) && pointer_.x() < width() - sectionWidth;
        const BodyPlace& place = sheet_.derived()->body->part.place();
        const Vec2 at =
            place.fromBridge(over ? bodyPlaceAt(c, pointer_) : Vec2{sheet_.cursor(), 0});
        return {std::round(at.x), std::round(at.y)};
    }
    const bool bass = sheet_.project().board.hand == Hand::left;
    for (const Strip& strip : strips_) {
        if (strip.area.contains(pointer_) && pointer_.x() < width() - sectionWidth) {
            const bool upper = pointer_.y() < strip.area.center().y();
            const double side = strip.kind == Strip::plan && upper ? 1 : -1;
            return {cursorAt(pointer_), thing.part == Role::board ? side : 0};
        }
    }
    return {sheet_.cursor(), bass ? 1.0 : -1.0};
}

void RulerBand::add(const NewThing& thing) {
    const Derived* d = sheet_.derived();
    if (!d || (thing.part == Role::body && !planStrip())) {
        return;
    }
    const Vec2 at = placeForNew(thing);
    std::string fresh;
    tryChange(tr("a new %1").arg(QString::fromStdString(thing.name)), [&] {
        const bool tab = thing.list == "cut.tabs";
        return withNew(tab ? withTabsByHand(*d) : sheet_.project(), thing, at, fresh);
    });
    if (!fresh.empty()) {
        sheet_.take(fresh);
    }
    setFocus();
}

bool RulerBand::ownKey(const QKeyEvent& e) const {
    if (sheet_.taken().empty()) {
        return false;
    }
    const bool plain = !(e.modifiers() & (Qt::ControlModifier | Qt::AltModifier));
    switch (e.key()) {
    case Qt::Key_Left:
    case Qt::Key_Right:
    case Qt::Key_Up:
    case Qt::Key_Down:
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
    case Qt::Key_Escape:
    case Qt::Key_M:
        return plain;
    case Qt::Key_D:
        return e.modifiers() & Qt::ControlModifier;
    default:
        return false;
    }
}

bool RulerBand::event(QEvent* e) {
    if (e->type() == QEvent::ShortcutOverride && ownKey(*static_cast<QKeyEvent*>(e))) {
        e->accept();
        return true;
    }
    return QWidget::event(e);
}

void RulerBand::mouseDoubleClickEvent(QMouseEvent* e) {
    const Strip* strip = planStrip();
    if (!strip || e->position().x() > width() - sectionWidth) {
        return;
    }
    // The outline of the thing in hand, or the body's own.
    std::string list = "body.outline";
    for (const ListKey& l : listsOf(sheet_.project())) {
        if (l.path == thingOf(sheet_.taken()) + ".outline") {
            list = l.path;
        }
    }
    QPainter none;
    const StripContext c{none, scale_, sheet_, strip->area};
    const Vec2 at = sheet_.derived()->body->part.place().fromBridge(bodyPlaceAt(c, e->position()));
    std::size_t number = 0;
    bool added = false;
    tryChange(tr("another node"), [&] {
        const Project more =
            withNode(sheet_.project(), list,
                     {std::round(at.x * 10) / 10, std::round(at.y * 10) / 10}, number);
        added = true;
        return more;
    });
    if (added) {
        sheet_.take(list + "." + std::to_string(number));
    }
}

void RulerBand::hover(QPointF at) {
    const auto handle = handleNear(handles(), at);
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
    held_ = handleNear(handles(), e->position());
    if (!held_) {
        held_ = thingUnder(e->position());
    }
    if (held_ && !held_->path.empty()) {
        sheet_.take(held_->path);
    } else if (!held_ && e->position().x() < width() - sectionWidth) {
        sheet_.take({});
    }
    if (held_ && !held_->moved && !held_->typed) {
        held_.reset(); // taken in hand, but not to be dragged
        return;
    }
    if (held_) {
        grip_ = held_->at - e->position();
        sheet_.document().beginDrag();
    } else if (sheet_.showsBody() && pieceAt(sectionArea(), sheet_, e->position()) >= 0) {
        sheet_.setPiece(pieceAt(sectionArea(), sheet_, e->position()));
    } else if (e->position().x() < width() - sectionWidth) {
        sheet_.setCursor(cursorAt(e->position()));
    }
}

void RulerBand::mouseMoveEvent(QMouseEvent* e) {
    pointer_ = e->position();
    if (held_) {
        drag(e->position());
    } else if (e->buttons() & Qt::LeftButton && dragFrom_.x() < width() - sectionWidth) {
        sheet_.setCursor(cursorAt(e->position()));
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
        onto_.clear();
        sheet_.document().endDrag();
        if (fitted_) {
            showAll();
        }
    }
}

} // namespace wren::app
