#pragma once

#include "proof/proof.h"

#include <QImage>

#include <memory>
#include <vector>

namespace wren::app {

/// The proof's deviation made ready for drawing: slate where wood is left, russet where it is
/// gouged, striped where deeper than allowed. Goes over every cell, so it is for a worker thread.
struct DeviationView {
    explicit DeviationView(const ProofReport& proof);
    /// Turned to run with the instrument, where the wood lies turned over.
    void turnWith(const SetupFromInstrument& frame);

    QImage picture;          ///< one pixel a cell, row 0 at the back
    std::vector<float> most; ///< over the width, for each column; 0 where nothing is judged
    std::vector<float> least;
    double cell = 0;
};
/// Slate for what is left, russet for what is gouged; full colour at `over` and `under`.
QRgb toneOfMiss(double miss, double over, double under);

using DeviationViewPtr = std::shared_ptr<const DeviationView>;

} // namespace wren::app
