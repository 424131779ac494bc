#pragma once

#include "ruler/strips.h"

#include <QPointF>
#include <QString>

#include <functional>
#include <optional>
#include <vector>

namespace wren::app {

/// A change a drag asks for: a key and what would be typed for it.
struct Typed {
    QString path;
    QString text;
};

/// A place in a strip that can be taken hold of.
struct Handle {
    QPointF at;
    QString what; ///< a few words: what dragging it changes
    Qt::CursorShape cursor = Qt::SizeAllCursor;
    /// What the pointer's place means: what would be typed for a key, or the whole change.
    std::function<Typed(QPointF)> typed{};
    std::function<Project(QPointF)> moved{};
    std::string path{};                     ///< of the thing or node; empty for a plain number
    std::function<QString(QPointF)> onto{}; ///< what it snaps to there, in words
};

/// The nearest handle within reach of the pointer.
std::optional<Handle> handleNear(const std::vector<Handle>& all, QPointF at);

/// Its diamond; `here`: under the pointer, or in hand.
void drawHandle(QPainter& p, QPointF at, bool here);

/// What can be dragged in the plan: widths, scale, end and markers of the board; tabs among the
/// cuts.
std::vector<Handle> planHandles(const StripContext& c);
/// In the side view: the thickness.
std::vector<Handle> sideHandles(const StripContext& c);
/// In the cross-section: the radius, by the face's edge.
std::vector<Handle> sectionHandles(const QRectF& area, const Sheet& sheet);

} // namespace wren::app
