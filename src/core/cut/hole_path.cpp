#include "cut/hole_path.h"

#include <algorithm>
#include <cmath>

namespace wren {

int levelsFor(double depth, double perPass) {
    return static_cast<int>(std::max(1.0, std::ceil(depth / perPass - 1e-9)));
}

Path drillPath(const HoleHeights& heights, const std::vector<Bore>& holes, const Feeds& feeds) {
    PathBuilder path({0, 0, heights.clear});
    for (const Bore& b : holes) {
        path.travelTo(b.at, heights.clear, heights.approach);
        path.feed({b.at.x, b.at.y, b.top}, feeds.plunge);
        double z = b.top;
        const int pecks = levelsFor(b.top - b.bottom, heights.peck);
        for (int i = 1; i <= pecks; ++i) {
            const double next = b.top - (b.top - b.bottom) * i / pecks;
            if (i > 1) { // back down the clean hole to just over where it left off
                path.rapid({b.at.x, b.at.y, z + 0.5});
            }
            path.feed({b.at.x, b.at.y, next}, feeds.plunge);
            if (i == pecks) {
                path.dwell(0.3);
            }
            path.rapid({b.at.x, b.at.y, i == pecks ? heights.clear : heights.approach});
            z = next;
        }
    }
    return path.take();
}

Path borePath(const HoleHeights& heights, const std::vector<Bore>& holes, double diameter,
              const Bit& bit, const Feeds& feeds) {
    PathBuilder path({0, 0, heights.clear});
    for (const Bore& b : holes) {
        const double r = (diameter - bit.diameter) / 2;
        const Vec2 right{b.at.x + r, b.at.y};
        const Vec2 left{b.at.x - r, b.at.y};
        path.travelTo(right, heights.clear, heights.approach);
        path.feed({right.x, right.y, b.top + 0.2}, feeds.plunge);
        const double fall = std::min(feeds.depthPerPass, 0.5 * bit.diameter);
        const int turns = levelsFor(b.top + 0.2 - b.bottom, fall);
        const double per = (b.top + 0.2 - b.bottom) / turns;
        double z = b.top + 0.2;
        for (int i = 0; i <= turns; ++i) { // the last one level
            const double drop = i < turns ? per : 0;
            path.counter({left.x, left.y, z - drop / 2}, b.at, feeds.feed / 2);
            path.counter({right.x, right.y, z - drop}, b.at, feeds.feed / 2);
            z -= drop;
        }
        path.feed({b.at.x, b.at.y, z}, feeds.feed / 2);
        path.rapid({b.at.x, b.at.y, heights.clear});
    }
    return path.take();
}

Path notchPath(const HoleHeights& heights, Vec2 mouth, Vec2 end, double top, double bottom,
               const Feeds& feeds) {
    PathBuilder path({0, 0, heights.clear});
    path.travelTo(mouth, heights.clear, heights.approach);
    const int levels = levelsFor(top - bottom, feeds.depthPerPass);
    for (int i = 1; i <= levels; ++i) {
        const double z = top - (top - bottom) * i / levels;
        path.feed({mouth.x, mouth.y, z}, feeds.plunge);
        path.feed({end.x, end.y, z}, feeds.feed);
        path.feed({mouth.x, mouth.y, z}, feeds.feed);
    }
    path.rapid({mouth.x, mouth.y, heights.clear});
    return path.take();
}

} // namespace wren
