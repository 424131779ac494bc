#pragma once

#include "geom/mesh_refine.h"

namespace wren {

/// Wood over a place, from one face up to another: numbers in the stack's list of faces.
struct StackSpan {
    int low = 0;
    int high = 0;
};

/// A part as wood that lies between faces over pieces of its plan.
struct PlanStack {
    std::vector<std::vector<Vec2>> lines; ///< closed; where something changes
    /// What lies over a place, from below; the same all over a piece that no line crosses.
    std::function<std::vector<StackSpan>(Vec2)> over;
    /// Of a number; one without `upright` is a plane.
    std::function<const PlanFace&(int)> face;
};

/// The part's surface in closed triangles that follow its faces within `chord` mm, upright walls
/// between them. Throws Error when a piece of the plan cannot be laid out.
Mesh meshOf(const PlanStack& stack, double chord);

} // namespace wren
