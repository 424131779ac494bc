#pragma once

#include "cut/feeds.h"
#include "cut/move.h"
#include "cut/settings.h"
#include "hold/setup.h"

#include <vector>

namespace wren {

/// Wood left standing at the outline so that the board stays in its frame. Instrument frame, mm.
struct Tab {
    double x = 0;      ///< its middle along the board
    int side = 1;      ///< +1 treble edge (+Y), -1 bass edge
    double length = 8; ///< of wood, along the edge
};

/// The tabs the maker placed, when there are any. Otherwise `tabsPerSide` tabs on each long edge,
/// spread along it, each in a gap between frets and wrapping markers wide enough that neither the
/// tab nor its slopes reach a fret's end or a marker. Fewer when the gaps do not allow it.
std::vector<Tab> placeTabs(const BoardPart& board, const CutSettings& cut);

/// How far a tab's middle stands from the nearest fret's end or corner (0 beyond the board), and
/// how far its foot needs it to.
struct TabRoom {
    double has = 0;
    double needs = 0;
};
TabRoom roomOf(const Tab& tab, const BoardPart& board, const CutSettings& cut);

/// Round the board outside its line, climbing (clockwise), down a ramp at each pass, over the tabs
/// in the passes that would cut them, through the underside by the tip's height plus `cut.through`.
/// These laps stand off by `cut.wallStock`; a last one, led in obliquely from their channel, takes
/// that stock at full depth.
/// Setup frame; starts and ends at clearance height.
Path outlinePath(const BoardPart& board, const Setup& setup, const Bit& bit, const Feeds& feeds,
                 const CutSettings& cut, const std::vector<Tab>& tabs);

} // namespace wren
