#include "cut/board_recipe.h"

#include "cut/contact.h"
#include "cut/plain_time.h"
#include "cut/radius_cut.h"
#include "cut/slot_cut.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include <fmt/format.h>

namespace wren {
namespace {

/// Stopping the spindle, swapping, probing again; common practice, no source.
constexpr double bitChangeSeconds = 90;
/// The slot a bit cuts may differ from the wanted one by the walls' tolerance on each side.
constexpr double wallTolerance = 0.02;
/// Narrower than this, the frame beside the outline bends and tears. Common practice, no source.
constexpr double leastFrame = 3;

class Recipe {
public:
    Recipe(const BoardPart& board, const Setup& setup, const Drawer& drawer, const Machine& machine,
           const CutSettings& cut)
        : board_(board), drawer_(drawer), machine_(machine), cut_(cut),
          wood_(woodById(setup.blank.wood)) {
        plan_.setup = setup;
    }

    BoardPlan write() {
        plan_.tabs = placeTabs(board_, cut_);
        judgeTabs();
        const Bit* slotBit = chooseSlotBit();
        judgeSchools();
        const Bit* outlineBit = chooseOutlineBit();
        const Bit* radiusBit = chooseRadiusBit(slotBit, outlineBit);
        if (cut_.school == School::slotsFirst) {
            addSlots(slotBit);
            addRadius(radiusBit, slotBit);
        } else {
            addRadius(radiusBit, slotBit);
            addSlots(slotBit);
        }
        addOutline(outlineBit);
        return std::move(plan_);
    }

private:
    void say(Weight weight, std::string code, std::string message, double value, double limit) {
        Finding f;
        f.weight = weight;
        f.code = std::move(code);
        f.part = plan_.setup.part;
        f.message = std::move(message);
        f.value = value;
        f.limit = limit;
        plan_.findings.push_back(std::move(f));
    }

    /// The maker's own choice when there is one; a name that is not in the drawer is a stop.
    const Bit* overridden(const CutOverrides& o, const char* what) {
        const Bit* bit = findBit(drawer_, o.bit);
        if (!bit) {
            say(Weight::stop, "no-bit",
                fmt::format("The bit \"{}\" set for the {} is not in the drawer.", o.bit, what), 0,
                0);
        }
        return bit;
    }

    const Bit* chooseSlotBit() {
        const double wanted = board_.design().slotWidth;
        if (!cut_.slots.bit.empty()) {
            const Bit* bit = overridden(cut_.slots, "slots");
            if (bit && bit->diameter > wanted + 2 * wallTolerance) {
                say(Weight::stop, "slot-bit-too-wide",
                    fmt::format("The bit {} cuts {:.2f} mm, wider than the {:.2f} mm slot.",
                                bit->name, bit->diameter, wanted),
                    bit->diameter, wanted);
            }
            slotWhy_ = "Chosen by hand.";
            return bit;
        }
        const Bit* best = nullptr;
        for (const Bit& bit : drawer_) {
            const double reach = fluteReachForSlots(board_, plan_.setup, cut_, bit);
            if (bit.kind != BitKind::fretSlot || bit.diameter > wanted + wallTolerance ||
                bit.fluteLength < reach) {
                continue;
            }
            if (!best || bit.diameter > best->diameter) {
                best = &bit;
            }
        }
        if (!best) {
            const double reach =
                fluteReachForSlots(board_, plan_.setup, cut_, drawer_.empty() ? Bit{} : drawer_[0]);
            say(Weight::stop, "no-slot-bit",
                fmt::format(
                    "No slotting bit in the drawer is at most {:.2f} mm wide with flutes of "
                    "{:.2f} mm or more, which slots {} the radius need.",
                    wanted, reach, cut_.school == School::slotsFirst ? "before" : "after"),
                0, reach);
            return nullptr;
        }
        slotWhy_ = best->diameter < wanted - 1e-9
                       ? fmt::format(
                             "The widest slotting bit that fits {:.2f} mm and reaches; it cuts the "
                             "two walls in turn.",
                             wanted)
                       : fmt::format("As wide as the slot, {:.2f} mm, so one line cuts both walls.",
                                     wanted);
        return best;
    }

    void judgeSchools() {
        CutSettings first = cut_;
        first.school = School::slotsFirst;
        const Bit* longest = nullptr;
        for (const Bit& bit : drawer_) {
            if (bit.kind == BitKind::fretSlot &&
                bit.diameter <= board_.design().slotWidth + wallTolerance &&
                (!longest || bit.fluteLength > longest->fluteLength)) {
                longest = &bit;
            }
        }
        if (!longest) {
            plan_.slotsFirstWhy = "No slotting bit in the drawer fits the slot.";
            return;
        }
        const double reach = fluteReachForSlots(board_, plan_.setup, first, *longest);
        plan_.slotsFirstPossible = longest->fluteLength >= reach;
        plan_.slotsFirstWhy = fmt::format("Slots before the radius need {:.2f} mm of flute (the "
                                          "slot, the arc's drop and the wood "
                                          "still on top); {} has {:.2f} mm.",
                                          reach, longest->name, longest->fluteLength);
    }

    const Bit* chooseOutlineBit() {
        if (!cut_.outline.bit.empty()) {
            outlineWhy_ = "Chosen by hand.";
            return overridden(cut_.outline, "outline");
        }
        const Blank& blank = plan_.setup.blank;
        const double margin =
            std::min((blank.width - board_.widest()) / 2, (blank.length - board_.length()) / 2);
        const double depth = blank.thickness + cut_.through;
        const Bit* best = nullptr;
        const Bit* smallest = nullptr;
        for (const Bit& bit : drawer_) {
            if (bit.kind != BitKind::flat || bit.fluteLength < depth) {
                continue;
            }
            if (!smallest || bit.diameter < smallest->diameter) {
                smallest = &bit;
            }
            const bool fits = bit.diameter <= 6.5 && bit.diameter + leastFrame <= margin;
            if (fits && (!best || bit.diameter > best->diameter)) {
                best = &bit;
            }
        }
        const Bit* bit = best ? best : smallest;
        if (!bit) {
            say(Weight::stop, "no-outline-bit",
                fmt::format("No flat bit in the drawer has flutes of {:.2f} mm or more, which "
                            "cutting through this blank needs.",
                            depth),
                0, depth);
            return nullptr;
        }
        outlineWhy_ = best ? fmt::format("The largest flat bit up to 6.5 mm whose flutes reach "
                                         "{:.2f} mm and that leaves a frame of {:.1f} mm.",
                                         depth, margin - bit->diameter)
                           : "The smallest flat bit that reaches through: the waste is narrow.";
        if (margin - bit->diameter < leastFrame) {
            say(Weight::caution, "thin-frame",
                fmt::format("Only {:.1f} mm of frame is left beside the outline; {:.1f} mm or more "
                            "holds the tabs safely.",
                            std::max(0.0, margin - bit->diameter), leastFrame),
                margin - bit->diameter, leastFrame);
        }
        return bit;
    }

    RadiusMargins marginsFor(const Bit* slotBit) const {
        RadiusMargins m;
        if (slotBit && cut_.school == School::radiusFirst) {
            const double entry = slotEntryBeyondEdge(*slotBit);
            m.finish = entry + slotBit->radius() + 0.2;
            m.rough = std::max(m.finish, entry + slotBit->shank / 2 + 0.4);
        }
        return m;
    }

    Cut radiusCut(const Bit& bit, const Bit* slotBit) const {
        Cut cut;
        cut.what = "radius";
        cut.bit = bit;
        cut.feeds = feedsFor(bit, wood_, machine_, cut_.radius);
        const CylinderFace face{board_.design().thickness, board_.design().radius};
        cut.stepover = bit.kind == BitKind::ball ? ballStepover(face, cut_.scallop, bit.radius())
                                                 : std::sqrt(2 * face.radius * cut_.scallop);
        cut.path = radiusPath(board_, plan_.setup, bit, cut.feeds, cut_, marginsFor(slotBit));
        return cut;
    }

    const Bit* chooseRadiusBit(const Bit* slotBit, const Bit* outlineBit) {
        const double depth = plan_.setup.blank.thickness - board_.face(board_.widest() / 2);
        const Bit* best = nullptr;
        double bestCost = 0;
        double bestSeconds = 0;
        for (const Bit& bit : drawer_) {
            const bool able = bit.kind != BitKind::fretSlot && bit.fluteLength >= depth;
            if (!able) {
                continue;
            }
            const double seconds = plainSeconds(radiusCut(bit, slotBit).path, machine_);
            plan_.surfacing.push_back({bit.name, seconds / 60, false});
            // With the slots already cut, one bit for radius and outline saves a change.
            const bool sharesProgram =
                cut_.school == School::slotsFirst && outlineBit && bit == *outlineBit;
            const double cost = seconds + (sharesProgram ? 0 : bitChangeSeconds);
            if (!best || cost < bestCost) {
                best = &bit;
                bestCost = cost;
                bestSeconds = seconds;
            }
        }
        if (!cut_.radius.bit.empty()) {
            best = overridden(cut_.radius, "radius");
            radiusWhy_ = "Chosen by hand.";
            if (best && best->kind == BitKind::fretSlot) {
                say(Weight::stop, "no-bit",
                    fmt::format("{} is a slotting bit; the radius needs a flat or a ball end.",
                                best->name),
                    0, 0);
                best = nullptr;
            }
        } else if (best) {
            radiusWhy_ = fmt::format("The quickest in the drawer for ridges of {:.3f} mm: {:.1f} "
                                     "minutes with roughing, before acceleration.",
                                     cut_.scallop, bestSeconds / 60);
        } else {
            say(Weight::stop, "no-radius-bit",
                fmt::format("No flat or ball bit in the drawer has flutes of {:.2f} mm or more, "
                            "which the radius needs.",
                            depth),
                0, depth);
        }
        for (SurfacingChoice& choice : plan_.surfacing) {
            choice.chosen = best && choice.bit == best->name;
        }
        return best;
    }

    void addRadius(const Bit* bit, const Bit* slotBit) {
        if (bit) {
            plan_.cuts.push_back(radiusCut(*bit, slotBit));
            plan_.cuts.back().why = radiusWhy_;
        }
    }

    void addSlots(const Bit* bit) {
        if (!bit) {
            return;
        }
        Cut cut;
        cut.what = "slots";
        cut.bit = *bit;
        cut.feeds = feedsFor(*bit, wood_, machine_, cut_.slots);
        cut.why = slotWhy_;
        const double share = cut.feeds.depthPerPass / bit->diameter;
        if (share < 0.25 - 1e-9 || share > 0.5 + 1e-9) {
            say(Weight::caution, "slot-bite",
                fmt::format("Slots are cut {:.2f} mm a pass, {:.0f} % of the bit's diameter; a "
                            "quarter to a half keeps such bits whole.",
                            cut.feeds.depthPerPass, 100 * share),
                cut.feeds.depthPerPass, bit->diameter / 2);
        }
        cut.path = slotPath(board_, plan_.setup, *bit, cut.feeds, cut_);
        plan_.cuts.push_back(std::move(cut));
    }

    void addOutline(const Bit* bit) {
        if (!bit) {
            return;
        }
        Cut cut;
        cut.what = "outline";
        cut.bit = *bit;
        cut.feeds = feedsFor(*bit, wood_, machine_, cut_.outline);
        cut.why = outlineWhy_;
        cut.path = outlinePath(board_, plan_.setup, *bit, cut.feeds, cut_, plan_.tabs);
        plan_.cuts.push_back(std::move(cut));
    }

    void judgeTabs() {
        const auto wanted = 2 * static_cast<std::size_t>(cut_.tabsPerSide);
        if (plan_.tabs.size() < wanted) {
            say(Weight::caution, "few-tabs",
                fmt::format("Only {} of {} tabs fit between the fret ends; shorter tabs would fit "
                            "more.",
                            plan_.tabs.size(), wanted),
                static_cast<double>(plan_.tabs.size()), static_cast<double>(wanted));
        }
    }

    const BoardPart& board_;
    const Drawer& drawer_;
    const Machine& machine_;
    const CutSettings& cut_;
    const Wood& wood_;
    BoardPlan plan_;
    std::string slotWhy_;
    std::string radiusWhy_;
    std::string outlineWhy_;
};

} // namespace

BoardPlan planBoard(const BoardPart& board, const Setup& setup, const Drawer& drawer,
                    const Machine& machine, const CutSettings& cut) {
    return Recipe(board, setup, drawer, machine, cut).write();
}

} // namespace wren
