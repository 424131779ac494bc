// String trees behind the nut, and a neck angle that is planed into the heel.
#include "body_support.h"

#include "design/head_shape.h"
#include "design/tuner_places.h"
#include "job/hand_sheet.h"
#include "job/list_keys.h"
#include "job/setup_report.h"

#include <numbers>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

constexpr double degree = std::numbers::pi / 180;

Project withTree(const Project& p, const std::string& at, const std::string& height) {
    return withAdded(p, "tuners.trees",
                     {{"at", at}, {"height", height}, {"first", "1"}, {"last", "2"}});
}

} // namespace

TEST_CASE("A string tree bends its strings down nearer to the nut", "[tuners][tree]") {
    for (const char* hand : {"right", "left"}) {
        const Project plain = neckWith({{"board.hand", hand}, {"head.drop", "4"}});
        const Project held = withTree(plain, "-40mm, 12mm", "2mm");
        const HeldNeck before = drawnNeck(plain);
        const HeldNeck after = drawnNeck(held);
        const double top = stringHeightAtNut(held.neck, held.board);
        for (std::size_t i = 0; i < 6; ++i) {
            const TunerPlace& t = after.part.tuners()[i];
            const TunerPlace& free = before.part.tuners()[i];
            INFO(hand << " string " << 6 - i);
            if (i < 4) { // bass first: strings 6 to 3 are free
                CHECK_FALSE(t.held);
                CHECK(t.breakAngle == free.breakAngle);
                continue;
            }
            REQUIRE(t.held);
            CHECK(t.held->x == Approx(-40));
            // By the triangle from the nut to the tree, along the string's own way.
            const double along = length(Vec2{t.held->x, t.held->y} - t.nut);
            const double under = after.part.face(-40) + 2;
            CHECK(t.breakAngle == Approx(std::atan2(top - under, along) / degree));
            CHECK(t.breakAngle > free.breakAngle);
            // It lies on the way to the post.
            CHECK(std::abs(cross(t.winds - t.nut, Vec2{t.held->x, t.held->y} - t.nut)) < 1e-6);
        }
    }
}

TEST_CASE("A string tree that holds nothing is told", "[tuners][tree]") {
    const auto idle = [](const char* at, const char* height) {
        return findingOf(deriveDrawing(withTree(neckWith(), at, height)).findings, "tree-idle");
    };
    CHECK_FALSE(idle("-40mm, 12mm", "1mm"));
    const auto high = idle("-40mm, 12mm", "20mm");
    REQUIRE(high);
    CHECK(high->feature == FeatureId{FeatureKind::tree, 0});
    CHECK_THAT(high->message, Contains("String tree 1 holds no string down"));
    CHECK(idle("30mm, 12mm", "1mm")); // on the fretboard's side of the nut
}

TEST_CASE("A neck angle can be planed into the heel, its pocket level", "[setup][tree]") {
    const Changes leaning{{"neck_pocket.angle", "2"}};
    const Changes planed{{"neck_pocket.angle", "2"}, {"neck_pocket.angle_in", "heel"}};
    const Derived tilted = drawnBody(bodyWith(leaning));
    const Derived level = drawnBody(bodyWith(planed));
    const SetupGeometry a = setupOf(tilted);
    const SetupGeometry b = setupOf(level);
    CHECK(a.heelWedge == 0);
    CHECK(b.pocketOuter == b.pocketInner);
    const double along = b.heelEnd - b.mouth;
    CHECK(b.heelWedge == Approx(along * std::tan(2 * degree)));
    CHECK(b.middleSaddle == Approx(a.middleSaddle)); // the strings lie as they did
    CHECK(pocketNamed(*level.body->part.panel(Role::body), "neck pocket").slope == 0);
    CHECK_FALSE(findingOf(tilted.findings, "heel-wedge"));
    const auto told = findingOf(level.findings, "heel-wedge");
    REQUIRE(told);
    CHECK(told->value == Approx(b.heelWedge));
    const HandSheet page = handSheet(level, "backset", LengthUnit::mm);
    const auto& rows = page.tables.front().rows;
    CHECK(std::stod(rows.front()[1]) == Approx(level.project.neck.heelDepth));
    CHECK(std::stod(rows.back()[1]) ==
          Approx(level.project.neck.heelDepth - b.heelWedge).margin(0.006));
    CHECK_THAT(sentenceOf([&] { handSheet(tilted, "backset", LengthUnit::mm); }),
               Contains("in its pocket"));
    // Asked for an angle, the solver says where it goes.
    CHECK_THAT(solveSetup(level.project, {"angle", 14.0, {}, {}}).said, Contains("underside"));
}
