#pragma once

namespace wren {

/// Distance from the nut to fret `fret` (a fraction for a place between two) on a string of
/// `scaleLength`, in the unit of scaleLength. Equal temperament: L (1 - 2^(-n/12)), always from the
/// nut, never fret to fret, so that rounding cannot add up. Source: twelve-tone equal temperament,
/// any acoustics text; A = 440 Hz ISO 16:1975.
double fretFromNut(double scaleLength, double fret);

} // namespace wren
