#pragma once

#include "design/neck_outline.h"
#include "part/panel.h"

namespace wren {

// What the body's features are drawn with.

/// Grown by a distance all round, its hollows no tighter than `hollow`; one ring, clockwise.
Contour grown(const Contour& closed, double distance, double hollow = 0);

/// Drawn in by a distance >= 0 all round; the largest ring of what is left, clockwise, or none.
Contour shrunk(const Contour& closed, double distance);

/// A counter-clockwise border whose corners tighter than `radius` get a dogbone: a bit of that
/// radius goes into the corner's point. Arcs no wider than `within` count as corners.
Contour withDogbones(const Contour& border, double radius, double within);

/// A border whose hollows are no tighter than `radius`: what a bit of that radius leaves of it.
std::vector<Contour> openedBy(const std::vector<Contour>& borders, double radius);

/// A board cut from one side that is used on the back, lying with that side up: mirrored in Y.
Panel turnedFace(Panel panel);

/// Places along a closed contour, that many with the same way between them.
std::vector<Vec2> placesEvenly(const Contour& closed, int count);

/// A pocket over the inside of an outline; cut by itself.
PanelPocket pocketOf(const std::string& what, const Contour& outline, double floor, double mouth);

/// Where the body begins along the middle of a heel that ends at `neckEnd`: the outline's last
/// crossing of the centreline before it, or the end itself where the heel does not reach the body.
double mouthAt(const Contour& outline, double neckEnd);

/// How wide a closed contour is across the strings.
double widthOf(const Contour& closed);

/// A heel's width as drawn, where it ends, or so far before it toward the nut.
double heelWidth(const NeckOutline& neck, double before = 0);

/// A hole; one too wide for a bit to bore in a helix is cleared like a pocket.
void addHole(Panel& panel, FeatureId feature, Hole hole);

} // namespace wren
