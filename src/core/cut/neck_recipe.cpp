#include "cut/neck_recipe.h"

#include "base/error.h"
#include "cut/at_places.h"
#include "cut/finish_choice.h"
#include "cut/neck_bits.h"
#include "cut/neck_finish.h"
#include "cut/neck_outline_cut.h"
#include "shop/wood.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double curingMinutes = 12 * 60; ///< common practice, no source: overnight
constexpr double besideBall = 1;          ///< of trench, beyond the widest bit that runs in it

class Recipe {
public:
    Recipe(const NeckPart& part, const Held& setups, const Drawer& drawer, const Machine& machine,
           const NeckCut& cut, bool several)
        : part_(part), setups_(setups), machine_(machine), cut_(cut),
          chooser_(drawer, plan_.findings, Role::neck), apart_(several) {}

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
        return feedsFor(bit, setups_.blank.species(), machine_, own);
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

    /// Chooses a bit and cuts with it; nothing where none serves, which the chooser has then said.
    void cut(int side, const CutName& name, const char* what, const CutOverrides& own,
             const BitWant& want, const std::function<Path(const Bit&, const Feeds&)>& path) {
        std::string why;
        const Bit* bit = chooser_.choose(what, own, want.can, want.better, want.words, why);
        if (bit) {
            const Feeds f = feeds(*bit, own);
            add(side, name, *bit, f, why, [&] { return path(*bit, f); });
        }
    }

    void pockets(int side, CutKind kind, const char* of, const std::vector<NeckPocketKind>& kinds) {
        std::vector<NeckPocket> some;
        for (const NeckPocket& p : part_.pockets()) {
            if (p.fromBack == (side == 1) &&
                std::find(kinds.begin(), kinds.end(), p.kind) != kinds.end()) {
                some.push_back(p);
            }
        }
        if (!some.empty()) {
            cut(side, kind, of, cut_.slots, slotBit(some, setups_.face),
                [&](const Bit& b, const Feeds& f) { return pocketPath(work(side), some, b, f); });
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
        BitWant want = flatBit(part_.blankTop() - outlineParting(part_),
                               "a flat bit for the wall's upper part");
        if (share != OutlineShare::front) {
            want.can = [this](const Bit& b) { return cutsOutline(b, reach(plan_.sharedOutline)); };
            want.words = "a flat bit that reaches through";
        }
        cut(side, CutKind::outline, "outline", cut_.outline, want,
            [&](const Bit& b, const Feeds& f) {
                return neckOutlinePath(work(side), plan_.tabs, b, f, share);
            });
    }

    void headFace() {
        if (part_.face(part_.outline().tip()) >= part_.blankTop() || setups_.face.scarfed) {
            return; // nothing stands over it, or its own piece was planed to it
        }
        cut(0, CutKind::head, "head's face", cut_.head, headBit(headReach(part_, setups_.face)),
            [&](const Bit& b, const Feeds& f) { return headFacePath(work(0), b, f); });
    }

    void hollow() {
        if (part_.face(part_.outline().tip()) >= 0) {
            return;
        }
        cut(0, CutKind::hollow, "hollow", cut_.hollow,
            hollowBit(part_, headReach(part_, setups_.face)),
            [&](const Bit& b, const Feeds& f) { return hollowPath(work(0), b, f); });
    }

    /// Holes of one side by diameter: a drill when one fits, else a flat bit that bores them.
    void holes(int side, std::vector<Hole> some) {
        while (!some.empty()) {
            const double d = some.front().diameter;
            const bool pins = isPin(some.front());
            const auto others = std::stable_partition(some.begin(), some.end(), [&](const Hole& h) {
                return std::abs(h.diameter - d) < 1e-6 && (!apart_ || isPin(h) == pins);
            });
            holesOfOne(side, {some.begin(), others});
            some.erase(some.begin(), others);
        }
    }

    static bool isPin(const Hole& h) { return h.feature.kind == FeatureKind::registerPin; }

    void holesOfOne(int side, const std::vector<Hole>& these) {
        const BitWant want = neckHoleBit(these, cut_);
        const std::string what = these.front().what;
        std::string why;
        const Bit* bit =
            chooser_.choose(fmt::format("{:.2f} mm {} holes", these.front().diameter, what).c_str(),
                            {}, want.can, want.better, want.words, why);
        if (!bit) {
            return;
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
        const double deep = notchDepth();
        cut(side, CutKind::notch, "witness notch", {},
            flatBit(deep,
                    fmt::format(
                        "any flat bit with flutes of {:.1f} mm, half the wood's thickness there",
                        deep)),
            [&](const Bit& b, const Feeds& f) {
                return notchPath(work(side), *setups_.notch, b, f);
            });
    }

    void carvedFace(const CutSettings& carved) {
        BoardPlan board = planBoard(*part_.carved(), setups_.face, chooser_.drawer(), machine_,
                                    carved, BoardShare::face);
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
    bool apart_; ///< the blank's own holes, since there are several necks in it
};

/// The first of the necks in its blank alone.
Held firstAlone(Held held) {
    held.face.places.resize(1, held.face.fromInstrument);
    held.back->places.resize(1, held.back->fromInstrument);
    return held;
}

} // namespace

NeckPlan planNeck(const NeckPart& part, const Held& setups, const Drawer& drawer,
                  const Machine& machine, const NeckCut& cut, const CutSettings& carved) {
    const bool several = setups.face.places.size() > 1;
    const Held first = firstAlone(setups);
    NeckPlan plan = Recipe(part, first, drawer, machine, cut, several).write(carved);
    plan.sides[0].setup.places = setups.face.places;
    plan.sides[1].setup.places = setups.back->places;
    cutAtPlaces(plan);
    return plan;
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
