#pragma once

#include "design/fretboard.h"
#include "geom/contour.h"

namespace wren {

/// Where a face marker stands, instrument frame: its middle (a wrap's: the middle of its foot on
/// the edge) and the direction it lies in, a unit vector. A wrap points inward from its edge.
struct MarkerPlace {
    int fret = 0;
    Vec2 at;
    Vec2 along;
};

/// A dot in the bass edge: drilled by hand or in a jig, since the machine cannot reach it.
struct SideDot {
    int fret = 0;
    double fromNut = 0;       ///< along the board from the nut's line at that edge, mm
    double fromUnderside = 0; ///< its middle above the glue plane, mm
    Vec3 at;                  ///< instrument frame
};

/// The fret whose markers stand nearest to a place along the centreline; 1 to 36, of a fretted
/// board to its last.
int markerFretAt(const Fretboard& board, double x);
/// Whether two stand there rather than one.
bool twoAt(const Markers& markers, const FretMark& mark);

/// Markers stand halfway between their fret and the one before; on a board without frets, at the
/// place of the fret itself, where the finger goes (common practice, no source).
std::vector<MarkerPlace> markerPlaces(const Fretboard& board);
std::vector<SideDot> sideDots(const Fretboard& board);

/// The marker's outline, clockwise, every wall moved inward by `inset`; empty once nothing is left.
/// A wrap's foot stays open: it is carried `beyond` the board's edge. A leaf is two arcs meeting in
/// tips of the radius asked for; moved in by more than that, its tips are points.
Contour markerOutline(const Markers& markers, const MarkerPlace& place, double inset = 0,
                      double beyond = 0);

/// The smallest inside radius of the outline: what a bit must not exceed.
double tightestRadius(const Markers& markers);

/// Markers beyond the board, over slots, over each other, or deeper than the wood.
Findings judgeMarkers(const Fretboard& board);

} // namespace wren
