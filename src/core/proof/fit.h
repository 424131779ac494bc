#pragma once

#include "proof/panel_proof.h"

#include <functional>

namespace wren {

/// How much room there is between a part and the pocket it goes into, both as their programs
/// really cut them, or as they were measured; mm.
struct FitPlace {
    Vec2 at; ///< on the part's outline, body frame
    double room = 0;
};
struct Fit {
    std::vector<FitPlace> places;
    double least = 0;
    double most = 0;
};

/// A wall as it was cut: the programs that cut it, in the setup they ran in, and a depth (Z of the
/// frame the setup leads to) that its cutters must have reached.
struct CutWall {
    const Setup& setup;
    const std::vector<RunProgram>& programs;
    double deep = 0;
    bool fromBack = false;
};

/// Lays a part's outline into a pocket's border. Both are in one frame, the outline's programs in a
/// frame that differs from it at most along Z. Only places of the outline that `counts` holds for
/// are looked at: not where the pocket is open, nor where a tab stands. Null: the outline, or the
/// border, is the real one, and no cutter left anything on it.
Fit fitOf(const Contour& outline, const CutWall* part, const Contour& border, const CutWall* pocket,
          const std::function<bool(Vec2)>& counts);

} // namespace wren
