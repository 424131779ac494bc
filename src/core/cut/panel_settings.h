#pragma once

#include "cut/feeds.h"

namespace wren {

/// How the pieces of a body are to be cut; lengths in mm.
struct BodyCut {
    double stepover = 45;       ///< between a pocket's rings, in percent of the bit
    double stockToLeave = 0.25; ///< left on walls for their last lap
    double floorStock = 0.2;    ///< left on floors for their last pass; 0: none
    double through = 0.3;       ///< past the underside
    double scallop = 0.012;     ///< steps left on a floor that is not level
    double carveScallop = 0.02; ///< scallops left on rounded edges and contours
    double carveStock = 0.4;    ///< left on them by roughing
    double guideDepth = 3;      ///< of the groove a bandsaw follows
    int tabs = 4;               ///< round each outline
    double tabLength = 12;
    double tabHeight = 3;
    int plugTabs = 2; ///< that hold what a cut-out leaves over; 0: it is cleared whole
    double peck = 6;
    CutOverrides faced;
    CutOverrides rough; ///< pockets
    CutOverrides walls; ///< their last laps and corners, where another bit does them
    CutOverrides carve; ///< rounded edges, contours and arch
    CutOverrides engrave;
    CutOverrides outline;

    friend bool operator==(const BodyCut&, const BodyCut&) = default;
};

} // namespace wren
