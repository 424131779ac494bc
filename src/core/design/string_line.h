#pragma once

#include "design/neck.h"

namespace wren {

/// Strings leave the nut this high over the glue plane, mm: on a zero fret's crown; else a little
/// air over the crowns. On the centreline.
double stringHeightAtNut(const Neck& neck, const Fretboard& board);

/// The strings from the side, on the centreline: the straight line in the middle between the outer
/// two, instrument frame, mm. It begins at the nut or on the zero fret and passes the wanted action
/// over fret 12's crown. The neck is taken as straight: relief is not counted.
class StringLine {
public:
    StringLine(const Neck& neck, const Fretboard& board, double action);

    double saddle() const { return saddle_; }                   ///< X of the nominal bridge line
    double lastFret() const { return lastFret_; }               ///< X; 0 without frets
    double over(double x) const { return atNut_ + slope_ * x; } ///< Z over the glue plane
    /// Z over the glue plane at the last fret of a string that is pressed down on it.
    double pressed() const { return pressed_; }

private:
    double saddle_, lastFret_, atNut_, slope_, pressed_;
};

} // namespace wren
