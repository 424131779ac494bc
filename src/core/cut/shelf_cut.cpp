#include "cut/shelf_cut.h"

#include "cut/path_builder.h"
#include "cut/settings.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double step = 0.45;       ///< of the diameter, between passes
constexpr double pastEdge = 0.6;    ///< mm the cutter stands clear of the board when it goes down
constexpr double pastHeadEnd = 0.3; ///< mm the last pass reaches beyond the board

} // namespace

Path shelfPath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds) {
    const NutShelf& shelf = *board.shelf();
    const Vec2 along =
        (shelf.wallHigh - shelf.wallLow) * (1 / length(shelf.wallHigh - shelf.wallLow));
    const Vec2 toHead{-along.y, along.x};
    // The ledge square to its wall: shorter than along the board where the nut stands at a slant.
    const double deep = board.design().nutShelf * along.y;
    const double r = bit.radius();
    const double last = std::max(r, deep + pastHeadEnd - r);
    const int passes = static_cast<int>(std::ceil((last - r) / (step * bit.diameter) - 1e-9));
    const double top = setup.facedTop();
    const int levels =
        std::max(1, static_cast<int>(std::ceil((top - shelf.floor) / feeds.depthPerPass - 1e-9)));
    const double clear = setup.topZ() + clearanceHeight;
    // The edges lean against the passes; the further of the two ends serves both.
    const double out = r + pastEdge + std::abs(along.x / along.y) * (last + r);
    PathBuilder path({0, 0, clear});
    bool forward = true;
    bool entered = false;
    for (int level = 1; level <= levels; ++level) {
        const double z = top + (shelf.floor - top) * level / levels;
        for (int i = passes; i >= 0; --i) {
            const double off = passes > 0 ? r + (last - r) * i / passes : r;
            Vec2 a = shelf.wallLow + toHead * off - along * out;
            Vec2 b = shelf.wallHigh + toHead * off + along * out;
            if (!forward) {
                std::swap(a, b);
            }
            const Vec3 from = setup.fromInstrument.toSetup({a.x, a.y, z});
            const Vec3 to = setup.fromInstrument.toSetup({b.x, b.y, z});
            if (!entered) {
                path.travelTo(from.xy(), clear, setup.topZ() + approachHeight);
                entered = true;
            }
            if (path.at().z > from.z) {
                path.feed({from.x, from.y, path.at().z}, feeds.feed);
                path.feed(from, feeds.plunge);
            }
            path.feed(from, feeds.feed);
            path.feed(to, feeds.feed);
            forward = !forward;
        }
    }
    path.rapid({path.at().x, path.at().y, clear});
    return path.take();
}

} // namespace wren
