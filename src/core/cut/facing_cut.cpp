#include "cut/facing_cut.h"

#include "cut/path_builder.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

constexpr double rampLength = 40; ///< mm over which each level is entered
constexpr double step = 0.7;      ///< of the diameter, between passes

} // namespace

Path facingPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                double margin) {
    const auto box = board.boundingBox();
    Vec2 low{std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    Vec2 high = low * -1;
    for (const SetupFromInstrument& place : setup.places) {
        for (const Vec3& corner : box) {
            const Vec3 p = place.toSetup(corner);
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        }
    }
    const Vec2 round{margin, margin};
    return facingPath(setup, low - round, high + round, bit, feeds);
}

Path facingPath(const Setup& setup, Vec2 low, Vec2 high, const Bit& bit, const Feeds& feeds) {
    const double y0 = low.y + bit.radius();
    const double y1 = high.y - bit.radius();
    const double x0 = low.x;
    const double x1 = high.x;
    const int passes =
        std::max(1, static_cast<int>(std::ceil((y1 - y0) / (step * bit.diameter) - 1e-9)));
    const int levels =
        std::max(1, static_cast<int>(std::ceil(setup.faced / feeds.depthPerPass - 1e-9)));
    const double clear = setup.topZ() + clearanceHeight;
    PathBuilder path({0, 0, clear});
    for (int level = 1; level <= levels; ++level) {
        const double z = setup.topZ() - setup.faced * level / levels;
        bool forward = true;
        for (int i = 0; i <= passes; ++i) {
            const double y = y1 > y0 ? y0 + (y1 - y0) * i / passes : (y0 + y1) / 2;
            const double from = forward ? x0 : x1;
            const double to = forward ? x1 : x0;
            if (i == 0) {
                path.travelTo({from, y}, clear, setup.topZ() + approachHeight);
                path.feed({from + std::copysign(std::min(rampLength, x1 - x0), to - from), y, z},
                          feeds.plunge);
            }
            path.feed({from, y, z}, feeds.feed);
            path.feed({to, y, z}, feeds.feed);
            forward = !forward;
        }
        path.rapid({path.at().x, path.at().y, clear});
    }
    return path.take();
}

} // namespace wren
