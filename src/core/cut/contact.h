#pragma once

#include "geom/arched_face.h"
#include "shop/bit.h"

namespace wren {

/// Tip of a cutter that touches the face at the line of share `c`, at the line's point over `x`. A
/// ball, bull-nose or flat end only; its cone, if any, is not asked. All along such a line the face
/// has one normal, so the tips for two X lie on a straight line that touches everywhere between.
Vec3 tipOnLine(const ArchedFace& face, double c, double x, const EndShape& end);

/// Height of the tip when the cutter touches the face with its axis over (x, y): found by stepping
/// from the axis back to the touching point, which settles in a few rounds because faces are much
/// rounder than cutters.
double tipOver(const ArchedFace& face, double x, double y, const EndShape& end);

/// Tip of a cutter that touches a surface at `point`, where the surface's unit normal is `normal`
/// (z > 0, out of the wood), axis upright. A flat or bull-nose end stands off sideways by its flat,
/// a cone touches with its upper rim where the surface is steeper than itself.
Vec3 tipTouching(Vec3 point, Vec3 normal, const EndShape& end);

/// Distance between neighbouring contacts of a ball so that the ridge between them is `scallop`
/// high, on a convex surface of the radius `faceRadius`: s^2 = 8 h / (1/r + 1/R), the two-circle
/// form of the scallop formula in Machinery's Handbook (h small against r).
double ballStepover(double faceRadius, double scallop, double r);

/// The ridge two neighbouring passes leave, measured at the section over `x`, for any end: where
/// the two outlines of the cutter cross, above the face. Infinite when they leave a gap.
double ridgeBetween(const ArchedFace& face, double x, double c0, double c1, const EndShape& end);

} // namespace wren
