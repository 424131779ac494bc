// A neck that goes through its body, wings at its sides: pieces, angle, wood.
#include "body_support.h"

#include "geom/split.h"
#include "job/features.h"
#include "job/glue.h"
#include "job/hand_sheet.h"
#include "job/list_keys.h"
#include "job/probe_spot.h"
#include "job/setup_report.h"
#include "job/wants.h"
#include "job/weights.h"
#include "part/glued_body.h"
#include "part/judge_wings.h"

#include <numbers>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

constexpr double degree = std::numbers::pi / 180;
const PartId bass{Role::wing, 1};
const PartId treble{Role::wing, 2};

/// The plain instrument, its neck going through the body to beyond the tail.
Project wingedWith(const Changes& changes = {}) {
    Changes all{{"neck.joint", "through"},     {"neck.heel_past", "300"},
                {"neck.heel_length", "400"},   {"neck.heel_depth", "44.5"},
                {"neck.heel_shape", "square"}, {"neck_blank.length", "auto"},
                {"bridge.kind", "fixed"}};
    all.insert(all.end(), changes.begin(), changes.end());
    return bodyWith(all);
}

std::optional<Finding> found(const Changes& changes, const std::string& code) {
    return findingOf(deriveDrawing(wingedWith(changes)).findings, code);
}

/// As wide at the bridge as at the nut, in a body with square corners.
Project boxed() {
    return wingedWith(
        {{"board.nut_spread", "40"},
         {"board.bridge_spread", "40"},
         {"body.outline", "-240.01 -150.01 c, 120.01 -150.01 c, 120.01 150.01 c, -240.01 150.01 c"},
         {"cavity.outline", ""},
         {"cavity.controls", ""},
         {"pickup1.kind", "none"},
         {"pickup2.kind", "none"}});
}

} // namespace

TEST_CASE("A line parts an outline in two", "[geom][wings]") {
    constexpr double r = 50, d = 20;
    const Contour circle = circleContour({10, 5}, 2 * r);
    const Contour high = partLeftOf(circle, {0, 5 + d}, {1, 5 + d});
    const Contour low = partLeftOf(circle, {1, 5 + d}, {0, 5 + d});
    // A circle's segment, in closed form (any handbook of formulas).
    const double segment = r * r * std::acos(d / r) - d * std::sqrt(r * r - d * d);
    CHECK(areaOf(high) == Approx(segment).epsilon(1e-9));
    CHECK(areaOf(low) == Approx(std::numbers::pi * r * r - segment).epsilon(1e-9));
    CHECK(signedAreaOf(high) < 0); // the way round as it was
    CHECK(high.back().length() == Approx(2 * std::sqrt(r * r - d * d)).epsilon(1e-9));
    CHECK_THROWS_WITH(partLeftOf(circle, {0, 60}, {1, 60}), Contains("nowhere"));
    const Contour fork = shapeOutline(
        shapeNodes("0 0 c, 0 60 c, 20 60 c, 20 20 c, 40 20 c, 40 60 c, 60 60 c, 60 0 c"));
    CHECK_THROWS_WITH(partLeftOf(fork, {0, 40}, {1, 40}), Contains("in 2 places"));
    CHECK(areaOf(partLeftOf(fork, {0, 10}, {1, 10})) + areaOf(partLeftOf(fork, {1, 10}, {0, 10})) ==
          Approx(60 * 60 - 20 * 40));
    // Through corners.
    const Contour square = shapeOutline(shapeNodes("0 0 c, 0 60 c, 60 60 c, 60 0 c"));
    CHECK(areaOf(partLeftOf(square, {0, 0}, {60, 60})) == Approx(60 * 60 / 2.0));
    CHECK(areaOf(partLeftOf(square, {60, 60}, {0, 0})) == Approx(60 * 60 / 2.0));
}

TEST_CASE("Wings lie at both sides of a neck that goes through", "[wings]") {
    for (const char* hand : {"right", "left"}) {
        const Derived d = drawnBody(wingedWith({{"board.hand", hand}}));
        const BodyPart& body = d.body->part;
        REQUIRE(body.winged());
        const double bassY = hand == std::string("right") ? -1 : 1;
        double sides = 0;
        for (PartId id : {bass, treble}) {
            const Panel& wing = *body.panel(id);
            sides += areaOf(wing.outline);
            const double y = id == bass ? bassY : -bassY;
            const ContourPiece& glued = wing.outline.back();
            for (Vec2 p : {glued.from, glued.to}) {
                CHECK(p.y == Approx(d.neck->part.outline().edge(y > 0 ? 1 : -1, p.x)).margin(1e-6));
            }
            for (Vec2 p : pointsOf(wing.outline, 0.1)) {
                CHECK(p.y * y >= d.neck->part.outline().edge(y > 0 ? 1 : -1, p.x) * y - 1e-6);
            }
            CHECK(wing.thickness() == 44.5);
            CHECK(d.job(id) != nullptr);
        }
        CHECK(sides < areaOf(body.outline()));
        CHECK(d.job(Role::body) == nullptr); // with its neck on it is worked by hand
        CHECK_FALSE(d.body->part.panel(Role::body)->layers.empty());
    }
}

TEST_CASE("The rod's slot is taken off the neck within the body as well", "[wings][balance]") {
    const Changes slot{{"rod.width", "8"},    {"rod.depth", "12"},          {"rod.start", "100"},
                       {"rod.length", "380"}, {"rod.adjuster_length", "0"}, {"rod.floor", "flat"},
                       {"rod.from", "top"}};
    Changes none = slot;
    none.back().second = "none";
    const Derived with = deriveDrawing(wingedWith(slot));
    const Derived without = deriveDrawing(wingedWith(none));
    const Weighed less = weigh(with);
    const Weighed more = weigh(without);
    CHECK(*more.neckVolume - *less.neckVolume == Approx(8.0 * 12 * 380).epsilon(0.01));
    const double moment = *more.neckVolume * more.neck.x - *less.neckVolume * less.neck.x;
    CHECK(moment / (8.0 * 12 * 380) == Approx(100 + 190).margin(4));
}

TEST_CASE("What lies in a wing alone is cut in the wing", "[wings]") {
    const Derived d = drawnBody(wingedWith());
    const Panel& wing = *d.body->part.panel(treble);
    CHECK_NOTHROW(pocketNamed(wing, "cavity"));
    CHECK_NOTHROW(pocketNamed(wing, "ledge"));
    CHECK(d.body->part.panel(bass)->pockets.empty());
    for (const PanelPocket& p : d.body->part.panel(Role::body)->pockets) {
        CHECK((p.stage == PocketStage::own) == (p.cut == "pickups"));
    }
    const auto later = findingOf(d.findings, "cut-after-gluing");
    REQUIRE(later);
    CHECK_THAT(later->message, Contains("pickup 1") && Contains("pickup 2"));
    CHECK_THAT(later->message, !Contains("cavity") && !Contains("edges"));
    // A rounding runs on over the neck, so it waits for the glue as well.
    const auto round = found({{"body.back_edge", "round"}}, "cut-after-gluing");
    REQUIRE(round);
    CHECK_THAT(round->message, Contains("edges"));
    // Things are listed once, whatever they are cut in.
    const std::vector<PanelPocket> all = d.body->part.pockets();
    CHECK(std::count_if(all.begin(), all.end(), [](const PanelPocket& p) {
              return p.feature.kind == FeatureKind::cavity;
          }) == 1);
    const std::vector<Hole> holes = d.body->part.holes();
    CHECK(std::count_if(holes.begin(), holes.end(),
                        [](const Hole& h) { return h.feature.kind == FeatureKind::pot; }) == 2);
}

TEST_CASE("What stands on a ledge over the neck waits for it", "[wings]") {
    // The cavity itself lies in the wing; its ledge reaches over the neck's side.
    const Changes near{{"cavity.outline", "-8 36 r12, 60 36 r12, 66 108 r12, -8 106 r12"},
                       {"cavity.controls", "pot 12 76, pot 44 84"}};
    const Derived d = derive(wingedWith(near));
    const PartJob& wing = *d.job(treble);
    CHECK(wing.panel->pockets.empty());
    REQUIRE(wing.proof);
    INFO(stopsOf(*wing.proof));
    CHECK(stopsOf(*wing.proof).empty());
    const auto later = findingOf(d.findings, "cut-after-gluing");
    REQUIRE(later);
    CHECK_THAT(later->message, Contains("cavity") && Contains("ledge"));
}

TEST_CASE("Wings are cut and proved like any flat part", "[wings]") {
    const Derived d = derive(wingedWith());
    for (PartId id : {bass, treble}) {
        const PartJob& job = *d.job(id);
        REQUIRE(job.proof);
        INFO(job.name() << "\n" << stopsOf(*job.proof));
        CHECK(stopsOf(*job.proof).empty());
        CHECK_FALSE(job.read[0].empty());
        CHECK(job.panelPlan().tabs.size() == 4);
        for (const PanelTab& tab : job.panelPlan().tabs) { // never on the face that is glued
            CHECK(distanceTo({job.panel->outline.back()}, tab.at) > tab.half);
        }
        if (id == bass) { // nothing is cut into that one
            const double drawn = areaOf(job.panel->outline) * job.panel->thickness();
            CHECK(woodInside(job) == Approx(drawn).epsilon(0.002));
        }
    }
    // What is cut later into the wings with the neck is not theirs any more when they are weighed.
    for (const PieceOfWood& piece : d.weighed->body) {
        if (piece.id == bass) {
            CHECK(piece.volume < woodInside(*d.job(bass)));
            CHECK(piece.volume > 0.98 * woodInside(*d.job(bass)));
        }
    }
}

TEST_CASE("A back-set is a triangle planed off the plank", "[wings][setup]") {
    // Nothing to plane, and no page for it.
    const Derived level = drawnBody(wingedWith());
    CHECK(planedOffAt(level.body->part, 0) == Approx(0).margin(1e-9));
    CHECK_FALSE(findingOf(level.findings, "back-set"));
    CHECK_THAT(sentenceOf([&] { handSheet(level, "backset", LengthUnit::mm); }),
               Contains("one plane"));
    CHECK_THAT(sentenceOf([] { handSheet(drawnBody(bodyWith()), "backset", LengthUnit::mm); }),
               Contains("goes through"));
    struct Case {
        double angle, proud;
    };
    for (const Case& k : {Case{1.5, 0}, Case{2.25, 3}, Case{-1, 2}}) {
        INFO(k.angle << " degrees, " << k.proud << " mm proud");
        const Derived d =
            drawnBody(wingedWith({{"neck_pocket.angle", fmt::format("{}", k.angle).c_str()},
                                  {"neck_pocket.proud", fmt::format("{}", k.proud).c_str()},
                                  {"neck.heel_depth", "60"}}));
        const double s = std::sin(k.angle * degree), c = std::cos(k.angle * degree);
        const double edge = turningEdge(d.project.body, d.project.neck, d.project.board);
        // Over the body's face: the board's end by what stands proud, the nut lower by the lever.
        const double end = k.proud * c * c;
        const double nut = end - edge * s;
        const double plank = std::max({0.0, nut, end});
        CHECK(planedOffAt(d.body->part, 0) == Approx(plank - nut));
        CHECK(planedOffAt(d.body->part, edge - 1e-9) == Approx(plank - end).margin(1e-9));
        CHECK(planedOffAt(d.body->part, edge + 50) == Approx(plank));
        CHECK(findingOf(d.findings, "back-set"));
        const HandSheet page = handSheet(d, "backset", LengthUnit::mm);
        REQUIRE(page.tables.front().rows.size() > 5);
        CHECK(page.tables.front().rows[1][0] == "nut");
        CHECK(std::stod(page.tables.front().rows[1][2]) == Approx(plank - nut).margin(0.006));
        // Its strings, by the same triangle.
        const SetupGeometry g = setupOf(d);
        CHECK(g.through);
        CHECK(g.proud == Approx(k.proud));
        CHECK(g.middleSaddle ==
              Approx((g.bridgeFromNut - edge) * s + (g.middleOverGlue + k.proud * c) * c));
    }
}

TEST_CASE("Angle, proud and saddle are solved for a neck that goes through", "[wings][setup]") {
    const Project p = wingedWith({{"bridge.saddle_low", "12"}, {"bridge.saddle_high", "18"}});
    const auto strung = [](const Project& q) { return setupOf(deriveDrawing(q)).middleSaddle; };
    const SetupAnswer angle = solveSetup(p, {"angle", 15.0, {}, {}});
    CHECK(angle.value > 0.2);
    CHECK(strung(angle.project) == Approx(15).margin(1e-6));
    CHECK_THAT(angle.said, Contains("back-set") && Contains("board's end"));
    const SetupAnswer proud = solveSetup(p, {"proud", 15.0, {}, {}});
    CHECK(strung(proud.project) == Approx(15).margin(1e-6));
    CHECK(proud.project.body.pocket.proud == Approx(proud.value));
    const SetupAnswer saddle = solveSetup(proud.project, {"saddle", {}, {}, {}});
    CHECK(saddle.value == Approx(15).margin(1e-6));
    CHECK_THAT(sentenceOf([&] { solveSetup(p, {"pocket", 15.0, {}, {}}); }), Contains("no pocket"));
    CHECK_THAT(sentenceOf([&] {
                   solveSetup(p, {"proud", 3.0, {}, {}});
               }),
               Contains("0 to 15 mm over it") && Contains("would do"));
    // What follows keeps to it at every edit.
    Project follows = withKey(p, "setup.gives_way", "pocket");
    follows = settledAfter(p, follows);
    CHECK(strung(follows) == Approx(15).margin(0.002));
    const Project thicker = withKey(follows, "board.thickness", "5");
    CHECK(strung(settledAfter(follows, thicker)) == Approx(15).margin(0.002));
    CHECK(settledAfter(follows, thicker).body.pocket.depth == p.body.pocket.depth);
    // Cures of a bridge that cannot reach say the same.
    const auto high =
        found({{"bridge.saddle_low", "12"}, {"bridge.saddle_high", "14"}}, "bridge-height");
    REQUIRE(high);
    CHECK_THAT(high->message, Contains("proud of the body's face"));
}

TEST_CASE("A neck that goes through must suit its wings", "[wings]") {
    CHECK(found({{"neck.heel_past", "200"}}, "neck-ends-in-body"));
    CHECK_FALSE(found({}, "neck-ends-in-body"));
    const auto shallow = found({{"neck.heel_depth", "42"}}, "neck-too-shallow");
    REQUIRE(shallow);
    CHECK(shallow->limit == Approx(44.5));
    // A neck that leans needs more wood behind toward the tail.
    const auto leaning = found({{"neck_pocket.angle", "2"}}, "neck-too-shallow");
    REQUIRE(leaning);
    CHECK(leaning->limit > 44.5 + 200 * std::sin(2 * degree));
    CHECK(found({{"neck.heel_depth", "52"}}, "neck-deeper-than-body"));
    CHECK_FALSE(found({}, "neck-deeper-than-body"));
    const auto free = found({{"neck.heel_length", "340"}}, "wing-on-shaft");
    REQUIRE(free);
    CHECK(free->value > free->limit);
    CHECK_FALSE(found({}, "wing-on-shaft"));
    CHECK(found({{"body.build", "topped"}}, "top-over-wings"));
    const auto lost = found({{"body.outline", "-240 40 c, 120 40 c, 120 150 c, -240 150 c"}},
                            "body-cannot-be-drawn");
    REQUIRE(lost);
    CHECK_THAT(lost->message, Contains("Wing 1"));
}

TEST_CASE("Wings and the neck between them weigh what their boxes hold", "[wings][weight]") {
    const Project p = boxed();
    Derived d = drawnBody(p);
    d.weighed = weigh(d);
    const NeckOutline& neck = d.neck->part.outline();
    const double wide = neck.edge(1, 500) - neck.edge(-1, 500);
    const double deep = d.project.body.thickness;
    for (const PieceOfWood& piece : d.weighed->body) {
        if (piece.id.role == Role::wing) {
            CHECK(piece.volume == Approx(360.02 * (150.01 - wide / 2) * deep).epsilon(0.002));
        }
    }
    // Of the neck: its sections up to the body, then a box to the tail.
    const double mouth = d.body->part.place().bridge - 240.01;
    double shaft = 0;
    for (double x = neck.tip() + 0.25; x < mouth; x += 0.5) {
        shaft += d.neck->part.sectionArea(x) * 0.5;
    }
    double bolts = 0;
    for (const Hole& h : d.neck->part.holes()) {
        bolts += h.byHand
                     ? 0
                     : std::numbers::pi / 4 * h.diameter * h.diameter * std::abs(h.mouth - h.floor);
    }
    const TrussRod& rod = p.neck.rod;
    const double slot = rod.width * rod.depth * (rod.start + rod.length - mouth); // within the body
    REQUIRE(slot > 0);
    REQUIRE(d.weighed->neckVolume);
    CHECK(*d.weighed->neckVolume ==
          Approx(shaft - bolts - slot + 360.02 * wide * deep).epsilon(0.001));
    double glued = 0;
    for (const GlueJoint& joint : glueList(d)) {
        glued += joint.what.find("on the neck") != std::string::npos && joint.what[0] == 'w'
                     ? joint.area
                     : 0;
    }
    CHECK(glued == Approx(2 * 360.02 * deep).epsilon(1e-6));
}

TEST_CASE("Each wing has a fixture of its own, and no pocket is offered", "[wings]") {
    const Derived d = drawnBody(wingedWith({{"body_hold.make_fixture", "yes"}}));
    for (int wing : {1, 2}) {
        const PartJob* board = d.job({Role::bodyFixture, wing});
        REQUIRE(board);
        // Its pins stand as far apart as those of the wing.
        const std::vector<RegisterPin>& pins = d.job({Role::wing, wing})->held.pins;
        REQUIRE(pins.size() == 2);
        std::vector<Vec2> holes;
        for (const Hole& h : board->panel->holes) {
            if (h.what == "pin") {
                holes.push_back(h.at);
            }
        }
        REQUIRE(holes.size() >= 2);
        CHECK(length(holes[0] - holes[1]) == Approx(length(pins[0].at - pins[1].at)));
    }
    CHECK(d.job(Role::bodyFixture) == nullptr);
    for (const Feature& f : featuresOf(d.project)) {
        CHECK(f.id.kind != FeatureKind::neckPocket);
    }
}

TEST_CASE("Wings and the strip between them are the body, whatever its shape", "[wings][long]") {
    for (const char* hand : {"right", "left"}) {
        for (const char* scale : {"620", "590"}) {
            for (const char* shape : {"fell", "tarn", "scree"}) {
                INFO(hand << "-handed, treble scale " << scale << ", " << shape);
                const Derived d = drawnBody(wingedWith({{"board.hand", hand},
                                                        {"board.treble_scale", scale},
                                                        {"board.end", "slanted"},
                                                        {"body.like", shape},
                                                        {"neck.heel_past", "340"},
                                                        {"neck.heel_length", "440"}}));
                const BodyPart& body = d.body->part;
                const ContourPiece low = body.panel(bass)->outline.back();
                const ContourPiece high = body.panel(treble)->outline.back();
                // Cut off on both sides by itself: a wing's wood lies at the right of its side.
                const Contour strip =
                    partLeftOf(partLeftOf(body.outline(), low.from, low.to), high.from, high.to);
                const double wings =
                    areaOf(body.panel(bass)->outline) + areaOf(body.panel(treble)->outline);
                CHECK(wings + areaOf(strip) == Approx(areaOf(body.outline())).epsilon(1e-9));
                // The mirrored instrument's wings are as large.
                const Derived other = drawnBody(
                    wingedWith({{"board.hand", hand == std::string("left") ? "right" : "left"},
                                {"board.treble_scale", scale},
                                {"board.end", "slanted"},
                                {"body.like", shape},
                                {"neck.heel_past", "340"},
                                {"neck.heel_length", "440"}}));
                for (int wing : {1, 2}) {
                    CHECK(areaOf(other.body->part.panel({Role::wing, wing})->outline) ==
                          Approx(areaOf(body.panel({Role::wing, wing})->outline)).epsilon(1e-9));
                }
            }
        }
    }
}

TEST_CASE("What lies over neck and wings is cut in the glued instrument", "[wings][long]") {
    // By hand, as it is, there is no such part.
    CHECK(deriveDrawing(wingedWith()).job(Role::body) == nullptr);
    const Project p = wingedWith({{"body.over_neck", "by-router"}});
    const Derived d = derive(p);
    const PartJob* job = d.job(Role::body);
    REQUIRE((job && job->placed && job->proof));
    CHECK(stopsOf(*job->proof).empty());
    CHECK_FALSE(job->held.back);
    CHECK(job->held.pins.empty());
    // Bridge and pickups, none of what is in a wing already.
    const Panel& glued = *job->panel;
    CHECK_FALSE((glued.holes.empty() && glued.pockets.empty()));
    for (const PanelPocket& pocket : glued.pockets) {
        CHECK(pocket.stage == PocketStage::own);
        CHECK_FALSE(pocket.fromBack);
    }
    for (const Hole& h : glued.holes) {
        CHECK_FALSE(wingHas(d.body->part, h));
    }
    // The bridge line and the centreline cross over the engraved lines' crossing.
    const Setup& setup = job->held.face;
    const Vec3 bridge = setup.fromInstrument.toSetup({glued.told.line, 0, 0});
    CHECK(length(setup.zeroOnMachine + bridge.xy() - p.machine.crossing) < 1e-9);
    // The plate lies on wood: inside the outline, where nothing is cut.
    const Vec2 spot = setup.fromInstrument
                          .toInstrument({probeSpot(d, *job, 0).x - setup.zeroOnMachine.x,
                                         probeSpot(d, *job, 0).y - setup.zeroOnMachine.y, 0})
                          .xy();
    CHECK(insideOf({pointsOf(glued.outline, 0.1)}, spot));
    // Nothing goes below the face but in those pockets and holes: no program cuts the outline.
    for (const RunProgram& program : job->read[0]) {
        CHECK_FALSE(program.has(CutKind::outline));
    }
    // The neck stands out over the bed's end.
    const double tip = d.neck->part.boundingBox()[0].x;
    const double beyond =
        -(setup.zeroOnMachine.x +
          setup.fromInstrument.toSetup(d.body->part.place().toBody({tip, 0, 0})).x);
    CHECK(findingOf(d.findings, "neck-beyond-bed").has_value() == (beyond > 0));
    CHECK(beyond > 0);
    // Its wood is the wings' and the neck's: no other piece is to be sawn.
    for (const WoodPiece& piece : woodList(d)) {
        CHECK(piece.piece != "body");
    }
    // The bridge's screws stand where the body has them.
    std::size_t same = 0;
    for (const Hole& h : glued.holes) {
        for (const Hole& whole : d.body->part.panel(Role::body)->holes) {
            same += h.at == whole.at && h.what == whole.what ? 1 : 0;
        }
    }
    CHECK(same >= glued.holes.size());
}

TEST_CASE("Contours over wings and neck are cut in the glued instrument, from both sides",
          "[wings][long]") {
    Project p = wingedWith({{"body.over_neck", "by-router"}});
    p = withAdded(p, "body.contours",
                  {{"side", "front"}, {"from", "20,-128"}, {"to", "116,-60"}, {"angle", "14"}});
    p = withAdded(p, "body.contours",
                  {{"side", "back"}, {"from", "-140,-112"}, {"to", "-10,-128"}, {"angle", "12"}});
    const Derived d = derive(p);
    const PartJob& job = *d.job(Role::body);
    REQUIRE((job.proof && job.held.back));
    CHECK(stopsOf(*job.proof).empty());
    CHECK_FALSE(findingOf(d.findings, "meets-neck"));
    CHECK(job.held.expectedError == Approx(pencilError));
    for (std::size_t side = 0; side < 2; ++side) {
        CHECK(std::any_of(job.read[side].begin(), job.read[side].end(),
                          [](const RunProgram& r) { return r.has(CutKind::carving); }));
        // Centreline and bridge line lie on the engraved lines either way up.
        const Setup& setup = job.held.side(side);
        const Vec3 bridge = setup.fromInstrument.toSetup({job.panel->told.line, 0, 0});
        CHECK(length(setup.zeroOnMachine + bridge.xy() - p.machine.crossing) < 1e-9);
    }
    // The wood is the body's own, without a corner of a plank round it: what is left is what its
    // outline holds less what was cut.
    const double whole = std::abs(areaOf(job.panel->outline)) *
                         job.panel->thickness();
    CHECK(woodInside(job) < whole);
    CHECK(job.proof->stock->volume() == Approx(woodInside(job)).epsilon(0.001));
    // By hand nothing of it is cut, and it is said so.
    const Derived byHand = deriveDrawing(withKey(p, "body.over_neck", "by-hand"));
    CHECK_THAT(findingOf(byHand.findings, "cut-after-gluing")->message, Contains("contours"));
    // One that comes down over the neck where it leaves the body would take wood off it.
    Project over = withAdded(wingedWith({{"body.over_neck", "by-router"}}), "body.contours",
                             {{"side", "front"}, {"from", "-150,120"}, {"to", "-150,-120"},
                              {"angle", "10"}});
    CHECK(findingOf(derive(over).findings, "meets-neck"));
}
