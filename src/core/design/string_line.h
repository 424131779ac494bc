#pragma once

#include "design/neck.h"
#include "geom/arched_face.h"

#include <optional>
#include <vector>

namespace wren {

/// Two ways of drawing the strings: a wanted action over fret 12 with the saddles in the middle of
/// their travel; or flat on the crowns with the saddles at their lowest, since the strings' pull
/// will bow the neck and saddles only go up. Common practice, no source.
enum class StringSchool { action, flat };

/// How the strings are wanted to lie, mm.
struct StringAims {
    StringSchool school = StringSchool::action;
    double action = 1.6;                ///< of the bass string over fret 12's crown
    std::optional<double> trebleAction; ///< of the treble string; none: the same
    /// The neck's bow under the strings: how much lower its frets lie in the middle between the nut
    /// and the last one. Strings that lie flat do not pull yet.
    double relief = 0;

    friend bool operator==(const StringAims&, const StringAims&) = default;
};

/// Strings leave the nut this high over the glue plane, mm: on a zero fret's crown; else a little
/// air over the crowns. On the centreline.
double stringHeightAtNut(const Neck& neck, const Fretboard& board);

/// One string from the side: straight from the nut, or the zero fret, to where it reaches its own
/// scale. Instrument frame, mm.
class StringSide {
public:
    /// `across`: -1 the bass string, +1 the treble one, between them by its place at the nut.
    StringSide(const Neck& neck, const Fretboard& board, const StringAims& aims, double across);

    double across() const { return across_; }
    Vec2 nut() const { return nut_; }       ///< in plan
    Vec2 saddle() const { return saddle_; } ///< in plan, at its scale, without compensation
    double atNut() const { return atNut_; } ///< Z over the glue plane
    double atSaddle() const { return atSaddle_; }
    double rise() const { return (atSaddle_ - atNut_) / (saddle_.x - nut_.x); } ///< mm per mm of X
    double over(double x) const { return atNut_ + rise() * (x - nut_.x); }

    double boardAtNut() const { return boardAtNut_; } ///< Z of the board's face under it there
    Vec2 fret(int n) const;                           ///< in plan, where it crosses a fret
    double crown(int n) const; ///< Z of that fret's crown under it, as the neck is bowed
    double overFret(int n) const { return over(fret(n).x) - crown(n); }

private:
    Vec2 at(double share) const { return nut_ + (saddle_ - nut_) * share; }

    ArchedFace face_;
    double across_;
    Vec2 nut_, saddle_;
    double boardAtNut_, crownHeight_, accent_, relief_, lastShare_;
    double atNut_ = 0, atSaddle_ = 0;
};

/// All of them, bass first.
std::vector<StringSide> stringSides(const Neck& neck, const Fretboard& board,
                                    const StringAims& aims);

/// The straight line in the middle between the outer two strings, instrument frame, mm: on a board
/// with a radius it lies lower than a string in its middle would.
class StringLine {
public:
    StringLine(const Neck& neck, const Fretboard& board, const StringAims& aims);

    double saddle() const { return saddle_; }                   ///< X of the nominal bridge line
    double lastFret() const { return lastFret_; }               ///< X; 0 without frets
    double over(double x) const { return atNut_ + slope_ * x; } ///< Z over the glue plane
    /// Z over the glue plane at the last fret of strings that are pressed down on it.
    double pressed() const { return pressed_; }

private:
    double saddle_, lastFret_, atNut_, slope_, pressed_;
};

} // namespace wren
