#pragma once

#include "proof/panel_proof.h"
#include "proof/walls.h"

namespace wren {

/// Pieces of the tips' ways in a panel's frame, found by where they are.
class PiecesByPlace {
public:
    PiecesByPlace(const CuttingPieces& all, const Setup& setup);

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
    std::size_t index(Vec2 p) const;
    static constexpr double width = 6;
    Vec2 low_{1e9, 1e9};
    int nx_ = 1;
    int ny_ = 1;
    std::vector<std::vector<CutPiece>> cells_;
};

/// Walls of pockets and holes, and the outline, of one side; from the paths alone.
WallReport judgePanelWalls(const Panel& panel, const Setup& setup, const PanelPlan& plan,
                           const BodyCut& cut, const std::vector<RunProgram>& programs,
                           bool fromBack);

} // namespace wren
