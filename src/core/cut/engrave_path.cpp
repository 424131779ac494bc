#include "cut/panel_paths.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

struct LaidLine {
    Contour way; ///< setup frame
    double depth = 0;
    bool fromBack = false;
};

void draw(PathBuilder& path, const PanelWork& work, const LaidLine& line, const Feeds& feeds) {
    const int passes = levelsFor(line.depth, feeds.depthPerPass);
    const double lowest = work.setup.bottomZ() - 1;
    Contour way = line.way;
    for (int i = 1; i <= passes; ++i) {
        const double depth = line.depth * i / passes;
        const ContourPass contourPass(way, {}, [&work, &line, depth](Vec2 at) {
            const Vec2 p = work.setup.fromInstrument.toInstrument({at.x, at.y, 0}).xy();
            return work.z(work.panel.faceAt(p, line.fromBack)) - depth;
        });
        const Vec2 start = way.front().from;
        if (i == 1) {
            path.travelTo(start, work.clear(), work.approach());
        }
        path.feed({start.x, start.y, contourPass.overTabs(0, lowest)}, feeds.plunge);
        contourPass.run(path, 0, contourPass.whole(), lowest, lowest, feeds);
        way = reversed(way); // and back along it, deeper
    }
}

} // namespace

Path engravePath(const PanelWork& work, const std::vector<PanelLine>& lines, const Feeds& feeds) {
    std::vector<LaidLine> laid;
    laid.reserve(lines.size());
    for (const PanelLine& l : lines) {
        laid.push_back({laidBorder(l.way, work.setup), l.depth, l.fromBack});
    }
    PathBuilder path({0, 0, work.clear()});
    while (!laid.empty()) { // the nearest end next
        auto next = laid.begin();
        bool turned = false;
        double nearest = std::numeric_limits<double>::infinity();
        for (auto l = laid.begin(); l != laid.end(); ++l) {
            const double there = length(l->way.front().from - path.at().xy());
            const double back = length(l->way.back().to - path.at().xy());
            if (std::min(there, back) < nearest) {
                next = l;
                turned = back < there;
                nearest = std::min(there, back);
            }
        }
        if (turned) {
            next->way = reversed(next->way);
        }
        draw(path, work, *next, feeds);
        laid.erase(next);
    }
    path.rapid({path.at().x, path.at().y, work.clear()});
    return path.take();
}

} // namespace wren
