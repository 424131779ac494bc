#pragma once

#include "design/neck.h"
#include "design/shape.h"

#include <array>

namespace wren {

/// What the body is made of: one piece, or a core that a top is glued on.
enum class BodyBuild { none, onePiece, topped };
/// How the pocket's inside corners make room for the heel's.
enum class CornerRelief { rounded, dogbone };
enum class PickupKind { none, single, twoCoil, bar };
/// On the wood under a cover, on a ring, or from behind through a hole of its own.
enum class PickupMount { front, ring, back };
enum class BridgeKind { fixed, throughBody, posts };
enum class LidFixing { magnets, screws };
enum class JackKind { none, edge, cup };

/// The neck's pocket, mm.
struct BodyPocket {
    double depth = 16;       ///< below the body's face, at its inner end
    double clearance = 0.08; ///< a side, finish not counted
    CornerRelief relief = CornerRelief::rounded;
    double corner = 3.2;                 ///< radius the inside corners have at least
    double angle = 0;                    ///< neck angle, degrees: the floor falls toward the nut
    double boltHole = 4;                 ///< through the body, over each of the heel's pilots
    std::optional<double> measuredWidth; ///< of the real heel at its end
    std::optional<double> measuredDepth; ///< of the real heel, glue plane to bottom

    friend bool operator==(const BodyPocket&, const BodyPocket&) = default;
};

/// A pickup and its pocket, mm. Sizes that are not given are those of an invented unit of the kind
/// for this many strings.
struct Pickup {
    PickupKind kind = PickupKind::none;
    PickupMount mount = PickupMount::front;
    double fromBridge = 40; ///< from the bridge line to its middle, on the centreline
    double angle = 0;       ///< degrees, the treble end nearer the bridge; added to a fan's own
    std::optional<double> across; ///< size over the strings
    std::optional<double> along;
    double depth = 19;
    double earDepth = 25.4; ///< of the ears at both ends, for the fixing screws
    double earLength = 7;   ///< how far they reach out
    double earWidth = 14;   ///< 0: no ears
    double corner = 3.2;    ///< radius of its corners

    friend bool operator==(const Pickup&, const Pickup&) = default;
};

/// The bridge, mm.
struct Bridge {
    BridgeKind kind = BridgeKind::throughBody;
    double compensation = 2; ///< of the middle of the saddles' travel behind the nominal line
    double saddleLow = 9;    ///< string height over the face the saddles allow
    double saddleHigh = 14;
    double holesBehind = 16;    ///< string holes behind the saddle line
    double holeSize = 4;        ///< of the string holes
    double ferruleSize = 8;     ///< of the ferrules' holes in the back; 0: none
    double ferruleDepth = 12.7; ///< deep
    double screwAhead = -8;     ///< fixing screws' row, behind the saddle line when positive
    int screws = 3;
    double screwSpread = 60;
    double screwPilot = 3.2;
    double screwDepth = 16;
    double postSpread = 74; ///< between two posts
    double postSize = 11;
    double postDepth = 19;

    friend bool operator==(const Bridge&, const Bridge&) = default;
};

/// A cavity cut from the back, with a lid let into a ledge, mm.
struct Cavity {
    std::string nodes;       ///< its outline from the bridge line, right-handed; empty for none
    double wood = 6;         ///< left between its floor and the finished face
    double ledge = 9;        ///< width round the hole; 0: no lid
    double lid = 4;          ///< thickness of the lid; the ledge is as deep
    double clearance = 0.25; ///< of the lid all round
    LidFixing fixing = LidFixing::magnets;
    int fixings = 4;
    double fixingSize = 6.35; ///< of a magnet's hole, or a screw's pilot
    double fixingDepth = 2.5; ///< in the ledge; and in the lid for magnets
    double relief = 0;        ///< taken off the lid's inner face over the hole

    friend bool operator==(const Cavity&, const Cavity&) = default;
};

/// What the maker decides about a body. Plan places are "from the bridge line": the nominal scale
/// on the centreline, +X away from the nut; Y as on a right-handed instrument, bass at -Y, and
/// mirrored for a left-handed one. mm.
struct Body {
    BodyBuild build = BodyBuild::none;
    std::string nodes = bodyShape("fell");
    bool mirror = false;     ///< the nodes are one half
    double thickness = 44.5; ///< finished
    double top = 8;          ///< of a glued-on top, finished
    double topSpare = 1.5;   ///< surfaced off the glued top
    double oversize = 5;     ///< of the top's outline until it is glued
    BodyPocket pocket;
    std::array<Pickup, 3> pickups;
    Bridge bridge;
    Cavity cavity;
    /// "pot 60 95, toggle 10 120, lever -40 90": what stands in the cavity.
    std::string controls;
    double action = 1.6; ///< string over fret 12
    JackKind jack = JackKind::edge;
    double jackX = 40; ///< where it meets the edge, or a cup's middle
    double jackY = 150;
    double jackSize = 12.7;
    double cupSize = 22.2;
    double cupDepth = 12;
    std::string straps = "116 4, -306 -96"; ///< "x y, x y": strap buttons, for the bench
    /// Outlines of chambers, each a list of nodes, parted by ";".
    std::string chambers;
    double chamberFloor = 6; ///< wood under them
    /// "x y x y width depth": straight channels in the core's or the body's face, parted by ";".
    std::string channels;

    /// The nodes of a starting shape: "fell", "tarn", "scree"; empty for another word.
    static std::string bodyShape(const std::string& name);

    friend bool operator==(const Body&, const Body&) = default;
};

/// One of the things that stand in the cavity.
struct Control {
    std::string what; ///< "pot", "toggle" or "lever"
    Vec2 at;          ///< from the bridge line, right-handed
};
/// Throws Error with the entry that cannot be read.
std::vector<Control> controlList(const std::string& text);

/// Reads "x y, x y". Throws Error.
std::vector<Vec2> placeList(const std::string& text);

/// A straight channel, from the bridge line.
struct Channel {
    Vec2 from, to;
    double width = 8;
    double depth = 10;
};
std::vector<Channel> channelList(const std::string& text);

/// Shapes parted by ";". Throws Error.
std::vector<std::vector<ShapeNode>> shapeList(const std::string& text);

/// Where the body lies under the neck: what the neck's numbers and the pocket's say together.
struct BodyPlace {
    double side = -1;     ///< of the bass strings: -1 right-handed
    double neckEnd = 0;   ///< X of the pocket's inner end in the body's frame (and the neck's)
    double bridge = 0;    ///< X of the bridge line
    double angle = 0;     ///< radians, the neck's face against the body's
    double faceUnder = 0; ///< the body's face lies so far below the neck's glue plane, at neckEnd

    BodyPlace(const Body& body, const Neck& neck, const Fretboard& board);

    /// A plan place given from the bridge line.
    Vec2 at(Vec2 fromBridge) const { return {bridge + fromBridge.x, -side * fromBridge.y}; }
    Vec2 fromBridge(Vec2 at) const { return {at.x - bridge, -side * at.y}; }
    Contour laid(const Contour& fromBridge) const; ///< clockwise

    /// Instrument frame to body frame: origin below the instrument's, on the body's face, X and Y
    /// along it, Z out of it. Without a neck angle only Z differs.
    Vec3 toBody(Vec3 instrument) const;
    Vec3 toInstrument(Vec3 body) const;
};

/// Nodes and other lists that cannot be read or drawn; to be asked first, any finding is firm.
Findings judgeBodyNumbers(const Body& body);

} // namespace wren
