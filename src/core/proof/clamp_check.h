#pragma once

#include "hold/clamp.h"
#include "proof/simulate.h"

#include <optional>

namespace wren {

/// What of the tool meets a clamp.
enum class ToolPart { flutes, shank, nut, nose, shoe };

struct ClampTouch {
    std::size_t move = 0;
    ToolPart with = ToolPart::flutes;
    double by = 0; ///< mm into it sideways, or the tool's own radius over it
};

/// The first move of a program, rapid or not, during which the bit, its shank, the collet nut or
/// what hangs over that comes nearer to a clamp than `clear` mm; exact for straight moves, arcs
/// within 0.01 mm. `from`: nothing of the tool below that part is asked.
std::optional<ClampTouch> firstTouch(const RunProgram& program, const ClampBox& clamp,
                                     const SpindleEnd& end, double clear = 0,
                                     ToolPart from = ToolPart::flutes);

/// Whether one move does.
bool touches(const Move& move, const Bit& bit, const ClampBox& clamp, const SpindleEnd& end,
             double clear);

/// How wide the tool is at most, as a radius, less than `over` mm over its tip.
double widestBelow(const Bit& bit, const SpindleEnd& end, double over);

/// Where a tool goes lower than a height, drawn coarsely over a blank and its surroundings: a clamp
/// on cells that are free is not met.
class LowPlaces {
public:
    /// Of programs in one setup; `low` and `high` corner of what is looked at, setup frame.
    LowPlaces(const std::vector<RunProgram>& programs, const SpindleEnd& end, double below,
              Vec2 low, Vec2 high);

    /// Whether nothing comes within a box, `clear` mm more all round.
    bool free(const ClampBox& box, double clear) const;

private:
    static constexpr double cell = 2; ///< mm
    void mark(Vec2 a, Vec2 b, double radius);

    Vec2 low_;
    int nx_ = 0, ny_ = 0;
    std::vector<char> met_;
};

} // namespace wren
