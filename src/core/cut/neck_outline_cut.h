#pragma once

#include "cut/bit_chooser.h"
#include "cut/neck_paths.h"

namespace wren {

/// How much of the outline a side cuts: all of it from the back, or, where no bit's flutes span the
/// whole wall, its upper part from the front down to the shoulder's lower edge and the rest from
/// the back, which meets it there.
enum class OutlineShare { whole, front, rest };
/// Z of the front the back's side has to cut through for a bit that reaches `around` mm about a
/// place: the highest there.
double outlineBottom(const NeckPart& part, Vec2 at, double around);
/// Z where the two parts meet, and by how much the rest goes past it, mm.
double outlineParting(const NeckPart& part);
inline constexpr double partingOverlap = 0.5;

/// The outline and its last lap at full depth: from the back from the rough floor down, over the
/// tabs, through the blank's face or down to the front's part; from the front round the tabs.
Path neckOutlinePath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                     const Feeds& feeds, OutlineShare share = OutlineShare::whole);

/// What a bit must do to cut the outline from the back: go so deep below the blank's upper side,
/// and have flutes that span the wall, or its shank rubs. mm.
struct OutlineReach {
    double deep = 0, wall = 0;
};
OutlineReach outlineReach(const NeckPart& part, const Setup& back, const NeckCut& cut, bool shared);
Verdict cutsOutline(const Bit& bit, const OutlineReach& reach);
/// The back cuts the outline by itself where a bit can, so that nothing meets in the wall.
bool outlineIsShared(const NeckPart& part, const Setup& back, const NeckCut& cut,
                     const Drawer& drawer);

} // namespace wren
