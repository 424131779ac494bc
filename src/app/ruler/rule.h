#pragma once

#include "ruler/ruler_scale.h"

#include <QPainter>
#include <QRectF>

namespace wren::app {

class Sheet;

/// A steel rule: distances along its lower edge, the frets let in along its upper one.
void drawRule(QPainter& p, const QRectF& rule, const RulerScale& scale, const Sheet& sheet);
/// What it counts, left of it.
void nameRule(QPainter& p, const QRectF& rule, const Sheet& sheet);

} // namespace wren::app
