#pragma once

#include "design/fretboard.h"
#include "design/neck_trace.h"

#include <algorithm>
#include <array>
#include <string>
#include <vector>

namespace wren {

/// How the neck meets the body; none when the project has no neck. A neck that goes through is its
/// body's core as well: wings are glued to the sides of its heel.
enum class NeckJoint { none, boltOn, set, through };
/// What a station's thickness is measured over.
enum class ThickOver { board, neck };
/// What carries the frets: a fretboard glued on, or the neck's own wood, arched and slotted.
enum class FretFace { glued, carved };
enum class HeelShape { square, tapered, rounded };
enum class HeadKind { flat, tilted };
/// What a tilted head is made from.
enum class HeadStock { thick, scarf };
/// Who makes the tuners' holes: the machine, square to its bed, or the maker at a drill press, the
/// head lying flat.
enum class TunerBore { machine, byHand };
enum class RodFrom { none, top, back };
enum class RodFloor { flat, round };
/// Whether a slot from the top stays level or goes deeper as the neck grows thicker.
enum class RodRun { level, follows };
enum class RodEnd { head, heel };

/// A node of the headstock's outline, in the frame of a right-handed neck.
struct HeadNode {
    Vec2 at;
    bool corner = false;
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const HeadNode&, const HeadNode&) = default;
};

/// The headstock, mm and degrees. Its outline's nodes go round the head from the bass edge at the
/// nut to the treble edge.
struct Headstock {
    HeadKind kind = HeadKind::flat;
    double angle = 13; ///< of a tilted one
    HeadStock stock = HeadStock::thick;
    double drop = 6;            ///< of a flat one's face below the glue plane
    double curve = 22;          ///< radius of the hollow between nut and face
    double thickness = 14;      ///< of the wood, square to its face
    double plate = 0;           ///< thickness of a glued-on face plate; 0 for none
    double plateGap = 0.5;      ///< it ends so far behind the nut
    int plateScrews = 0;        ///< that hold its caul while the glue sets: 0 or 2
    double plateScrew = 2;      ///< diameter of their pilots
    double plateScrewDepth = 8; ///< into the head
    double transition = 46;     ///< length over which the back turns from shaft to head
    double transitionFrom = 18; ///< it begins this far from the nut, on the shaft
    double volute = 0;          ///< height of the lump behind the nut
    double voluteLength = 40;
    double voluteAt = 0; ///< its middle, from the nut toward the bridge
    /// Six in line, to begin with; headRound() draws others.
    std::vector<HeadNode> nodes{{{-20, -26.5}},    {{-44, -30.5}}, {{-100, -15}},      {{-158, 1}},
                                {{-184, 9}, true}, {{-190, 20}},   {{-183, 31}, true}, {{-120, 28}},
                                {{-70, 24.5}},     {{-30, 22.5}}};

    friend bool operator==(const Headstock&, const Headstock&) = default;
};

/// Where a tuner's post stands, in the frame of a right-handed neck.
struct TunerPost {
    Vec2 at;
    std::optional<double> height{}; ///< of the string's coil over the face; none: as all others
    std::string unknown{};          ///< what a file held of it that this version does not know

    friend bool operator==(const TunerPost&, const TunerPost&) = default;
};

/// Holds strings down behind the nut; its middle in the frame of a right-handed neck.
struct StringTree {
    Vec2 at{-45, 10};
    double height = 3; ///< of the strings under it, over the face
    int first = 1;     ///< strings it holds, as makers count: 1 is the treble string
    int last = 2;
    std::string unknown{}; ///< what a file held of it that this version does not know

    bool holds(int string) const {
        return string >= std::min(first, last) && string <= std::max(first, last);
    }
    friend bool operator==(const StringTree&, const StringTree&) = default;
};

/// Tuners and the strings' way to them, mm.
struct Tuners {
    int onBassSide = 6;     ///< of all strings; the others stand on the treble side
    double first = 42;      ///< from the nut to the nearest post
    double pitch = 24;      ///< between neighbours of a row, along the neck
    double post = 6;        ///< diameter where the string winds
    double postHeight = 6;  ///< of the string's coil over the face
    double bushing = 9.5;   ///< diameter of the hole
    double bodyLength = 22; ///< of its footprint behind, along the row
    double bodyWidth = 15;
    double pilot = 1.5;     ///< of its fixing screw; 0 for none
    double pilotOff = 10.5; ///< from the post to that screw, along the row
    double pilotDepth = 8;
    TunerBore bore = TunerBore::machine;
    std::vector<TunerPost> places; ///< bass to treble; none for one row or two
    std::vector<StringTree> trees;

    friend bool operator==(const Tuners&, const Tuners&) = default;
};

/// Truss rod and its slot, mm.
struct TrussRod {
    RodFrom from = RodFrom::top;
    double width = 6.35;
    /// Of a slot from the top: below the glue plane, cap strip included, where it is shallowest. Of
    /// one from the back: the room left for the rod under its strip.
    double depth = 9.5;
    RodRun run = RodRun::level;
    double cover = 4; ///< wood between the floor of a slot from the back and the glue plane
    double start = 4; ///< from the nut toward the bridge
    double length = 430;
    RodFloor floor = RodFloor::flat;
    RodEnd adjuster = RodEnd::heel;
    double adjusterWidth = 10;
    double adjusterLength = 24;
    double adjusterDepth = 10.5;
    double cap = 0;         ///< thickness of a cap strip; its width is the slot's
    double carbonWidth = 0; ///< of a carbon rod's slot on each side; 0 for none
    double carbonDepth = 6;
    double carbonOff = 11; ///< from the centreline to its middle
    double carbonStart = 20;
    double carbonLength = 380;

    friend bool operator==(const TrussRod&, const TrussRod&) = default;
};

/// Shares of the shapes a section is mixed from; together 1.
struct SectionMix {
    double v = 0; ///< straight flanks meeting in a rounded crest
    double c = 1; ///< half an ellipse
    double u = 0; ///< full shoulders

    friend bool operator==(const SectionMix&, const SectionMix&) = default;
};

/// One station of the back.
struct NeckStation {
    double fret = 0;
    double thickness = 0; ///< as typed
    SectionMix bass;
    SectionMix treble;
    std::string trace;     ///< name of a traced section instead; empty for none
    std::string unknown{}; ///< what a file held of it that this version does not know

    friend bool operator==(const NeckStation&, const NeckStation&) = default;
};

/// What the maker decides about a neck. Width, end and taper come from the board. Lengths in mm.
struct Neck {
    NeckJoint joint = NeckJoint::none;
    FretFace fretFace = FretFace::glued;
    std::vector<NeckStation> stations{{1, 20.5, {}, {}, {}},
                                      {12, 22.5, {}, {}, {}}}; ///< the back's
    std::vector<NeckTrace> traces; ///< sections stations may use the shape of
    ThickOver over = ThickOver::board;
    double accent = 0;   ///< thickness of an accent strip under the board
    double shoulder = 3; ///< upright edge below the glue plane
    double crest = 0.12; ///< roundness of a V's crest, as a share of the half width
    double heelLength = 76;
    double heelDepth = 18; ///< of the wood below the glue plane
    HeelShape heelShape = HeelShape::rounded;
    double heelCorner = 8;   ///< radius of a rounded heel's corners
    double heelTaper = 3;    ///< narrower at the end, on each side, of a tapered one
    double heelPast = 0;     ///< wood beyond the board's end
    double transition = 42;  ///< length over which the back turns from shaft to heel
    double nutSlot = 0;      ///< depth of the nut's slot below the glue plane; 0: it stands on it
    double nutThickness = 5; ///< of the nut, along the neck; it stands behind the nut's line
    int bolts = 4;           ///< pilots in the heel; 0 for none
    double boltLong = 50;    ///< their pattern, along and across
    double boltWide = 36;
    double boltPilot = 3.2;
    double boltDepth = 14;
    /// Two frets whose slots take the pins that hold the board at glue-up; none: no pin there.
    std::array<std::optional<int>, 2> pinFrets{};
    double pinSize = 1.5; ///< of their holes
    double pinDepth = 6;  ///< into the neck
    Headstock head;
    Tuners tuners;
    TrussRod rod;

    friend bool operator==(const Neck&, const Neck&) = default;
};

/// Reads "1 20.5 C, 12 22.5 D/soft-V": at a fret a thickness in mm (or a length with its unit) and
/// a shape, or the bass side's and the treble side's. A shape is V, soft-V, C, D, U, a number
/// from -1 (V) through 0 (C) to 1 (U), or @ and the name of a traced section. Throws Error: not two
/// stations, frets not rising, unknown shape.
std::vector<NeckStation> neckStations(const std::string& text);
/// What a shape from -1 to 1 is mixed of.
SectionMix mixOf(double shape);
/// Stations in order from the nut, two at least. Throws Error.
void checkStations(const std::vector<NeckStation>& stations);
/// A shape's word, or its number. shapeMix() reads it back and throws Error for another word.
std::string shapeWord(const SectionMix& mix);
SectionMix shapeMix(const std::string& word);

/// The pair of frets "2 19", or none for an empty text. Throws Error.
std::array<std::optional<int>, 2> pinFretPair(const std::string& text);

} // namespace wren
