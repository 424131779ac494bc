#pragma once

#include "cut/neck_paths.h"

#include <functional>

namespace wren {

/// A stretch of the back that is finished with one set of lines.
struct FinishStretch {
    double from = 0, to = 0;   ///< X
    std::vector<double> lines; ///< section angle of each, from the -Y edge to the +Y edge; for the
                               ///< head's plane the Y of each
    bool plane = false;
};

/// The lines of the whole back for a bit, spaced so that no ridge is higher than the scallop.
std::vector<FinishStretch> finishLines(const NeckPart& part, const Bit& bit, double scallop);

/// The back finished along its own lengthwise lines, touching exactly at every point of them;
/// chords within 0.002 mm of the true tip path. Lines run there and back, linked on the surface;
/// over tabs the bit stays up.
Path finishPath(const NeckWork& work, const std::vector<NeckTab>& tabs, const Bit& bit,
                const Feeds& feeds);

/// The tightest hollow of the back, as a radius; infinite when it has none.
double tightestHollow(const NeckPart& part);
/// How far below the glue plane the bit would have to go to touch the flank down to its foot.
double reachBelow(const NeckPart& part, const Bit& bit);

} // namespace wren
