#pragma once

#include "design/fretboard.h"
#include "geom/vec.h"

#include <algorithm>
#include <array>
#include <vector>

namespace wren {

/// The fretboard as machinable geometry, in the instrument frame: underside on Z = 0, nut end at
/// X = 0, centreline on Y = 0, the face a cylinder about an axis along X. Needs a board that
/// judgeFretboard() found no stop in.
class BoardPart {
public:
    explicit BoardPart(const Fretboard& board);

    const Fretboard& design() const { return board_; }
    double length() const { return length_; }
    double halfWidth(double x) const { return halfAtNut_ + taper_ * x; }
    double widest() const { return 2 * std::max(halfWidth(0), halfWidth(length_)); }
    double taper() const { return taper_; } ///< half width gained per mm toward the bridge

    /// Height of the curved face, and of the floor of a slot, at a distance `y` from the
    /// centreline.
    double face(double y) const;
    double floor(double y) const;
    /// The face's upward normal: its Z component at `y`. Turns a vertical miss into a true one.
    double faceNormalZ(double y) const;
    /// How far the face falls from the centreline to `y`.
    double drop(double y) const { return board_.thickness - face(y); }

    const std::vector<double>& slotCentres() const { return slots_; }
    /// Index of the slot nearest to x, or -1 on a board without slots.
    int nearestSlot(double x) const;

    /// Clockwise seen from above, starting at the nut's treble corner (+Y).
    std::vector<Vec2> corners() const;

    double volume() const;                   ///< mm3, slots taken out
    double areaOfFace() const;               ///< mm2, in plan
    std::array<Vec3, 2> boundingBox() const; ///< low and high corner

private:
    Fretboard board_;
    double length_;
    double halfAtNut_;
    double taper_;
    std::vector<double> slots_;
};

} // namespace wren
