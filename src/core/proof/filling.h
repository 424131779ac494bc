#pragma once

#include "cut/board_recipe.h"
#include "part/board_part.h"

#include <cstddef>
#include <string>
#include <vector>

namespace wren {

struct RunProgram;

/// A closed convex outline as a polygon in some frame, made to be asked row by row.
class ConvexRows {
public:
    ConvexRows() = default;
    explicit ConvexRows(std::vector<Vec2> points);

    double low() const { return low_; }
    double high() const { return high_; }
    /// The stretch of X on the line Y = y; from > to where there is none.
    std::pair<double, double> at(double y) const;

private:
    std::vector<Vec2> points_;
    double low_ = 0;
    double high_ = -1;
};

/// A contour as a polygon in the setup's frame, its chords within 0.001 mm of its arcs.
ConvexRows rowsOf(const Contour& instrument, const Setup& setup);

/// A pocket that is filled by hand before a program runs. Setup frame.
struct Filling {
    std::size_t beforeProgram = 0;
    ConvexRows pocket; ///< as cut, its walls' tolerance included
    ConvexRows floor;  ///< clear of the walls: where the depth is judged
    double floorZ = 0; ///< where the floor should be
    double point = 0;  ///< a drill's point may go this much deeper in the middle
    double fillTo = 0; ///< how high the filling stands when it has cured
    double atX = 0;    ///< instrument frame
    std::string what;  ///< in a finding: "A marker's pocket"
};

/// What a pocket's floor measured just before it was filled. Setup Z.
struct FloorSeen {
    double lowest = 0;
    double highest = 0;
    bool seen = false;
};

/// The first floor that is further off than a wall may be.
Findings judgeFilledFloors(PartId part, const std::vector<Filling>& fillings,
                           const std::vector<FloorSeen>& floors);

/// The fillings of every board in the setup; none when the markers are pressed in, or when no
/// program skims them.
std::vector<Filling> fillingsOf(const BoardPart& board, const Setup& setup,
                                const std::vector<RunProgram>& programs);

} // namespace wren
