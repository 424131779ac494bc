#pragma once

#include "part/body_part.h"

#include <optional>
#include <vector>

namespace wren {

/// One string over the whole instrument; mm, degrees, N. Heights are square to what they are
/// measured from.
struct StringSetup {
    int number = 1;       ///< as makers count: 1 is the treble string
    double overNut = 0;   ///< over the board's face under it at the nut
    double overFret1 = 0; ///< over the fret's crown; over the board of one without frets
    double overFret12 = 0;
    double overLastFret = 0;
    double compensation = 0;  ///< of its saddle behind its scale, along the strings
    bool compensated = false; ///< by its own stretch, not by common practice
    double saddle = 0;        ///< over the body's face, where it leaves its saddle
    double saddleLow = 0;     ///< what the bridge allows there, over the body's face
    double saddleHigh = 0;
    double ahead = 0;         ///< way a saddle has left toward the nut
    double behind = 0;        ///< and away from it
    double breakAtNut = 0;    ///< turn of the string down over the nut, seen from the side
    double breakAtSaddle = 0; ///< and over its saddle
    std::optional<double> tension;
    /// What presses on the saddle, as a share of the string's tension: 2 sin(break / 2).
    double downforce = 0;
};

/// The instrument seen from the side; mm, degrees. Frames: instrument's and body's (BodyPlace).
struct SetupGeometry {
    StringSchool school = StringSchool::action;
    double angle = 0;          ///< of the neck against the body's face
    bool through = false;      ///< the neck goes through and lies in no pocket
    double heelEnd = 0;        ///< X of the turning edge (turningEdge()), instrument frame
    double mouth = 0;          ///< X of where the body begins on the centreline, body frame
    double proud = 0;          ///< glue plane over the body's face at the turning edge
    double proudOuter = 0;     ///< and at the mouth
    double pocketInner = 0;    ///< the pocket's depth under the face at the turning edge; 0 of none
    double pocketOuter = 0;    ///< and at the mouth
    double heelWedge = 0;      ///< a heel planed to the angle is so much shallower at the mouth
    double bridgeFromHeel = 0; ///< nominal bridge line from that edge, along the body's face
    double bridgeFromNut = 0;  ///< the same from the nut, along the neck: the scale
    double middleOverGlue = 0; ///< middle between the outer strings there, over the glue plane
    double middleSaddle = 0;   ///< and over the body's face
    double saddleLow = 0;      ///< what the bridge allows, over the body's face
    double saddleHigh = 0;
    std::vector<StringSetup> strings; ///< bass first
};

SetupGeometry setupGeometry(const BodyPart& body, const NeckPart& neck);

} // namespace wren
