#pragma once

#include "cut/bit_chooser.h"
#include "cut/panel_paths.h"

namespace wren {

/// Whether a bit cuts a pocket's walls and floor: it goes into corners of `hollow` radius, finds
/// room, and reaches `deep` mm below the mouth and `reach` below the wood round it. Refers to the
/// pocket.
BitJudge goesInto(const PanelPocket& pocket, double deep, double reach, double hollow);

/// The tightest inside corner of a pocket, as a radius; infinite without any.
double hollowOf(const PanelPocket& pocket);
/// Right through, and no bit reaches so far, but one that reaches half of it.
bool wantsHalving(const PanelPocket& pocket, double through, const Drawer& drawer);
/// What of such a pocket is cut from a side: down to the middle, from the back so much further.
PanelPocket halfOf(const PanelPocket& pocket, const Panel& panel, bool back, double further);

/// Whether a bit drills a hole of that diameter, or bores it in a helix.
BitJudge makesHole(double diameter, double deep, double reach, bool through);

struct PocketReach {
    double deep, reach;
};
/// A wider bit that is worth clearing with, its corners left to the finer one: no wider than what
/// that one takes along the walls. Null where none is, and for sloping floors.
const Bit* widerFor(const PanelPocket& pocket, const Bit& fine, const PocketReach& depth,
                    const Drawer& drawer, double stockToLeave);

inline constexpr double widestStroke = 3.2; ///< of a rounded bit that draws lines, mm
/// Whether a bit draws lines so deep: a V that is high enough, or a small ball.
BitJudge drawsLines(double deep);
/// A V before a ball, then the narrower.
bool finerLines(const Bit& a, const Bit& b);

/// How deep an outline's wall is cut in one setup.
double edgeDepth(const Panel& panel, const BodyCut& cut, EdgeShare share);
/// Whether a bit cuts that share of it: it follows every hollow and its flutes span the wall.
BitJudge cutsEdge(const Panel& panel, const BodyCut& cut, EdgeShare share);
/// No bit of the drawer spans the whole wall, and one spans half of it.
bool outlineIsShared(const Panel& panel, const BodyCut& cut, const Drawer& drawer);

} // namespace wren
