#include "design/head_shape.h"
#include "design/neck_outline.h"
#include "design/tuner_places.h"
#include "job/key_table.h"
#include "shop/wood.h"

#include <algorithm>

namespace wren {
namespace {

void stationKeys(KeyTable& t, const std::string& head,
                 const std::function<NeckStation&(Project&)>& one) {
    t.rate(head + "fret", "", "fret it stands at", 0, 36,
           [one](Project& p) -> double& { return one(p).fret; });
    t.length(head + "thickness", "thickness there", 5, 60,
             [one](Project& p) -> double& { return one(p).thickness; });
    for (const auto& [side, which] :
         {std::pair{"bass", &NeckStation::bass}, {"treble", &NeckStation::treble}}) {
        t.words(
            head + side,
            std::string("shape of its ") + side +
                " side: V, soft-V, C, D, U, or a "
                "number from -1 (V) to 1 (U)",
            {},
            [one, which = which](const Project& p) {
                return shapeWord(one(const_cast<Project&>(p)).*which);
            },
            [one, which = which](Project& p, const std::string& v) {
                one(p).*which = shapeMix(v);
            });
        t.last().checkText = [](const std::string& v) { shapeMix(v); };
    }
    t.text(
        head + "traced", "a traced section it takes its shape from instead",
        [one](Project& p) -> std::string& { return one(p).trace; }, true);
}

void traceKeys(KeyTable& t, const std::string& head,
               const std::function<NeckTrace&(Project&)>& one) {
    t.text(head + "name", "what stations call it: letters, digits and dashes",
           [one](Project& p) -> std::string& { return one(p).name; });
    t.list<TracePoint>(
        head + "points", "point", 400,
        [one](Project& p) -> std::vector<TracePoint>& { return one(p).points; },
        [](KeyTable& own, const std::string& path, const std::function<TracePoint&(Project&)>& at) {
            own.place(path + "at", "from the bass edge to the treble edge: across, and deep", 200,
                      [at](Project& p) -> Vec2& { return at(p).at; });
        });
}

void headNodeKeys(KeyTable& t, const std::string& head,
                  const std::function<HeadNode&(Project&)>& one) {
    t.place(head + "at", "where it is, from the nut", 600,
            [one](Project& p) -> Vec2& { return one(p).at; });
    t.words(
        head + "kind", "whether the outline turns there", {"corner", "smooth"},
        [one](const Project& p) {
            return std::string(one(const_cast<Project&>(p)).corner ? "corner" : "smooth");
        },
        [one](Project& p, const std::string& v) { one(p).corner = v == "corner"; });
}

void postKeys(KeyTable& t, const std::string& head,
              const std::function<TunerPost&(Project&)>& one) {
    t.place(head + "at", "middle of the post, from the nut", 600,
            [one](Project& p) -> Vec2& { return one(p).at; });
    t.maybe(KeyKind::length, head + "height", "mm",
            "string's coil over the head's face; auto: as all others", 1, 25,
            [one](Project& p) -> std::optional<double>& { return one(p).height; });
}

void treeKeys(KeyTable& t, const std::string& head,
              const std::function<StringTree&(Project&)>& one) {
    t.place(head + "at", "middle of the string tree, from the nut", 600,
            [one](Project& p) -> Vec2& { return one(p).at; });
    t.length(head + "height", "strings under it, over the head's face", 0.2, 25,
             [one](Project& p) -> double& { return one(p).height; });
    t.count(head + "first", "first string it holds, 1 the treble one", 1, 18,
            [one](Project& p) -> int& { return one(p).first; });
    t.count(head + "last", "last string it holds", 1, 18,
            [one](Project& p) -> int& { return one(p).last; });
}

/// Room that a neck of ordinary thickness has for a rod under its strip, frets in the same wood,
/// mm.
constexpr double slimRod = 5.5;

void shaftKeys(KeyTable& t) {
    enumKey(t, "neck.joint", "how the neck meets the body; none for a board alone",
            Names<NeckJoint, 4>{{"none", "bolt-on", "set", "through"}},
            [](Project& p) -> NeckJoint& { return p.neck.joint; });
    enumKey(t, "neck.fret_face", "a fretboard glued on, or frets in the neck's own carved wood",
            Names<FretFace, 2>{{"glued", "carved"}},
            [](Project& p) -> FretFace& { return p.neck.fretFace; });
    // No board would close a rod's slot cut from the top.
    const auto setFace = t.last().set;
    t.last().set = [setFace](Project& p, const KeyValue& value) {
        setFace(p, value);
        if (p.neck.fretFace == FretFace::carved && p.neck.rod.from == RodFrom::top) {
            p.neck.rod.from = RodFrom::back;
            p.neck.rod.depth = std::min(p.neck.rod.depth, slimRod);
            p.neck.rod.adjusterDepth = std::min(p.neck.rod.adjusterDepth, slimRod + 1);
        }
    };
    t.list<NeckStation>(
        "neck.stations", "station", 40,
        [](Project& p) -> std::vector<NeckStation>& { return p.neck.stations; }, stationKeys);
    t.notation("neck.stations", "back: fret, thickness, shape, as 1 20.5 C, 12 22.5 D/soft-V",
               [](Project& p, const std::string& v) { p.neck.stations = neckStations(v); });
    t.last().mayBeAuto = false;
    t.last().mayBeAuto = false;
    t.list<NeckTrace>(
        "neck.traces", "traced section", 20,
        [](Project& p) -> std::vector<NeckTrace>& { return p.neck.traces; }, traceKeys);
    t.notation("neck.traces", "traced sections: name: across deep, ...; as mine: -21 0, ..., 21 0",
               [](Project& p, const std::string& v) { p.neck.traces = neckTraces(v); });
    enumKey(t, "neck.thickness_over",
            "a station's thickness is that of board and neck (both), or the neck's",
            Names<ThickOver, 2>{{"both", "neck"}},
            [](Project& p) -> ThickOver& { return p.neck.over; });
    t.length("neck.accent", "thickness of a strip under the board", 0, 5,
             [](Project& p) -> double& { return p.neck.accent; });
    t.length("neck.shoulder", "upright edge below the glue plane", 0.2, 12,
             [](Project& p) -> double& { return p.neck.shoulder; });
    t.rate("neck.crest", "", "roundness of a V's crest, a share of the half width", 0.02, 1,
           [](Project& p) -> double& { return p.neck.crest; });
    t.length("neck.heel_length", "heel length; of a neck that goes through, to the body's end", 20,
             800, [](Project& p) -> double& { return p.neck.heelLength; });
    t.length("neck.heel_depth", "heel wood below the glue plane", 8, 60,
             [](Project& p) -> double& { return p.neck.heelDepth; });
    enumKey(t, "neck.heel_shape", "how the heel ends",
            Names<HeelShape, 3>{{"square", "tapered", "rounded"}},
            [](Project& p) -> HeelShape& { return p.neck.heelShape; });
    t.length("neck.heel_corner", "radius of a rounded heel's corners", 0.5, 25,
             [](Project& p) -> double& { return p.neck.heelCorner; });
    t.length("neck.heel_taper", "a tapered heel narrower at its end, each side", 0, 15,
             [](Project& p) -> double& { return p.neck.heelTaper; });
    t.length("neck.heel_past", "wood beyond the board's end", 0, 700,
             [](Project& p) -> double& { return p.neck.heelPast; });
    t.length("neck.heel_transition", "length over which shaft turns to heel", 10, 150,
             [](Project& p) -> double& { return p.neck.transition; });
    t.length("neck.nut_slot", "depth of the nut's slot; 0: it stands on the neck", 0, 8,
             [](Project& p) -> double& { return p.neck.nutSlot; });
    t.length("neck.nut_thickness", "room for the nut along the neck", 2, 15,
             [](Project& p) -> double& { return p.neck.nutThickness; });
    t.count("neck.bolts", "bolt pilots in the heel", 0, 6,
            [](Project& p) -> int& { return p.neck.bolts; });
    t.length("neck.bolt_long", "bolts' pattern along the neck", 10, 120,
             [](Project& p) -> double& { return p.neck.boltLong; });
    t.length("neck.bolt_wide", "bolts' pattern across", 10, 80,
             [](Project& p) -> double& { return p.neck.boltWide; });
    t.length("neck.bolt_pilot", "diameter of a bolt's pilot", 1, 10,
             [](Project& p) -> double& { return p.neck.boltPilot; });
    t.length("neck.bolt_depth", "depth of a bolt's pilot", 3, 50,
             [](Project& p) -> double& { return p.neck.boltDepth; });
    for (std::size_t i : {0, 1}) {
        t.maybe(KeyKind::count, "neck.pin_fret_" + std::to_string(i + 1), "",
                "a fret whose slot takes a pin that holds the board at glue-up", 1, 36,
                [i](Project& p) -> std::optional<int>& { return p.neck.pinFrets[i]; });
    }
    t.notation("neck.pin_frets", "both frets of the glue-up pins, as 2 19",
               [](Project& p, const std::string& v) { p.neck.pinFrets = pinFretPair(v); });
    t.length("neck.pin_size", "diameter of a glue-up pin", 0.8, 4,
             [](Project& p) -> double& { return p.neck.pinSize; });
    t.length("neck.pin_depth", "depth of its hole in the neck", 2, 12,
             [](Project& p) -> double& { return p.neck.pinDepth; });
}

constexpr const char* ownShape = "own";
const std::vector<std::string> headShapes{"chisel", "keel", "paddle", ownShape};

/// The starting shape the head still has, or "own".
std::string headShapeOf(const Project& p) {
    for (const std::string& name : headShapeNames()) {
        if (p.neck.head.nodes == headRound(name, p.neck, p.board)) {
            return name;
        }
    }
    return ownShape;
}

void drawHead(Project& p, const std::string& shape) {
    if (shape != ownShape) {
        p.neck.head.nodes = headRound(shape, p.neck, p.board);
    }
}

void headKeys(KeyTable& t) {
    enumKey(t, "head.stock", "what a tilted head is made from",
            Names<HeadStock, 2>{{"thick", "scarf"}},
            [](Project& p) -> HeadStock& { return p.neck.head.stock; });
    enumKey(t, "head.kind", "flat with a dropped face, or tilted",
            Names<HeadKind, 2>{{"flat", "tilted"}},
            [](Project& p) -> HeadKind& { return p.neck.head.kind; });
    t.rate("head.angle", "deg", "tilt of the headstock", 0, 20,
           [](Project& p) -> double& { return p.neck.head.angle; });
    t.length("head.drop", "a flat head's face below the glue plane", 0, 20,
             [](Project& p) -> double& { return p.neck.head.drop; });
    t.length("head.curve", "radius of the hollow between nut and face", 3, 100,
             [](Project& p) -> double& { return p.neck.head.curve; });
    t.length("head.thickness", "wood of the head, square to its face", 8, 30,
             [](Project& p) -> double& { return p.neck.head.thickness; });
    t.length("head.plate", "thickness of a face plate", 0, 5,
             [](Project& p) -> double& { return p.neck.head.plate; });
    t.length("head.plate_gap", "the plate ends so far behind the nut", 0, 10,
             [](Project& p) -> double& { return p.neck.head.plateGap; });
    t.count("head.plate_screws", "screws that hold the plate's caul at glue-up", 0, 2,
            [](Project& p) -> int& { return p.neck.head.plateScrews; });
    t.length("head.plate_screw", "diameter of their pilots", 1, 5,
             [](Project& p) -> double& { return p.neck.head.plateScrew; });
    t.length("head.plate_screw_depth", "depth of those pilots in the head", 3, 15,
             [](Project& p) -> double& { return p.neck.head.plateScrewDepth; });
    t.length("head.transition", "length over which shaft turns to head", 15, 150,
             [](Project& p) -> double& { return p.neck.head.transition; });
    t.length("head.transition_from", "it begins this far from the nut, on the shaft", -40, 120,
             [](Project& p) -> double& { return p.neck.head.transitionFrom; });
    t.length("head.volute", "height of the lump behind the nut", 0, 15,
             [](Project& p) -> double& { return p.neck.head.volute; });
    t.length("head.volute_length", "length of that lump", 15, 120,
             [](Project& p) -> double& { return p.neck.head.voluteLength; });
    t.length("head.volute_at", "its middle from the nut, toward the bridge", -60, 60,
             [](Project& p) -> double& { return p.neck.head.voluteAt; });
    t.list<HeadNode>(
        "head.outline", "node", 200,
        [](Project& p) -> std::vector<HeadNode>& { return p.neck.head.nodes; }, headNodeKeys);
    t.notation("head.nodes", "outline from the bass edge round to the treble edge, as -20 -27 s",
               [](Project& p, const std::string& v) { p.neck.head.nodes = headNodes(v); });
    t.last().mayBeAuto = false;
    t.last().mayBeAuto = false;
    t.words("head.like", "a shape to start from", headShapes, headShapeOf, drawHead);
    t.last().alias = true;
}

void tunerKeys(KeyTable& t) {
    t.count("tuners.bass_side", "tuners on the bass side; the rest on the treble side", 0, 9,
            [](Project& p) -> int& { return p.neck.tuners.onBassSide; });
    // A starting shape is drawn round the tuners, so it goes with them.
    const auto set = t.last().set;
    t.last().set = [set](Project& p, const KeyValue& value) {
        const std::string shape = headShapeOf(p);
        set(p, value);
        drawHead(p, shape);
    };
    t.length("tuners.first", "nut to the nearest post", 15, 150,
             [](Project& p) -> double& { return p.neck.tuners.first; });
    t.length("tuners.pitch", "between neighbours of a row", 10, 80,
             [](Project& p) -> double& { return p.neck.tuners.pitch; });
    t.length("tuners.post", "diameter of a post where the string winds", 3, 15,
             [](Project& p) -> double& { return p.neck.tuners.post; });
    t.length("tuners.post_height", "the string's coil over the head's face", 2, 25,
             [](Project& p) -> double& { return p.neck.tuners.postHeight; });
    t.length("tuners.bushing", "diameter of a tuner's hole", 4, 20,
             [](Project& p) -> double& { return p.neck.tuners.bushing; });
    enumKey(t, "tuners.bored",
            "who bores the tuners' holes: the machine, square to its bed, or hand",
            Names<TunerBore, 2>{{"by-machine", "by-hand"}},
            [](Project& p) -> TunerBore& { return p.neck.tuners.bore; });
    t.length("tuners.body_length", "its body behind the head, along the row", 8, 60,
             [](Project& p) -> double& { return p.neck.tuners.bodyLength; });
    t.length("tuners.body_width", "its body behind the head, across the row", 8, 40,
             [](Project& p) -> double& { return p.neck.tuners.bodyWidth; });
    t.length("tuners.pilot", "diameter of its screw's pilot; 0 for none", 0, 4,
             [](Project& p) -> double& { return p.neck.tuners.pilot; });
    t.length("tuners.pilot_off", "from post to that screw, along the row", 3, 40,
             [](Project& p) -> double& { return p.neck.tuners.pilotOff; });
    t.length("tuners.pilot_depth", "depth of that pilot", 2, 20,
             [](Project& p) -> double& { return p.neck.tuners.pilotDepth; });
    t.list<TunerPost>(
        "tuners.posts", "post", 20,
        [](Project& p) -> std::vector<TunerPost>& { return p.neck.tuners.places; }, postKeys);
    t.list<StringTree>(
        "tuners.trees", "string tree", 20,
        [](Project& p) -> std::vector<StringTree>& { return p.neck.tuners.trees; }, treeKeys);
    t.notation("tuners.places",
               "posts bass to treble, as -42 -21, -66 -14; auto for one row or two",
               [](Project& p, const std::string& v) { p.neck.tuners.places = postList(v); });
}

void rodKeys(KeyTable& t) {
    enumKey(t, "rod.from", "side the truss rod goes in from",
            Names<RodFrom, 3>{{"none", "top", "back"}},
            [](Project& p) -> RodFrom& { return p.neck.rod.from; });
    t.length("rod.width", "width of the rod's slot", 2, 15,
             [](Project& p) -> double& { return p.neck.rod.width; });
    t.length("rod.depth", "its depth below the glue plane; from the back the room for the rod", 2,
             25, [](Project& p) -> double& { return p.neck.rod.depth; });
    enumKey(t, "rod.run", "a slot from the top stays level, or follows the back down",
            Names<RodRun, 2>{{"level", "follows"}},
            [](Project& p) -> RodRun& { return p.neck.rod.run; });
    t.length("rod.cover", "wood between a slot from the back and the glue plane", 0.5, 20,
             [](Project& p) -> double& { return p.neck.rod.cover; });
    t.length("rod.start", "it begins this far from the nut", -60, 200,
             [](Project& p) -> double& { return p.neck.rod.start; });
    t.length("rod.length", "its length", 50, 900,
             [](Project& p) -> double& { return p.neck.rod.length; });
    enumKey(t, "rod.floor", "shape of its floor", Names<RodFloor, 2>{{"flat", "round"}},
            [](Project& p) -> RodFloor& { return p.neck.rod.floor; });
    enumKey(t, "rod.adjuster", "end the adjuster is at", Names<RodEnd, 2>{{"head", "heel"}},
            [](Project& p) -> RodEnd& { return p.neck.rod.adjuster; });
    t.length("rod.adjuster_width", "width of the slot at the adjuster", 2, 25,
             [](Project& p) -> double& { return p.neck.rod.adjusterWidth; });
    t.length("rod.adjuster_length", "length of that part; 0 for none", 0, 120,
             [](Project& p) -> double& { return p.neck.rod.adjusterLength; });
    t.length("rod.adjuster_depth", "depth of that part", 2, 25,
             [](Project& p) -> double& { return p.neck.rod.adjusterDepth; });
    t.length("rod.cap", "thickness of a cap strip over the rod", 0, 6,
             [](Project& p) -> double& { return p.neck.rod.cap; });
    t.length("rod.carbon_width", "width of a carbon rod's slot on each side; 0 for none", 0, 10,
             [](Project& p) -> double& { return p.neck.rod.carbonWidth; });
    t.length("rod.carbon_depth", "depth of that slot", 1, 15,
             [](Project& p) -> double& { return p.neck.rod.carbonDepth; });
    t.length("rod.carbon_off", "from the centreline to its middle", 4, 40,
             [](Project& p) -> double& { return p.neck.rod.carbonOff; });
    t.length("rod.carbon_start", "it begins this far from the nut", -20, 300,
             [](Project& p) -> double& { return p.neck.rod.carbonStart; });
    t.length("rod.carbon_length", "its length", 30, 900,
             [](Project& p) -> double& { return p.neck.rod.carbonLength; });
}

void holdKeys(KeyTable& t) {
    using Optional = std::optional<double>;
    t.maybe(KeyKind::length, "neck_blank.length", "mm", "neck blank length; auto from the neck",
            100, 3000, [](Project& p) -> Optional& { return p.neckBlank.length; });
    t.maybe(KeyKind::length, "neck_blank.width", "mm", "neck blank width; auto from the neck", 20,
            600, [](Project& p) -> Optional& { return p.neckBlank.width; });
    t.maybe(KeyKind::length, "neck_blank.thickness", "mm",
            "neck blank thickness as measured, a scarf's plank; auto from the neck", 8, 120,
            [](Project& p) -> Optional& { return p.neckBlank.thickness; });
    woodKey(t, "neck_blank.wood", "wood of the neck",
            [](Project& p) -> std::string& { return p.neckBlank.wood; });
    t.count("neck_blank.pieces", "necks cut side by side from one blank", 1, 6,
            [](Project& p) -> int& { return p.neckBlank.pieces; });
    t.length("neck_blank.frame", "waste left round the trench, which carries the neck by its tabs",
             4, 60, [](Project& p) -> double& { return p.neckBlank.frame; });
    t.length("neck_blank.line", "it lies on an engraved line so far behind the long one", -1000,
             1000, [](Project& p) -> double& { return p.neckBlank.line; });
    t.count("neck_blank.strips", "strips it is laminated from, side by side", 1, 11,
            [](Project& p) -> int& { return p.neckBlank.strips; });
    turnKeys(t, "neck_hold", [](Project& p) -> TurnHold& { return p.neckHold; });
    yesNo(t, "neck_hold.make_cradle",
          "a board it lies in face up, once its back is carved, is made as a part",
          [](Project& p) -> bool& { return p.neckHold.makeCradle; });
    t.maybe(KeyKind::length, "neck_hold.seam", "mm",
            "where the cuts of a neck too long for the machine meet, from the nut; auto for the "
            "middle of its shaft",
            -200, 2000, [](Project& p) -> Optional& { return p.neckHold.seam; });
}

void cutKeys(KeyTable& t) {
    t.length("neck_cut.scallop", "scallop height left on the back", 0.002, 0.3,
             [](Project& p) -> double& { return p.neckCut.scallop; });
    enumKey(t, "neck_cut.finish_way", "which way the back's finishing passes run",
            Names<FinishWay, 3>{{"along", "across", "split"}},
            [](Project& p) -> FinishWay& { return p.neckCut.way; });
    t.length("neck_cut.stock_to_leave", "left by roughing for finishing", 0.05, 2,
             [](Project& p) -> double& { return p.neckCut.stockToLeave; })
        .formerly = "neck_cut.skin";
    t.rate("neck_cut.rough_step", "%", "roughing's step, of the bit's width", 10, 90,
           [](Project& p) -> double& { return p.neckCut.roughStep; });
    yesNo(t, "neck_cut.climb", "rough with the cutter climbing",
          [](Project& p) -> bool& { return p.neckCut.climb; });
    t.length("neck_cut.through", "past the glue plane and a hole's far side", 0.05, 3,
             [](Project& p) -> double& { return p.neckCut.through; });
    t.count("neck_cut.tabs_per_side", "tabs along each side of the shaft", 0, 8,
            [](Project& p) -> int& { return p.neckCut.tabsPerSide; });
    t.length("neck_cut.tab_length", "length of a tab's wood", 2, 40,
             [](Project& p) -> double& { return p.neckCut.tabLength; });
    t.length("neck_cut.tab_height", "height of a tab over the glue plane", 0.5, 10,
             [](Project& p) -> double& { return p.neckCut.tabHeight; });
    t.length("neck_cut.wall_stock", "left on the outline for its last pass; 0 for none", 0, 1,
             [](Project& p) -> double& { return p.neckCut.wallStock; })
        .formerly = "neck_cut.wall_skin";
    t.length("neck_cut.peck", "drilled at a time", 1, 30,
             [](Project& p) -> double& { return p.neckCut.peck; });
    const auto own = [&t](const char* group, const char* what, CutOverrides NeckCut::*which) {
        overrideKeys(t, group, what,
                     [which](Project& p) -> CutOverrides& { return p.neckCut.*which; });
    };
    own("neck_cut.slots", "rod's slot", &NeckCut::slots);
    own("neck_cut.head", "head's face", &NeckCut::head);
    own("neck_cut.hollow", "hollow", &NeckCut::hollow);
    own("neck_cut.rough", "back's roughing", &NeckCut::rough);
    own("neck_cut.finish", "back's finish", &NeckCut::finish);
    own("neck_cut.outline", "neck's outline", &NeckCut::outline);
}

} // namespace

void turnKeys(KeyTable& t, const std::string& group, const std::function<TurnHold&(Project&)>& at) {
    const Names<ZZero, 2> faces{{"top", "bed"}};
    enumKey(t, group + ".z_face", "what Z is zeroed on with the face up", faces,
            [at](Project& p) -> ZZero& { return at(p).zFace; });
    enumKey(t, group + ".z_back", "what Z is zeroed on with the back up", faces,
            [at](Project& p) -> ZZero& { return at(p).zBack; });
    enumKey(t, group + ".turn", "how it is turned over",
            Names<TurnOver, 2>{{"side-for-side", "end-for-end"}},
            [at](Project& p) -> TurnOver& { return at(p).turn; });
    enumKey(t, group + ".register", "what brings the sides together",
            Names<Register, 2>{{"pins", "marks"}},
            [at](Project& p) -> Register& { return at(p).by; });
    t.length(group + ".pin_size", "diameter of a register pin", 3, 15,
             [at](Project& p) -> double& { return at(p).pinSize; });
    t.length(group + ".pin_inset", "first pin from the blank's end", 6, 60,
             [at](Project& p) -> double& { return at(p).pinInset; });
    t.length(group + ".pin_uneven", "the other pin off evenness by", 2, 40,
             [at](Project& p) -> double& { return at(p).pinUneven; });
    t.length(group + ".fixture", "thickness of the fixture board the pins stand in", 8, 60,
             [at](Project& p) -> double& { return at(p).fixture; });
    yesNo(t, group + ".make_fixture", "that board is made as a part, its holes drilled",
          [at](Project& p) -> bool& { return at(p).makeFixture; });
    enumKey(t, group + ".pin_kind", "dowels sanded to slide, or steel pins in reamed holes",
            Names<PinKind, 2>{{"dowel", "reamed"}},
            [at](Project& p) -> PinKind& { return at(p).pinKind; });
    t.rate(group + ".edge_square", "deg",
           "how far out of square the edges are that marks are carried down, as measured", -5, 5,
           [at](Project& p) -> double& { return at(p).edgeSquare; });
    for (const auto& [name, which] : {std::pair{".zero_x", &TurnHold::zeroX},
                                      std::pair{".zero_y", &TurnHold::zeroY}}) {
        t.maybe(KeyKind::length, group + name, "mm",
                "where the machine stands over the fixture board's zero hole, once found; auto: the "
                "board lies by the lines",
                -3000, 3000,
                [at, which = which](Project& p) -> std::optional<double>& { return at(p).*which; });
    }
    yesNo(t, group + ".fixture_moved", "the fixture board has been moved since",
          [at](Project& p) -> bool& { return at(p).fixtureMoved; });
    yesNo(t, group + ".notches", "both sides cut a witness notch",
          [at](Project& p) -> bool& { return at(p).notches; });
    t.length(group + ".witness_x", "notches read along: back against front", -5, 5,
             [at](Project& p) -> double& { return at(p).witnessX; });
    t.length(group + ".witness_y", "notches read across: back against front", -5, 5,
             [at](Project& p) -> double& { return at(p).witnessY; });
}

void addNeckKeys(KeyTable& t) {
    shaftKeys(t);
    headKeys(t);
    tunerKeys(t);
    rodKeys(t);
    holdKeys(t);
    cutKeys(t);
}

} // namespace wren
