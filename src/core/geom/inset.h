#pragma once

#include "geom/contour.h"

namespace wren {

/// What lies on the left of closed borders (outer ones counter-clockwise, islands clockwise), drawn
/// in by `distance` (> 0, mm): the borders of what is at least so far from every one of them, with
/// the same sides, lines and arcs kept. A clockwise border with nothing round it is drawn outward.
/// Empty when nothing is left. Exact within 0.00001 mm.
///
/// The raw offset of every piece, arcs about the corners it turns away from, cut wherever it
/// crosses itself, and of that what is far enough from the borders, strung together again: the
/// method of Liu, Yong, Zheng and Sun, "An offset algorithm for polyline curves", Computers in
/// Industry 58 (2007).
///
/// Throws Error when the borders cross one another so that no ring closes.
std::vector<Contour> inset(const std::vector<Contour>& borders, double distance);

/// The border with the inside on its left, or, as an island, with the outside on its left.
Contour counterClockwise(const Contour& closed);
Contour clockwise(const Contour& closed);

} // namespace wren
