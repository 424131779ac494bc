#pragma once

#include "geom/vec.h"

#include <vector>

namespace wren {

enum class Motion { rapid, line, arcClockwise, arcCounter };

/// The plane an arc turns in, as G17, G18 and G19 name them.
enum class ArcPlane { xy, zx, yz };

/// One movement of the tool's tip, in a setup frame. mm, mm/min.
struct Move {
    Motion motion = Motion::rapid;
    Vec3 from;
    Vec3 to;
    Vec3 centre;                   ///< arcs only; in the arc's plane, the third axis is unused
    ArcPlane plane = ArcPlane::xy; ///< arcs only
    double feed = 0;               ///< mm/min; 0 for rapids
    double dwell = 0;              ///< seconds waited after arriving
    int line = 0;                  ///< line in the program it was read from, 0 before posting
    bool spindleOn = true;
    double rpm = 0; ///< of the spindle, where it was read from a program

    bool isArc() const { return motion == Motion::arcClockwise || motion == Motion::arcCounter; }
    bool cuts() const { return motion != Motion::rapid; }
    double radius() const;          ///< arcs only
    double sweep() const;           ///< arcs only: the angle turned through, 0 < sweep <= 2 pi
    double length() const;          ///< true length, the rise of a helix included
    Vec3 at(double fraction) const; ///< 0 at `from`, 1 at `to`
    Vec3 startDirection() const;    ///< unit; zero for a move of no length
    Vec3 endDirection() const;
};

using Path = std::vector<Move>;

Move straightMove(Motion motion, Vec3 from, Vec3 to, double feed);

/// The same moves so far away in the plan.
Path movedBy(Path path, Vec2 by);

/// Puts one path behind another, whose first move then begins where the one before ends.
void append(Path& to, Path more);

/// How many equal chords keep within `tolerance` mm of the move; 1 for straight ones.
int chordsFor(const Move& move, double tolerance);

} // namespace wren
