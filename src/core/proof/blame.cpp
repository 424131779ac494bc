#include "proof/blame.h"

#include <limits>

namespace wren {

std::optional<Culprit> deepestAt(Vec2 point, const std::vector<RunProgram>& programs) {
    std::optional<Culprit> who;
    double lowest = std::numeric_limits<double>::infinity();
    for (std::size_t p = 0; p < programs.size(); ++p) {
        const EndShape tool = EndShape::of(programs[p].bit);
        for (std::size_t m = 0; m < programs[p].path.size(); ++m) {
            const Move& move = programs[p].path[m];
            if (!move.cuts()) {
                continue;
            }
            const double h = heightLeftAt(point, tool, move);
            if (h < lowest - 1e-9) {
                lowest = h;
                who = Culprit{p, m};
            }
        }
    }
    return who;
}

} // namespace wren
