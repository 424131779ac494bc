#pragma once

#include "cut/feeds.h"

namespace wren {

/// Which way the back's finishing passes run: along its own lines, across them, or split, level
/// passes on the steep flanks and lines along the rest.
enum class FinishWay { along, across, split };

/// How the neck is to be cut; lengths in mm.
struct NeckCut {
    double scallop = 0.02; ///< ridge height left on the back
    FinishWay way = FinishWay::along;
    double stockToLeave = 0.3; ///< left by roughing for the finish
    double roughStep = 45;     ///< of roughing, in percent of the bit
    bool climb = true;
    double through = 0.3; ///< past the glue plane, and past a hole's far side
    int tabsPerSide = 2;  ///< along the shaft; one more stands at each end
    double tabLength = 10;
    double tabHeight = 2.5; ///< over the glue plane
    double wallStock = 0.2; ///< left on the outline for its last full-depth lap
    double peck = 5;        ///< drilled at a time
    CutOverrides slots;     ///< rod, carbon and nut slots
    CutOverrides head;      ///< the head's face
    CutOverrides hollow;
    CutOverrides rough;
    CutOverrides finish;
    CutOverrides outline;

    friend bool operator==(const NeckCut&, const NeckCut&) = default;
};

} // namespace wren
