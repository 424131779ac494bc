#include "cut/panel_bits.h"

#include "cut/panel_order.h"
#include "design/shape.h"
#include "geom/inset.h"

#include <algorithm>
#include <limits>

#include <fmt/format.h>

namespace wren {

BitJudge goesInto(const PanelPocket& p, double deep, double reach, double hollow) {
    return [&p, deep, reach, hollow](const Bit& b) -> Verdict {
        if (!cutsFlat(b.kind) || b.kind == BitKind::compression) {
            return {};
        }
        if (b.radius() > hollow + 1e-6) {
            return {false,
                    fmt::format("its radius of {:.2f} mm does not go into corners of "
                                "{:.2f} mm",
                                b.radius(), hollow),
                    b.radius() - hollow};
        }
        if (inset(p.borders, b.radius()).empty()) {
            return {false, fmt::format("its {:.1f} mm find no room in it", b.diameter)};
        }
        const Verdict v = reaches(b, deep, true);
        return v.can ? reaches(b, reach, false) : v;
    };
}

double hollowOf(const PanelPocket& pocket) {
    double hollow = std::numeric_limits<double>::infinity();
    for (const Contour& c : pocket.borders) {
        hollow = std::min(hollow, tightestHollow(c));
    }
    return hollow;
}

bool wantsHalving(const PanelPocket& pocket, double through, const Drawer& drawer) {
    const double hollow = hollowOf(pocket);
    const auto any = [&](double deep) {
        const BitJudge fits = goesInto(pocket, deep, deep, hollow);
        return std::any_of(drawer.begin(), drawer.end(), [&](const Bit& b) { return fits(b).can; });
    };
    return pocket.through && !any(pocket.depth() + through) && any(pocket.depth() / 2 + through);
}

PanelPocket halfOf(const PanelPocket& pocket, const Panel& panel, bool back, double further) {
    PanelPocket half = pocket;
    half.fromBack = back;
    half.through = false;
    half.mouth = back == pocket.fromBack ? pocket.mouth : pocket.floor;
    half.floor = partingOf(panel) + (back ? further : 0);
    return half;
}

BitJudge makesHole(double d, double deep, double reach, bool through) {
    return [=](const Bit& b) -> Verdict {
        if (b.kind == BitKind::drill) {
            if (std::abs(b.diameter - d) > 0.06) {
                return {false, fmt::format("{:.2f} mm is not {:.2f} mm", b.diameter, d),
                        std::abs(b.diameter - d)};
            }
            const double more = through ? b.tipHeight() : 0;
            const Verdict v = reaches(b, deep + more, true);
            return v.can ? reaches(b, reach + more, false) : v;
        }
        if (!cutsFlat(b.kind) || b.kind == BitKind::compression || b.diameter > 0.9 * d ||
            b.diameter < d / 2) {
            return {};
        }
        const Verdict v = reaches(b, deep, true);
        return v.can ? reaches(b, reach, false) : v;
    };
}

const Bit* widerFor(const PanelPocket& p, const Bit& fine, const PocketReach& depth,
                    const Drawer& drawer, double stockToLeave) {
    const Bit* best = nullptr;
    if (p.slope != 0) {
        return nullptr;
    }
    for (const Bit& b : drawer) {
        const bool can = cutsFlat(b.kind) && b.kind != BitKind::compression &&
                         b.diameter > 1.4 * fine.diameter && b.radius() <= fine.diameter + 1e-9 &&
                         reaches(b, depth.deep, true).can && reaches(b, depth.reach, false).can &&
                         !inset(p.borders, b.radius() + stockToLeave).empty();
        if (can && (!best || widestOf(p.visible, depth.deep, p.through)(b, *best))) {
            best = &b;
        }
    }
    return best;
}

BitJudge drawsLines(double deep) {
    return [deep](const Bit& b) -> Verdict {
        if (b.kind == BitKind::vee) {
            return deep <= b.tipHeight() + 1e-9
                       ? Verdict{true, {}}
                       : Verdict{false,
                                 fmt::format("its cone of {:.1f} mm is lower than {:.1f} mm",
                                             b.tipHeight(), deep),
                                 deep - b.tipHeight()};
        }
        if (b.kind != BitKind::ball && b.kind != BitKind::taperedBall) {
            return {};
        }
        const double wide = b.kind == BitKind::ball ? b.diameter : b.tip;
        if (wide > widestStroke) {
            return {false, fmt::format("its {:.1f} mm draw too wide a line", wide)};
        }
        return reaches(b, deep, true);
    };
}

bool finerLines(const Bit& a, const Bit& b) {
    const bool va = a.kind == BitKind::vee;
    const bool vb = b.kind == BitKind::vee;
    return va != vb ? va : EndShape::of(a).radiusAt(0.5) < EndShape::of(b).radiusAt(0.5);
}

double edgeDepth(const Panel& panel, const BodyCut& cut, EdgeShare share) {
    return share == EdgeShare::whole ? panel.thickness() + cut.through
                                     : panel.thickness() / 2 + cut.through;
}

BitJudge cutsEdge(const Panel& panel, const BodyCut& cut, EdgeShare share) {
    const double deep = edgeDepth(panel, cut, share);
    const double hollow = tightestHollow(clockwise(panel.outline));
    return [=](const Bit& b) -> Verdict {
        if (!cutsFlat(b.kind)) {
            return {};
        }
        if (b.radius() > hollow + 1e-6) {
            return {false, fmt::format("its radius of {:.2f} mm does not follow a hollow of "
                                       "{:.2f} mm",
                                       b.radius(), hollow)};
        }
        return reaches(b, deep, true);
    };
}

bool outlineIsShared(const Panel& panel, const BodyCut& cut, const Drawer& drawer) {
    const auto any = [&](EdgeShare share) {
        const BitJudge judge = cutsEdge(panel, cut, share);
        return std::any_of(drawer.begin(), drawer.end(), [&](const Bit& b) {
            return (cut.outline.bit.empty() || b.name == cut.outline.bit) && judge(b).can;
        });
    };
    return !any(EdgeShare::whole) && any(EdgeShare::lower);
}

} // namespace wren
