#include "deviation_view.h"

#include <algorithm>
#include <cmath>

namespace wren::app {

DeviationView::DeviationView(const ProofReport& proof)
    : picture(proof.deviation.columns, proof.deviation.rows, QImage::Format_ARGB32),
      most(static_cast<std::size_t>(proof.deviation.columns), 0.0F), least(most),
      cell(proof.deviation.cell) {
    const DeviationField& f = proof.deviation;
    // Full colour at what was found, so that the pattern of the passes can be seen.
    const double over = std::max(0.005, proof.excessMax);
    const double under = std::max(gougeAllowed, proof.gougeMax);
    for (int r = 0; r < f.rows; ++r) {
        auto* line = reinterpret_cast<QRgb*>(picture.scanLine(f.rows - 1 - r));
        for (int c = 0; c < f.columns; ++c) {
            const float v = f.at(c, r);
            const auto column = static_cast<std::size_t>(c);
            if (std::isnan(v)) {
                line[c] = qRgba(0, 0, 0, 0);
                continue;
            }
            most[column] = std::max(most[column], v);
            least[column] = std::min(least[column], v);
            if (v >= 0) {
                const double k = std::min(1.0, v / over);
                line[c] = qRgb(static_cast<int>(0xFC - k * (0xFC - 0x2F)),
                               static_cast<int>(0xF9 - k * (0xF9 - 0x50)),
                               static_cast<int>(0xF1 - k * (0xF1 - 0x71)));
            } else {
                const double k = std::min(1.0, -v / under);
                const bool stripe = -v > gougeAllowed && (c + r) % 6 < 2;
                line[c] = stripe ? qRgb(0x22, 0x2C, 0x2E)
                                 : qRgb(static_cast<int>(0xFC - k * (0xFC - 0x9A)),
                                        static_cast<int>(0xF9 - k * (0xF9 - 0x3A)),
                                        static_cast<int>(0xF1 - k * (0xF1 - 0x1E)));
            }
        }
    }
}

void DeviationView::turnWith(const SetupFromInstrument& frame) {
    const Vec3 o = frame.toInstrument({0, 0, 0});
    const Vec3 p = frame.toInstrument({1, 1, 0});
    picture = picture.mirrored(p.x < o.x, p.y < o.y);
    if (p.x < o.x) {
        std::reverse(most.begin(), most.end());
        std::reverse(least.begin(), least.end());
    }
}

} // namespace wren::app
