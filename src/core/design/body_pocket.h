#pragma once

#include <optional>

namespace wren {

/// How the pocket's inside corners make room for the heel's.
enum class CornerRelief { rounded, dogbone };
/// What the neck angle is cut into: the pocket's floor, or by hand the underside of the heel.
enum class AngleIn { pocket, heel };

/// The neck's pocket, mm.
struct BodyPocket {
    double depth = 16;       ///< below the body's face, at its inner end
    double clearance = 0.08; ///< a side, finish not counted
    CornerRelief relief = CornerRelief::rounded;
    double corner = 3.2;               ///< radius the inside corners have at least
    double angle = 0;                  ///< neck angle, degrees: the floor falls toward the nut
    AngleIn angleIn = AngleIn::pocket; ///< `heel`: the floor stays level
    /// Of a neck that goes through, which lies in no pocket: its glue plane over the body's face
    /// at the board's end, where its back-set ends.
    double proud = 0;
    double boltHole = 4;                 ///< through the body, over each of the heel's pilots
    std::optional<double> measuredWidth; ///< of the real heel at its end
    std::optional<double> measuredDepth; ///< of the real heel, glue plane to bottom
    std::optional<double> measuredLength; ///< of the real neck, nut to the heel's end
    /// Per cent, of the heel's wood when its width was read.
    std::optional<double> measuredMoisture;
    std::optional<double> measuredFloor; ///< depth the real pocket came out with, where `depth` is
    /// Of the heel the pocket was cut for, width and nut to end: what is cut keeps its place
    /// whatever is measured later.
    std::optional<double> cutWidth, cutLength;
    double enlarged = 0; ///< taken off each wall of the real pocket since, by fit passes

    /// As it really is where that is known.
    double realDepth() const { return measuredFloor.value_or(depth); }
    /// Nut to the heel's end, where it is not the drawn one.
    std::optional<double> heelEnd() const { return cutLength ? cutLength : measuredLength; }
    /// Of its floor, degrees.
    double floorAngle() const { return angleIn == AngleIn::heel ? 0 : angle; }

    friend bool operator==(const BodyPocket&, const BodyPocket&) = default;
};

} // namespace wren
