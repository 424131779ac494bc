#pragma once

#include "base/finding.h"

#include <limits>
#include <optional>
#include <string>
#include <vector>

namespace wren {

enum class Hand { right, left };
enum class StringSpacing { centres, gaps };
enum class BoardEnd { straight, slanted, radiused };
/// Where a cone's second radius is measured.
enum class FarRadius { lastFret, bridge };
enum class MarkerShape { dot, leaf, wrap };
/// How a marker gets its colour: a piece pressed in, or a filling poured and skimmed.
enum class Inlay { pressed, filled };

/// Fret wire as it is measured at the bench, mm. The fit band says how much wider than the tang a
/// slot may be: less splits the board or lifts the fret, more lets it sit loose.
struct FretWire {
    double tangWidth = 0.53;
    double tangDepth = 1.6;
    double barbWidth = 0.76; ///< over the barbs
    double crownWidth = 2.3;
    double crownHeight = 1.1;
    double fitLeast = 0.0;
    double fitMost = 0.08;
    std::optional<double> measuredSlot; ///< what a test cut in this wood really measured

    friend bool operator==(const FretWire&, const FretWire&) = default;
};

/// A marker in the face before a fret, or a dot beside it in the bass edge.
struct FretMark {
    int fret = 12;
    std::optional<int> count{}; ///< 1 or 2 there; none: as at any octave, or one
    std::string unknown{};      ///< what a file held of it that this version does not know

    friend bool operator==(const FretMark&, const FretMark&) = default;
};

/// One string of the set.
struct StringGauge {
    double thickness = 0.6;         ///< mm
    std::string note{};             ///< what it is tuned to, "E2"; empty: not known
    bool wound = false;             ///< else plain
    std::optional<double> core{};   ///< a wound string's, mm
    std::optional<double> weight{}; ///< as its maker says, g/m; none: plain steel's
    std::string unknown{};          ///< what a file held of it that this version does not know

    friend bool operator==(const StringGauge&, const StringGauge&) = default;
};

/// Position markers, mm.
struct Markers {
    std::vector<FretMark> face; ///< in any order; of one fret the first counts
    MarkerShape shape = MarkerShape::dot;
    Inlay inlay = Inlay::pressed;
    double size = 6;            ///< a dot's diameter; the width of a leaf or wrap along the board
    double reach = 16;          ///< length of a leaf, or how far a wrap reaches in from the edge
    double tip = 1.6;           ///< radius of a leaf's tips
    double tilt = 0;            ///< degrees a leaf is turned from lying across the board
    double depth = 1.5;         ///< below the face over the marker's middle
    int atOctave = 2;           ///< markers at fret 12, 24 and 36
    double spread = 22;         ///< between the two at the octave
    std::vector<FretMark> side; ///< dots in the bass edge
    double sideSize = 2;
    double sideDepth = 4;
    double sideBelow = 2; ///< their middle below the face's edge

    friend bool operator==(const Markers&, const Markers&) = default;
};

/// What the maker decides about a fretboard. Lengths in mm, measured along or square to the
/// centreline. Ranges are those of the key table (job/keys); combinations are judged by
/// judgeFretboard().
struct Fretboard {
    int strings = 6; ///< 4 to 9
    Hand hand = Hand::right;
    double scaleLength = 648;          ///< nut to the nominal bridge line, on the bass string
    std::optional<double> trebleScale; ///< of the treble string, when it has its own
    double squareFret = 0;             ///< the fret square to the centreline; may be a fraction
    int frets = 22;                    ///< 0 to 36
    bool zeroFret = false;
    double behindZero = 5;    ///< from the zero fret's centre to the nut's face
    double nutSpread = 37;    ///< between the outer strings' centres at the nut
    double bridgeSpread = 52; ///< the same at the bridge
    StringSpacing spacing = StringSpacing::centres;
    std::vector<StringGauge> gauges; ///< bass to treble, for equal gaps; none: not known
    double overhangBass = 3;         ///< board outside the outer string
    double overhangTreble = 3;
    double pastLastFret =
        8; ///< board beyond the last fret (the nut without frets), on the centreline
    BoardEnd end = BoardEnd::straight;
    std::optional<double> endSlant;  ///< degrees off square; none: along the last fret
    double endRadius = 120;          ///< of a radiused end
    double nutShelf = 0;             ///< length of the ledge the nut stands on; 0: none
    double shelfFloor = 3;           ///< height of that ledge over the glue plane
    double radius = 300;             ///< of the face at the nut
    std::optional<double> farRadius; ///< of a cone, at its far end
    FarRadius farAt = FarRadius::lastFret;
    double thickness = 6; ///< on the centreline
    double slotWidth = 0.58;
    double slotDepth = 2.0; ///< from the curved face, square to the arc
    double blindMargin = 0; ///< slots stop this short of both edges; 0: right through
    FretWire wire;
    Markers markers;

    bool fanned() const { return trebleScale && *trebleScale != scaleLength; }
    bool squareAtBridge() const { return squareFret == std::numeric_limits<double>::infinity(); }

    friend bool operator==(const Fretboard&, const Fretboard&) = default;
};

/// One line of the fret table. Distances from the nut (the zero fret's centre when there is one),
/// parallel to the centreline, mm.
struct FretPlace {
    int fret = 0;
    double onBassEdge = 0;
    double fromNut = 0; ///< on the centreline
    double onTrebleEdge = 0;
    double angle = 0; ///< degrees off square; positive when the treble end is nearer the bridge
    double boardWidth = 0;    ///< square to the centreline, where the fret crosses it
    double slotLength = 0;    ///< along the slot, edge to edge
    double wireLength = 0;    ///< of the fret over the arc, edge to edge
    double edgeThickness = 0; ///< the thinner edge
    double woodUnderSlot = 0; ///< floor to glue plane, at the thinner edge
};

std::vector<FretPlace> fretTable(const Fretboard& board);

/// Centres of the strings at the nut, bass first, from the middle between the outer two: bass
/// negative, treble positive. `spread` between the outer two. Equal gaps need one gauge a string;
/// with another number of gauges the centres are equal.
std::vector<double> stringCentres(const Fretboard& board, double spread);

// Lists typed as one line. Throw Error.
std::vector<int> fretList(const std::string& text); ///< "3 5 7-9, 12": in order, each once
std::vector<FretMark> fretMarks(const std::string& text);
std::vector<StringGauge> gaugeList(const std::string& text); ///< "1.17 0.91 ...", mm

/// A set to start from for that many strings, each thinner than the one before by the same share.
std::vector<StringGauge> evenGauges(int strings, double scaleLength);

/// Combinations that cannot be made, or only with care.
Findings judgeFretboard(const Fretboard& board);

} // namespace wren
