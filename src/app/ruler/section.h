#pragma once

#include "frame/sheet.h"

#include <QPainter>

namespace wren::app {

/// How the section at the cursor lies in its area.
struct SectionScale {
    double x = 0;   ///< along the board, mm
    double low = 0; ///< the board's edges there
    double high = 0;
    double k = 1;      ///< pixels a mm across
    double tall = 1;   ///< pixels a mm upward
    double middle = 0; ///< pixel of Y 0
    double base = 0;   ///< pixel of Z 0

    double px(double y) const { return middle + y * k; }
    double py(double z) const { return base - z * tall; }
    double height(double pixel) const { return (base - pixel) / tall; }
};
SectionScale sectionScale(const QRectF& area, const Sheet& sheet);

/// The board cut across at the cursor, and the numbers that belong to that place.
void drawCrossSection(QPainter& p, const QRectF& area, const Sheet& sheet);

/// Names and figures under a section, a line each from `y` down, as many as the area holds.
void drawFigures(QPainter& p, const QRectF& area, double y,
                 const std::vector<std::pair<QString, QString>>& rows);

} // namespace wren::app
