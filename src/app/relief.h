#pragma once

#include "proof/stock.h"

#include <QImage>

namespace wren::app {

/// How the relief is looked at: turned about the long axis and about the vertical, radians.
struct ReliefView {
    double roll = 0.9; ///< 0: straight down on the face; pi: the underside
    double yaw = -0.25;
    double zoom = 1;
    double enlargeZ = 1; ///< heights against lengths
};

/// Draws the stock as a lit relief on the processor, in parallel projection; transparent where
/// there is no wood. For a worker thread: some tens of milliseconds.
QImage drawRelief(const Stock& stock, const ReliefView& view, QSize size);

} // namespace wren::app
