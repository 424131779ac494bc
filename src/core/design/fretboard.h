#pragma once

#include "base/finding.h"

#include <vector>

namespace wren {

/// What the maker decides about a plain fretboard: one scale, cylindrical face, slots right
/// through. Lengths in mm. Ranges are those of the key table (job/keys); combinations are judged by
/// judgeFretboard().
struct Fretboard {
    int strings = 6;             ///< 4 to 9
    double scaleLength = 648;    ///< nut to the nominal bridge line
    int frets = 22;              ///< 1 to 36
    double nutWidth = 43;        ///< board width at the nut
    double lastFretWidth = 56.5; ///< board width at the last fret
    double overhang = 3;         ///< board outside the outer strings, each side
    double pastLastFret = 8;     ///< board beyond the last fret's centre
    double radius = 300;         ///< of the cylindrical face
    double thickness = 6;        ///< on the centreline
    double slotWidth = 0.58;
    double slotDepth = 2.0; ///< from the curved face, along its normal

    friend bool operator==(const Fretboard&, const Fretboard&) = default;
};

/// One line of the fret table; all distances from the nut, mm.
struct FretPlace {
    int fret = 0;
    double fromNut = 0;
    double boardWidth = 0;
    double woodUnderSlot = 0; ///< at the board's edge, floor to glue plane
};

std::vector<FretPlace> fretTable(const Fretboard& board);

/// Centre-to-centre distance of neighbouring strings at the nut, mm (equal centres).
double stringPitchAtNut(const Fretboard& board);

/// Combinations that cannot be made, or only with care.
Findings judgeFretboard(const Fretboard& board);

} // namespace wren
