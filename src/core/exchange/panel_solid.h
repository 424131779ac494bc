#pragma once

#include "base/watch.h"
#include "exchange/solid_check.h"
#include "geom/mesh.h"
#include "part/panel.h"

#include <memory>
#include <string>

namespace wren {

/// A piece of the body as an exact closed solid, body frame, mm: its outline drawn up between its
/// faces, pockets and holes taken out, and the hollows of layers shut in under it. Made by Open
/// CASCADE. Throws Error when no valid solid comes of it, Cancelled when told to stop.
class PanelSolid {
public:
    explicit PanelSolid(const Panel& panel, const Watch& watch = {});
    ~PanelSolid();
    PanelSolid(PanelSolid&&) noexcept;
    PanelSolid& operator=(PanelSolid&&) noexcept;

    std::string step(const std::string& name) const;          ///< STEP AP214
    Mesh mesh(double chord = 0.01, double angle = 0.2) const; ///< closed triangles; mm, rad
    /// Places all over its own faces, so many mm apart.
    std::vector<SurfacePlace> places(double pitch = 3) const;
    double volume() const; ///< mm3, by the library's own measuring
    Vec3 centroid() const;

private:
    struct Shape;
    std::unique_ptr<Shape> shape_;
};

} // namespace wren
