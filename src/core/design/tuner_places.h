#pragma once

#include "design/neck_outline.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// One string's way from the nut to its post, instrument frame.
struct TunerPlace {
    int string = 0; ///< 0 is the bass string
    Vec2 nut;       ///< where it leaves the nut
    Vec2 post;      ///< the post's middle
    Vec2 winds;     ///< where it meets the post
    bool onBassSide = true;
    Vec2 along;            ///< unit, the row's own direction
    double sideAngle = 0;  ///< degrees between the string on the board and behind the nut
    double breakAngle = 0; ///< degrees down over the nut
    double postHeight = 0; ///< of the string's coil over the face
    /// Where a string tree bends it down on its way, Z over the glue plane; none where it does not.
    std::optional<Vec3> held{};
};

/// Reads "x y, x y". Throws Error.
std::vector<TunerPost> postList(const std::string& text);

/// Where the posts stand: as listed; else in one row along each string's own line, for straight
/// pull, or in two rows on either side of the centreline. The outer string of each row winds
/// nearest to the nut. `nutTop` is the string's height over the glue plane at the nut.
std::vector<TunerPlace> tunerPlaces(const Neck& neck, const Fretboard& board,
                                    const NeckOutline& outline);

/// The four corners of a tuner's body behind the head.
std::vector<Vec2> tunerBody(const Tuners& tuners, const TunerPlace& place);
/// Where its fixing screw goes.
Vec2 tunerScrew(const Tuners& tuners, const TunerPlace& place);

} // namespace wren
