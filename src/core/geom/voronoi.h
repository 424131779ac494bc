#pragma once

#include "geom/crossing.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace wren {

/// The inside of a closed outline of lines and arcs, parted by which piece of it is nearest (its
/// Voronoi diagram), as far in as `reach` mm. Inside one cell the distance to the outline is that
/// to one whole line or circle, and smooth; where two cells of different sides meet, it has a
/// crest. Borders are traced from the outline's joints inward; a crest that begins and ends
/// deeper in than `reach` and is reached from no joint is not found.
class VoronoiCells {
public:
    /// Throws Error when the borders of the cells cannot be followed.
    VoronoiCells(const Contour& outline, double reach);

    /// Between two cells: both ends, and places between when it is curved, at most 0.5 mm apart.
    using Border = std::vector<Vec2>;
    const std::vector<Border>& borders() const { return borders_; }

    /// The cell a place inside the outline lies in.
    std::size_t cellAt(Vec2 p) const;
    /// From the whole line or circle of a cell's piece, mm; negative beyond it.
    double distance(std::size_t cell, Vec2 p) const;
    /// Whether two sides of the outline meet within reach anywhere else than in a smooth joint.
    bool crested() const { return crested_; }
    /// Where a place lies in a cell: mm along its line or circle, from its middle on with the
    /// inside on the left, and the distance from it; and back. Throw Error for a corner's cell,
    /// which has no length.
    Vec2 shares(std::size_t cell, Vec2 p) const;
    Vec2 placeAt(std::size_t cell, Vec2 shares) const;
    /// Where a cell runs to a point within reach: the middle of its arc.
    std::optional<Vec2> tipOf(std::size_t cell) const;

private:
    /// A piece, or a corner the outline turns outward at: a piece of no length.
    struct Site {
        ContourPiece piece;
        Stroke stroke;
        bool corner = false;
        double turn = 0; ///< of an arc or a corner, the way it is travelled

        Vec2 middle() const { return corner ? piece.from : piece.centre; }
        bool hasTip() const { return piece.kind == ContourPiece::Kind::arcCounter; }
        double distance(Vec2 p) const; ///< signed, of the whole line or circle
        Vec2 toward(Vec2 p) const;     ///< unit, to the foot
        double within(Vec2 p) const;   ///< of the foot from the nearer end, mm; < 0 beyond it
    };
    class Tracing;

    double reach_;
    std::vector<Site> sites_; ///< in the outline's order, the inside on their left
    std::vector<Border> borders_;
    bool crested_ = false;
};

} // namespace wren
