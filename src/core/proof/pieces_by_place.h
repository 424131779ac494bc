#pragma once

#include "geom/contour.h"
#include "proof/walls.h"

#include <cstdint>
#include <vector>

namespace wren {

/// Pieces of the tips' ways in a panel's frame that come near its walls, found by where they are.
class PiecesByPlace {
public:
    /// Of programs in a setup; only places within 1 mm of `walls`, in the panel's frame, may be
    /// asked.
    PiecesByPlace(const std::vector<RunProgram>& programs, const Setup& setup,
                  const std::vector<Contour>& walls);
    PiecesByPlace(const PiecesByPlace&) = delete;
    PiecesByPlace& operator=(const PiecesByPlace&) = delete;

    struct Near {
        double off = 1e9; ///< from the place to the nearest bit's side; negative when it cut past
        const CutPiece* piece = nullptr;
    };
    /// The nearest a bit's side came to a place, of those whose tips were at least as deep as `z`
    /// (panel Z; from behind: at least as high).
    Near nearest(Vec2 at, double z, bool fromBack) const;
    struct Tip {
        double aside = 1e9;  ///< the nearest way of a pointed or rounded tip passes so far off
        double below = -1e9; ///< and so far below the height asked for, negative over it
    };
    /// Of ways over the same place the deepest.
    Tip tipAt(Vec2 at, double z, bool fromBack) const;
    /// How far a ball stayed off a point of the panel; negative when it went past it, infinite
    /// where no ball came near.
    double overBall(Vec3 at, bool fromBack) const;

private:
    static constexpr double width = 6; ///< of a cell, mm

    /// Cells from (i0, j0) to (i1, j1), both among them.
    struct Range {
        int i0, j0, i1, j1;
    };
    void layCells(const std::vector<Contour>& walls);
    void add(const Move& move, const Setup& setup, const EndShape& end, std::size_t program,
             bool drills);
    Range within(Vec2 a, Vec2 b, double reach) const;
    bool anyNear(const Range& cells) const;
    const std::vector<std::uint32_t>& near(Vec2 p) const;
    std::size_t cell(int i, int j) const { return static_cast<std::size_t>(j) * nx_ + i; }

    std::vector<EndShape> ends_;
    std::vector<CutPiece> pieces_;
    Vec2 low_{0, 0};
    int nx_ = 1;
    int ny_ = 1;
    std::vector<char> asked_;                        ///< cells near a wall
    std::vector<int> before_;                        ///< how many of them lie lower and to the left
    std::vector<std::vector<std::uint32_t>> listed_; ///< the pieces that come near each
};

} // namespace wren
