#include "ruler/unrolled.h"

#include <algorithm>
#include <cmath>

namespace wren::app {
namespace {

/// One column: places across against the way round from the spine.
struct Way {
    std::vector<double> y;
    std::vector<double> round;

    Way(const NeckPart& part, double x) {
        const std::vector<Vec2> section = part.section(x, 65);
        double s = 0;
        for (std::size_t i = 0; i < section.size(); ++i) {
            s += i == 0 ? 0 : length(section[i] - section[i - 1]);
            y.push_back(section[i].x);
            round.push_back(s);
        }
        const double middle = at(y, round, part.back().slice(x).centre());
        for (double& r : round) {
            r -= middle;
        }
    }

    static double at(const std::vector<double>& from, const std::vector<double>& to, double v) {
        if (from.empty()) {
            return 0;
        }
        const auto after = std::upper_bound(from.begin(), from.end(), v);
        if (after == from.begin() || after == from.end()) {
            return after == from.begin() ? to.front() : to.back();
        }
        const auto i = static_cast<std::size_t>(after - from.begin());
        const double step = from[i] - from[i - 1];
        const double share = step > 0 ? (v - from[i - 1]) / step : 0;
        return to[i - 1] + (to[i] - to[i - 1]) * share;
    }
};

} // namespace

Unrolled unrolledBack(const NeckPart& part, const QImage& plan, Vec2 corner, double cell) {
    Unrolled out;
    out.from = part.outline().tip();
    std::vector<Way> ways;
    double widest = 1;
    for (double x = out.from + out.pitch / 2; x < part.outline().end(); x += out.pitch) {
        ways.emplace_back(part, x);
        const std::vector<double>& round = ways.back().round;
        out.edges.push_back(round.empty() ? std::array{0.0, 0.0}
                                          : std::array{round.front(), round.back()});
        widest = std::max({widest, -out.edges.back()[0], out.edges.back()[1]});
    }
    const int rows = 2 * static_cast<int>(std::ceil(widest / out.pitch)) + 1;
    out.picture = QImage(static_cast<int>(ways.size()), rows, QImage::Format_ARGB32);
    out.picture.fill(Qt::transparent);
    for (int r = 0; r < rows; ++r) {
        auto* line = reinterpret_cast<QRgb*>(out.picture.scanLine(r));
        const double s = (rows / 2 - r) * out.pitch;
        for (std::size_t i = 0; i < ways.size(); ++i) {
            if (s < out.edges[i][0] || s > out.edges[i][1] || ways[i].y.empty()) {
                continue;
            }
            const double x = out.from + (static_cast<double>(i) + 0.5) * out.pitch;
            const double y = Way::at(ways[i].round, ways[i].y, s);
            const int px = static_cast<int>((x - corner.x) / cell);
            const int py = static_cast<int>((corner.y - y) / cell);
            if (plan.valid(px, py)) {
                line[i] = plan.pixel(px, py);
            }
        }
    }
    return out;
}

} // namespace wren::app
