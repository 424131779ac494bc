#include "strip_parts.h"
#include "strips.h"
#include "theme.h"

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

QString qs(const std::string& s) {
    return QString::fromStdString(s);
}

} // namespace

QImage deviationPicture(const ProofReport& proof) {
    const DeviationField& f = proof.deviation;
    QImage image(f.columns, f.rows, QImage::Format_ARGB32);
    // Full colour at what was found, so that the pattern of the passes can be seen.
    const double over = std::max(0.005, proof.excessMax);
    const double under = std::max(gougeAllowed, proof.gougeMax);
    for (int r = 0; r < f.rows; ++r) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(f.rows - 1 - r));
        for (int c = 0; c < f.columns; ++c) {
            const float v = f.at(c, r);
            if (std::isnan(v)) {
                line[c] = qRgba(0, 0, 0, 0);
            } else if (v >= 0) {
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
    return image;
}

void drawDeviationPlan(const StripContext& c, const QImage& picture) {
    const Derived& d = *c.sheet.derived();
    QPainter& p = c.painter;
    const double k = acrossScale(c, d.board->widest() + 4);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(stockArea(c, d, k), picture);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(colour::ink, 1.2));
    p.drawPolygon(boardPolygon(c, *d.board, k));
}

/// Most and least over the width at each place along the board.
void drawDeviationProfile(const StripContext& c) {
    const Derived& d = *c.sheet.derived();
    const DeviationField& f = d.proof->deviation;
    QPainter& p = c.painter;
    const double most = std::max({0.04, d.proof->excessMax, d.proof->gougeMax});
    const double k = c.area.height() / (1.5 * most);
    const double zero = c.area.bottom() - 0.5 * most * k;
    const double allowed = d.project.cut.scallop + excessBeyondScallop;
    const auto line = [&](double v, const QPen& pen) {
        p.setPen(pen);
        p.drawLine(QPointF(c.scale.px(0), zero - v * k),
                   QPointF(c.scale.px(d.board->length()), zero - v * k));
    };
    line(0, QPen(colour::faded, 1));
    line(allowed, QPen(colour::ochre, 1, Qt::DashLine));
    line(-gougeAllowed, QPen(colour::russet, 1, Qt::DashLine));
    QVector<QLineF> spans;
    const int step = std::max(1, static_cast<int>(0.7 / (c.scale.perMm * f.cell)));
    for (int i = 0; i < f.columns; i += step) {
        float hi = 0;
        float lo = 0;
        for (int r = 0; r < f.rows; r += 2) {
            const float v = f.at(i, r);
            if (!std::isnan(v)) {
                hi = std::max(hi, v);
                lo = std::min(lo, v);
            }
        }
        if (hi == 0 && lo == 0) {
            continue;
        }
        const double x =
            c.scale.px(d.setup->fromInstrument.toInstrument({(i + 0.5) * f.cell, 0, 0}).x);
        spans << QLineF(x, zero - hi * k, x, zero - lo * k);
    }
    p.setPen(QPen(colour::slate, 1));
    p.drawLines(spans);
    const double right = c.scale.px(d.board->length()) + 8;
    label(p, {right, zero - allowed * k + 4}, qs(fmt::format("+{:.3f} allowed", allowed)),
          colour::ochre);
    label(p, {right, zero + gougeAllowed * k + 8}, qs(fmt::format("-{:.3f} stop", gougeAllowed)),
          colour::russet);
}

} // namespace wren::app
