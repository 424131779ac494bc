#include "job/keys.h"

#include "base/error.h"
#include "cut/outline_cut.h"
#include "design/fan.h"
#include "shop/wood.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

class Table {
public:
    /// `at` is a callable Project& -> double&, usable on const and non-const projects alike.
    template <typename At>
    Key& number(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
                double most, At at) {
        Key k;
        k.path = std::move(path);
        k.kind = kind;
        k.unit = std::move(unit);
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.get = [at](const Project& p) -> KeyValue {
            return static_cast<double>(at(const_cast<Project&>(p)));
        };
        k.set = [at](Project& p, const KeyValue& v) {
            auto& place = at(p);
            place = static_cast<std::decay_t<decltype(place)>>(std::get<double>(v));
        };
        keys_.push_back(std::move(k));
        return keys_.back();
    }

    template <typename At>
    void length(std::string path, std::string meaning, double least, double most, At at) {
        number(KeyKind::length, std::move(path), "mm", std::move(meaning), least, most, at);
    }
    template <typename At>
    void count(std::string path, std::string meaning, double least, double most, At at) {
        number(KeyKind::count, std::move(path), "", std::move(meaning), least, most, at);
    }
    template <typename At>
    void rate(std::string path, std::string unit, std::string meaning, double least, double most,
              At at) {
        number(KeyKind::number, std::move(path), std::move(unit), std::move(meaning), least, most,
               at);
    }

    /// An override: empty means the recipe decides.
    template <typename At>
    void maybe(KeyKind kind, std::string path, std::string unit, std::string meaning, double least,
               double most, At at) {
        Key k;
        k.path = std::move(path);
        k.kind = kind;
        k.unit = std::move(unit);
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.mayBeAuto = true;
        k.get = [at](const Project& p) -> KeyValue {
            const auto& o = at(const_cast<Project&>(p));
            return o ? KeyValue(*o) : KeyValue();
        };
        k.set = [at](Project& p, const KeyValue& v) {
            auto& o = at(p);
            if (const double* d = std::get_if<double>(&v)) {
                o = *d;
            } else {
                o.reset();
            }
        };
        keys_.push_back(std::move(k));
    }

    void words(std::string path, std::string meaning, std::vector<std::string> choices,
               std::function<std::string(const Project&)> get,
               std::function<void(Project&, const std::string&)> set, bool mayBeAuto = false) {
        Key k;
        k.path = std::move(path);
        k.kind = choices.empty() ? KeyKind::text : KeyKind::choice;
        k.meaning = std::move(meaning);
        k.choices = std::move(choices);
        k.mayBeAuto = mayBeAuto;
        k.get = [get, mayBeAuto](const Project& p) -> KeyValue {
            const std::string word = get(p);
            return mayBeAuto && word.empty() ? KeyValue() : KeyValue(word);
        };
        k.set = [set](Project& p, const KeyValue& v) {
            const std::string* word = std::get_if<std::string>(&v);
            set(p, word ? *word : std::string());
        };
        keys_.push_back(std::move(k));
    }

    /// A number other keys hold in another way.
    void derived(std::string path, std::string meaning, double least, double most,
                 std::function<double(const Project&)> get,
                 std::function<void(Project&, double)> set) {
        Key k;
        k.path = std::move(path);
        k.unit = "mm";
        k.meaning = std::move(meaning);
        k.least = least;
        k.most = most;
        k.alias = true;
        k.get = [get](const Project& p) -> KeyValue { return get(p); };
        k.set = [set](Project& p, const KeyValue& v) { set(p, std::get<double>(v)); };
        keys_.push_back(std::move(k));
    }

    Key& last() { return keys_.back(); }
    std::vector<Key> take() { return std::move(keys_); }

private:
    std::vector<Key> keys_;
};

/// Names for the values of an enum, in the enum's own order.
template <typename Enum, std::size_t N>
struct Names {
    std::array<const char*, N> names;

    std::string of(Enum value) const { return names.at(static_cast<std::size_t>(value)); }
    Enum from(const std::string& name) const {
        const auto it = std::find(names.begin(), names.end(), name);
        return static_cast<Enum>(it == names.end() ? 0 : it - names.begin());
    }
    std::vector<std::string> all() const { return {names.begin(), names.end()}; }
};

template <typename Enum, std::size_t N, typename At>
void enumKey(Table& t, const char* path, const char* meaning, Names<Enum, N> names, At at) {
    t.words(
        path, meaning, names.all(),
        [names, at](const Project& p) { return names.of(at(const_cast<Project&>(p))); },
        [names, at](Project& p, const std::string& v) { at(p) = names.from(v); });
}

template <typename At>
void yesNo(Table& t, const char* path, const char* meaning, At at) {
    t.words(
        path, meaning, {"no", "yes"},
        [at](const Project& p) { return std::string(at(const_cast<Project&>(p)) ? "yes" : "no"); },
        [at](Project& p, const std::string& v) { at(p) = v == "yes"; });
}

/// A list or the like, kept as the maker wrote it; `check` throws when it cannot be read.
template <typename At>
void listKey(Table& t, const char* path, const char* meaning, At at,
             std::function<void(const std::string&)> check) {
    t.words(
        path, meaning, {}, [at](const Project& p) { return at(const_cast<Project&>(p)); },
        [at](Project& p, const std::string& v) { at(p) = v; }, true);
    t.last().checkText = std::move(check);
}

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
void aliasKeys(Table& t) {
    const auto add = [&](const char* path, const char* meaning, double least, double most,
                         std::function<double(const Fretboard&)> get,
                         std::function<void(Fretboard&, double)> set) {
        t.derived(
            path, meaning, least, most, [get](const Project& p) { return get(p.board); },
            [set](Project& p, double v) { set(p.board, v); });
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

void fanKeys(Table& t) {
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
    listKey(
        t, "board.gauges", "string gauges in mm, bass to treble",
        [](Project& p) -> std::string& { return p.board.gauges; },
        [](const std::string& v) { gaugeList(v); });
    t.length("board.overhang_bass", "board outside the bass string", 0, 12,
             [](Project& p) -> double& { return p.board.overhangBass; });
    t.length("board.overhang_treble", "board outside the treble string", 0, 12,
             [](Project& p) -> double& { return p.board.overhangTreble; });
}

void boardKeys(Table& t) {
    t.words(
        "name", "the project's name", {}, [](const Project& p) { return p.name; },
        [](Project& p, const std::string& v) { p.name = v; });
    fanKeys(t);
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

void wireKeys(Table& t) {
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

void markerKeys(Table& t) {
    const auto frets = [](const std::string& v) { fretList(v); };
    listKey(
        t, "markers.frets", "frets with a marker, as 3 5 7-9 12",
        [](Project& p) -> std::string& { return p.board.markers.frets; }, frets);
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
    listKey(
        t, "markers.side_frets", "frets with a dot in the bass edge",
        [](Project& p) -> std::string& { return p.board.markers.sideFrets; }, frets);
    t.length("markers.side_size", "diameter of a side dot", 0.5, 6,
             [](Project& p) -> double& { return p.board.markers.sideSize; });
    t.length("markers.side_depth", "depth of a side dot", 0.5, 15,
             [](Project& p) -> double& { return p.board.markers.sideDepth; });
    t.length("markers.side_below", "a side dot's middle below the face's edge", 0.5, 10,
             [](Project& p) -> double& { return p.board.markers.sideBelow; });
}

void blankKeys(Table& t) {
    t.length("blank.length", "blank length", 50, 3000,
             [](Project& p) -> double& { return p.blank.length; });
    t.length("blank.width", "blank width", 10, 1000,
             [](Project& p) -> double& { return p.blank.width; });
    t.length("blank.thickness", "blank thickness, as measured", 1, 60,
             [](Project& p) -> double& { return p.blank.thickness; });
    std::vector<std::string> ids;
    for (const Wood& w : woods()) {
        ids.push_back(w.id);
    }
    t.words(
        "blank.wood", "wood", ids, [](const Project& p) { return p.blank.wood; },
        [](Project& p, const std::string& v) { p.blank.wood = v; });
    t.count("blank.boards", "boards cut from it", 1, 12,
            [](Project& p) -> int& { return p.blank.boards; });
    t.length("blank.gap", "between neighbouring boards", 2, 200,
             [](Project& p) -> double& { return p.blank.gap; });
    t.words(
        "hold.z_zero", "face Z is zeroed on", {"bed", "top"},
        [](const Project& p) { return std::string(zZeroName(p.zZero)); },
        [](Project& p, const std::string& v) { p.zZero = v == "top" ? ZZero::top : ZZero::bed; });
}

void overrideKeys(Table& t, const std::string& cut, CutOverrides CutSettings::*which) {
    const std::string head = "cut." + cut + ".";
    t.words(
        head + "bit", "bit for the " + cut, {},
        [which](const Project& p) { return (p.cut.*which).bit; },
        [which](Project& p, const std::string& v) { (p.cut.*which).bit = v; }, true);
    using Optional = std::optional<double>;
    t.maybe(KeyKind::number, head + "rpm", "rpm", "spindle speed for the " + cut, 1000, 60000,
            [which](Project& p) -> Optional& { return (p.cut.*which).rpm; });
    t.maybe(KeyKind::number, head + "feed", "mm/min", "feed for the " + cut, 10, 20000,
            [which](Project& p) -> Optional& { return (p.cut.*which).feed; });
    t.maybe(KeyKind::number, head + "plunge", "mm/min", "feed straight down for the " + cut, 5,
            5000, [which](Project& p) -> Optional& { return (p.cut.*which).plunge; });
    t.maybe(KeyKind::length, head + "depth_per_pass", "mm", "depth of one pass for the " + cut,
            0.02, 20, [which](Project& p) -> Optional& { return (p.cut.*which).depthPerPass; });
}

void cutKeys(Table& t) {
    t.words(
        "cut.school", "what is cut first", {"radius-first", "slots-first"},
        [](const Project& p) {
            return std::string(p.cut.school == School::slotsFirst ? "slots-first" : "radius-first");
        },
        [](Project& p, const std::string& v) {
            p.cut.school = v == "slots-first" ? School::slotsFirst : School::radiusFirst;
        });
    enumKey(t, "cut.face_blank", "face the blank flat first",
            Names<Facing, 3>{{"when-thick", "always", "never"}},
            [](Project& p) -> Facing& { return p.cut.facing; });
    t.length("cut.scallop", "ridge height left by finishing", 0.002, 0.3,
             [](Project& p) -> double& { return p.cut.scallop; });
    t.maybe(KeyKind::length, "cut.stepover", "mm", "between finishing passes, instead of a ridge",
            0.02, 30, [](Project& p) -> std::optional<double>& { return p.cut.stepover; });
    t.length("cut.skin", "wood roughing leaves for finishing", 0.05, 1.5,
             [](Project& p) -> double& { return p.cut.skin; });
    t.length("cut.through", "how far through cuts pass the underside", 0.1, 5,
             [](Project& p) -> double& { return p.cut.through; });
    t.count("cut.tabs_per_side", "tabs on each long edge", 0, 12,
            [](Project& p) -> int& { return p.cut.tabsPerSide; });
    t.length("cut.tab_length", "length of a tab", 2, 40,
             [](Project& p) -> double& { return p.cut.tabLength; });
    t.length("cut.tab_height", "height of a tab above the underside", 0.3, 6,
             [](Project& p) -> double& { return p.cut.tabHeight; });
    listKey(
        t, "cut.tab_places", "tabs by hand: b60 t60 is bass and treble edge, 60 from the nut",
        [](Project& p) -> std::string& { return p.cut.tabPlaces; },
        [](const std::string& v) { tabWishes(v); });
    t.length("cut.wall_skin", "left on the outline for a last full-depth lap; 0 for none", 0, 1,
             [](Project& p) -> double& { return p.cut.wallSkin; });
    overrideKeys(t, "facing", &CutSettings::faced);
    overrideKeys(t, "radius", &CutSettings::radius);
    overrideKeys(t, "slots", &CutSettings::slots);
    overrideKeys(t, "shelf", &CutSettings::shelf);
    overrideKeys(t, "markers", &CutSettings::markers);
    overrideKeys(t, "outline", &CutSettings::outline);
}

void machineKeys(Table& t) {
    t.words(
        "machine.name", "the machine's name", {}, [](const Project& p) { return p.machine.name; },
        [](Project& p, const std::string& v) { p.machine.name = v; });
    t.words(
        "machine.units", "unit its programs are written in", {"mm", "inch"},
        [](const Project& p) {
            return std::string(p.machine.programUnit == LengthUnit::inch ? "inch" : "mm");
        },
        [](Project& p, const std::string& v) {
            p.machine.programUnit = v == "inch" ? LengthUnit::inch : LengthUnit::mm;
        });
    yesNo(t, "machine.arcs", "it takes arcs (G2, G3)",
          [](Project& p) -> bool& { return p.machine.arcs; });
    enumKey(t, "machine.home", "corner it homes to",
            Names<HomeCorner, 4>{{"front-left", "front-right", "back-left", "back-right"}},
            [](Project& p) -> HomeCorner& { return p.machine.home; });
    t.length("machine.travel_x", "travel left to right", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.x; });
    t.length("machine.travel_y", "travel front to back", 100, 5000,
             [](Project& p) -> double& { return p.machine.travel.y; });
    t.length("machine.travel_z", "travel up and down", 20, 1000,
             [](Project& p) -> double& { return p.machine.travel.z; });
    t.rate("machine.rapid", "mm/min", "rapid rate", 100, 60000,
           [](Project& p) -> double& { return p.machine.rapid; });
    t.rate("machine.max_feed", "mm/min", "highest cutting feed", 100, 60000,
           [](Project& p) -> double& { return p.machine.maxFeed; });
    t.rate("machine.acceleration_x", "mm/s2", "acceleration left to right", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.x; });
    t.rate("machine.acceleration_y", "mm/s2", "acceleration front to back", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.y; });
    t.rate("machine.acceleration_z", "mm/s2", "acceleration up and down", 10, 20000,
           [](Project& p) -> double& { return p.machine.acceleration.z; });
    t.rate("machine.corner_speed", "mm/s", "sudden change of velocity it takes at corners", 0.5,
           200, [](Project& p) -> double& { return p.machine.cornerSpeed; });
    t.rate("machine.spindle_min", "rpm", "slowest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMin; });
    t.rate("machine.spindle_max", "rpm", "fastest spindle speed", 500, 60000,
           [](Project& p) -> double& { return p.machine.spindleMax; });
    t.length("machine.spoil_depth", "how far a bit may enter the spoil board", 0, 20,
             [](Project& p) -> double& { return p.machine.spoilDepth; });
    t.length("machine.crossing_x", "where the engraved lines cross, from home, X", -5000, 5000,
             [](Project& p) -> double& { return p.machine.crossing.x; });
    t.length("machine.crossing_y", "where the engraved lines cross, from home, Y", -5000, 5000,
             [](Project& p) -> double& { return p.machine.crossing.y; });
    t.length("machine.plate", "thickness of the probe plate", 0, 60,
             [](Project& p) -> double& { return p.machine.plate; });
}

void bitKeys(Table& t, std::size_t i) {
    const std::string head = fmt::format("bits.{}.", i);
    t.words(
        head + "name", "the bit's name", {}, [i](const Project& p) { return p.bits.at(i).name; },
        [i](Project& p, const std::string& v) { p.bits.at(i).name = v; });
    t.words(
        head + "kind", "kind of bit", bitKindNames(),
        [i](const Project& p) { return std::string(bitKindName(p.bits.at(i).kind)); },
        [i](Project& p, const std::string& v) { p.bits.at(i).kind = bitKindFromName(v); });
    t.length(head + "diameter", "cutting diameter", 0.2, 60,
             [i](Project& p) -> double& { return p.bits.at(i).diameter; });
    t.length(head + "flute_length", "length of the flutes", 0.5, 120,
             [i](Project& p) -> double& { return p.bits.at(i).fluteLength; });
    t.count(head + "flutes", "number of flutes", 1, 8,
            [i](Project& p) -> int& { return p.bits.at(i).flutes; });
    t.length(head + "shank", "shank diameter", 0.5, 30,
             [i](Project& p) -> double& { return p.bits.at(i).shank; });
    t.length(head + "corner", "corner radius of a bull-nose", 0, 30,
             [i](Project& p) -> double& { return p.bits.at(i).corner; });
    t.length(head + "tip", "diameter of a tapered ball's end or a V's flat", 0, 30,
             [i](Project& p) -> double& { return p.bits.at(i).tip; });
    t.rate(head + "angle", "deg", "whole angle of a V, drill point or taper; 0 for the usual", 0,
           179, [i](Project& p) -> double& { return p.bits.at(i).angle; });
    t.length(head + "reach", "from tip to collet nut; 0 for twice the flutes", 0, 250,
             [i](Project& p) -> double& { return p.bits.at(i).reach; });
    t.length(head + "collet", "collet it needs; 0 for the shank's", 0, 30,
             [i](Project& p) -> double& { return p.bits.at(i).collet; });
    t.rate(head + "max_rpm", "rpm", "its own speed limit; 0 for none", 0, 60000,
           [i](Project& p) -> double& { return p.bits.at(i).maxRpm; });
    t.rate(head + "max_feed", "mm/min", "its own feed limit; 0 for none", 0, 20000,
           [i](Project& p) -> double& { return p.bits.at(i).maxFeed; });
}

} // namespace

std::vector<Key> keysOf(const Project& project) {
    Table t;
    boardKeys(t);
    wireKeys(t);
    markerKeys(t);
    blankKeys(t);
    cutKeys(t);
    machineKeys(t);
    for (std::size_t i = 0; i < project.bits.size(); ++i) {
        bitKeys(t, i);
    }
    return t.take();
}

Key keyAt(const Project& project, const std::string& path) {
    for (Key& key : keysOf(project)) {
        if (key.path == path) {
            return key;
        }
    }
    throw Error(
        fmt::format("There is no key \"{}\"; `wren set FILE --list` shows them all.", path));
}

void checkValue(const Key& key, const KeyValue& value) {
    if (std::holds_alternative<std::monostate>(value)) {
        if (!key.mayBeAuto) {
            throw Error(
                fmt::format("{} cannot be left to the recipe; a value was expected.", key.path));
        }
        return;
    }
    if (const double* number = std::get_if<double>(&value)) {
        if (!std::isfinite(*number) || *number < key.least || *number > key.most) {
            throw Error(fmt::format("{}: {:g}{}{} is outside {:g} to {:g}.", key.path, *number,
                                    key.unit.empty() ? "" : " ", key.unit, key.least, key.most));
        }
        if (key.kind == KeyKind::count && *number != std::floor(*number)) {
            throw Error(fmt::format("{}: {:g} is not a whole number.", key.path, *number));
        }
        return;
    }
    const std::string& word = std::get<std::string>(value);
    if (key.kind == KeyKind::choice &&
        std::find(key.choices.begin(), key.choices.end(), word) == key.choices.end()) {
        throw Error(fmt::format("{}: \"{}\" is not one of {}.", key.path, word,
                                fmt::join(key.choices, ", ")));
    }
    if (key.kind == KeyKind::text && (word.empty() || word.size() > 80)) {
        throw Error(
            fmt::format("{}: a word or name of 1 to 80 characters was expected.", key.path));
    }
    if (key.checkText) {
        try {
            key.checkText(word);
        } catch (const Error& e) {
            throw Error(fmt::format("{}: {}", key.path, e.what()));
        }
    }
}

namespace {

/// "250 mm/min" for a feed: the key's own unit may stand behind its number.
std::string withoutUnit(const std::string& text, const std::string& unit) {
    const std::size_t last = text.find_last_not_of(" \t");
    const std::string trimmed = text.substr(0, last == std::string::npos ? 0 : last + 1);
    const bool has = !unit.empty() && trimmed.size() > unit.size() &&
                     trimmed.compare(trimmed.size() - unit.size(), unit.size(), unit) == 0;
    return has ? trimmed.substr(0, trimmed.size() - unit.size()) : trimmed;
}

} // namespace

KeyValue readValue(const Key& key, const std::string& text, LengthUnit unit) {
    KeyValue value;
    if (!(key.mayBeAuto && (text == "auto" || text.empty()))) {
        try {
            switch (key.kind) {
            case KeyKind::length:
                value = parseLength(text, unit);
                break;
            case KeyKind::number:
            case KeyKind::count:
                value = parseNumber(withoutUnit(text, key.unit));
                break;
            case KeyKind::choice:
            case KeyKind::text:
                value = text;
                break;
            }
        } catch (const Error& e) {
            throw Error(fmt::format("{}: {}", key.path, e.what()));
        }
    }
    checkValue(key, value);
    return value;
}

std::string showValue(const Key& key, const KeyValue& value, LengthUnit unit) {
    if (std::holds_alternative<std::monostate>(value)) {
        return "auto";
    }
    if (const std::string* word = std::get_if<std::string>(&value)) {
        return *word;
    }
    const double number = std::get<double>(value);
    if (key.kind == KeyKind::length) {
        const double places = std::abs(number * 100 - std::round(number * 100)) > 1e-6 ? 3 : 2;
        return formatLength(number, unit, static_cast<int>(places));
    }
    return key.unit.empty() ? fmt::format("{:g}", number)
                            : fmt::format("{:g} {}", number, key.unit);
}

Project withKey(const Project& project, const std::string& path, const std::string& text,
                LengthUnit unit) {
    const Key key = keyAt(project, path);
    const KeyValue value = readValue(key, text, unit);
    Project changed = project;
    key.set(changed, value);
    return changed;
}

} // namespace wren
