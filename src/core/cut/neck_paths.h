#pragma once

#include "cut/contour_pass.h"
#include "cut/hole_path.h"
#include "cut/neck_settings.h"
#include "hold/neck_setup.h"

#include <vector>

namespace wren {

/// Wood left standing at the neck's outline, instrument frame.
struct NeckTab {
    Vec2 at;         ///< its middle, on the outline
    Vec2 along;      ///< unit
    double half = 5; ///< half its length of wood
    double top = 0;  ///< height over the glue plane up to which it stands

    /// Whether a bit of that radius with its axis at `p` stands over it.
    bool under(Vec2 p, double radius) const;
};

/// Along the straight edges of the shaft, and one in the middle of each end; each so tall over the
/// front of the neck where it stands.
std::vector<NeckTab> neckTabs(const NeckPart& part, const NeckCut& cut);

/// What every path of a setup starts from. All paths are in its frame, and start and end at
/// clearance height.
struct NeckWork {
    const NeckPart& part;
    const Setup& setup;
    const NeckCut& cut;
    double spoilDepth = 0; ///< how far below the bed a bit may go

    double clear() const;
    double approach() const;
    Vec3 place(Vec3 instrument) const { return setup.fromInstrument.toSetup(instrument); }
};

/// A closed contour laid into a setup, clockwise there too.
Contour laid(const Contour& instrument, const Setup& setup);

/// Rod, adjuster, carbon and nut pockets: levels down, each a lap round inside; straight there and
/// back when the bit is as wide as the slot.
Path pocketPath(const NeckWork& work, const std::vector<NeckPocket>& pockets, const Bit& bit,
                const Feeds& feeds);

/// The head's face with a flat end, in levels, passes across; the hollow in stairs under the stock
/// to leave.
Path headFacePath(const NeckWork& work, const Bit& bit, const Feeds& feeds);
/// The hollow, or a tilted face, finished across with a ball by its ridge height.
Path hollowPath(const NeckWork& work, const Bit& bit, const Feeds& feeds);

/// Holes drilled with pecks, or bored in a helix by a bit at most 0.9 of their width.
Path drillPath(const NeckWork& work, const std::vector<Hole>& holes, const Bit& bit,
               const Feeds& feeds);
Path borePath(const NeckWork& work, const std::vector<Hole>& holes, const Bit& bit,
              const Feeds& feeds);

/// A notch from the blank's edge inward, down to half the blank's thickness.
Path notchPath(const NeckWork& work, Vec2 at, const Bit& bit, const Feeds& feeds);

/// The back roughed in levels: at each the region between the trench's outer side and the surface's
/// slice, both moved by the bit's radius, filled with loops; tabs that reach higher than where
/// roughing stops are left.
Path roughPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
               const Feeds& feeds, double trench);
/// Where roughing stops and the outline's laps begin, over the glue plane.
double roughFloor(const NeckPart& part, const NeckCut& cut);

} // namespace wren
