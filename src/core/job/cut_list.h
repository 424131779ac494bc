#pragma once

#include "job/derive.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// A piece as it is sawn out, its grain along its length; mm.
struct SawnPiece {
    std::string piece;
    std::string wood; ///< id
    double length = 0, width = 0, thickness = 0;
    double planing = 0; ///< its thickness loses so much; made board and plastics none
    int leaves = 1;     ///< it is resawn into so many
    int strips = 1;     ///< so many are glued up side by side
    /// On which of the shop's boards (from 0), and where its lower corner lies there; none: no
    /// board of its wood holds it.
    std::optional<std::size_t> board;
    double x = 0, y = 0;
};

struct CutList {
    std::vector<SawnPiece> pieces;
    /// Share of each of the shop's boards that becomes pieces, by area; 0 of one not touched.
    std::vector<double> yields;
    double yield = 0; ///< finished blanks over all of the boards begun, by volume
};

/// Every piece with what sawing and planing take, laid out on the shop's boards: large ones first,
/// each where the least is left over, so that small ones come out of offcuts. Every cut runs right
/// across what it parts, as a saw does, and costs its kerf.
CutList cutList(const Derived& drawn);

/// piece,wood,length_mm,width_mm,thickness_mm,then,board,x_mm,y_mm; boards are counted from 1, "to
/// buy" where none holds it.
std::string cutListCsv(const Derived& drawn);

} // namespace wren
