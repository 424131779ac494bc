#pragma once

#include "proof/proof.h"

#include <QImage>

namespace wren::app {

/// How the relief is looked at: turned about the long axis and about the vertical, radians.
struct ReliefView {
    double roll = 0.9; ///< 0: straight down on the face; pi: the underside
    double yaw = -0.25;
    double zoom = 1;
    double enlargeZ = 1; ///< heights against lengths
};

/// Colours for what misses the design, over the same cells as the stock.
struct ReliefPaint {
    const DeviationField* up = nullptr;   ///< of the faces that look up
    const DeviationField* down = nullptr; ///< of those that look down
    double over = 0.02;                   ///< full colour at this much left
    double under = 0.01;                  ///< and at this much gouged
};

/// Draws the stock as a lit relief on the processor, in parallel projection; transparent where
/// there is no wood. For a worker thread: some tens of milliseconds.
QImage drawRelief(const Stock& stock, const ReliefView& view, QSize size,
                  const ReliefPaint& paint = {});

} // namespace wren::app
