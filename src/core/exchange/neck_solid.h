#pragma once

#include "base/watch.h"
#include "geom/mesh.h"
#include "part/neck_part.h"

#include <memory>
#include <string>

namespace wren {

/// The neck as an exact closed solid, instrument frame, mm: outline, hollow and face, the back as
/// one B-spline surface within 0.001 mm of its definition, pockets and holes taken out. Made by
/// Open CASCADE in a second or so. Throws Error when no valid solid comes of it, Cancelled when
/// told to stop.
class NeckSolid {
public:
    explicit NeckSolid(const NeckPart& part, const Watch& watch = {});
    ~NeckSolid();
    NeckSolid(NeckSolid&&) noexcept;
    NeckSolid& operator=(NeckSolid&&) noexcept;

    std::string step(const std::string& name) const; ///< STEP AP214
    Mesh mesh(double chord = 0.01) const;            ///< closed triangles
    double volume() const;                           ///< mm3, by the library's own measuring
    /// Of the section square to X, mm2, by the library's own measuring.
    double sectionArea(double x) const;
    Vec3 centroid() const;

private:
    struct Shape;
    std::unique_ptr<Shape> shape_;
};

} // namespace wren
