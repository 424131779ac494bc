#include "base/error.h"
#include "design/fan.h"
#include "design/string_set.h"
#include "job/key_table.h"

#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

/// "nut", "bridge" or a fret's number, fractions allowed.
double squareFretFrom(const std::string& text) {
    if (text == "nut") {
        return 0;
    }
    if (text == "bridge") {
        return std::numeric_limits<double>::infinity();
    }
    double fret = -1;
    try {
        fret = parseNumber(text);
    } catch (const Error&) {
        fret = -1;
    }
    if (!(fret >= 0 && fret <= 36)) {
        throw Error(fmt::format(
            "\"{}\" is not a place to be square at; nut, bridge or a fret from 0 to 36 was "
            "expected.",
            text));
    }
    return fret;
}

constexpr double leastBridgeSpread = 5;
constexpr double mostBridgeSpread = 250;

double lastFretWidth(const Fretboard& b) {
    const double share = Fan(b).lastShare();
    return b.nutSpread + (b.bridgeSpread - b.nutSpread) * share + b.overhangBass + b.overhangTreble;
}

void setWidths(Fretboard& b, double nut, double last) {
    const double share = Fan(b).lastShare();
    const double beside = b.overhangBass + b.overhangTreble;
    const double bridge = nut - beside + (last - nut) / share;
    if (!(bridge >= leastBridgeSpread && bridge <= mostBridgeSpread)) {
        throw Error(fmt::format("A board {:.2f} mm wide at the nut and {:.2f} mm at the last fret "
                                "puts the outer strings {:.1f} mm apart at the bridge; {:g} to "
                                "{:g} mm was expected.",
                                nut, last, bridge, leastBridgeSpread, mostBridgeSpread));
    }
    b.nutSpread = nut - beside;
    b.bridgeSpread = bridge;
}

/// The board's width and an even overhang: what version 1 kept, and what a maker may rather type.
void aliasKeys(KeyTable& t) {
    const auto add = [&](const char* path, const char* meaning, double least, double most,
                         std::function<double(const Fretboard&)> get,
                         std::function<void(Fretboard&, double)> set) {
        t.derived(
            path, meaning, least, most,
            [get = std::move(get)](const Project& p) { return get(p.board); },
            [set = std::move(set)](Project& p, double v) { set(p.board, v); });
    };
    add(
        "board.overhang", "board outside the outer strings, both sides alike", 0, 12,
        [](const Fretboard& b) { return (b.overhangBass + b.overhangTreble) / 2; },
        [](Fretboard& b, double v) { b.overhangBass = b.overhangTreble = v; });
    add(
        "board.nut_width", "board width at the nut; moves the strings", 20, 150,
        [](const Fretboard& b) { return b.nutSpread + b.overhangBass + b.overhangTreble; },
        [](Fretboard& b, double v) { setWidths(b, v, lastFretWidth(b)); });
    add(
        "board.last_fret_width", "board width at the last fret; moves the strings", 20, 200,
        [](const Fretboard& b) { return lastFretWidth(b); },
        [](Fretboard& b, double v) {
            setWidths(b, b.nutSpread + b.overhangBass + b.overhangTreble, v);
        });
}

void stringKeys(KeyTable& t) {
    t.count("board.strings", "strings", 4, 9, [](Project& p) -> int& { return p.board.strings; });
    enumKey(t, "board.hand", "hand it is played with", Names<Hand, 2>{{"right", "left"}},
            [](Project& p) -> Hand& { return p.board.hand; });
    t.length("board.scale", "scale length; the bass string's when there are two", 250, 1300,
             [](Project& p) -> double& { return p.board.scaleLength; });
    t.maybe(KeyKind::length, "board.treble_scale", "mm", "scale of the treble string, if its own",
            250, 1300, [](Project& p) -> std::optional<double>& { return p.board.trebleScale; });
    t.words(
        "board.square_fret", "where the frets are square: nut, bridge or a fret", {},
        [](const Project& p) {
            const Fretboard& b = p.board;
            return b.squareAtBridge()  ? std::string("bridge")
                   : b.squareFret == 0 ? std::string("nut")
                                       : fmt::format("{:g}", b.squareFret);
        },
        [](Project& p, const std::string& v) { p.board.squareFret = squareFretFrom(v); });
    t.last().checkText = [](const std::string& v) { squareFretFrom(v); };
    t.count("board.frets", "frets", 0, 36, [](Project& p) -> int& { return p.board.frets; });
    yesNo(t, "board.zero_fret", "a fret in place of the nut's edge",
          [](Project& p) -> bool& { return p.board.zeroFret; });
    t.length("board.behind_zero", "from the zero fret's centre to the nut", 1, 40,
             [](Project& p) -> double& { return p.board.behindZero; });
    t.length("board.nut_spread", "between the outer strings at the nut", -20, 140,
             [](Project& p) -> double& { return p.board.nutSpread; });
    t.length("board.bridge_spread", "between the outer strings at the bridge", leastBridgeSpread,
             mostBridgeSpread, [](Project& p) -> double& { return p.board.bridgeSpread; });
    enumKey(t, "board.spacing", "what is equal between the strings",
            Names<StringSpacing, 2>{{"centres", "gaps"}},
            [](Project& p) -> StringSpacing& { return p.board.spacing; });
    t.list<StringGauge>(
        "board.gauges", "gauge", 9,
        [](Project& p) -> std::vector<StringGauge>& { return p.board.gauges; },
        [](KeyTable& own, const std::string& head,
           const std::function<StringGauge&(Project&)>& one) {
            own.length(head + "thickness", "how thick the string is", 0.1, 6,
                       [one](Project& p) -> double& { return one(p).thickness; });
            own.text(
                head + "note", "what it is tuned to, as E2 or F#3",
                [one](Project& p) -> std::string& { return one(p).note; }, true);
            own.last().checkText = [](const std::string& note) {
                if (!note.empty()) {
                    noteFrequency(note);
                }
            };
            yesNo(own, head + "wound", "wound, else plain",
                  [one](Project& p) -> bool& { return one(p).wound; });
            own.maybe(KeyKind::length, head + "core", "mm", "core of a wound string", 0.1, 3,
                      [one](Project& p) -> std::optional<double>& { return one(p).core; });
            own.maybe(KeyKind::number, head + "weight", "g/m", "what it weighs, as its maker says",
                      0.05, 60,
                      [one](Project& p) -> std::optional<double>& { return one(p).weight; });
        });
    t.notation("board.gauges", "string gauges in mm, bass to treble",
               [](Project& p, const std::string& v) { p.board.gauges = gaugeList(v); });
    t.length("board.overhang_bass", "board outside the bass string", 0, 12,
             [](Project& p) -> double& { return p.board.overhangBass; });
    t.length("board.overhang_treble", "board outside the treble string", 0, 12,
             [](Project& p) -> double& { return p.board.overhangTreble; });
}

void shapeKeys(KeyTable& t) {
    t.length("board.past_last_fret", "board beyond the last fret, or beyond the nut without frets",
             2, 1000, [](Project& p) -> double& { return p.board.pastLastFret; });
    enumKey(t, "board.end", "how the board ends",
            Names<BoardEnd, 3>{{"straight", "slanted", "radiused"}},
            [](Project& p) -> BoardEnd& { return p.board.end; });
    t.maybe(KeyKind::number, "board.end_slant", "deg",
            "a slanted end's angle off square; auto is along the last fret", -40, 40,
            [](Project& p) -> std::optional<double>& { return p.board.endSlant; });
    t.length("board.end_radius", "radius of a radiused end", 15, 2000,
             [](Project& p) -> double& { return p.board.endRadius; });
    t.length("board.nut_shelf", "length of the ledge the nut stands on; 0 for none", 0, 30,
             [](Project& p) -> double& { return p.board.nutShelf; });
    t.length("board.shelf_floor", "height of that ledge over the underside", 0.5, 15,
             [](Project& p) -> double& { return p.board.shelfFloor; });
    t.length("board.radius", "radius of the face, at the nut", 100, 3000,
             [](Project& p) -> double& { return p.board.radius; });
    t.maybe(KeyKind::length, "board.far_radius", "mm", "a cone's radius at its far end", 100, 3000,
            [](Project& p) -> std::optional<double>& { return p.board.farRadius; });
    enumKey(t, "board.far_at", "where that radius is measured",
            Names<FarRadius, 2>{{"last-fret", "bridge"}},
            [](Project& p) -> FarRadius& { return p.board.farAt; });
    t.length("board.thickness", "thickness on the centreline", 2, 20,
             [](Project& p) -> double& { return p.board.thickness; });
    t.length("board.slot_width", "fret slot width", 0.3, 1.5,
             [](Project& p) -> double& { return p.board.slotWidth; });
    t.length("board.slot_depth", "fret slot depth below the curved face", 0.3, 10,
             [](Project& p) -> double& { return p.board.slotDepth; });
    t.length("board.blind_margin", "slots stop this short of the edges; 0 right through", 0, 15,
             [](Project& p) -> double& { return p.board.blindMargin; });
    aliasKeys(t);
}

void wireKeys(KeyTable& t) {
    t.length("wire.tang_width", "width of the tang", 0.3, 1.5,
             [](Project& p) -> double& { return p.board.wire.tangWidth; });
    t.length("wire.tang_depth", "depth of the tang", 0.5, 5,
             [](Project& p) -> double& { return p.board.wire.tangDepth; });
    t.length("wire.barb_width", "width over the barbs", 0.3, 2,
             [](Project& p) -> double& { return p.board.wire.barbWidth; });
    t.length("wire.crown_width", "width of the crown", 1, 4,
             [](Project& p) -> double& { return p.board.wire.crownWidth; });
    t.length("wire.crown_height", "height of the crown", 0.3, 3,
             [](Project& p) -> double& { return p.board.wire.crownHeight; });
    t.length("wire.fit_least", "slot wider than the tang by at least", -0.2, 0.3,
             [](Project& p) -> double& { return p.board.wire.fitLeast; });
    t.length("wire.fit_most", "slot wider than the tang by at most", 0, 0.5,
             [](Project& p) -> double& { return p.board.wire.fitMost; });
    t.maybe(KeyKind::length, "wire.measured_slot", "mm", "slot as a test cut measured", 0.2, 2,
            [](Project& p) -> std::optional<double>& { return p.board.wire.measuredSlot; });
}

void fretMarkKeys(KeyTable& t, const std::string& head,
                  const std::function<FretMark&(Project&)>& one) {
    t.count(head + "fret", "the fret it stands before", 1, 36,
            [one](Project& p) -> int& { return one(p).fret; });
    t.maybe(KeyKind::count, head + "count", "", "one or two there; auto as at any octave", 1, 2,
            [one](Project& p) -> std::optional<int>& { return one(p).count; });
}

void markerKeys(KeyTable& t) {
    const auto marks = [&t](const char* path, const char* one,
                            std::vector<FretMark> Markers::*list) {
        t.list<FretMark>(
            path, one, 40,
            [list](Project& p) -> std::vector<FretMark>& { return p.board.markers.*list; },
            fretMarkKeys);
    };
    marks("markers.face", "marker", &Markers::face);
    t.notation("markers.frets", "frets with a marker, as 3 5 7-9 12",
               [](Project& p, const std::string& v) { p.board.markers.face = fretMarks(v); });
    enumKey(t, "markers.shape", "shape of a marker", Names<MarkerShape, 3>{{"dot", "leaf", "wrap"}},
            [](Project& p) -> MarkerShape& { return p.board.markers.shape; });
    enumKey(t, "markers.inlay", "pressed in, or poured and skimmed",
            Names<Inlay, 2>{{"pressed", "filled"}},
            [](Project& p) -> Inlay& { return p.board.markers.inlay; });
    t.length("markers.size", "a dot's diameter; a leaf's or wrap's width", 1, 30,
             [](Project& p) -> double& { return p.board.markers.size; });
    t.length("markers.reach", "length of a leaf; how far a wrap reaches in", 2, 80,
             [](Project& p) -> double& { return p.board.markers.reach; });
    t.length("markers.tip", "radius of a leaf's tips", 0.1, 15,
             [](Project& p) -> double& { return p.board.markers.tip; });
    t.rate("markers.tilt", "deg", "a leaf's turn from lying across", -90, 90,
           [](Project& p) -> double& { return p.board.markers.tilt; });
    t.length("markers.depth", "depth below the face", 0.3, 8,
             [](Project& p) -> double& { return p.board.markers.depth; });
    t.count("markers.at_octave", "markers at frets 12, 24 and 36", 1, 2,
            [](Project& p) -> int& { return p.board.markers.atOctave; });
    t.length("markers.spread", "between the two at the octave", 2, 100,
             [](Project& p) -> double& { return p.board.markers.spread; });
    marks("markers.side", "side dot", &Markers::side);
    t.notation("markers.side_frets", "frets with a dot in the bass edge, as 3 5 7-9 12",
               [](Project& p, const std::string& v) { p.board.markers.side = fretMarks(v); });
    t.length("markers.side_size", "diameter of a side dot", 0.5, 6,
             [](Project& p) -> double& { return p.board.markers.sideSize; });
    t.length("markers.side_depth", "depth of a side dot", 0.5, 15,
             [](Project& p) -> double& { return p.board.markers.sideDepth; });
    t.length("markers.side_below", "a side dot's middle below the face's edge", 0.5, 10,
             [](Project& p) -> double& { return p.board.markers.sideBelow; });
}

} // namespace

void addBoardKeys(KeyTable& t) {
    t.words(
        "name", "the project's name", {}, [](const Project& p) { return p.name; },
        [](Project& p, const std::string& v) { p.name = v; });
    stringKeys(t);
    shapeKeys(t);
    wireKeys(t);
    markerKeys(t);
}

} // namespace wren
