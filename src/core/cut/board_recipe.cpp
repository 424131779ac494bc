#include "cut/board_recipe.h"

#include "cut/board_bits.h"
#include "cut/facing_cut.h"
#include "cut/marker_cut.h"
#include "cut/order.h"
#include "cut/plain_time.h"
#include "cut/radius_cut.h"
#include "cut/shelf_cut.h"
#include "cut/slot_cut.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include <fmt/format.h>

namespace wren {
namespace {

/// Stopping the spindle, swapping, probing again; common practice, no source.
constexpr double bitChangeSeconds = 90;
/// A blank this much too thick is faced first; less is left to the radius's own roughing.
constexpr double worthFacing = 1.5;
constexpr double leastRim = 8;        ///< of unfaced blank a probe plate can lie on
constexpr double fillingMinutes = 20; ///< at the bench; the curing not counted

/// A cut whose bit and place in the order are not settled yet.
struct Draft {
    CutKind kind;
    Candidates candidates;
    const CutOverrides* own;
    std::function<Path(const Setup&, const Bit&, const Feeds&)> path; ///< of one board
    std::vector<CutKind> after;
    bool wholeBlank = false;       ///< one path for all boards
    std::vector<double> seconds{}; ///< of each candidate
};

class Recipe {
public:
    Recipe(const BoardPart& board, const Setup& setup, const Drawer& drawer, const Machine& machine,
           const CutSettings& cut, BoardShare share)
        : board_(board), drawer_(drawer), machine_(machine), cut_(cut),
          wood_(setup.blank.species()), whole_(share == BoardShare::whole) {
        plan_.face().setup = setup;
    }

    BoardPlan write() {
        if (whole_) {
            plan_.tabs = placeTabs(board_, cut_);
            judgeTabs();
            decideFacing();
        }
        const SlotsFirst first = slotsFirst(question());
        plan_.slotsFirstPossible = first.possible;
        plan_.slotsFirstWhy = first.why;
        draftAll();
        settle();
        judgeCast();
        return std::move(plan_);
    }

private:
    BitQuestion question() const { return {board_, plan_.face().setup, drawer_, cut_}; }

    void say(Weight weight, std::string code, std::string message, double value, double limit) {
        sayOfBoard(plan_.findings, weight, std::move(code), std::move(message), value, limit);
    }

    void decideFacing() {
        const double excess =
            plan_.face().setup.facedTop() - board_.design().thickness - cut_.stockToLeave;
        const bool wanted = cut_.facing == Facing::always ||
                            (cut_.facing == Facing::automatic && excess >= worthFacing);
        if (wanted && excess > 0) {
            plan_.face().setup.faced = excess;
        }
    }

    void draftAll() {
        const bool slotsFirst = cut_.school == School::slotsFirst;
        const bool filled =
            !board_.pockets().empty() && board_.design().markers.inlay == Inlay::filled;
        // The slotting bit comes first: the radius makes room for it.
        const Candidates slots = board_.slots().empty() ? Candidates{} : bitsForSlots(question());
        const Candidates radius = bitsForRadius(question());
        const RadiusMargins margins = marginsFor(slots.bits.empty() ? nullptr : slots.bits[0]);
        if (plan_.face().setup.faced > 0) {
            double widest = 6;
            for (const Bit* bit : radius.bits) {
                widest = std::max(widest, bit->diameter);
            }
            judgeRim(widest + 1);
            draft({CutKind::facing,
                   bitsForFacing(question()),
                   &cut_.faced,
                   [this, widest](const Setup& s, const Bit& b, const Feeds& f) {
                       return facingPath(board_, s, b, f, widest + 1);
                   },
                   {},
                   true});
        }
        draft({CutKind::radius, radius, &cut_.radius,
               [this, margins](const Setup& s, const Bit& b, const Feeds& f) {
                   return radiusPath(board_, s, b, f, cut_, margins);
               },
               slotsFirst ? std::vector<CutKind>{CutKind::facing, CutKind::slots}
                          : std::vector<CutKind>{CutKind::facing}});
        listSurfacing(margins);
        if (board_.shelf()) {
            draft({CutKind::shelf,
                   bitsForShelf(question()),
                   &cut_.shelf,
                   [this](const Setup& s, const Bit& b, const Feeds& f) {
                       return shelfPath(board_, s, b, f);
                   },
                   {CutKind::radius}});
        }
        if (!board_.pockets().empty()) {
            draft({CutKind::markers,
                   bitsForMarkers(question()),
                   &cut_.markers,
                   [this](const Setup& s, const Bit& b, const Feeds& f) {
                       return markerPath(board_, s, b, f);
                   },
                   {CutKind::radius, CutKind::shelf}});
        }
        if (filled) {
            Candidates again = radius;
            again.findings.clear(); // the radius has said them
            draft({CutKind::skim,
                   again,
                   &cut_.radius,
                   [this](const Setup& s, const Bit& b, const Feeds& f) {
                       return skimPath(board_, s, b, f, cut_);
                   },
                   {CutKind::markers}});
        }
        if (!board_.slots().empty()) {
            draft({CutKind::slots, slots, &cut_.slots,
                   [this](const Setup& s, const Bit& b, const Feeds& f) {
                       return slotPath(board_, s, b, f, cut_);
                   },
                   slotsFirst ? std::vector<CutKind>{CutKind::facing}
                              : std::vector<CutKind>{CutKind::radius, CutKind::skim}});
        }
        if (!whole_) {
            return;
        }
        draft({CutKind::outline,
               bitsForOutline(question()),
               &cut_.outline,
               [this](const Setup& s, const Bit& b, const Feeds& f) {
                   return outlinePath(board_, s, b, f, cut_, plan_.tabs);
               },
               {CutKind::facing, CutKind::radius, CutKind::shelf, CutKind::markers, CutKind::skim,
                CutKind::slots}});
    }

    void draft(Draft d) {
        plan_.findings.insert(plan_.findings.end(), d.candidates.findings.begin(),
                              d.candidates.findings.end());
        for (const Bit* bit : d.candidates.bits) {
            d.seconds.push_back(secondsOf(d, *bit));
        }
        if (!d.candidates.bits.empty()) {
            drafts_.push_back(std::move(d));
        }
    }

    RadiusMargins marginsFor(const Bit* slotBit) const {
        RadiusMargins m;
        if (slotBit && cut_.school == School::radiusFirst && board_.design().blindMargin == 0) {
            const double entry = slotEntryBeyondEdge(*slotBit);
            m.finish = entry + slotBit->radius() + 0.2;
            m.rough = std::max(m.finish, entry + slotBit->shank / 2 + 0.4);
        }
        return m;
    }

    Path pathOf(const Draft& d, const Bit& bit, const Feeds& feeds) const {
        if (d.wholeBlank) {
            return d.path(plan_.face().setup, bit, feeds);
        }
        Path all;
        for (std::size_t i = 0; i < plan_.face().setup.places.size(); ++i) {
            // Each begins with a rapid at clearance height; here it comes from the board before.
            append(all, d.path(plan_.face().setup.at(i), bit, feeds));
        }
        return all;
    }

    double secondsOf(const Draft& d, const Bit& bit) const {
        const Feeds feeds = feedsFor(bit, wood_, machine_, *d.own);
        const double boards =
            d.wholeBlank ? 1 : static_cast<double>(plan_.face().setup.places.size());
        return boards * plainSeconds(d.path(plan_.face().setup, bit, feeds), machine_);
    }

    /// What every bit that can do the radius would leave and cost, so that the maker chooses with
    /// open eyes.
    void listSurfacing(const RadiusMargins& margins) {
        if (drafts_.empty() || drafts_.back().kind != CutKind::radius) {
            return;
        }
        CutSettings open = cut_;
        open.radius.bit.clear();
        const BitQuestion q{board_, plan_.face().setup, drawer_, open};
        const Draft& radius = drafts_.back();
        const double area = board_.areaOfFace() / 1000;
        for (const Bit* bit : bitsForRadius(q).bits) {
            const auto known =
                std::find(radius.candidates.bits.begin(), radius.candidates.bits.end(), bit);
            const double seconds = known == radius.candidates.bits.end()
                                       ? secondsOf(radius, *bit)
                                       : radius.seconds[static_cast<std::size_t>(
                                             known - radius.candidates.bits.begin())];
            const RadiusFigures f = radiusFigures(board_, *bit, cut_, margins);
            plan_.surfacing.push_back(
                {bit->name, f.stepover, f.ridge, f.meanLeft * area, seconds / 60, false});
        }
        std::stable_sort(plan_.surfacing.begin(), plan_.surfacing.end(),
                         [](const auto& a, const auto& b) { return a.minutes < b.minutes; });
    }

    void settle() {
        std::vector<OpenCut> open;
        for (const Draft& d : drafts_) {
            OpenCut o;
            for (std::size_t i = 0; i < drafts_.size(); ++i) {
                if (std::find(d.after.begin(), d.after.end(), drafts_[i].kind) != d.after.end()) {
                    o.after.push_back(i);
                }
            }
            for (const Bit* bit : d.candidates.bits) {
                o.bits.push_back(static_cast<std::size_t>(bit - drawer_.data()));
            }
            o.seconds = d.seconds;
            open.push_back(std::move(o));
        }
        const Bit* inSpindle = nullptr;
        for (const SettledCut& s : settleOrder(open, bitChangeSeconds)) {
            const Draft& d = drafts_.at(s.cut);
            const Bit& bit = *d.candidates.bits.at(s.choice);
            const bool there = inSpindle && inSpindle == &bit;
            add(d, bit, open.at(s.cut), s.choice, there);
            plan_.bitChanges += inSpindle && !there ? 1 : 0;
            inSpindle = &bit;
        }
    }

    void add(const Draft& d, const Bit& bit, const OpenCut& open, std::size_t choice, bool stays) {
        Cut cut{d.kind};
        cut.bit = bit;
        cut.feeds = feedsFor(bit, wood_, machine_, *d.own);
        cut.why = whyOf(d, bit, open, choice, stays);
        cut.path = pathOf(d, bit, cut.feeds);
        if (d.kind == CutKind::radius || d.kind == CutKind::skim) {
            for (SurfacingChoice& s : plan_.surfacing) {
                if (s.bit == bit.name) {
                    cut.stepover = s.stepover;
                    s.chosen = s.chosen || d.kind == CutKind::radius;
                }
            }
        }
        if (d.kind == CutKind::skim) {
            cut.handBefore = "Seal the pockets' walls, pour the filling a little proud, let it "
                             "cure fully. Tinted "
                             "filling bleeds into open grain that is not sealed first.";
            cut.handMinutes = fillingMinutes;
            say(Weight::caution, "filling-bleeds",
                "The markers are filled: seal open grain before pouring, or the tint bleeds into "
                "it. The skim takes only what stands proud.",
                0, 0);
        }
        if (d.kind == CutKind::slots) {
            judgeBite(cut);
        }
        plan_.face().cuts.push_back(std::move(cut));
    }

    std::string whyOf(const Draft& d, const Bit& bit, const OpenCut& open, std::size_t choice,
                      bool stays) const {
        if (d.candidates.byHand) {
            return "Chosen by hand.";
        }
        if (d.kind == CutKind::slots || open.bits.size() == 1) {
            return !d.candidates.why.empty() && d.kind != CutKind::outline
                       ? d.candidates.why
                       : "The only bit in the drawer that can do it.";
        }
        const double own = open.seconds[choice];
        const double least = *std::min_element(open.seconds.begin(), open.seconds.end());
        std::string why =
            own <= least + 1e-9
                ? fmt::format("The quickest of {} that can do it: {:.1f} minutes before "
                              "acceleration",
                              open.bits.size(), own / 60)
                : fmt::format("{:.1f} minutes, {:.1f} more than the quickest, but one bit change "
                              "less",
                              own / 60, (own - least) / 60);
        if (stays) {
            why += "; it is in the spindle already";
        }
        if (d.kind == CutKind::markers) {
            why += fmt::format("; {}", markerWayName(*markerWay(board_.design().markers, bit)));
        }
        return why + ".";
    }

    /// With Z zeroed on the blank's face, some of that face must outlive the facing: every later
    /// bit is probed on it.
    void judgeRim(double margin) {
        const double rim = frameMargin(board_, plan_.face().setup) - margin;
        if (plan_.face().setup.zZero == ZZero::top && rim < leastRim) {
            say(Weight::stop, "zero-faced-away",
                fmt::format("Z is zeroed on the blank's face, but facing leaves {:.1f} mm of it "
                            "beside the boards; {:.1f} mm is the least to probe on. Zero on the "
                            "bed, or leave the blank unfaced.",
                            std::max(0.0, rim), leastRim),
                rim, leastRim);
        }
    }

    void judgeBite(const Cut& cut) {
        const double share = cut.feeds.depthPerPass / cut.bit.diameter;
        if (share < 0.25 - 1e-9 || share > 0.5 + 1e-9) {
            say(Weight::caution, "slot-bite",
                fmt::format("Slots are cut {:.2f} mm a pass, {:.0f} % of the bit's diameter; a "
                            "quarter to a half keeps such bits whole.",
                            cut.feeds.depthPerPass, 100 * share),
                cut.feeds.depthPerPass, cut.bit.diameter / 2);
        }
    }

    void judgeTabs() {
        if (!cut_.tabPlaces.empty()) {
            for (const Tab& tab : plan_.tabs) {
                const TabRoom room = roomOf(tab, board_, cut_);
                if (room.has < room.needs - 1e-9) {
                    say(Weight::caution, "tab-at-fret",
                        fmt::format("The tab at {:.1f} mm stands {:.1f} mm from a fret's end or a "
                                    "corner; {:.1f} mm keeps its wood clear of them.",
                                    tab.x, room.has, room.needs),
                        room.has, room.needs);
                    plan_.findings.back().atX = tab.x;
                }
            }
            return;
        }
        const auto wanted = 2 * static_cast<std::size_t>(cut_.tabsPerSide);
        if (plan_.tabs.size() < wanted) {
            say(Weight::caution, "few-tabs",
                fmt::format("Only {} of {} tabs fit between the fret ends; shorter tabs would fit "
                            "more.",
                            plan_.tabs.size(), wanted),
                static_cast<double>(plan_.tabs.size()), static_cast<double>(wanted));
        }
    }

    void judgeCast() {
        for (const Cut& cut : plan_.face().cuts) {
            if (wood_.cast && cut.bit.flutes > 1 && cut.kind != CutKind::slots) {
                say(Weight::caution, "melts",
                    fmt::format("{} melts: {} has {} flutes; a sharp single-flute bit clears its "
                                "chips cool.",
                                wood_.name, cut.bit.name, cut.bit.flutes),
                    cut.bit.flutes, 1);
                return;
            }
        }
    }

    const BoardPart& board_;
    const Drawer& drawer_;
    const Machine& machine_;
    const CutSettings& cut_;
    const Wood& wood_;
    bool whole_;
    BoardPlan plan_;
    std::vector<Draft> drafts_;
};

} // namespace

BoardPlan planBoard(const BoardPart& board, const Setup& setup, const Drawer& drawer,
                    const Machine& machine, const CutSettings& cut, BoardShare share) {
    return Recipe(board, setup, drawer, machine, cut, share).write();
}

} // namespace wren
