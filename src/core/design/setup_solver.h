#pragma once

#include "design/body.h"

#include <string>
#include <vector>

namespace wren {

/// The instrument from the side as one equation: neck angle, how proud the neck sits and how high
/// the strings pass over the bridge; any two give the third. mm, degrees, in the middle between
/// the outer strings, heights square to the body's face (worked in a plane triangle: the neck turns
/// by the angle about the place of its turning edge where it meets the face). A neck that goes
/// through lies in no pocket: how proud it sits is a number of its own.
class SideTriangle {
public:
    SideTriangle(const Body& body, const Neck& neck, const Fretboard& board);

    /// Over the body's face.
    double saddleHeight(double angle, double proud) const;
    double proudFor(double angle, double saddleHeight) const;
    /// Between -30 and 30 degrees; throws Error where none of them serves.
    double angleFor(double proud, double saddleHeight) const;
    /// The same with a pocket so deep: a heel that leans stands a little prouder in it.
    double angleInPocket(double depth, double saddleHeight) const;

    /// In a pocket that is cut already, leaning by `cut` degrees, with a wedge under the heel from
    /// nothing at one end to its full height at the other: the angle it gives the neck.
    struct Wedge {
        double angle = 0;     ///< of the neck then
        double height = 0;    ///< at its thick end
        bool atInner = false; ///< the thick end lies at the heel's inner end
    };
    Wedge wedgeFor(double depth, double cut, double saddleHeight) const;

    double pocketFor(double angle, double proud) const; ///< depth at the heel's inner end
    double proudIn(double angle, double pocket) const;
    bool goesThrough() const { return through_; }
    /// By the pocket's depth, or the neck's own number; and the angle with that left as it is.
    double proudNow(const BodyPocket& pocket, double angle) const;
    double angleNow(const BodyPocket& pocket, double saddleHeight) const;

private:
    template <typename Height>
    double angleWhere(Height height, double saddleHeight) const;

    bool through_;
    double reach_;  ///< from the turning edge to the scale, along the neck
    double middle_; ///< of the strings there, over the glue plane
    double heel_;   ///< depth of the heel, as measured or drawn
    double long_;   ///< of the heel
};

/// What the strings' middle is to pass over the body's face at the bridge, mm: as wanted, else with
/// the saddles in the middle of their travel, or at their lowest where the strings are drawn flat.
double saddleAim(const Body& body);
/// The same, no further than the bridge's saddles reach.
double aimInReach(const Body& body);

/// One way to bring the strings to that height.
struct SetupCure {
    GivesWay what = GivesWay::angle; ///< `saddles`: another bridge, or its recess or riser;
                                     ///< `pocket`: of a neck that goes through, how proud it sits
    bool through = false;            ///< the neck goes through
    double value = 0;                ///< degrees or mm
    double change = 0;               ///< from what it is
    bool serves = true;              ///< within what can be made
};

/// The deepest a pocket leaning so may be at its inner end, mm: wood stays under its mouth as well.
double deepestPocket(const Body& body, const Neck& neck, double angle);

/// All that bring the strings `aim` mm over the face: those that serve first, of these what takes
/// the least wood off or on, and another bridge last.
std::vector<SetupCure> setupCures(const Body& body, const Neck& neck, const Fretboard& board,
                                  double aim);

/// The body with the quantity that gives way brought to where the strings meet the bridge; as it
/// was where nothing gives way or nothing within the makers' ranges serves.
Body settled(const Body& body, const Neck& neck, const Fretboard& board);

// What is made of it, degrees and mm; ranges of the keys.
inline constexpr double leastNeckAngle = -2, mostNeckAngle = 6;
inline constexpr double leastPocket = 3, mostPocket = 60;
inline constexpr double leastProud = 0, mostProud = 15; ///< of a neck that goes through
inline constexpr double leastSaddle = 1;                ///< strings over what a bridge stands on

} // namespace wren
