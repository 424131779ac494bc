#pragma once

#include "geom/vec.h"

#include <functional>
#include <optional>

#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>

namespace wren {

/// A face's plan by two shares that it is smooth in, the second on the first one's left, and back.
struct FaceLayout {
    std::function<Vec2(Vec2 shares)> place;
    std::function<Vec2(Vec2 place)> shares;
};

/// What one face is brought up or down by, mm along Z, by the place in plan: smooth all over its
/// box, also beyond its own edges, but for one point where it may run to a tip. A face that ends
/// upright is smooth by a layout of its own only.
struct SmoothShift {
    std::function<double(Vec2)> by;
    std::optional<Vec2> tip;
    std::optional<FaceLayout> layout;
};

/// How close a shifted surface, edge or corner comes to what it should be, mm.
inline constexpr double closeness = 0.004;

/// A place brought up or down by what its plan says.
gp_Pnt shifted(const gp_Pnt& p, const std::function<double(Vec2)>& shift);
/// Of a curve over 0 to 1, roughly.
double lengthOf(const std::function<gp_Pnt(double)>& at);

/// A face's surface once it is shifted. Without a layout of its own it has the parameters the face
/// had, so that the curves of its edges on it stay as they are. Throws Standard_Failure.
Handle(Geom_BSplineSurface) shiftedSurface(const TopoDS_Face& face, const SmoothShift& shift);

} // namespace wren
