#include "ruler/deviation_view.h"

#include "frame/theme.h"

#include <algorithm>
#include <cmath>

namespace wren::app {

QRgb toneOfMiss(double miss, double over, double under) {
    const QColor& full = miss >= 0 ? colour::slate : colour::russet;
    const double k = std::min(1.0, std::abs(miss) / (miss >= 0 ? over : under));
    const auto mixed = [k](int plain, int tone) {
        return static_cast<int>(plain + k * (tone - plain));
    };
    return qRgb(mixed(colour::sheet.red(), full.red()), mixed(colour::sheet.green(), full.green()),
                mixed(colour::sheet.blue(), full.blue()));
}

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
            const bool stripe = -v > gougeAllowed && (c + r) % 6 < 2;
            line[c] = stripe ? colour::ink.rgb() : toneOfMiss(v, over, under);
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
