#include "cut/neck_recipe.h"

#include "base/error.h"
#include "cut/finish_choice.h"
#include "cut/neck_finish.h"
#include "cut/neck_outline_cut.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <numeric>

namespace wren {
namespace {

constexpr double curingMinutes = 12 * 60; ///< common practice, no source: overnight
constexpr double besideBall = 1;          ///< of trench, beyond the widest bit that runs in it

class Recipe {
public:
    Recipe(const NeckPart& part, const Held& setups, const Drawer& drawer, const Machine& machine,
           const NeckCut& cut)
        : part_(part), setups_(setups), machine_(machine), cut_(cut),
          chooser_(drawer, plan_.findings, Role::neck) {}

    NeckPlan write(const CutSettings& carved) {
        plan_.tabs = neckTabs(part_, cut_);
        plan_.sides[0].setup = setups_.face;
        plan_.sides[1].setup = *setups_.back;
        decideParting();
        if (part_.carved()) {
            carvedFace(carved);
        }
        faceSide();
        chooser_.mount(nullptr);
        backSide();
        return std::move(plan_);
    }

private:
    NeckWork work(int side) const {
        return {part_, plan_.sides[std::size_t(side)].setup, cut_, machine_.spoilDepth};
    }

    Feeds feeds(const Bit& bit, const CutOverrides& own = {}) const {
        return feedsFor(bit, woodById(setups_.blank.wood), machine_, own);
    }

    void add(int side, const CutName& name, const Bit& bit, const Feeds& f, const std::string& why,
             const std::function<Path()>& path) {
        try {
            Cut c{name};
            c.bit = bit;
            c.feeds = f;
            c.why = why;
            c.path = path();
            if (!c.path.empty()) {
                plan_.sides[std::size_t(side)].cuts.push_back(std::move(c));
                chooser_.mount(findBit(chooser_.drawer(), bit.name));
            }
        } catch (const Error& e) {
            sayOf(Role::neck, plan_.findings, Weight::stop, "cannot-follow",
                  fmt::format("{} cannot cut the {}: {}", bit.name, name.what, e.what()),
                  bit.diameter, 0);
        }
    }

    static bool wider(const Bit& a, const Bit& b) { return a.diameter > b.diameter; }

    void pockets(int side, CutKind cut, const char* of, const std::vector<NeckPocketKind>& kinds) {
        std::vector<NeckPocket> some;
        double narrow = 1e9;
        double deep = 0;
        bool round = false;
        for (const NeckPocket& p : part_.pockets()) {
            if (p.fromBack == (side == 1) &&
                std::find(kinds.begin(), kinds.end(), p.kind) != kinds.end()) {
                some.push_back(p);
                narrow = std::min(narrow, p.width());
                if (p.runsAcross()) {
                    narrow = std::min(narrow, p.length());
                }
                const WoodSpan wood = setups_.face.woodAt(p.middle().x);
                deep = std::max(deep, side == 1 ? p.floor - wood.under : wood.over - p.floor);
                round = round || p.round;
            }
        }
        if (some.empty()) {
            return;
        }
        std::string why;
        const BitJudge judge = [&](const Bit& bit) -> Verdict {
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
        const Bit* bit = chooser_.choose(of, cut_.slots, judge, wider, want, why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.slots);
            add(side, cut, *bit, f, why, [&] { return pocketPath(work(side), some, *bit, f); });
        }
    }

    void decideParting() {
        plan_.sharedOutline = outlineIsShared(part_, *setups_.back, cut_, chooser_.drawer());
        if (plan_.sharedOutline) {
            const double wall = reach(false).wall;
            sayOf(Role::neck, plan_.findings, Weight::note, "shared-outline",
                  fmt::format("No bit's flutes span the outline's whole wall of {:.1f} mm, so the "
                              "front cuts it {:.1f} mm deep and the back the rest; they meet at "
                              "the shoulder's lower edge, within what the turning over is off.",
                              wall, part_.blankTop() - outlineParting(part_)),
                  wall, 0);
        }
    }

    OutlineReach reach(bool shared) const {
        return outlineReach(part_, *setups_.back, cut_, shared);
    }

    void outline(int side, OutlineShare share) {
        std::string why;
        const BitJudge judge = [&](const Bit& b) -> Verdict {
            if (share != OutlineShare::front) {
                return cutsOutline(b, reach(plan_.sharedOutline));
            }
            return cutsFlat(b.kind) ? reaches(b, part_.blankTop() - outlineParting(part_), true)
                                    : Verdict{};
        };
        const Bit* bit =
            chooser_.choose("outline", cut_.outline, judge, wider,
                            share == OutlineShare::front ? "a flat bit for the wall's upper part"
                                                         : "a flat bit that reaches through",
                            why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.outline);
            add(side, CutKind::outline, *bit, f, why,
                [&] { return neckOutlinePath(work(side), plan_.tabs, *bit, f, share); });
        }
    }

    /// How far the head's face lies below the wood about it.
    double headReach() const {
        double deep = 0;
        for (double x = part_.outline().tip(); x < part_.outline().headStart(); x += 2) {
            const double face = setups_.face.fromInstrument.toSetup({0, 0, part_.face(x)}).z;
            deep = std::max(deep, setups_.face.woodTop(x, colletNut) - face);
        }
        return deep;
    }

    void headFace() {
        const double deep = headReach();
        if (part_.face(part_.outline().tip()) >= part_.blankTop() || setups_.face.scarfed) {
            return; // nothing stands over it, or its own piece was planed to it
        }
        std::string why;
        const BitJudge flat = [&](const Bit& bit) -> Verdict {
            if (!cutsFlat(bit.kind)) {
                return {};
            }
            return reaches(bit, deep, false);
        };
        const Bit* bit = chooser_.choose("head's face", cut_.head, flat, wider,
                                         "a flat bit for a level face", why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.head);
            add(0, CutKind::head, *bit, f, why, [&] { return headFacePath(work(0), *bit, f); });
        }
    }

    void hollow() {
        const Headstock& h = part_.design().head;
        const bool tilted = h.kind == HeadKind::tilted;
        const double deep = headReach();
        if (part_.face(part_.outline().tip()) >= 0) {
            return;
        }
        std::string why;
        const BitJudge ball = [&](const Bit& b) -> Verdict {
            if (b.kind != BitKind::ball) {
                return {};
            }
            if (!tilted && b.radius() > 0.9 * h.curve) {
                return {false,
                        fmt::format("its radius of {:.1f} mm does not fit the hollow's {:.1f} mm",
                                    b.radius(), h.curve)};
            }
            // Beside a carved face its side must pass the wall before the nut.
            const double start = part_.outline().headStart();
            const double slope = (part_.face(start - 1e-4) - part_.face(start - 2e-4)) / 1e-4;
            const double side = b.radius() * (1 - slope / std::sqrt(1 + slope * slope));
            const double room = part_.design().nutThickness;
            if (part_.carved() && side > room) {
                return {false, fmt::format("it reaches {:.1f} mm past the head's edge, into the "
                                           "carved face {:.1f} mm from it",
                                           side, room)};
            }
            return reaches(b, deep, false);
        };
        const Bit* bit = chooser_.choose(
            "hollow", cut_.hollow, ball, wider,
            tilted ? "the widest ball, for the fewest passes"
                   : fmt::format("the widest ball that rolls in a hollow of {:.1f} mm radius",
                                 h.curve),
            why);
        if (bit) {
            const Feeds f = feeds(*bit, cut_.hollow);
            add(0, CutKind::hollow, *bit, f, why, [&] { return hollowPath(work(0), *bit, f); });
        }
    }

    /// Holes of one side by diameter: a drill when one fits, else a flat bit that bores them.
    void holes(int side, std::vector<Hole> some) {
        while (!some.empty()) {
            const double d = some.front().diameter;
            std::vector<Hole> these;
            for (const Hole& h : some) {
                if (std::abs(h.diameter - d) < 1e-6) {
                    these.push_back(h);
                }
            }
            std::erase_if(some, [&](const Hole& h) { return std::abs(h.diameter - d) < 1e-6; });
            double deep = 0;
            for (const Hole& h : these) {
                deep = std::max(deep, std::abs(h.top() - h.end()));
            }
            const double extra = these.front().through ? cut_.through + 2 : 0;
            std::string why;
            const BitJudge judge = [&](const Bit& b) -> Verdict {
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
            const Bit* bit = chooser_.choose(fmt::format("{:.2f} mm {} holes", d, what).c_str(), {},
                                             judge, better, want, why);
            if (!bit) {
                continue;
            }
            if (bit->colletOrShank() < 3) {
                why += fmt::format(" It needs a collet of {:g} mm.", bit->colletOrShank());
            }
            const Feeds f = feeds(*bit);
            add(side, {CutKind::holes, these.front().feature.kind, what + "s"}, *bit, f, why, [&] {
                return bit->kind == BitKind::drill ? drillPath(work(side), these, *bit, f)
                                                   : borePath(work(side), these, *bit, f);
            });
        }
    }

    std::vector<Hole> holesOf(bool fromBack) const {
        std::vector<Hole> out;
        for (const Hole& h : part_.holes()) {
            if (h.fromBack == fromBack && !h.byHand) {
                out.push_back(h);
            }
        }
        return out;
    }

    double notchDepth() const {
        const WoodSpan wood = setups_.face.woodAt(setups_.notch->x);
        return (wood.over - wood.under) / 2;
    }

    void notch(int side) {
        if (!setups_.notch) {
            return;
        }
        const BitJudge judge = [&](const Bit& b) -> Verdict {
            return cutsFlat(b.kind) ? reaches(b, notchDepth(), true) : Verdict{};
        };
        std::string why;
        const Bit* bit = chooser_.choose(
            "witness notch", {}, judge, wider,
            fmt::format("any flat bit with flutes of {:.1f} mm, half the wood's thickness there",
                        notchDepth()),
            why);
        if (bit) {
            const Feeds f = feeds(*bit);
            add(side, CutKind::notch, *bit, f, why,
                [&] { return notchPath(work(side), *setups_.notch, *bit, f); });
        }
    }

    void carvedFace(const CutSettings& cut) {
        BoardPlan board = planBoard(*part_.carved(), setups_.face, chooser_.drawer(), machine_, cut,
                                    BoardShare::face);
        for (Finding& f : board.findings) {
            f.part = Role::neck;
            plan_.findings.push_back(std::move(f));
        }
        plan_.sides[0].cuts = std::move(board.face().cuts);
        if (!plan_.sides[0].cuts.empty()) {
            chooser_.mount(findBit(chooser_.drawer(), plan_.sides[0].cuts.back().bit.name));
        }
    }

    /// The adjuster's part has a level floor: beside a round one it takes a bit of its own.
    void rodSlots(int side) {
        const auto& all = part_.pockets();
        const bool round =
            std::any_of(all.begin(), all.end(), [](const NeckPocket& p) { return p.round; });
        if (!round) {
            pockets(side, CutKind::rod, "rod's slot",
                    {NeckPocketKind::rod, NeckPocketKind::adjuster});
            return;
        }
        pockets(side, CutKind::rod, "rod's slot", {NeckPocketKind::rod});
        pockets(side, CutKind::adjuster, "adjuster's slot", {NeckPocketKind::adjuster});
    }

    void faceSide() {
        rodSlots(0);
        headFace();
        pockets(0, CutKind::ledge, "wood beyond the carved face", {NeckPocketKind::ledge});
        notch(0);
        if (plan_.sharedOutline) {
            outline(0, OutlineShare::front);
        }
        pockets(0, CutKind::carbon, "carbon rods' slots", {NeckPocketKind::carbon});
        pockets(0, CutKind::nut, "nut's slot", {NeckPocketKind::nut});
        hollow();
        std::vector<Hole> front = holesOf(false);
        for (const RegisterPin& pin : setups_.pins) {
            const WoodSpan wood = setups_.face.woodAt(pin.at.x);
            front.push_back(
                {"register", pin.at, setups_.pinSize, wood.over, wood.under, false, true});
            front.back().feature = {FeatureKind::registerPin};
        }
        holes(0, std::move(front));
    }

    void backSide() {
        rodSlots(1);
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

    /// Roughing's share for a trench of that width round the neck, roughly.
    double trenchMinutes(const Bit& bit, double width) const {
        double round = 0;
        for (const ContourPiece& piece : part_.outline().contour()) {
            round += piece.length();
        }
        const Feeds f = feeds(bit, cut_.rough);
        const double laps = width / (bit.diameter * cut_.roughStep / 100);
        return round * laps * levelsFor(setups_.blank.thickness, f.depthPerPass) / f.feed;
    }

    void carve() {
        std::string why;
        const BitJudge roughs = [&](const Bit& b) -> Verdict {
            return cutsFlat(b.kind) ? reaches(b, reach(plan_.sharedOutline).deep, false)
                                    : Verdict{};
        };
        const BitJudge outlines = [&](const Bit& b) {
            return cutsOutline(b, reach(plan_.sharedOutline));
        };
        const Bit* bit = chooser_.choose(
            "back", cut_.rough, cut_.outline.bit.empty() ? outlines : roughs,
            [](const Bit& a, const Bit& b) {
                return a.diameter != b.diameter ? a.diameter > b.diameter
                                                : a.fluteLength > b.fluteLength;
            },
            "the widest flat bit that reaches through the blank and does the outline "
            "too",
            why);
        const Bit* roughing = bit;
        const auto trenchFor = [&](double widest) {
            const double own = roughing ? roughing->diameter : 0;
            return std::max(widest, own) + cut_.wallStock + besideBall;
        };
        // The trench must let the finish pass, and a wide one costs roughing.
        const FinishChoice finish =
            chooseFinish(part_, *setups_.back, machine_, cut_, chooser_, [&](double widest) {
                return roughing ? trenchMinutes(*roughing, trenchFor(widest)) : 0.0;
            });
        if (bit) {
            const Feeds f = feeds(*bit, cut_.rough);
            add(1, CutKind::rough, *bit, f, why, [&] {
                return roughPath(work(1), plan_.tabs, *bit, f, trenchFor(finish.widest()));
            });
        }
        notch(1);
        std::vector<Hole> bored;
        std::vector<Hole> drilled;
        for (const Hole& h : holesOf(true)) {
            (h.feature.kind == FeatureKind::tuner ? bored : drilled).push_back(h);
        }
        holes(1, std::move(bored));
        outline(1, plan_.sharedOutline ? OutlineShare::rest : OutlineShare::whole);
        holes(1, std::move(drilled));
        if (finish.main) {
            const Feeds f = feeds(*finish.main, cut_.finish);
            add(1, CutKind::finish, *finish.main, f, finish.why,
                [&] { return finishPath(work(1), plan_.tabs, *finish.main, f, finish.share); });
        }
        if (finish.rest) {
            const Feeds f = feeds(*finish.rest);
            add(1, CutKind::rest, *finish.rest, f, finish.restWhy, [&] {
                return finishPath(work(1), plan_.tabs, *finish.rest, f,
                                  {FinishShare::Of::rest, finish.share.keepOff});
            });
        }
    }

    const NeckPart& part_;
    const Held& setups_;
    const Machine& machine_;
    const NeckCut& cut_;
    NeckPlan plan_;
    BitChooser chooser_; ///< writes its findings into the plan
};

} // namespace

NeckPlan planNeck(const NeckPart& part, const Held& setups, const Drawer& drawer,
                  const Machine& machine, const NeckCut& cut, const CutSettings& carved) {
    return Recipe(part, setups, drawer, machine, cut).write(carved);
}

const Cut* cutOfPocket(const SidePlan& side, NeckPocketKind pocket) {
    switch (pocket) {
    case NeckPocketKind::rod:
        return side.cutOf(CutKind::rod);
    case NeckPocketKind::adjuster: { // mostly with the rod's slot
        const Cut* own = side.cutOf(CutKind::adjuster);
        return own ? own : side.cutOf(CutKind::rod);
    }
    case NeckPocketKind::carbon:
        return side.cutOf(CutKind::carbon);
    case NeckPocketKind::ledge:
        return side.cutOf(CutKind::ledge);
    case NeckPocketKind::nut:
        return side.cutOf(CutKind::nut);
    }
    return nullptr;
}

} // namespace wren
