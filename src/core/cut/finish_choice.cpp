#include "cut/finish_choice.h"

#include "cut/neck_outline_cut.h"
#include "shop/wood.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double keepOffMargin = 1; ///< mm between a wide bit and a transition
constexpr double bitChangeMinutes = 1.5;

} // namespace

double FinishChoice::widest() const {
    return std::max(main ? main->diameter : 0, rest ? rest->diameter : 0);
}

namespace {

/// What of the design would help instead of another bit.
std::string elseInDesign(const NeckPart& part, const Drawer& drawer) {
    const Headstock& h = part.design().head;
    if (h.kind == HeadKind::tilted && h.stock == HeadStock::thick) {
        return fmt::format("; or a head glued on by a scarf joint, or tilted by less than {:g} "
                           "degrees, which lies less deep",
                           h.angle);
    }
    double lift = 1e9; // of the smallest ball's contact over its tip, at an upright flank
    for (const Bit& b : drawer) {
        if (b.kind == BitKind::ball) {
            lift = std::min(lift, b.radius());
        }
    }
    const double shoulder = part.design().shoulder;
    return lift < 1e9 && shoulder < lift
               ? fmt::format("; or an upright edge below the glue plane (shoulder) of {:.1f} mm "
                             "instead of {:.1f}, for the smallest ball in the drawer",
                             lift, shoulder)
               : std::string();
}

} // namespace

FinishChoice chooseFinish(const NeckPart& part, const Setup& setup, const Machine& machine,
                          const NeckCut& cut, BitChooser& chooser,
                          const std::function<double(double)>& trenchMinutes) {
    const auto minutes = [&](const Bit& bit, FinishShare share, const CutOverrides& own) {
        const double mm =
            finishLength(part, finishLines(part, bit, cut.scallop, cut.way, share), cut.way);
        return mm / feedsFor(bit, setup.blank.species(), machine, own).feed;
    };
    const double deep = outlineReach(part, setup, cut, false).deep - cut.through;
    const NeckBack& back = part.back();
    const double end = part.outline().end();
    const double anywhere = tightestHollow(part, back.headFrom(), end);
    const auto onTheWhole = [&](const Bit& b) -> Verdict {
        if (b.kind != BitKind::ball && b.kind != BitKind::bullNose &&
            b.kind != BitKind::taperedBall) {
            return {};
        }
        const double below = reachBelow(part, b);
        if (below > cut.through + 1e-6) {
            return {false,
                    fmt::format("it would go {:.1f} mm below the glue plane to reach the "
                                "flank's foot, and {:.1f} mm is allowed",
                                below, cut.through),
                    below - cut.through};
        }
        return reaches(b, deep, false);
    };
    const BitJudge all = [&](const Bit& b) -> Verdict {
        Verdict v = onTheWhole(b);
        if (v.can && !rollsIn(b, anywhere)) {
            return {false,
                    fmt::format("it does not roll in the back's tightest hollow, {:.1f} "
                                "mm in radius",
                                anywhere),
                    b.radius() - anywhere};
        }
        return v;
    };
    const FinishShare whole;
    const auto quicker = [&](const Bit& a, const Bit& b) {
        return minutes(a, whole, cut.finish) + trenchMinutes(a.diameter) <
               minutes(b, whole, cut.finish) + trenchMinutes(b.diameter);
    };
    FinishChoice out;
    out.main =
        chooser.choose("back's finish", cut.finish, all, quicker,
                       "the quickest round-ended bit that rolls in every hollow and reaches the "
                       "flank's foot" +
                           elseInDesign(part, chooser.drawer()),
                       out.why);
    if (!out.main || !cut.finish.bit.empty()) {
        return out;
    }
    // A wider bit for the broad places saves more than the change it costs, or is left alone.
    const Bit* small = out.main;
    double best = minutes(*small, whole, cut.finish) + trenchMinutes(small->diameter);
    const double alone = best;
    for (const Bit& b : chooser.drawer()) {
        const double keep = b.radius() + keepOffMargin;
        const FinishShare broad{FinishShare::Of::broad, keep};
        const bool fits = onTheWhole(b).can && back.headTo() + keep < back.heelFrom() - keep &&
                          rollsIn(b, tightestHollow(part, back.headTo() + keepOffMargin,
                                                    back.heelFrom() - keepOffMargin)) &&
                          rollsIn(b, tightestHollow(part, back.heelTo(), end));
        if (!fits) {
            continue;
        }
        const double both = minutes(b, broad, cut.finish) + bitChangeMinutes +
                            trenchMinutes(std::max(b.diameter, small->diameter)) +
                            minutes(*small, {FinishShare::Of::rest, keep}, {});
        if (both < best) {
            best = both;
            out.main = &b;
            out.rest = small;
            out.share = broad;
        }
    }
    if (out.rest) {
        out.why = fmt::format("{}: quicker over head, shaft and heel; with {} for the rest, "
                              "and the trench it wants, {:.0f} minutes instead of {:.0f}.",
                              out.main->name, small->name, best, alone);
        out.restWhy = fmt::format("{}: only where the back is hollow, which {} cannot roll in.",
                                  small->name, out.main->name);
    }
    return out;
}

} // namespace wren
