#include "cut/panel_recipe.h"

#include "base/error.h"
#include "cut/bit_chooser.h"
#include "cut/blank_tasks.h"
#include "cut/carve_recipe.h"
#include "cut/panel_bits.h"
#include "cut/panel_order.h"
#include "cut/panel_tasks.h"
#include "cut/pocket_tasks.h"
#include "design/shape.h"
#include "geom/inset.h"
#include "shop/wood.h"

#include <algorithm>
#include <deque>
#include <map>
#include <numeric>
#include <set>

#include <fmt/format.h>

namespace wren {
namespace {

/// Beside what the saw has left of it wood can be skimmed so much deeper at a time; common
/// practice, no source.
constexpr double skimDeeper = 3;

class Recipe {
public:
    Recipe(const Panel& panel, const Held& setups, const Drawer& drawer, const Machine& machine,
           const BodyCut& cut)
        : panel_(panel), setups_(setups), machine_(machine), cut_(cut),
          chooser_(drawer, plan_.findings, setups.face.part) {}

    PanelPlan write() {
        plan_.sides[0].setup = setups_.face;
        if (panel_.outlined) {
            plan_.tabs = setups_.sawn ? earTabs(panel_, *setups_.sawn) : panelTabs(panel_, cut_);
        }
        if (setups_.back) {
            plan_.sides[1].setup = *setups_.back;
            plan_.sharedOutline =
                panel_.outlined && outlineIsShared(panel_, cut_, chooser_.drawer());
        }
        side(0);
        if (setups_.back) {
            side(1);
        }
        return std::move(plan_);
    }

private:
    PanelWork work(std::size_t side) const {
        return {panel_, plan_.sides[side].setup, cut_, machine_.spoilDepth};
    }

    Feeds feeds(const Bit& bit, const CutOverrides& own) const {
        return feedsFor(bit, setups_.blank.species(), machine_, own);
    }

    void side(std::size_t side) {
        tasks_.clear();
        made_.clear();
        if (side == 0) {
            if (auto task = facingTask(setups_, cut_, chooser_)) {
                add(std::move(*task));
            }
        }
        const std::size_t first = tasks_.size();
        for (std::size_t i = 0; i < panel_.pockets.size(); ++i) {
            const PanelPocket& p = panel_.pockets[i];
            if (p.stage == PocketStage::before) {
                continue;
            }
            if (setups_.back && wantsHalving(p, cut_.through, chooser_.drawer())) {
                plan_.halved.insert(i);
                halves_.push_back(halfOf(p, panel_, side == 1, cut_.through));
                following(p.what, [&] { pocket(side, i, halves_.back()); });
            } else if (p.fromBack == (side == 1)) {
                following(p.what, [&] { pocket(side, i, p); });
            }
        }
        const std::size_t pockets = tasks_.size();
        holes(side, first, pockets);
        if (auto task = notchTask(work(side), setups_, chooser_)) {
            if (!tasks_.empty() && tasks_.front().kind == CutKind::facing) {
                task->after = {0};
            }
            add(std::move(*task));
        }
        carve(side);
        engrave(side);
        outline(side);
        shareBits(tasks_);
        settle(side);
    }

    /// A shape no path can be laid along stops its part, and says which it is.
    template <typename Work>
    void following(const std::string& what, Work work) {
        try {
            work();
        } catch (const Error& e) {
            sayOf(setups_.face.part, plan_.findings, Weight::stop, "cannot-follow",
                  fmt::format("The {} cannot be cut: {}", what, e.what()), 0, 0);
        }
    }

    // --- single cuts ------------------------------------------------------------------------

    void pocket(std::size_t side, std::size_t index, const PanelPocket& p) {
        const PanelWork w = work(side);
        const PocketBit chosen = choosePocketBit(w, p, chooser_);
        if (!chosen.bit) {
            plan_.findings.back().feature = p.feature;
            return;
        }
        if (standsOnUncut(side, index)) {
            return; // why there is no cut for what it begins in is told there
        }
        std::vector<std::size_t> after = beforePocket(side, index);
        if (leavesPlug(p, *chosen.bit, cut_)) {
            plug(side, index, chosen, std::move(after));
            return;
        }
        for (OpenTask& task : pocketTasks(w, p, chosen, chooser_.drawer())) {
            task.after = std::move(after);
            after = {tasks_.size()};
            add(std::move(task));
        }
        madePocket(side, index);
    }

    void plug(std::size_t side, std::size_t index, const PocketBit& chosen,
              std::vector<std::size_t> after) {
        const PanelPocket& p = panel_.pockets[index];
        const std::vector<PanelTab> tabs = plugTabs(panel_, p, cut_);
        plan_.plugs.push_back({index, tabs, plugBegins(*chosen.bit, cut_)});
        OpenTask task = plugTask(work(side), p, tabs, chosen);
        task.after = std::move(after);
        add(std::move(task));
        madePocket(side, index);
    }

    /// By the task added last.
    void madePocket(std::size_t side, std::size_t index) {
        made_.emplace_back(tasks_.size() - 1, index);
        pocketTasks_[{side, index}] = tasks_.size() - 1;
    }

    /// What must be cut before this pocket: the facing, and pockets its mouth lies in.
    std::vector<std::size_t> beforePocket(std::size_t side, std::size_t index) const {
        std::vector<std::size_t> out;
        if (!tasks_.empty() && tasks_.front().kind == CutKind::facing) {
            out.push_back(0);
        }
        const PanelPocket& p = panel_.pockets[index];
        for (const auto& [key, task] : pocketTasks_) {
            const PanelPocket& q = panel_.pockets[key.second];
            if (key.first == side && std::abs(q.floor - p.mouth) < 1e-6 &&
                q.fromBack == p.fromBack) {
                out.push_back(task);
            }
        }
        return out;
    }

    /// Whether it begins on the floor of pockets none of which can be cut: wood stands over it.
    bool standsOnUncut(std::size_t side, std::size_t index) const {
        const PanelPocket& p = panel_.pockets[index];
        bool stands = false;
        for (std::size_t k = 0; k < panel_.pockets.size(); ++k) {
            const PanelPocket& q = panel_.pockets[k];
            if (k == index || q.fromBack != p.fromBack || std::abs(q.floor - p.mouth) > 1e-6) {
                continue;
            }
            if (q.stage == PocketStage::before || pocketTasks_.count({side, k}) > 0) {
                return false;
            }
            stands = true;
        }
        return stands;
    }

    void holes(std::size_t side, std::size_t first, std::size_t pockets) {
        std::vector<Hole> all;
        std::vector<std::size_t> features;
        for (std::size_t i = 0; i < panel_.holes.size(); ++i) {
            if (panel_.holes[i].fromBack == (side == 1) && !panel_.holes[i].before) {
                all.push_back(panel_.holes[i]);
                features.push_back(panel_.pockets.size() + i);
            }
        }
        if (side == 0 && setups_.drillPins) {
            for (const RegisterPin& pin : setups_.pins) {
                all.push_back(
                    {"register", pin.at, setups_.pinSize, panel_.top, panel_.bottom, false, true});
                all.back().feature = {FeatureKind::registerPin};
                features.push_back(std::size_t(-1));
            }
        }
        std::set<std::pair<std::string, double>> done;
        for (const Hole& h : all) {
            if (!done.insert({h.what, h.diameter}).second) {
                continue;
            }
            std::vector<Hole> these;
            std::vector<std::size_t> which;
            for (std::size_t i = 0; i < all.size(); ++i) {
                if (all[i].what == h.what && all[i].diameter == h.diameter) {
                    these.push_back(all[i]);
                    which.push_back(features[i]);
                }
            }
            holesOf(side, these, which, first, pockets);
        }
    }

    void holesOf(std::size_t side, const std::vector<Hole>& these,
                 const std::vector<std::size_t>& which, std::size_t first, std::size_t pockets) {
        std::optional<OpenTask> task = holesTask(work(side), these, chooser_);
        if (!task) {
            plan_.findings.back().feature = these.front().feature;
            return;
        }
        task->after.resize(pockets - first);
        std::iota(task->after.begin(), task->after.end(), first);
        if (first > 0) {
            task->after.push_back(0);
        }
        for (std::size_t i : which) {
            if (i != std::size_t(-1)) {
                made_.emplace_back(tasks_.size(), i);
            }
        }
        add(std::move(*task));
    }

    /// Edges and contours, after everything that needs the flat.
    void carve(std::size_t side) {
        CarveTasks carving = carveTasks(
            {work(side), side == 1, setups_.pins, setups_.pinSize}, chooser_,
            [this](const Bit& bit, const CutOverrides& own) { return feeds(bit, own).feed; });
        plan_.carvedBy[side] = carving.ballRadius;
        for (OpenTask& t : carving.tasks) {
            addAfterAll(std::move(t));
        }
    }

    /// Lines in the face as it is carved.
    void engrave(std::size_t side) {
        if (auto task = engraveTask(work(side), side == 1, chooser_)) {
            addAfterAll(std::move(*task));
        }
    }

    // --- the outline ------------------------------------------------------------------------

    /// Before an outside is sawn, unless carving has left a channel beside it already.
    void guide() {
        if (!panel_.frontFall.level()) {
            return;
        }
        if (auto task = guideTask(work(0), chooser_)) {
            addAfterAll(std::move(*task));
        }
    }

    void outline(std::size_t side) {
        if (setups_.sawn && side == 0 && !plan_.sharedOutline) {
            guide();
            return;
        }
        if (!panel_.outlined || (side == 0 && setups_.back && !plan_.sharedOutline)) {
            return;
        }
        const EdgeShare share = !plan_.sharedOutline ? EdgeShare::whole
                                : side == 0          ? EdgeShare::upper
                                                     : EdgeShare::lower;
        const BitJudge judge = cutsEdge(panel_, cut_, share);
        std::string why;
        const double deep = edgeDepth(panel_, cut_, share);
        const Bit* bit = chooser_.choose(
            "outline", cut_.outline, judge, widestOf(true, deep, share == EdgeShare::whole),
            fmt::format("a flat bit with flutes of {:.1f} mm{}", deep,
                        plan_.sharedOutline ? ", half the wall; the other face cuts the rest" : ""),
            why);
        if (!bit) {
            return;
        }
        for (PanelTab& tab : plan_.tabs) { // they stand on what carving the far face has left
            tab.under = carveTrench(panel_.fall(side == 0), tab.at, plan_.carvedBy[1 - side]);
            // And where a glued-on layer ends beside the outline, above that layer.
            tab.under = std::max(tab.under, panel_.frame[1 - side]);
            if (!setups_.back) { // and no higher than what carving this face has left
                const double trench = carveTrench(panel_.frontFall, tab.at, plan_.carvedBy[side]);
                tab.height = std::min(tab.height, panel_.thickness() - trench);
            }
        }
        const PanelWork w = work(side);
        addAfterAll({CutKind::outline,
                     bit,
                     cut_.outline,
                     why + whyKind(*bit, true) + whyGrain(),
                     [this, w, share](const Bit& b, const Feeds& f) {
                         Feeds skim = f;
                         skim.depthPerPass *=
                             setups_.sawn && share != EdgeShare::upper ? skimDeeper : 1;
                         return panelOutlinePath(w, plan_.tabs, b, skim, share);
                     },
                     judge,
                     {},
                     0});
    }

    /// Against the grain wood tears out of horns and end grain: there a pass is light and climbs.
    std::string whyGrain() const {
        return cut_.stockToLeave > 0
                   ? fmt::format(" The last pass climbs and takes {:.2f} mm, so that end "
                                 "grain at the horns does not tear.",
                                 cut_.stockToLeave)
                   : std::string();
    }

    // --- order ------------------------------------------------------------------------------

    void add(OpenTask task) { tasks_.push_back(std::move(task)); }
    void addAfterAll(OpenTask task) {
        task.after.resize(tasks_.size());
        std::iota(task.after.begin(), task.after.end(), std::size_t(0));
        add(std::move(task));
    }

    void settle(std::size_t side) {
        std::vector<std::optional<std::size_t>> cuts(tasks_.size());
        for (std::size_t i : runningOrder(tasks_)) {
            cuts[i] = write(side, i);
        }
        if (side == 1 && setups_.sawn && !plan_.sides[1].cuts.empty()) {
            Cut& first = plan_.sides[1].cuts.front();
            first.handBefore = fmt::format(
                "the outside sawn {:.1f} mm off the outline, the ears with the pins left on",
                setups_.sawn->off);
            first.handMinutes = 20;
        }
        for (const auto& [task, feature] : made_) {
            plan_.tasks.push_back({feature, side, cuts[task], tasks_[task].bit->name});
        }
    }

    /// The cut it went into; none where there was nothing to cut.
    std::optional<std::size_t> write(std::size_t side, std::size_t index) {
        const OpenTask& t = tasks_[index];
        std::optional<std::size_t> into;
        following(t.what, [&] {
            const Feeds f = feeds(*t.bit, t.own);
            Path path = t.path(*t.bit, f);
            if (path.empty()) {
                return;
            }
            std::vector<Cut>& cuts = plan_.sides[side].cuts;
            if (!cuts.empty() && cuts.back() == t && cuts.back().bit == *t.bit) {
                append(cuts.back().path, std::move(path));
            } else {
                Cut c{t};
                c.bit = *t.bit;
                c.feeds = f;
                c.stepover = t.stepover;
                c.why = t.why;
                c.path = std::move(path);
                cuts.push_back(std::move(c));
            }
            into = cuts.size() - 1;
        });
        return into;
    }

    const Panel& panel_;
    const Held& setups_;
    const Machine& machine_;
    const BodyCut& cut_;
    PanelPlan plan_;
    BitChooser chooser_; ///< writes its findings into the plan
    std::vector<OpenTask> tasks_;
    std::vector<std::pair<std::size_t, std::size_t>> made_; ///< task and the feature it makes
    std::deque<PanelPocket> halves_; ///< of cut-outs no bit reaches through; tasks refer to them
    std::map<std::pair<std::size_t, std::size_t>, std::size_t> pocketTasks_; ///< by side and index
};

/// A cut made for the first of several pieces in one blank, and then for each of the others: they
/// lie the same way, so its path is only shifted.
Path overPlaces(const Path& first, const Setup& setup) {
    const Vec3 from = setup.places.front().toSetup({0, 0, 0});
    Path all;
    for (const SetupFromInstrument& place : setup.places) {
        append(all, movedBy(first, (place.toSetup({0, 0, 0}) - from).xy()));
    }
    return all;
}

} // namespace

PanelPlan planPanel(const Panel& panel, const Held& setups, const Drawer& drawer,
                    const Machine& machine, const BodyCut& cut) {
    PanelPlan plan = Recipe(panel, setups, drawer, machine, cut).write();
    if (setups.face.places.size() > 1) {
        for (Cut& c : plan.sides[0].cuts) {
            c.path = overPlaces(c.path, setups.face);
        }
    }
    return plan;
}

} // namespace wren
