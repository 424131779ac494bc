#pragma once

#include "cut/panel_order.h"
#include "cut/panel_paths.h"

#include <string>
#include <vector>

namespace wren {

/// The bit that goes into a pocket's corners and to its floor, and why that one.
struct PocketBit {
    const Bit* bit = nullptr; ///< null: none does, which the chooser has then said
    std::string why;
    BitJudge fits;
};
PocketBit choosePocketBit(const PanelWork& work, const PanelPocket& pocket, BitChooser& chooser);

/// What the cut that makes a pocket is called.
CutName cutNameOf(const PanelPocket& pocket);

/// One task, or two where a wider bit clears it first; the last one makes the pocket. The first
/// waits for nothing yet, a second one for nothing but the first, which is the recipe's matter.
/// Tasks refer to the pocket.
std::vector<OpenTask> pocketTasks(const PanelWork& work, const PanelPocket& pocket,
                                  const PocketBit& chosen, const Drawer& drawer);

/// Whether a cut-out is so large that its middle is better left than turned into chips.
bool leavesPlug(const PanelPocket& pocket, const Bit& bit, const BodyCut& cut);
/// How far from the wall such a plug begins, mm.
double plugBegins(const Bit& bit, const BodyCut& cut);
/// Round the plug, which stays on its tabs. Refers to the pocket.
OpenTask plugTask(const PanelWork& work, const PanelPocket& pocket,
                  const std::vector<PanelTab>& tabs, const PocketBit& chosen);

} // namespace wren
