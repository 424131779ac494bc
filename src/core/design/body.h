#pragma once

#include "base/feature_id.h"
#include "design/body_pocket.h"
#include "design/neck.h"
#include "design/shape.h"
#include "design/string_line.h"

#include <array>
#include <cmath>

namespace wren {

/// What the body is made of: one piece (round a neck that goes through, two wings of it), or a core
/// that a top, and at will a back, is glued on.
enum class BodyBuild { none, onePiece, topped };
enum class PickupKind { none, single, twoCoil, bar };
/// On the wood under a cover, on a ring, or from behind through a hole of its own.
enum class PickupMount { front, ring, back };
/// Where the bridge stands: with the middle of the saddles' travel behind the scale by the usual
/// compensation, or with the saddles fully forward on the scale itself, since intonation only moves
/// them back. Never both. Common practice, no source.
enum class BridgeStands { middle, forward };
/// One plate on screws, the same with strings through the body, two posts, or a saddle of its own
/// for every string, each on its own screws.
enum class BridgeKind { fixed, throughBody, posts, singles };
enum class LidFixing { magnets, screws };
enum class JackKind { none, edge, cup };
/// Over the front, over a control cavity, over the back's cavity, over the rod's adjuster.
enum class PlateKind { pickguard, control, cavityCover, rodCover };
/// When something is cut that goes through more than one layer: from the glued body, or each
/// layer's share of it while they are apart. The same of a body in one piece.
enum class CutWhen { glued, apart };
/// What becomes of an edge between a face and the side.
enum class EdgeForm { square, round, chamfer };

/// What gives way when the bridge, the strings or the real heel turn out otherwise: where the
/// saddles stand, the neck angle, or how deep the pocket is.
enum class GivesWay { saddles, angle, pocket };

/// A pickup and its pocket, mm. Sizes that are not given are those of an invented unit of the kind
/// for this many strings.
struct Pickup {
    PickupKind kind = PickupKind::none;
    PickupMount mount = PickupMount::front;
    double fromBridge = 40; ///< from the bridge line to its middle, on the centreline
    double angle = 0;       ///< degrees, the treble end nearer the bridge; added to a fan's own
    std::optional<double> across; ///< size over the strings
    std::optional<double> along;
    std::optional<double> height; ///< from its bottom to its top
    double depth = 19;
    double earDepth = 25.4; ///< of the ears at both ends, for the fixing screws
    double earLength = 7;   ///< how far they reach out
    double earWidth = 14;   ///< 0: no ears
    double corner = 3.2;    ///< radius of its corners
    CutWhen cut = CutWhen::glued;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Pickup&, const Pickup&) = default;
};

/// The bridge, mm.
struct Bridge {
    BridgeKind kind = BridgeKind::throughBody;
    BridgeStands stands = BridgeStands::middle;
    double compensation = 2; ///< of the middle of the saddles' travel behind the nominal line;
                             ///< does not count where the saddles stand forward
    double saddleLow = 9;    ///< string height over the face the saddles allow
    double saddleHigh = 14;
    double holesBehind = 16;    ///< strings are held so far behind the saddle line
    double holeSize = 4;        ///< of the string holes
    double ferruleSize = 8;     ///< of the ferrules' holes in the back; 0: none
    double ferruleDepth = 12.7; ///< deep
    double anchorHeight = 0;    ///< there, over what the bridge stands on, they are held
    double travel = 10;         ///< of a saddle, along its string
    double screwAhead = -8;     ///< fixing screws' row, behind the saddle line when positive
    int screws = 3;
    double screwSpread = 60;
    double screwPilot = 3.2;
    double screwDepth = 16;
    double singlePitch = 18; ///< of single saddles: between a string's screws, along it
    double postSpread = 74;  ///< between two posts
    double postSize = 11;
    double postDepth = 19;
    /// Of the neck it was drilled for, nut to the heel's end; it stands where it is from then on.
    std::optional<double> cutLength;

    /// So far behind the nominal line the middle of the saddles' travel stands.
    double behindScale() const {
        return stands == BridgeStands::forward ? travel / 2 : compensation;
    }

    friend bool operator==(const Bridge&, const Bridge&) = default;
};

/// Of a saddle behind its scale, mm, where a string's own numbers are not known: the thicker the
/// string the more. `across`: -1 the bass string, +1 the treble one. Common practice, no source.
double usualCompensation(const Bridge& bridge, double across);

/// A cavity cut from the back, with a lid let into a ledge, mm.
struct Cavity {
    std::vector<ShapeNode> nodes; ///< its outline from the bridge line; empty for none
    double wood = 6;              ///< left between its floor and the finished face
    double ledge = 9;             ///< width round the hole; 0: no lid
    double lid = 4;               ///< thickness of the lid; the ledge is as deep
    double clearance = 0.25;      ///< of the lid all round
    LidFixing fixing = LidFixing::magnets;
    int fixings = 4;
    double fixingSize = 6.35;     ///< of a magnet's hole, or a screw's pilot
    double fixingDepth = 2.5;     ///< in the ledge; and in the lid for magnets
    double relief = 0;            ///< taken off the lid's inner face over the hole
    /// As the real recess came out, across and deep: the lid follows it; and as it was when the lid
    /// was cut, which keeps that.
    std::optional<double> measuredWidth, measuredDepth;
    std::optional<double> cutWidth, cutDepth;
    CutWhen cut = CutWhen::glued; ///< of the hole; ledge and fixings are cut after gluing

    friend bool operator==(const Cavity&, const Cavity&) = default;
};

/// A fall of a face, from the bridge line: beyond the line from the first place to the second, away
/// from the bridge, the face falls at that angle, rounded over with that radius. With a bow the
/// line is an arc that reaches so far into the body, and the fall a hollow that ends with its
/// circle.
struct FaceSlope {
    Vec2 from, to;
    double angle = 10; ///< degrees
    double blend = 30; ///< radius it is rounded over with, mm
    double bow = 0;    ///< how far the line's middle stands off its chord; 0: straight
    bool fromBack = false;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const FaceSlope&, const FaceSlope&) = default;
};

/// One of the things that stand in the cavity.
struct Control {
    std::string what = "pot";     ///< "pot", "toggle" or "lever"
    Vec2 at;                      ///< from the bridge line
    double seat = 0;              ///< diameter thinned round its shaft from inside; 0: none
    double seatWood = 3.2;        ///< left there under the finished face: shafts are short
    CutWhen cut = CutWhen::glued; ///< of the seat
    std::string unknown{};        ///< what a file held of it that this version does not know

    friend bool operator==(const Control&, const Control&) = default;
};

/// A jack in the body's edge, or in a cup in its face.
struct Jack {
    JackKind kind = JackKind::edge;
    Vec2 at{42.4, 159.4}; ///< where it meets the edge, or the cup's middle, from the bridge line
    double size = 12.7;   ///< of a barrel's hole
    double cupSize = 22.2;
    double cupDepth = 12;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Jack&, const Jack&) = default;
};

/// A strap button, screwed on at the bench.
struct StrapButton {
    Vec2 at;               ///< on the edge, from the bridge line
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const StrapButton&, const StrapButton&) = default;
};

/// A hollow under a glued-on top.
struct Chamber {
    std::vector<ShapeNode> nodes;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Chamber&, const Chamber&) = default;
};

/// A straight channel in the core's or the body's face, from the bridge line.
struct Channel {
    Vec2 from, to;
    double width = 8;
    double depth = 10;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Channel&, const Channel&) = default;
};

/// A recess, a cut-out such as a handle, or an inlay's pocket, from the bridge line.
struct Recess {
    bool fromBack = false;
    bool inlay = false;          ///< of the front: a plug is cut to fill it
    std::optional<double> depth; ///< none: right through
    std::vector<ShapeNode> nodes;
    CutWhen cut =
        CutWhen::glued;    ///< of a recess or a cut-out; an inlay's pocket waits for the glue
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Recess&, const Recess&) = default;
};

/// A straight hole for wires, drilled by hand; from the bridge line, depths below the finished
/// face, mm.
struct WireHole {
    Vec2 from, to;
    double fromDepth = 0, toDepth = 0;
    double diameter = 5;
    std::string unknown{}; ///< what a file held of it that this version does not know

    double length() const { return std::hypot(wren::length(to - from), toDepth - fromDepth); }
    /// Of the drill, off the plane of the face, radians; positive going down.
    double angle() const { return std::atan2(toDepth - fromDepth, wren::length(to - from)); }

    friend bool operator==(const WireHole&, const WireHole&) = default;
};

/// A round hole square to a face that belongs to nothing else, from the bridge line.
struct FreeHole {
    bool fromBack = false;
    Vec2 at;
    double diameter = 8;
    std::optional<double> depth; ///< below the finished face; none: right through
    std::string unknown{};       ///< what a file held of it that this version does not know

    friend bool operator==(const FreeHole&, const FreeHole&) = default;
};

/// Words, or a shape's outline, drawn into a face; places from the bridge line, mm.
struct Engraving {
    bool fromBack = false;
    double depth = 0.5;           ///< below the face
    std::string words;            ///< empty: a shape
    Vec2 middle;                  ///< of the words
    double height = 8;            ///< of a capital
    double turn = 0;              ///< degrees, counter-clockwise as one reads them; 0: along the
                                  ///< strings, the nut at the left
    std::vector<ShapeNode> nodes; ///< of the shape
    std::string unknown{};        ///< what a file held of it that this version does not know

    friend bool operator==(const Engraving&, const Engraving&) = default;
};

/// A plate of sheet that is screwed on, mm. Its outline counts from the bridge line, a rod cover's
/// from the nut; a cavity cover without one follows the cavity.
struct Plate {
    PlateKind kind = PlateKind::pickguard;
    std::vector<ShapeNode> nodes;
    std::string material = "acrylic";
    double thickness = 2.4;
    int pieces = 1;         ///< cut from one sheet, lying the same way
    double bevel = 0;       ///< chamfer of its upper edge: as wide as it is deep
    double room = 0.3;      ///< round what stands in it
    int screws = 4;         ///< along its edge
    double screwHole = 3.2; ///< through the plate
    double screwInset = 6;  ///< of their middles from its edge
    double pilot = 2;       ///< in the wood; 0: they are drilled by hand
    double pilotDepth = 10;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const Plate&, const Plate&) = default;
};

/// How the finished body leaves the flat, mm and degrees. An edge is rounded downward from wherever
/// contours have brought the face to; where two contours meet the deeper one counts.
struct BodyFaces {
    EdgeForm frontEdge = EdgeForm::square;
    double frontSize = 5; ///< radius of a rounding, or a chamfer's width and depth
    EdgeForm backEdge = EdgeForm::square;
    double backSize = 5;
    double arch = 0;                 ///< the front's height over its own rim; 0: flat
    double archWidth = 60;           ///< from the edge inward until it is level
    std::vector<FaceSlope> contours; ///< an arm's on the front, the ribs' on the back

    friend bool operator==(const BodyFaces&, const BodyFaces&) = default;
};

/// What the maker decides about a body. Plan places are "from the bridge line": the nominal scale
/// on the centreline, +X away from the nut; Y as on a right-handed instrument, bass at -Y, and
/// mirrored for a left-handed one. mm.
struct Body {
    BodyBuild build = BodyBuild::none;
    std::vector<ShapeNode> nodes = bodyShape("fell");
    bool mirror = false;     ///< the nodes are one half
    double thickness = 44.5; ///< finished
    double top = 8;          ///< of a glued-on top, finished
    double topSpare = 1.5;   ///< surfaced off the glued top
    BodyFaces faces;
    double oversize = 5;    ///< of the top's and the back's outline until they are glued
    double back = 0;        ///< thickness of a glued-on back; 0: none
    /// What lies over a neck that goes through as well as its wings is cut by the router once they
    /// are glued on; else by hand.
    bool routedGlued = false;
    /// Layers are located for gluing by thin sticks where pockets take them away afterwards.
    bool gluingSticks = false;
    bool bookmatch = false; ///< the top is joined from two leaves along the centreline
    BodyPocket pocket;
    std::vector<Pickup> pickups;
    Bridge bridge;
    Cavity cavity;
    std::vector<Control> controls;
    StringAims aims;
    GivesWay givesWay = GivesWay::saddles;
    /// How high over the face the strings' middle is to pass over the bridge; none: by the school.
    std::optional<double> saddleAim;
    std::vector<Jack> jacks{Jack()};
    std::vector<StrapButton> straps{{{116, 4}}, {{-252, -92}}};
    std::vector<Chamber> chambers;
    double chamberFloor = 6; ///< wood under them
    std::vector<Channel> channels;
    std::vector<Recess> recesses;
    /// Thickness of the finish on each face, mm: where two finished faces meet, twice of it. The
    /// neck pocket's clearance does not count it and grows by it; a lid's must hold it.
    double film = 0;
    double inlayRoom = 0.05;  ///< of a plug all round, for the glue
    double inlayCorner = 1.6; ///< radius both its outward and inward corners have at least
    double inlayProud = 0.4;  ///< a plug stands over the face until it is levelled
    std::vector<WireHole> wires;
    std::vector<FreeHole> holes;
    std::vector<Engraving> engravings;
    std::vector<Plate> plates;

    /// How far the bridge stands behind its place: as far as the nut of the real neck does, in a
    /// pocket that was cut for another.
    double bridgeShift() const {
        const std::optional<double> real = bridge.cutLength ? bridge.cutLength : pocket.measuredLength;
        return pocket.cutLength && real ? *pocket.cutLength - *real : 0;
    }
    /// The middle of the saddles' travel, from the bridge line.
    double bridgeAt() const { return bridge.behindScale() + bridgeShift(); }

    /// The nodes of a starting shape: "fell", "tarn", "scree", its mouth so wide; empty for another
    /// word.
    static std::vector<ShapeNode> bodyShape(const std::string& name, double mouth = 60,
                                            double longer = 0);

    friend bool operator==(const Body&, const Body&) = default;
};

/// What the thing of that number is, by its own choices.
FeatureId controlId(const Body& body, std::size_t control);
FeatureId recessId(const Body& body, std::size_t recess);
/// What the maker calls a thing: "pot 2", "cut-out 1", "cavity"; empty for none.
std::string nameOf(const Body& body, FeatureId feature);
/// With a capital letter.
std::string capital(std::string words);
/// The same within a sentence: "pot 2", "the cavity".
std::string theOne(const Body& body, FeatureId feature);

/// How wide a starting shape's mouth must be for this board's end and the heel under it, mm.
double bodyMouth(const Fretboard& board);
/// How much further from the bridge than drawn the starting shapes must reach for its neck, mm.
double bodyLonger(const Neck& neck, const Fretboard& board);

/// X of the edge the neck leans about, instrument frame: its heel's inner end, the real one's where
/// that is known; of a neck that goes through, the board's end.
double turningEdge(const Body& body, const Neck& neck, const Fretboard& board);

/// Where the body lies under the neck: what the neck's numbers and the pocket's say together.
struct BodyPlace {
    double side = -1;     ///< of the bass strings: -1 right-handed
    double neckEnd = 0;   ///< X of the turning edge in the body's frame (and the neck's)
    double bridge = 0;    ///< X of the bridge line: of the strings where they reach the scale
    double angle = 0;     ///< radians, the neck's face against the body's
    double faceUnder = 0; ///< the turning edge lies so far below the neck's glue plane, at neckEnd

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

/// Z, in the body's frame, of the floor of the deepest recess the bridge's middle stands in; 0 on
/// the face.
double bridgeFloor(const Body& body);

/// Nodes and other lists that cannot be read or drawn; to be asked first, any finding is firm.
Findings judgeBodyNumbers(const Body& body);

} // namespace wren
