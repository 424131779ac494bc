#include "part/judge_neck_part.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double besideRod = 1;  ///< mm of wood between a bolt's pilot and the rod's slot
constexpr double leastPilot = 5; ///< mm a bolt still holds in
// For all strings of a set, mm3:
constexpr double weakAlong = 600;  ///< where the grain runs along the head
constexpr double weakAcross = 900; ///< where it runs out of it

/// Distance of a place from a pocket's box, 0 inside; mm.
double distanceTo(const NeckPocket& p, Vec2 at) {
    const Vec2 own = p.own(at);
    const double dx = std::max({p.box[0].x - own.x, own.x - p.box[1].x, 0.0});
    const double dy = std::max({p.box[0].y - own.y, own.y - p.box[1].y, 0.0});
    return std::hypot(dx, dy);
}

void judgeBolts(Findings& out, const NeckPart& neck) {
    int number = 0;
    for (const Hole& h : neck.holes()) {
        if (h.feature.kind != FeatureKind::bolt) {
            continue;
        }
        ++number;
        double wood = 1e9;  // between it and the nearest of them
        double least = 1e9; // over its end, where it stands under one
        for (const NeckPocket& p : neck.pockets()) {
            const bool rod = p.kind == NeckPocketKind::rod || p.kind == NeckPocketKind::adjuster;
            if (!rod || p.fromBack) {
                continue;
            }
            const double aside = distanceTo(p, h.at) - h.diameter / 2;
            const double over = p.bottomAt(p.own(h.at).x) - h.floor;
            wood = std::min(wood, std::max(aside, over));
            least = aside < besideRod ? std::min(least, over) : least;
        }
        if (wood < besideRod) {
            const double deep = neck.design().boltDepth - (besideRod - least);
            sayOf(Role::neck, out, Weight::caution, "bolt-meets-rod",
                  fmt::format(
                      "Bolt {}'s pilot {} the rod's slot; {:g} mm of wood is wanted between them: "
                      "a shorter rod{} a wider pattern{}.",
                      number,
                      wood < 0 ? "runs into" : fmt::format("comes within {:.1f} mm of", wood),
                      besideRod, deep < leastPilot ? " or" : ",",
                      deep < leastPilot
                          ? ""
                          : fmt::format(" or pilots {:.1f} mm deep", std::floor(deep * 10) / 10)),
                  wood, besideRod)
                .atX = h.at.x;
        }
    }
}

/// Wood in the head's section at x: its area and how much of that each mm of Y has.
HeadSection sectionAt(const NeckPart& neck, double x) {
    constexpr double step = 0.5;
    HeadSection s;
    s.x = x;
    double area = 0;
    const NeckBack::Slice back = neck.back().slice(x);
    const double face = neck.face(x);
    for (const std::array<double, 2>& wood : neck.outline().stretches(x)) {
        const int n = std::max(1, static_cast<int>((wood[1] - wood[0]) / step));
        const double wide = (wood[1] - wood[0]) / n;
        for (int i = 0; i < n; ++i) {
            const Vec2 at{x, wood[0] + wide * (i + 0.5)};
            const bool bored =
                std::any_of(neck.holes().begin(), neck.holes().end(), [&](const Hole& h) {
                    return h.through && length(h.at - at) < h.diameter / 2;
                });
            if (bored) {
                continue;
            }
            double front = face;
            for (const NeckPocket& p : neck.pockets()) {
                if (!p.fromBack && p.holds(at)) {
                    front = std::min(front, p.floorAt(at));
                }
            }
            const double thick = std::max(0.0, front + back.depth(at.y));
            area += wide * thick;
            s.thickness = std::max(s.thickness, thick);
        }
    }
    s.width = s.thickness > 0 ? area / s.thickness : 0;
    s.modulus = area * s.thickness / 6;
    return s;
}

void judgeHead(Findings& out, const NeckPart& neck) {
    const std::optional<HeadSection> weak = weakestHead(neck);
    if (!weak) {
        return;
    }
    const double least = (weak->runOut ? weakAcross : weakAlong) * weak->share;
    if (weak->modulus < least) {
        const double thick = std::sqrt(6 * least / weak->width);
        Finding& f = sayOf(
            Role::neck, out, Weight::caution, "weak-head",
            fmt::format("The head is weakest {:.0f} mm behind the nut: {:.1f} by {:.1f} mm of "
                        "wood{}, and {:.1f} mm of thickness is wanted there: a thicker or wider "
                        "head, a volute or a scarf helps.",
                        -weak->x, weak->width, weak->thickness,
                        weak->runOut ? ", its grain running out of the face" : "", thick),
            weak->thickness, thick);
        f.atX = weak->x;
    }
}

} // namespace

std::optional<HeadSection> weakestHead(const NeckPart& neck) {
    double last = 0;
    for (const TunerPlace& t : neck.tuners()) {
        last = std::min(last, t.post.x);
    }
    std::optional<HeadSection> out;
    for (double x = -1; x > std::max(last, neck.outline().tip() + 1); x -= 1) {
        HeadSection s = sectionAt(neck, x);
        const auto beyond = std::count_if(neck.tuners().begin(), neck.tuners().end(),
                                          [&](const TunerPlace& t) { return t.post.x < x; });
        s.share = static_cast<double>(beyond) / static_cast<double>(neck.tuners().size());
        if (!out || s.modulus * out->share < out->modulus * s.share) {
            out = s;
        }
    }
    if (out) {
        const Headstock& h = neck.design().head;
        out->runOut = h.kind == HeadKind::tilted && h.stock == HeadStock::thick;
    }
    return out;
}

Findings judgeNeckPart(const NeckPart& neck) {
    Findings out;
    judgeBolts(out, neck);
    judgeHead(out, neck);
    return out;
}

} // namespace wren
