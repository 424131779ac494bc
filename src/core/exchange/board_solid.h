#pragma once

#include "base/watch.h"
#include "geom/mesh.h"
#include "part/board_part.h"

#include <memory>
#include <string>

namespace wren {

/// The board as an exact closed solid, instrument frame, mm: its face a cylinder, or the ruled
/// surface between two arcs that a cone lying on its side is; slots, ledge and open markers taken
/// out of it (filled markers are part of the wood again). Made by Open CASCADE, which takes half a
/// second for a cylinder with its slots and some seconds for a cone. Throws Error when no valid
/// solid comes of it, Cancelled when told to stop.
class BoardSolid {
public:
    explicit BoardSolid(const BoardPart& board, const Watch& watch = {});
    ~BoardSolid();
    BoardSolid(BoardSolid&&) noexcept;
    BoardSolid& operator=(BoardSolid&&) noexcept;

    /// STEP AP214, one solid of that name. The text depends on nothing but the board and the name.
    std::string step(const std::string& name) const;

    /// Closed triangles: every edge belongs to two of them. Their corners lie on the solid, their
    /// middles within `chord` mm of it.
    Mesh mesh(double chord = 0.005) const;

    double volume() const; ///< mm3, integrated over the solid's own surfaces

private:
    struct Shape;
    std::unique_ptr<Shape> shape_;
};

} // namespace wren
