#pragma once

#include "sheet.h"

#include <QPainter>

namespace wren::app {

/// The board cut across at the cursor, and the numbers that belong to that place.
void drawCrossSection(QPainter& p, const QRectF& area, const Sheet& sheet);

} // namespace wren::app
