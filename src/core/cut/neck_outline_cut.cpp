#include "cut/neck_outline_cut.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

double outlineParting(const NeckPart& part) {
    return -part.design().shoulder;
}

Path neckOutlinePath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                     const Feeds& feeds, OutlineShare share) {
    const Contour wallLine = laid(work.part.outline().contour(), work.setup);
    const double bed = work.place({0, 0, 0}).z;
    const bool front = share == OutlineShare::front;
    const auto lapper = [&](double standOff) {
        const Contour line = offsetAround(wallLine, standOff);
        std::vector<TabStretch> stretches;
        for (const NeckTab& tab : tabs) {
            const Vec2 at = work.place({tab.at.x, tab.at.y, 0}).xy();
            double best = 1e9;
            double place = 0;
            double s = 0;
            for (const ContourPiece& piece : line) {
                const double l = piece.length();
                const int n = std::max(1, static_cast<int>(l / 0.25));
                for (int i = 0; i <= n; ++i) {
                    const double d = length(piece.at(l * i / n) - at);
                    if (d < best) {
                        best = d;
                        place = s + l * i / n;
                    }
                }
                s += l;
            }
            stretches.push_back({place - tab.half - bit.radius(), place + tab.half + bit.radius(),
                                 front ? work.approach() : bed + tab.top});
        }
        return Lapper(line, stretches);
    };
    const double parting = work.place({0, 0, outlineParting(work.part)}).z;
    double bottom = work.setup.bottomZ() - work.cut.through - bit.tipHeight();
    if (share != OutlineShare::whole) {
        bottom = front ? parting : parting - partingOverlap;
    }
    LapJob job{lapper(bit.radius() + work.cut.wallSkin),
               work.cut.wallSkin > 0 ? std::optional(lapper(bit.radius())) : std::nullopt,
               front ? work.setup.topZ() : bed + roughFloor(work.part, work.cut),
               bottom,
               work.clear(),
               work.approach(),
               40};
    return lapPath(job, feeds);
}

OutlineReach outlineReach(const NeckPart& part, const Blank& blank, const NeckCut& cut,
                          bool shared) {
    const double wall = part.deepest() + cut.skin;
    const double front = part.blankTop();
    const double parting = outlineParting(part) + partingOverlap;
    return shared ? OutlineReach{blank.thickness - front + parting, wall + parting}
                  : OutlineReach{blank.thickness + cut.through, wall + front + cut.through};
}

Verdict cutsOutline(const Bit& bit, const OutlineReach& reach) {
    if (!cutsFlat(bit.kind)) {
        return {};
    }
    const Verdict v = reaches(bit, reach.deep, false);
    if (v.can && bit.fluteLength < reach.wall) {
        return {false, fmt::format("its flutes of {:.1f} mm are shorter than the wall it cuts, "
                                   "{:.1f} mm",
                                   bit.fluteLength, reach.wall)};
    }
    return v;
}

bool outlineIsShared(const NeckPart& part, const Blank& blank, const NeckCut& cut,
                     const Drawer& drawer) {
    const auto any = [&](bool shared) {
        const OutlineReach reach = outlineReach(part, blank, cut, shared);
        return std::any_of(drawer.begin(), drawer.end(), [&](const Bit& b) {
            return (cut.outline.bit.empty() || b.name == cut.outline.bit) &&
                   cutsOutline(b, reach).can;
        });
    };
    return !any(false) && any(true);
}

} // namespace wren
