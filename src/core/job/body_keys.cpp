#include "design/setup_solver.h"
#include "job/feature_edits.h"
#include "job/key_table.h"

#include <fmt/format.h>

namespace wren {
namespace {

/// The last one is any shape of the maker's own.
const std::vector<std::string> bodyShapes{"fell", "tarn", "scree", "own"};

void outlineKeys(KeyTable& t) {
    enumKey(t, "body.build", "what the body is made of",
            Names<BodyBuild, 3>{{"none", "one-piece", "topped"}},
            [](Project& p) -> BodyBuild& { return p.body.build; });
    t.words(
        "body.over_neck", "what lies over a through neck as well as its wings is cut",
        {"by-hand", "by-router"},
        [](const Project& p) { return std::string(p.body.routedGlued ? "by-router" : "by-hand"); },
        [](Project& p, const std::string& v) { p.body.routedGlued = v == "by-router"; });
    nodeList(t, "body.outline", [](Project& p) -> std::vector<ShapeNode>& { return p.body.nodes; });
    t.last().mayBeAuto = false;
    t.words(
        "body.like", "a shape to start from", bodyShapes,
        [](const Project& p) {
            for (const std::string& name : bodyShapes) {
                if (p.body.nodes ==
                    Body::bodyShape(name, bodyMouth(p.board), bodyLonger(p.neck, p.board))) {
                    return name;
                }
            }
            return bodyShapes.back();
        },
        [](Project& p, const std::string& v) {
            if (v != bodyShapes.back()) {
                p.body.nodes = Body::bodyShape(v, bodyMouth(p.board), bodyLonger(p.neck, p.board));
                p = settledOnEdge(p);
            }
        });
    t.last().alias = true;
    yesNo(t, "body.mirror", "the nodes are one half, the other is its mirror",
          [](Project& p) -> bool& { return p.body.mirror; });
    t.length("body.thickness", "finished thickness", 15, 90,
             [](Project& p) -> double& { return p.body.thickness; });
    t.length("body.top", "finished thickness of a glued-on top", 1, 40,
             [](Project& p) -> double& { return p.body.top; });
    t.length("body.top_spare", "surfaced off the glued top", 0, 10,
             [](Project& p) -> double& { return p.body.topSpare; });
    t.length("body.oversize", "top's outline beyond the body until it is glued", 0, 12,
             [](Project& p) -> double& { return p.body.oversize; });
    t.length("body.back", "thickness of a glued-on back; 0 for none", 0, 40,
             [](Project& p) -> double& { return p.body.back; });
    t.length("finish.film", "thickness of the finish on each face; fits make room for it", 0, 1,
             [](Project& p) -> double& { return p.body.film; });
    yesNo(t, "body.bookmatch", "the top is joined from two leaves along the centreline",
          [](Project& p) -> bool& { return p.body.bookmatch; });
    t.length("body.action", "bass string over fret 12", 0.5, 5,
             [](Project& p) -> double& { return p.body.aims.action; });
    woodKey(t, "body.wood", "wood of the body or its core",
            [](Project& p) -> std::string& { return p.bodyWoods.body; });
    woodKey(t, "body.top_wood", "wood of the top",
            [](Project& p) -> std::string& { return p.bodyWoods.top; });
    woodKey(t, "body.back_wood", "wood of a glued-on back",
            [](Project& p) -> std::string& { return p.bodyWoods.back; });
    t.length("body.chamber_floor", "wood under the chambers", 1, 60,
             [](Project& p) -> double& { return p.body.chamberFloor; });
}

void setupKeys(KeyTable& t) {
    enumKey(t, "setup.school",
            "how the strings are drawn: with a wanted action, or flat on the "
            "frets with the saddles at their lowest",
            Names<StringSchool, 2>{{"wanted-action", "flat-on-frets"}},
            [](Project& p) -> StringSchool& { return p.body.aims.school; });
    t.maybe(KeyKind::length, "setup.action_treble", "mm",
            "treble string over fret 12; auto: as the bass string", 0.5, 5,
            [](Project& p) -> std::optional<double>& { return p.body.aims.trebleAction; });
    t.length("setup.relief", "bow of the neck under the strings, in its middle", 0, 1,
             [](Project& p) -> double& { return p.body.aims.relief; });
    enumKey(t, "setup.gives_way", "what follows when bridge, strings or heel change",
            Names<GivesWay, 3>{{"saddles", "angle", "pocket"}},
            [](Project& p) -> GivesWay& { return p.body.givesWay; });
    t.maybe(KeyKind::length, "setup.saddle_height", "mm",
            "strings over the face at the bridge, wanted; auto: by the school", 1, 80,
            [](Project& p) -> std::optional<double>& { return p.body.saddleAim; });
}

void faceKeys(KeyTable& t) {
    const Names<EdgeForm, 3> forms{{"square", "round", "chamfer"}};
    enumKey(t, "body.front_edge", "edge between front and side", forms,
            [](Project& p) -> EdgeForm& { return p.body.faces.frontEdge; });
    t.length("body.front_edge_size", "radius of its rounding, or the chamfer's width", 0.5, 20,
             [](Project& p) -> double& { return p.body.faces.frontSize; });
    enumKey(t, "body.back_edge", "edge between back and side", forms,
            [](Project& p) -> EdgeForm& { return p.body.faces.backEdge; });
    t.length("body.back_edge_size", "radius of its rounding, or the chamfer's width", 0.5, 20,
             [](Project& p) -> double& { return p.body.faces.backSize; });
    t.length("body.arch", "the front's height over its rim; 0 for a flat one", 0, 25,
             [](Project& p) -> double& { return p.body.faces.arch; });
    t.length("body.arch_width", "from the edge inward until the arch is level", 15, 200,
             [](Project& p) -> double& { return p.body.faces.archWidth; });
    t.length("body.inlay_room", "room round an inlay's plug, for the glue", 0, 0.5,
             [](Project& p) -> double& { return p.body.inlayRoom; });
    t.length("body.inlay_corner", "radius an inlay's corners have at least", 0.3, 6,
             [](Project& p) -> double& { return p.body.inlayCorner; });
    t.length("body.inlay_proud", "a plug stands over the face until it is levelled", 0, 3,
             [](Project& p) -> double& { return p.body.inlayProud; });
    woodKey(t, "body.inlay_wood", "wood of the inlays' plugs",
            [](Project& p) -> std::string& { return p.bodyWoods.inlay; });
}

void pocketKeys(KeyTable& t) {
    t.length("neck_pocket.depth", "depth under the face, at its inner end", leastPocket, mostPocket,
             [](Project& p) -> double& { return p.body.pocket.depth; });
    t.length("neck_pocket.clearance", "room at each side of the heel, finish not counted", 0, 1,
             [](Project& p) -> double& { return p.body.pocket.clearance; });
    enumKey(t, "neck_pocket.relief", "how its inside corners make room",
            Names<CornerRelief, 2>{{"rounded", "dogbone"}},
            [](Project& p) -> CornerRelief& { return p.body.pocket.relief; });
    t.length("neck_pocket.corner", "least radius of its inside corners", 0.5, 20,
             [](Project& p) -> double& { return p.body.pocket.corner; });
    t.rate("neck_pocket.angle", "deg", "neck angle: the floor falls toward the nut", leastNeckAngle,
           mostNeckAngle, [](Project& p) -> double& { return p.body.pocket.angle; });
    enumKey(t, "neck_pocket.angle_in",
            "what the angle is cut into: the pocket's floor, or by hand the heel's underside",
            Names<AngleIn, 2>{{"pocket", "heel"}},
            [](Project& p) -> AngleIn& { return p.body.pocket.angleIn; });
    t.length("neck_pocket.proud",
             "a neck that goes through: its glue plane over the body's face at the board's end",
             leastProud, mostProud, [](Project& p) -> double& { return p.body.pocket.proud; });
    t.length("neck_pocket.bolt_hole", "holes through the body over the heel's pilots", 1, 12,
             [](Project& p) -> double& { return p.body.pocket.boltHole; });
}

void bridgeKeys(KeyTable& t) {
    const auto of = [](double Bridge::*which) {
        return [which](Project& p) -> double& { return p.body.bridge.*which; };
    };
    enumKey(t, "bridge.kind", "kind of bridge",
            Names<BridgeKind, 4>{{"fixed", "through-body", "posts", "singles"}},
            [](Project& p) -> BridgeKind& { return p.body.bridge.kind; });
    enumKey(t, "bridge.stands",
            "with the middle of the saddles' travel behind the scale, or with the saddles forward "
            "on it",
            Names<BridgeStands, 2>{{"middle", "forward"}},
            [](Project& p) -> BridgeStands& { return p.body.bridge.stands; });
    t.length("bridge.compensation", "middle of the saddles' travel behind the nominal scale", -5,
             15, of(&Bridge::compensation));
    t.length("bridge.saddle_low", "lowest string over the face the saddles allow", leastSaddle, 40,
             of(&Bridge::saddleLow));
    t.length("bridge.saddle_high", "highest string over the face the saddles allow", leastSaddle,
             60, of(&Bridge::saddleHigh));
    t.length("bridge.holes_behind", "strings are held so far behind the saddles", 2, 200,
             of(&Bridge::holesBehind));
    t.length("bridge.anchor_height",
             "where strings are held behind the saddles, over the wood "
             "under the bridge",
             -40, 60, of(&Bridge::anchorHeight));
    t.length("bridge.travel", "of a saddle, along its string", 0, 40, of(&Bridge::travel));
    t.length("bridge.hole_size", "diameter of the string holes", 1.5, 10, of(&Bridge::holeSize));
    t.length("bridge.ferrule_size", "diameter of the ferrules' holes; 0 for none", 0, 20,
             of(&Bridge::ferruleSize));
    t.length("bridge.ferrule_depth", "depth of the ferrules' holes", 2, 40,
             of(&Bridge::ferruleDepth));
    t.length("bridge.screws_at", "fixing screws' row, behind the saddles when positive", -60, 60,
             of(&Bridge::screwAhead));
    t.count("bridge.screws", "number of fixing screws", 0, 12,
            [](Project& p) -> int& { return p.body.bridge.screws; });
    t.length("bridge.screw_spread", "between the outer fixing screws", 5, 160,
             of(&Bridge::screwSpread));
    t.length("bridge.screw_pilot", "diameter of their pilots", 1, 8, of(&Bridge::screwPilot));
    t.length("bridge.screw_depth", "depth of their pilots", 4, 40, of(&Bridge::screwDepth));
    t.length("bridge.single_pitch", "single saddles: between a string's screws, along it", 4, 60,
             of(&Bridge::singlePitch));
    t.length("bridge.post_spread", "between the two posts", 20, 200, of(&Bridge::postSpread));
    t.length("bridge.post_size", "diameter of the posts' holes", 3, 20, of(&Bridge::postSize));
    t.length("bridge.post_depth", "depth of the posts' holes", 5, 60, of(&Bridge::postDepth));
}

void cavityKeys(KeyTable& t) {
    const auto of = [](double Cavity::*which) {
        return [which](Project& p) -> double& { return p.body.cavity.*which; };
    };
    nodeList(t, "cavity.outline",
             [](Project& p) -> std::vector<ShapeNode>& { return p.body.cavity.nodes; });
    t.length("cavity.wood", "wood left under the finished face", 1, 40, of(&Cavity::wood));
    t.length("cavity.ledge", "width of the lid's ledge; 0 for no lid", 0, 30, of(&Cavity::ledge));
    t.length("cavity.lid", "thickness of the lid", 1, 15, of(&Cavity::lid));
    t.length("cavity.clearance", "room round the lid, for finish", 0, 1, of(&Cavity::clearance));
    enumKey(t, "cavity.fixing", "what holds the lid", Names<LidFixing, 2>{{"magnets", "screws"}},
            [](Project& p) -> LidFixing& { return p.body.cavity.fixing; });
    t.count("cavity.fixings", "number of magnets or screws", 0, 12,
            [](Project& p) -> int& { return p.body.cavity.fixings; });
    t.length("cavity.fixing_size", "diameter of a magnet's hole or a screw's pilot", 1, 20,
             of(&Cavity::fixingSize));
    t.length("cavity.fixing_depth", "depth of it", 0.5, 30, of(&Cavity::fixingDepth));
    t.length("cavity.relief", "taken off the lid's inner face over the hole", 0, 10,
             of(&Cavity::relief));
    enumKey(t, "cavity.cut", "when its hole is cut in a glued-up body",
            Names<CutWhen, 2>{{"glued-up", "in-layers"}},
            [](Project& p) -> CutWhen& { return p.body.cavity.cut; });
    woodKey(t, "cavity.lid_wood", "wood of the lid",
            [](Project& p) -> std::string& { return p.bodyWoods.lid; });
}

void holdKeys(KeyTable& t) {
    const auto blank = [&t](const char* path, const char* meaning, double least, double most,
                            std::optional<double> BodyBlank::*which) {
        t.maybe(KeyKind::length, path, "mm", meaning, least, most,
                [which](Project& p) -> std::optional<double>& { return p.bodyBlank.*which; });
    };
    blank("body_blank.length", "the body's pieces, along the strings", 200, 1200,
          &BodyBlank::length);
    blank("body_blank.width", "the body's pieces, across", 150, 800, &BodyBlank::width);
    blank("body_blank.thickness", "the body's or core's piece", 10, 100, &BodyBlank::thickness);
    blank("body_blank.top_thickness", "the top's piece", 1, 50, &BodyBlank::topThickness);
    blank("body_blank.back_thickness", "the back's piece", 1, 50, &BodyBlank::backThickness);
    blank("body_blank.lid_length", "the lid's piece, along", 20, 600, &BodyBlank::lidLength);
    blank("body_blank.lid_width", "the lid's piece, across", 20, 600, &BodyBlank::lidWidth);
    blank("body_blank.lid_thickness", "the lid's piece", 1, 30, &BodyBlank::lidThickness);
    t.count("body_blank.lids", "lids cut from one piece", 1, 12,
            [](Project& p) -> int& { return p.bodyBlank.lids; });
    t.length("body_blank.frame", "waste left round the trench, which carries the part by its tabs",
             4, 60, [](Project& p) -> double& { return p.bodyBlank.frame; });
    enumKey(t, "body_blank.outside", "what takes the waste off the body's outside",
            Names<OutsideBy, 2>{{"router", "saw"}},
            [](Project& p) -> OutsideBy& { return p.bodyBlank.outside; });
    t.length("body_blank.saw_off", "wood a saw leaves for the router's last skim", 1, 8,
             [](Project& p) -> double& { return p.bodyBlank.sawOff; });
    turnKeys(t, "body_hold", [](Project& p) -> TurnHold& { return p.bodyHold; });
    enumKey(t, "body_hold.pins_in",
            "pins stand in the waste at the ends, or within the part, clear of its cuts",
            Names<PinsIn, 2>{{"waste", "part"}},
            [](Project& p) -> PinsIn& { return p.bodyHold.pinsIn; });
    yesNo(t, "body.gluing_sticks",
          "layers get small holes for sticks that locate them, where pockets are cut away later",
          [](Project& p) -> bool& { return p.body.gluingSticks; });
}

void cutKeys(KeyTable& t) {
    const auto of = [](double BodyCut::*which) {
        return [which](Project& p) -> double& { return p.bodyCut.*which; };
    };
    t.rate("body_cut.stepover", "%", "between a pocket's rings, of the bit's width", 10, 80,
           of(&BodyCut::stepover));
    t.length("body_cut.stock_to_leave", "left on walls for their last pass", 0.02, 1,
             of(&BodyCut::stockToLeave))
        .formerly = "body_cut.skin";
    t.length("body_cut.floor_stock", "left on floors for their last pass; 0 for none", 0, 1,
             of(&BodyCut::floorStock))
        .formerly = "body_cut.floor_skin";
    t.length("body_cut.through", "past the underside", 0.05, 3, of(&BodyCut::through));
    t.length("body_cut.scallop", "steps left on a floor that is not level", 0.002, 0.015,
             of(&BodyCut::scallop))
        .formerly = "body_cut.ridge";
    t.length("body_cut.carve_scallop", "scallops left on rounded edges and contours", 0.003, 0.1,
             of(&BodyCut::carveScallop))
        .formerly = "body_cut.carve_ridge";
    t.length("body_cut.carve_stock", "left on them by roughing", 0.1, 2, of(&BodyCut::carveStock))
        .formerly = "body_cut.carve_skin";
    t.length("body_cut.guide", "depth of the groove a bandsaw follows", 0.5, 8,
             of(&BodyCut::guideDepth));
    t.count("body_cut.tabs", "tabs round an outline", 0, 12,
            [](Project& p) -> int& { return p.bodyCut.tabs; });
    t.length("body_cut.tab_length", "length of a tab's wood", 3, 40, of(&BodyCut::tabLength));
    t.length("body_cut.tab_height", "height of a tab", 0.5, 15, of(&BodyCut::tabHeight));
    t.count("body_cut.plug_tabs", "tabs of a cut-out's plug; 0 clears it whole", 0, 6,
            [](Project& p) -> int& { return p.bodyCut.plugTabs; });
    t.length("body_cut.peck", "drilled at a time", 1, 30, of(&BodyCut::peck));
    const auto own = [&t](const char* group, const char* what, CutOverrides BodyCut::*which) {
        overrideKeys(t, group, what,
                     [which](Project& p) -> CutOverrides& { return p.bodyCut.*which; });
    };
    own("body_cut.faced", "body's facing", &BodyCut::faced);
    own("body_cut.rough", "pockets", &BodyCut::rough);
    own("body_cut.walls", "pockets' walls", &BodyCut::walls);
    own("body_cut.carve", "rounded edges and contours", &BodyCut::carve);
    own("body_cut.engrave", "engraving", &BodyCut::engrave);
    own("body_cut.outline", "body's outline", &BodyCut::outline);
}

} // namespace

void addBodyKeys(KeyTable& t) {
    outlineKeys(t);
    setupKeys(t);
    faceKeys(t);
    pocketKeys(t);
    bridgeKeys(t);
    cavityKeys(t);
    holdKeys(t);
    cutKeys(t);
    addFeatureKeys(t);
}

} // namespace wren
