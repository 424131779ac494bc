// What came out otherwise than drawn: what is not cut yet follows it, what is cut stays, and what
// that leads to is told.
#include "body_support.h"

#include "job/as_measured.h"
#include "job/cures.h"
#include "job/judge_measured.h"
#include "job/measure.h"
#include "job/rack.h"
#include "job/setup_report.h"
#include "part/setup_geometry.h"

#include <random>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

RunRecord cutOf(const char* part, const char* cuts) {
    RunRecord r;
    r.project = "plain";
    r.part = part;
    r.program = "20-" + std::string(part) + ".nc";
    r.cuts = cuts;
    r.start = "2026-11-20T10:00:00Z";
    r.outcome = "done";
    return r;
}

Project named(Project p) {
    p.name = "plain";
    return p;
}

CutAlready already(const std::vector<RunRecord>& runs) {
    return CutAlready(runs, "plain");
}

Project read(const Project& p, const char* size, double mm, const CutAlready& cut = {},
             const std::string& moisture = {}) {
    return measured(deriveDrawing(p), p, {size, fmt::format("{:.4f}mm", mm), moisture}, cut).project;
}

std::array<Vec2, 2> pocketBox(const Project& p) {
    const Derived d = drawnBody(p);
    return boxOf(pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders.front());
}

double pocketWidth(const Project& p) {
    const auto box = pocketBox(p);
    return box[1].y - box[0].y;
}

/// X of the holes of that name nearest the tail.
double holeAt(const Project& p, const std::string& what) {
    double x = -1e9;
    const Derived d = drawnBody(p);
    for (const Hole& h : d.body->part.holes()) {
        x = h.what == what ? std::max(x, h.at.x) : x;
    }
    REQUIRE(x > 0);
    return x;
}

double drawnWidthOf(const Project& p) {
    return *measured(deriveDrawing(p), p, {"neck.heel_width", "56mm", ""}).drawn;
}

} // namespace

TEST_CASE("A heel read after its pocket is cut leaves the pocket as it is", "[measured]") {
    const Project p = named(bodyWith());
    const double drawn = drawnWidthOf(p);
    const double before = pocketWidth(p);
    // Not cut: it follows. Another instrument's run, and one that failed, cut nothing of this one.
    RunRecord other = cutOf("body", "neck-pocket"), failed = other, practice = other;
    other.project = "another";
    failed.outcome = "stopped";
    practice.standIn = true;
    CHECK(pocketWidth(read(p, "neck.heel_width", drawn + 0.3, already({other, failed, practice}))) ==
          Approx(before + 0.3).margin(0.01));
    for (const char* words : {"neck-pocket", "surface + neck-pocket-pickups-notch", "bolts neck-pocket"}) {
        const auto cut = already({cutOf("body", words)});
        const Project later = read(p, "neck.heel_width", drawn + 0.3, cut);
        CHECK(pocketWidth(later) == Approx(before).margin(1e-6));
        REQUIRE(later.body.pocket.cutWidth);
        CHECK(*later.body.pocket.cutWidth == Approx(drawn));
        CHECK(later.body.pocket.measuredWidth == Approx(drawn + 0.3));
    }
    CHECK_FALSE(read(p, "neck.heel_width", drawn, already({cutOf("body", "pickups")}))
                    .body.pocket.cutWidth);
    // Measured before the cut and once more after it: the first is what the pocket was cut for.
    const auto cut = already({cutOf("body", "neck-pocket")});
    const Project first = read(p, "neck.heel_width", drawn + 0.2);
    const Project second = read(first, "neck.heel_width", drawn + 0.35, cut);
    CHECK(*second.body.pocket.cutWidth == Approx(drawn + 0.2));
    CHECK(pocketWidth(second) == Approx(pocketWidth(first)));
    CHECK(*read(second, "neck.heel_width", drawn + 0.1, cut).body.pocket.cutWidth ==
          Approx(drawn + 0.2));
    // Clearance 0.08 a side: 0.15 more is 0.005 left, and 0.5 less is a gap.
    const auto tight = findingOf(judgeMeasured(deriveDrawing(second)), "heel-too-wide");
    REQUIRE(tight);
    CHECK(tight->value == Approx(0.08 - 0.075).margin(1e-6));
    CHECK_THAT(tight->message, Contains("A fit pass of 0.07 mm") || Contains("A fit pass of 0.08 mm"));
    // Its cure is told once the pass is run: what was cut keeps its drawing, and it goes in.
    const auto cures = curesFor(deriveDrawing(second), *tight);
    REQUIRE(cures.size() == 1);
    const Project passed = cured(second, cures[0]);
    CHECK(passed.body.pocket.enlarged == Approx(0.075).margin(1e-6));
    CHECK(pocketWidth(passed) == Approx(pocketWidth(second)).margin(1e-9));
    CHECK(judgeMeasured(deriveDrawing(passed)).empty());
    CHECK(findingOf(judgeMeasured(deriveDrawing(read(second, "neck.heel_width", drawn - 0.4, cut))),
                    "heel-too-narrow"));
    CHECK(judgeMeasured(deriveDrawing(read(second, "neck.heel_width", drawn + 0.22, cut))).empty());
}

TEST_CASE("Wherever a neck's length is read, the bridge stands its scale from the real nut",
          "[measured]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> off(-1.5, 1.5), scale(600, 680);
    for (int n = 0; n < 12; ++n) {
        const std::string length = fmt::format("{:.2f}", scale(random));
        Project p = named(bodyWith());
        p = withKey(p, "board.scale", length);
        p = withKey(p, "board.hand", n % 2 ? "left" : "right");
        p = withKey(p, "neck_pocket.angle", n % 3 ? "0" : "1.5");
        const Derived d = deriveDrawing(p);
        const double drawn = *measured(d, p, {"neck.length", fmt::format("{}mm", d.neck->part.outline().end()), ""}).drawn;
        const double real = drawn + off(random);
        INFO(length << " drawn " << drawn << " real " << real);
        // From the pocket's inner end, where the heel stands, back to the real nut and to the bridge.
        const auto nutToBridge = [&](const Project& q, double neck) {
            return neck - (pocketBox(q)[1].x - holeAt(q, "bridge screw"));
        };
        const double wanted = nutToBridge(p, drawn);
        const Project open = read(p, "neck.length", real);
        const auto cut = already({cutOf("body", "neck-pocket")});
        const Project kept = read(p, "neck.length", real, cut);
        constexpr double lean = 0.003; // an angle turns the pocket's end by a hair
        CHECK(nutToBridge(open, real) == Approx(wanted).margin(lean));
        CHECK(nutToBridge(kept, real) == Approx(wanted).margin(lean));
        CHECK(holeAt(open, "bridge screw") == Approx(holeAt(p, "bridge screw")).margin(0.05));
        CHECK(pocketBox(kept)[1].x == Approx(pocketBox(p)[1].x).margin(1e-9));
        // Both cut: nothing moves any more, and the saddles are told to.
        const auto both = already({cutOf("body", "neck-pocket"), cutOf("body", "bolts-strings")});
        const Project fixed = read(p, "neck.length", real, both);
        CHECK(holeAt(fixed, "bridge screw") == Approx(holeAt(p, "bridge screw")).margin(1e-9));
        CHECK(pocketBox(fixed)[1].x == Approx(pocketBox(p)[1].x).margin(1e-9));
        const auto told = findingOf(judgeMeasured(deriveDrawing(fixed)), "bridge-drilled");
        REQUIRE(told.has_value() == (std::abs(real - drawn) >= 0.05));
        if (told) {
            CHECK(told->value == Approx(std::abs(real - drawn)).margin(1e-3));
            CHECK_THAT(told->message, Contains(real < drawn ? "away from the nut" : "toward the nut"));
        }
    }
}

TEST_CASE("The lid follows the recess as it came out, until it is cut itself", "[measured]") {
    const Project p = named(bodyWith());
    const auto lid = [](const Project& q) {
        const Derived d = drawnBody(q);
        const Panel& panel = *d.body->part.panel(Role::lid);
        const auto box = panel.box();
        return std::array<double, 2>{box[1].y - box[0].y, panel.thickness()};
    };
    const auto [width, thick] = lid(p);
    const double recess = *measured(deriveDrawing(p), p, {"body.recess_width", "80mm", ""}).drawn;
    CHECK(recess - width == Approx(2 * p.body.cavity.clearance).margin(1e-3));
    Project q = read(p, "body.recess_width", recess + 0.3);
    q = read(q, "body.recess_depth", thick - 0.4);
    CHECK(lid(q)[0] == Approx(width + 0.3).margin(1e-6));
    CHECK(lid(q)[1] == Approx(thick - 0.4));
    // The recess is drawn as it was.
    CHECK(pocketNamed(*drawnBody(q).body->part.panel(Role::body), "ledge").depth() == Approx(thick));
    const auto cut = already({cutOf("body lid", "outline")});
    const Project later = read(read(q, "body.recess_width", recess - 0.4, cut), "body.recess_depth",
                               thick - 0.6, cut);
    CHECK(lid(later) == lid(q));
    const Findings told = judgeMeasured(deriveDrawing(later));
    REQUIRE(findingOf(told, "lid-too-wide"));
    CHECK(findingOf(told, "lid-too-wide")->value == Approx(p.body.cavity.clearance - 0.35));
    CHECK(findingOf(told, "lid-proud"));
}

TEST_CASE("A pocket as deep as it came out decides how high the strings pass", "[measured]") {
    const Project p = named(bodyWith({{"setup.gives_way", "pocket"}}));
    const auto height = [](const Project& q) {
        const Derived d = drawnBody(q);
        return setupGeometry(d.body->part, d.neck->part).middleSaddle;
    };
    const auto cut = already({cutOf("body", "neck-pocket")});
    const double deep = p.body.pocket.depth;
    const Project q = settledAfter(p, read(p, "body.pocket_depth", deep + 0.4, cut));
    CHECK(height(q) == Approx(height(p) - 0.4).margin(1e-6));
    CHECK(q.body.pocket.depth == deep); // what was drawn stands
    CHECK(q.body.givesWay == GivesWay::saddles);
    const auto floorOf = [](const Project& of) {
        return pocketNamed(*drawnBody(of).body->part.panel(Role::body), "neck pocket").floor;
    };
    CHECK(floorOf(q) == floorOf(p));
    // Drawn anew it is cut again.
    const Project deeper = settledAfter(q, withKey(q, "neck_pocket.depth", "17mm"));
    CHECK_FALSE(deeper.body.pocket.measuredFloor);
}

TEST_CASE("A neck that goes through has no pocket to be measured for", "[measured]") {
    const Project p = loadProject(WREN_SOURCE "/demo/dotterel.wren");
    for (const char* size : {"neck.heel_width", "neck.length", "neck.heel_depth",
                             "neck.heel_width_40", "body.pocket_depth"}) {
        CHECK_THAT(sentenceOf([&] { read(p, size, 16); }), Contains("has no such part"));
    }
}

TEST_CASE("A blank that is cut is no blank any more", "[measured]") {
    const Project p = named(bodyWith());
    const auto cut = already({cutOf("neck", "rod")});
    CHECK_THAT(sentenceOf([&] { read(p, "neck.blank_thickness", 21, cut); }),
               Contains("20-neck.nc was cut from that blank on 2026-11-20"));
    CHECK_NOTHROW(read(p, "fretboard.blank_thickness", p.blank.thickness, cut));
    // A top is measured until it is surfaced on the glued body.
    const Project topped = named(bodyWith({{"body.build", "topped"}}));
    const double top = *measured(deriveDrawing(topped), topped, {"top.blank_thickness", "9.5mm", ""}).drawn;
    CHECK_NOTHROW(read(topped, "top.blank_thickness", top, already({cutOf("body top", "registers")})));
    CHECK_THAT(sentenceOf([&] {
                   read(topped, "top.blank_thickness", top, already({cutOf("body", "facing")}));
               }),
               Contains("was cut from that blank"));
    // Another from the rack starts anew.
    const double drawn = drawnWidthOf(p);
    Project q = read(p, "neck.heel_width", drawn + 0.1, already({cutOf("body", "neck-pocket")}), "9");
    RackBlank blank;
    blank.length = 700;
    blank.width = 100;
    blank.thickness = 26;
    blank.wood = "hard-maple";
    blank.moisture = "7.5";
    q = withBlank(q, Role::neck, blank);
    CHECK_FALSE(q.body.pocket.measuredWidth);
    CHECK_FALSE(q.body.pocket.measuredMoisture);
    CHECK(q.neckWood.moisture == Approx(7.5));
    REQUIRE(q.body.pocket.cutWidth); // the pocket is there all the same
    blank.length = 500;
    blank.width = 380;
    blank.thickness = 46;
    CHECK_FALSE(withBlank(q, Role::body, blank).body.pocket.cutWidth);
}

TEST_CASE("A fit reckons with moisture by the Wood Handbook's rule", "[measured]") {
    // Hard maple 9.9 % along its rings and 4.8 % through them, white ash 7.8 %: tables 4-3 and 4-4
    // of FPL-GTR-282, from memory; a size at M per cent is 1 - S (30 - M) / 30 of the green one.
    const auto left = [](double s, double m) { return 1 - s / 100 * (30 - m) / 30; };
    Project p = named(bodyWith());
    p = withKey(withKey(p, "neck_blank.wood", "hard-maple"), "body.wood", "white-ash");
    const double drawn = drawnWidthOf(p);
    Project q = read(p, "neck.heel_width", drawn, {}, "10");
    CHECK(q.neckWood.moisture == Approx(10));
    CHECK(pocketWidth(q) == Approx(pocketWidth(p))); // the same day
    q = withKey(q, "neck_blank.moisture", "7");
    const double today = drawn * left(9.9, 7) / left(9.9, 10);
    CHECK(drawn - today > 0.5); // three per cent of flat-sawn maple are no trifle
    CHECK(*heelToday(q) == Approx(today));
    CHECK(pocketWidth(q) == Approx(pocketWidth(p) - (drawn - today)).margin(1e-6));
    const Project upright = withKey(q, "neck_blank.sawn", "quarter");
    CHECK(*heelToday(upright) == Approx(drawn * left(4.8, 7) / left(4.8, 10)));
    // Read without a moisture it is as read.
    CHECK(*heelToday(read(q, "neck.heel_width", drawn)) == Approx(drawn));
    // Both woods settle at 8 per cent.
    CHECK_FALSE(findingOf(judgeMeasured(deriveDrawing(q)), "heel-settles"));
    q = withKey(q, "body_blank.moisture", "12");
    const auto told = findingOf(judgeMeasured(deriveDrawing(q)), "heel-settles");
    REQUIRE(told);
    const double hole = today + 2 * 0.08;
    const double room =
        (hole * left(7.8, 8) / left(7.8, 12) - today * left(9.9, 8) / left(9.9, 7)) / 2;
    CHECK(room < 0); // the pocket shrinks upon a heel that grows
    CHECK(told->value == Approx(room).margin(1e-6));
    CHECK(told->weight == Weight::caution);
    // A sheet moves with nothing that is known.
    CHECK_FALSE(findingOf(judgeMeasured(deriveDrawing(withKey(q, "body.wood", "mdf"))),
                          "heel-settles"));
    CHECK_THAT(sentenceOf([&] { read(p, "neck.heel_width", drawn, {}, "wet"); }),
               Contains("neck_blank.moisture"));
}

TEST_CASE("The fit that is told is the real heel's in the pocket as its program cuts it",
          "[measured]") {
    Project p = named(bodyWith());
    const double drawn = drawnWidthOf(p);
    const auto room = [](const Project& q) {
        const Derived d = derive(q);
        REQUIRE(d.body);
        REQUIRE(d.body->neckFit);
        REQUIRE(d.body->lidFit);
        return std::array<double, 3>{d.body->neckFit->least, d.body->neckFit->most,
                                     d.body->lidFit->least};
    };
    constexpr double paths = 0.012; // as close as the cuts follow a wall, at a corner's bit radius
    // Not cut yet, both follow: the room is the asked one all round.
    p = read(read(p, "neck.heel_width", drawn + 0.2), "neck.length",
             deriveDrawing(p).neck->part.outline().end() + 0.4);
    auto now = room(p);
    CHECK(now[0] == Approx(0.08).margin(paths));
    // Cut for that heel, which was sanded since.
    const auto cut = already({cutOf("body", "neck-pocket"), cutOf("body lid", "outline")});
    const double recess = *measured(deriveDrawing(p), p, {"body.recess_width", "80mm", ""}).drawn;
    p = read(read(p, "neck.heel_width", drawn + 0.1, cut), "body.recess_width", recess - 0.2, cut);
    now = room(p);
    CHECK(now[0] == Approx(0.08).margin(paths)); // its end did not change
    CHECK(now[1] == Approx(0.08 + 0.05).margin(0.03));
    CHECK(now[2] == Approx(p.body.cavity.clearance - 0.1).margin(paths));
}
