#include "cut/neck_outline_cut.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

namespace {

constexpr double longestRamp = 40; ///< mm along the outline

/// The tightest outward bend about the place where the last lap is led on and off.
double bulgeNear(const Contour& clockwise, double place) {
    constexpr double about = 25;
    double tightest = 1e9;
    double s = 0;
    for (const ContourPiece& piece : clockwise) {
        const double end = s + piece.length();
        if (piece.kind == ContourPiece::Kind::arcClockwise && end > place - about &&
            s < place + about) {
            tightest = std::min(tightest, piece.radius());
        }
        s = end;
    }
    return tightest;
}

} // namespace

double outlineBottom(const NeckPart& part, Vec2 at, double around) {
    if (part.onCarved(at) > -around) {
        return part.blankTop();
    }
    return part.face(std::min(at.x + around, part.outline().headStart()));
}

double outlineParting(const NeckPart& part) {
    return -part.design().shoulder;
}

Path neckOutlinePath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                     const Feeds& feeds, OutlineShare share) {
    const Contour wallLine = laid(work.part.outline().contour(), work.setup);
    const double bed = work.place({0, 0, 0}).z;
    const bool front = share == OutlineShare::front;
    const auto contourPass = [&](double standOff) {
        const Contour line = offsetAround(wallLine, standOff);
        std::vector<TabStretch> stretches;
        for (const NeckTab& tab : tabs) {
            const Vec2 at = work.place({tab.at.x, tab.at.y, 0}).xy();
            const double place = placeOn(line, at);
            stretches.push_back({place - tab.half - bit.radius(), place + tab.half + bit.radius(),
                                 front ? work.approach() : bed + tab.top});
        }
        // The head's face lies below the blank's: no deeper than through it.
        const ContourPass::Floor floor = [&work, &bit](Vec2 at) {
            const Vec2 here = work.setup.fromInstrument.toInstrument({at.x, at.y, 0}).xy();
            const double z = outlineBottom(work.part, here, bit.radius());
            return work.place({0, 0, z}).z - work.cut.through - bit.tipHeight();
        };
        return ContourPass(line, stretches, front ? ContourPass::Floor() : floor);
    };
    const double parting = work.place({0, 0, outlineParting(work.part)}).z;
    double bottom = work.setup.bottomZ() - work.cut.through - bit.tipHeight();
    if (share != OutlineShare::whole) {
        bottom = front ? parting : parting - partingOverlap;
    }
    ContourPasses job{
        contourPass(bit.radius() + work.cut.wallStock),
        work.cut.wallStock > 0 ? std::optional(contourPass(bit.radius())) : std::nullopt,
        front ? work.setup.topZ() : bed + roughFloor(work.part, work.cut),
        bottom,
        work.clear(),
        work.approach(),
        longestRamp,
        leadOver(bulgeNear(wallLine, longestRamp) + bit.radius(), work.cut.wallStock)};
    return contourPath(job, feeds);
}

OutlineReach outlineReach(const NeckPart& part, const Setup& back, const NeckCut& cut,
                          bool shared) {
    const NeckOutline& o = part.outline();
    OutlineReach reach;
    for (double x = o.tip() + 0.5; x < o.end(); x += 2) {
        // Heights over the glue plane, as the back's setup sees them.
        double bottom = -outlineBottom(part, {x, 0}, 0) - cut.through;
        if (shared) {
            bottom = std::max(bottom, -outlineParting(part) - partingOverlap);
        }
        const double top = back.fromInstrument.toInstrument({0, 0, back.woodTop(x, colletNut)}).z;
        reach.deep = std::max(reach.deep, -top - bottom);
        const auto wood = o.across(x);
        const NeckBack::Slice slice = part.back().slice(x);
        for (double y : {wood[0] + 0.1, wood[1] - 0.1}) {
            reach.wall = std::max(reach.wall, slice.depth(y) + cut.stockToLeave - bottom);
        }
    }
    return reach;
}

Verdict cutsOutline(const Bit& bit, const OutlineReach& reach) {
    if (!cutsFlat(bit.kind)) {
        return {};
    }
    Verdict v = reaches(bit, reach.deep, false);
    if (v.can && bit.fluteLength < reach.wall) {
        return {false,
                fmt::format("its flutes of {:.1f} mm are shorter than the wall it cuts, "
                            "{:.1f} mm",
                            bit.fluteLength, reach.wall),
                reach.wall - bit.fluteLength};
    }
    return v;
}

bool outlineIsShared(const NeckPart& part, const Setup& back, const NeckCut& cut,
                     const Drawer& drawer) {
    const auto any = [&](bool shared) {
        const OutlineReach reach = outlineReach(part, back, cut, shared);
        return std::any_of(drawer.begin(), drawer.end(), [&](const Bit& b) {
            return (cut.outline.bit.empty() || b.name == cut.outline.bit) &&
                   cutsOutline(b, reach).can;
        });
    };
    return !any(false) && any(true);
}

} // namespace wren
