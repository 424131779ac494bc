#pragma once

#include "cut/contact.h"
#include "cut/neck_settings.h"
#include "part/neck_part.h"

#include <optional>
#include <vector>

namespace wren {

/// A place of the back that a cutter touches, in the back's own frame: x, y, and height over the
/// glue plane.
struct BackContact {
    Vec3 point;
    Vec3 normal; ///< unit, z > 0
};
BackContact contactAt(const NeckBack::Slice& slice, double angle);
/// Slices from one X to the other, at most `step` apart.
std::vector<NeckBack::Slice> slicesFor(const NeckBack& back, double from, double to, double step);

/// Contacts go on so far outside the outline, mm.
inline constexpr double pastEdge = 0.6;
/// Straight runs stay within this of the true tip path, mm.
inline constexpr double finishChord = 0.002;

/// A stretch of the back that is finished with one set of lines.
struct FinishStretch {
    double from = 0, to = 0;   ///< X
    std::vector<double> lines; ///< lengthwise: the section angle of each, from the -Y edge to the
                               ///< +Y edge, on the head's plane its Y; across: the X of each
    bool plane = false;        ///< the head's own back
    bool hollow = false;       ///< one of the transitions
    std::vector<double> levels{}; ///< split: heights of the tip over the glue plane, rising
};

/// What of the back a cut finishes. A wide bit may do the broad places and a smaller one the rest:
/// the transitions, and `keepOff` mm of the shaft beside them, where the wide bit would dig in.
struct FinishShare {
    enum class Of { all, broad, rest } of = Of::all;
    double keepOff = 0;
};

/// The lines of that share for a bit, spaced so that no ridge is higher than the scallop.
std::vector<FinishStretch> finishLines(const NeckPart& part, const Bit& bit, double scallop,
                                       FinishWay way = FinishWay::along, FinishShare share = {});
/// In a split finish, whether a lengthwise line or a level pass serves a contact: each goes a
/// little beyond the slope where they meet, so that both cover it.
bool shallowEnough(const BackContact& contact);
bool steepEnough(const BackContact& contact);
/// Where the bit with its tip at `level` touches the flank on that side (-1 at -Y, +1), if it does.
std::optional<BackContact> contactAtLevel(const NeckBack::Slice& slice, int side, double level,
                                          const EndShape& end);
/// About how many mm of cutting they are.
double finishLength(const NeckPart& part, const std::vector<FinishStretch>& stretches,
                    FinishWay way);

/// The tightest hollow of the back between two X, as a radius; infinite when it has none.
double tightestHollow(const NeckPart& part, double from, double to);
/// Whether a bit's end rolls in a hollow of that radius: its rounding fits, and a level end on it
/// digs in by no more than 0.002 mm.
bool rollsIn(const Bit& bit, double hollow);
/// How far below the glue plane the bit would have to go to touch the flank down to its foot.
double reachBelow(const NeckPart& part, const Bit& bit);

} // namespace wren
