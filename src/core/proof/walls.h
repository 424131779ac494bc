#pragma once

#include "proof/proof.h"

namespace wren {

/// A straight piece of the tip's way, setup frame.
struct CutPiece {
    Vec3 a;
    Vec3 b;
    const EndShape* end = nullptr;
    std::size_t program = 0;
    int line = 0;
    bool drills = false; ///< by a drill, whose point goes beyond the hole
};

/// Calls f(from, to) for a move's straight pieces, an arc's within 0.001 mm.
template <typename F>
void overPieces(const Move& move, F f) {
    const int n = chordsFor(move, 0.001);
    Vec3 from = move.from;
    for (int i = 1; i <= n; ++i) {
        const Vec3 to = move.at(static_cast<double>(i) / n);
        f(from, to);
        from = to;
    }
}

/// Every cutting move of the programs as straight pieces, arcs within 0.001 mm.
class CuttingPieces {
public:
    explicit CuttingPieces(const std::vector<RunProgram>& programs);
    CuttingPieces(const CuttingPieces&) = delete;
    CuttingPieces& operator=(const CuttingPieces&) = delete;

    const std::vector<CutPiece>& all() const { return pieces_; }

private:
    std::vector<EndShape> ends_;
    std::vector<CutPiece> pieces_;
};

struct WallReport {
    double worst = 0; ///< mm, either way
    Findings findings;
};

/// Judges slot sides, the outline, the nut's ledge and the markers' walls of the board in the
/// setup's hand from the paths themselves: path plus or minus the bit's radius against the designed
/// line. Of a carved neck's face the outline is left out: another setup cuts it.
WallReport judgeWalls(const BoardPart& board, const Setup& setup, const CuttingPieces& pieces,
                      const std::vector<RunProgram>& programs,
                      BoardShare share = BoardShare::whole);

} // namespace wren
