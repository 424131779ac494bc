#include "cut/neck_recipe.h"

#include "base/error.h"
#include "cut/neck_finish.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numeric>

namespace wren {
namespace {

/// A bit that could do a cut, or why it could not.
struct Verdict {
    bool can = false;
    std::string why; ///< of a no: "its 12.0 mm are wider than the slot's 6.35 mm"
};
using Judge = std::function<Verdict(const Bit&)>;

constexpr double curingMinutes = 12 * 60; ///< common practice, no source: overnight
constexpr double besideBall = 1;          ///< of trench, beyond the widest bit that runs in it

class Recipe {
public:
    Recipe(const NeckPart& part, const NeckSetups& setups, const Drawer& drawer,
           const Machine& machine, const NeckCut& cut)
        : part_(part), setups_(setups), drawer_(drawer), machine_(machine), cut_(cut) {}

    NeckPlan write() {
        plan_.tabs = neckTabs(part_, cut_);
        plan_.sides[0].setup = setups_.face;
        plan_.sides[1].setup = setups_.back;
        faceSide();
        current_ = nullptr;
        backSide();
        return std::move(plan_);
    }

private:
    NeckWork work(int side) const {
        return {part_, plan_.sides[std::size_t(side)].setup, cut_, machine_.spoilDepth};
    }

    /// Only as deep as its flutes where wood stands close beside, and long enough to get there.
    static Verdict reaches(const Bit& bit, double depth, bool narrow) {
        if (narrow && bit.fluteLength < depth) {
            return {false,
                    fmt::format("its flutes of {:.1f} mm are shorter than the cut's {:.1f} mm",
                                bit.fluteLength, depth)};
        }
        if (bit.reachOrUsual() < depth + 1) {
            return {false,
                    fmt::format("it stands only {:.1f} mm out of the collet and {:.1f} mm are "
                                "wanted",
                                bit.reachOrUsual(), depth + 1)};
        }
        return {true, {}};
    }

    /// The maker's own bit, the one in the spindle, or the best by `better`.
    const Bit* choose(const char* what, const CutOverrides& own, const Judge& judge,
                      const std::function<bool(const Bit&, const Bit&)>& better,
                      const std::string& want, std::string& why) {
        if (!own.bit.empty()) {
            const Bit* bit = findBit(drawer_, own.bit);
            if (!bit) {
                none(what, fmt::format("there is no bit \"{}\" in the drawer", own.bit), want);
                return nullptr;
            }
            const Verdict v = judge(*bit);
            if (!v.can) {
                none(what, fmt::format("{} was set by hand, but {}", bit->name, v.why), want);
                return nullptr;
            }
            why = fmt::format("{}: set by hand.", bit->name);
            return bit;
        }
        const Bit* best = nullptr;
        std::string nearest;
        for (const Bit& bit : drawer_) {
            const Verdict v = judge(bit);
            if (!v.can) {
                if (!v.why.empty()) {
                    nearest = fmt::format("{}: {}", bit.name, v.why);
                }
                continue;
            }
            if (!best || better(bit, *best)) {
                best = &bit;
            }
        }
        if (!best) {
            none(what, nearest.empty() ? "the drawer holds no bit of the kind" : nearest, want);
            return nullptr;
        }
        if (current_ && !(*best == *current_) && judge(*current_).can) {
            why = fmt::format("{}: it is in the spindle and can do this.", current_->name);
            return current_;
        }
        why = fmt::format("{}: {}.", best->name, want);
        return best;
    }

    void none(const char* what, const std::string& why, const std::string& want) {
        sayOf("neck", plan_.findings, Weight::stop, "no-bit",
              fmt::format("No bit can cut the {}: {}. Wanted: {}.", what, why, want), 0, 0);
    }

    Feeds feeds(const Bit& bit, const CutOverrides& own = {}) const {
        return feedsFor(bit, woodById(setups_.blank.wood), machine_, own);
    }

    void add(int side, const char* what, const Bit& bit, const Feeds& f, const std::string& why,
             const std::function<Path()>& path) {
        try {
            Cut c;
            c.what = what;
            c.bit = bit;
            c.feeds = f;
            c.why = why;
            c.path = path();
            if (!c.path.empty()) {
                plan_.sides[std::size_t(side)].cuts.push_back(std::move(c));
                current_ = findBit(drawer_, bit.name);
            }
        } catch (const Error& e) {
            sayOf("neck", plan_.findings, Weight::stop, "cannot-follow",
                  fmt::format("{} cannot cut the {}: {}", bit.name, what, e.what()), bit.diameter,
                  0);
        }
    }

    static bool wider(const Bit& a, const Bit& b) { return a.diameter > b.diameter; }

    void pockets(int side, const char* what, const char* of,
                 const std::vector<const char*>& kinds) {
        std::vector<NeckPocket> some;
        double narrow = 1e9;
        double deep = 0;
        bool round = false;
        for (const NeckPocket& p : part_.pockets()) {
            if (p.fromBack == (side == 1) &&
                std::find(kinds.begin(), kinds.end(), p.what) != kinds.end()) {
                some.push_back(p);
                narrow = std::min(narrow, p.width());
                if (p.what == "nut") {
                    narrow = std::min(narrow, p.length());
                }
                deep = std::max(deep, side == 1 ? setups_.blank.thickness + p.floor : -p.floor);
                round = round || p.round;
            }
        }
        if (some.empty()) {
            return;
        }
        std::string why;
        const Judge judge = [&](const Bit& bit) -> Verdict {
            if (round ? bit.kind != BitKind::ball : !cutsFlat(bit.kind)) {
                return {};
            }
            if (bit.diameter > narrow + 1e-6 || (round && bit.diameter < narrow - 0.02)) {
                return {false, fmt::format("its {:.2f} mm do not suit a slot of {:.2f} mm",
                                           bit.diameter, narrow)};
            }
            return reaches(bit, deep, true);
        };
        const std::string want =
            round ? fmt::format("a ball as wide as the slot, {:.2f} mm", narrow)
                  : fmt::format(
                        "the widest flat bit that fits a slot {:.2f} mm wide and {:.1f} mm deep",
                        narrow, deep);
        const Bit* bit = choose(of, cut_.slots, judge, wider, want, why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.slots);
            add(side, what, *bit, f, why, [&] { return pocketPath(work(side), some, *bit, f); });
        }
    }

    void headFace() {
        const double deep = -part_.face(part_.outline().tip());
        if (deep <= 0) {
            return;
        }
        std::string why;
        const Judge flat = [&](const Bit& bit) -> Verdict {
            if (!cutsFlat(bit.kind)) {
                return {};
            }
            return reaches(bit, deep, false);
        };
        const Bit* bit =
            choose("head's face", cut_.head, flat, wider, "a flat bit for a level face", why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.head);
            add(0, "head", *bit, f, why, [&] { return headFacePath(work(0), *bit, f); });
        }
    }

    void hollow() {
        const Headstock& h = part_.design().head;
        const bool tilted = h.kind == HeadKind::tilted;
        const double deep = -part_.face(part_.outline().tip());
        if (deep <= 0) {
            return;
        }
        std::string why;
        const Judge ball = [&](const Bit& b) -> Verdict {
            if (b.kind != BitKind::ball) {
                return {};
            }
            if (!tilted && b.radius() > 0.9 * h.curve) {
                return {false,
                        fmt::format("its radius of {:.1f} mm does not fit the hollow's {:.1f} mm",
                                    b.radius(), h.curve)};
            }
            return reaches(b, deep, false);
        };
        const Bit* bit = choose(
            "hollow", cut_.hollow, ball, wider,
            tilted ? "the widest ball, for the fewest passes"
                   : fmt::format("the widest ball that rolls in a hollow of {:.1f} mm radius",
                                 h.curve),
            why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.hollow);
            add(0, "hollow", *bit, f, why, [&] { return hollowPath(work(0), *bit, f); });
        }
    }

    /// Holes of one side by diameter: a drill when one fits, else a flat bit that bores them.
    void holes(int side, std::vector<NeckHole> some) {
        while (!some.empty()) {
            const double d = some.front().diameter;
            std::vector<NeckHole> these;
            for (const NeckHole& h : some) {
                if (std::abs(h.diameter - d) < 1e-6) {
                    these.push_back(h);
                }
            }
            std::erase_if(some, [&](const NeckHole& h) { return std::abs(h.diameter - d) < 1e-6; });
            double deep = 0;
            for (const NeckHole& h : these) {
                deep = std::max(deep, std::abs(h.mouth - h.floor));
            }
            const double extra = these.front().through ? cut_.through + 2 : 0;
            std::string why;
            const Judge judge = [&](const Bit& b) -> Verdict {
                if (b.kind == BitKind::drill) {
                    if (std::abs(b.diameter - d) > 0.06) {
                        return {false, fmt::format("{:.2f} mm is not {:.2f} mm", b.diameter, d)};
                    }
                    return reaches(b, deep + extra, true);
                }
                if (!cutsFlat(b.kind) || b.diameter > 0.9 * d || b.diameter < d / 2) {
                    return {};
                }
                return reaches(b, deep + cut_.through, true);
            };
            const std::string want = fmt::format("a {0:.2f} mm drill, or a flat bit of {1:.2f} to "
                                                 "{2:.2f} mm that bores it, {3:.1f} mm "
                                                 "deep",
                                                 d, d / 2, 0.9 * d, deep);
            const auto better = [](const Bit& a, const Bit& b) {
                const bool da = a.kind == BitKind::drill;
                const bool db = b.kind == BitKind::drill;
                return da != db ? da : a.diameter > b.diameter;
            };
            const std::string what = these.front().what;
            const Bit* bit = choose(fmt::format("{:.2f} mm {} holes", d, what).c_str(), {}, judge,
                                    better, want, why);
            if (!bit) {
                continue;
            }
            if (bit->colletOrShank() < 3) {
                why += fmt::format(" It needs a collet of {:g} mm.", bit->colletOrShank());
            }
            const Feeds f = feeds(*bit);
            add(side, (what + "s").c_str(), *bit, f, why, [&] {
                return bit->kind == BitKind::drill ? drillPath(work(side), these, *bit, f)
                                                   : borePath(work(side), these, *bit, f);
            });
        }
    }

    std::vector<NeckHole> holesOf(bool fromBack) const {
        std::vector<NeckHole> out;
        for (const NeckHole& h : part_.holes()) {
            if (h.fromBack == fromBack) {
                out.push_back(h);
            }
        }
        return out;
    }

    void notch(int side) {
        if (!setups_.notch) {
            return;
        }
        const Judge judge = [&](const Bit& b) -> Verdict {
            return cutsFlat(b.kind) ? reaches(b, setups_.blank.thickness / 2, true) : Verdict{};
        };
        std::string why;
        const Bit* bit =
            choose("witness notch", {}, judge, wider,
                   fmt::format("any flat bit with flutes of {:.1f} mm, half the blank's thickness",
                               setups_.blank.thickness / 2),
                   why);
        if (bit) {
            const Feeds f = feeds(*bit);
            add(side, "notch", *bit, f, why,
                [&] { return notchPath(work(side), *setups_.notch, *bit, f); });
        }
    }

    void faceSide() {
        pockets(0, "rod", "rod's slot", {"rod", "adjuster"});
        headFace();
        notch(0);
        pockets(0, "carbon", "carbon rods' slots", {"carbon"});
        pockets(0, "nut", "nut's slot", {"nut"});
        hollow();
        std::vector<NeckHole> front = holesOf(false);
        for (const RegisterPin& pin : setups_.pins) {
            front.push_back(
                {"register", pin.at, setups_.pinSize, false, true, 0, -setups_.blank.thickness});
        }
        holes(0, std::move(front));
    }

    void backSide() {
        pockets(1, "rod", "rod's slot", {"rod", "adjuster"});
        const std::size_t before = plan_.sides[1].cuts.size();
        carve();
        std::vector<Cut>& cuts = plan_.sides[1].cuts;
        if (before > 0 && cuts.size() > before) {
            cuts[before].handBefore =
                "Lay the rod in, glue its strip over it, let it cure and plane it flush with the "
                "back, the blank left where it is or brought back to its pins.";
            cuts[before].handMinutes = curingMinutes;
        }
    }

    void carve() {
        const double top = setups_.blank.thickness;
        std::string why;
        // The finish is looked for first: the trench must let it pass.
        std::string finishWhy;
        const double hollow = tightestHollow(part_);
        const Judge finishes = [&](const Bit& b) -> Verdict {
            if (b.kind != BitKind::ball) {
                return {};
            }
            if (b.radius() > 0.95 * hollow) {
                return {false,
                        fmt::format("its radius of {:.1f} mm does not fit the back's tightest "
                                    "hollow of {:.1f} mm",
                                    b.radius(), hollow)};
            }
            const double below = reachBelow(part_, b);
            if (below > cut_.through + 1e-6) {
                return {false,
                        fmt::format("it would go {:.1f} mm below the glue plane to reach the "
                                    "flank's foot, and {:.1f} mm is allowed",
                                    below, cut_.through)};
            }
            return reaches(b, top, false);
        };
        const Bit* ball = choose(
            "back's finish", cut_.finish, finishes, wider,
            "the widest ball that rolls in every hollow and reaches the flank's foot", finishWhy);
        const double ballWidth = ball ? ball->diameter : 0;
        const Judge roughs = [&](const Bit& b) -> Verdict {
            if (!cutsFlat(b.kind)) {
                return {};
            }
            return reaches(b, top + cut_.through, false);
        };
        const Judge outlines = [&](const Bit& b) -> Verdict {
            const Verdict v = roughs(b);
            if (!v.can) {
                return v;
            }
            const double wall = part_.deepest() + cut_.through; // rubbed by the shank else
            return b.fluteLength >= wall
                       ? v
                       : Verdict{false, fmt::format("its flutes of {:.1f} mm are shorter than the "
                                                    "wall it cuts, {:.1f} mm",
                                                    b.fluteLength, wall)};
        };
        const Bit* bit = choose(
            "back", cut_.rough, cut_.outline.bit.empty() ? outlines : roughs,
            [](const Bit& a, const Bit& b) {
                return a.diameter != b.diameter ? a.diameter > b.diameter
                                                : a.fluteLength > b.fluteLength;
            },
            "the widest flat bit that reaches through the blank and does the outline "
            "too",
            why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.rough);
            const double trench = std::max(ballWidth, bit->diameter) + cut_.wallSkin + besideBall;
            add(1, "rough", *bit, f, why, [&] { return roughPath(work(1), *bit, f, trench); });
        }
        notch(1);
        std::vector<NeckHole> bored;
        std::vector<NeckHole> drilled;
        for (const NeckHole& h : holesOf(true)) {
            (h.what == "tuner" ? bored : drilled).push_back(h);
        }
        holes(1, std::move(bored));
        bit = choose("outline", cut_.outline, outlines, wider, "a flat bit that reaches through",
                     why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.outline);
            add(1, "outline", *bit, f, why,
                [&] { return neckOutlinePath(work(1), plan_.tabs, *bit, f); });
        }
        holes(1, std::move(drilled));
        if (ball) {
            const Feeds f = feeds(*ball, cut_.finish);
            add(1, "finish", *ball, f, finishWhy,
                [&] { return finishPath(work(1), plan_.tabs, *ball, f); });
        }
    }

    const NeckPart& part_;
    const NeckSetups& setups_;
    const Drawer& drawer_;
    const Machine& machine_;
    const NeckCut& cut_;
    NeckPlan plan_;
    const Bit* current_ = nullptr;
};

} // namespace

const Cut* SidePlan::cutNamed(const std::string& what) const {
    for (const Cut& c : cuts) {
        if (c.what == what) {
            return &c;
        }
    }
    return nullptr;
}

NeckPlan planNeck(const NeckPart& part, const NeckSetups& setups, const Drawer& drawer,
                  const Machine& machine, const NeckCut& cut) {
    return Recipe(part, setups, drawer, machine, cut).write();
}

} // namespace wren
