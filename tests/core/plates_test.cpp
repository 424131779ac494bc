#include "body_support.h"

#include "job/list_keys.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// Over the first pickup, clear of the neck and of the second.
const char* guard = "-162 -62 r8, -100 -62 r8, -100 62 r8, -162 62 r8";

Project withPlate(const std::vector<Setting>& settings, const Changes& changes = {}) {
    return withAdded(bodyWith(changes), "body.plates", settings);
}

std::string stopsAbout(const Project& p) {
    std::string out;
    for (const Finding& f : deriveDrawing(p).findings) {
        out += f.weight == Weight::stop ? f.code + ": " + f.message + "\n" : "";
    }
    return out;
}

std::vector<Hole> screwsOf(const Panel& panel) {
    std::vector<Hole> out;
    for (const Hole& h : panel.holes) {
        if (h.feature.kind == FeatureKind::plateScrew) {
            out.push_back(h);
        }
    }
    return out;
}

} // namespace

TEST_CASE("A pickguard is open round its pickup, and its screws have pilots in the body",
          "[plates]") {
    const Derived d = drawnBody(withPlate({{"outline", guard}, {"screws", "6"}, {"bevel", "1.2"}}));
    const BodyPart& part = d.body->part;
    const Panel& body = *part.panel(Role::body);
    const Panel& plate = *part.panel(PartId(Role::plate, 1));
    REQUIRE(plate.pockets.size() == 1); // its ears stay covered
    const PanelPocket& pickup = pocketNamed(body, "pickup 1");
    for (Vec2 p : placesAlong(plate.pockets[0].borders[0], 3)) {
        CHECK(distanceTo(pickup.borders[0], p) == Approx(0.3).margin(0.001));
    }
    const std::vector<Hole> through = screwsOf(plate);
    const std::vector<Hole> pilots = screwsOf(body);
    REQUIRE(through.size() == 6);
    REQUIRE(pilots.size() == 6);
    for (std::size_t i = 0; i < 6; ++i) {
        CHECK(through[i].at == pilots[i].at);
        CHECK(through[i].through);
        CHECK(distanceTo(plate.outline, through[i].at) == Approx(6).margin(0.001));
        CHECK(pilots[i].diameter < through[i].diameter);
    }
    CHECK(plate.frontFall.drop(plate.outline.front().from) == Approx(1.2).margin(0.01));
}

TEST_CASE("Plates of every kind are cut and proved", "[plates]") {
    Project p = withPlate({{"outline", guard}, {"bevel", "1"}});
    p = withAdded(p, "body.plates",
                  {{"kind", "control"},
                   {"pilot_depth", "3"},
                   {"outline", "-4 70 r6, 56 70 r6, 58 110 r6, -4 106 r6"}});
    p = withAdded(p, "body.plates", {{"kind", "cavity-cover"}, {"material", "plywood"}});
    p = withAdded(p, "body.plates",
                  {{"kind", "rod-cover"},
                   {"outline", "-14 -12 r4, -50 -8 r6, -50 8 r6, -14 12 r4"},
                   {"screws", "2"},
                   {"screw_inset", "4"}});
    // What is left beside a bevel has to hold the plate: the drawer's balls are too large for it.
    const Derived large = drawnBody(p);
    const PartJob& bevelled = *large.job(PartId(Role::plate, 1));
    const PanelPlan refused =
        planPanel(*bevelled.panel, bevelled.held, p.bits, p.machine, p.bodyCut);
    REQUIRE(refused.findings.size() == 1);
    CHECK_THAT(refused.findings[0].message, Contains("of the sheet, 0.7 mm hold the part"));
    Bit ball = *findBit(p.bits, "ball-6");
    ball.name = "ball-2";
    ball.diameter = 2;
    ball.fluteLength = 8;
    p.bits.push_back(ball);
    if (WREN_SANITIZED) {
        return; // whole proofs; one fixture's goes the same ways
    }
    const Derived d = derive(p);
    for (int i = 1; i <= 4; ++i) {
        const PartJob* job = d.job(PartId(Role::plate, i));
        REQUIRE(job);
        REQUIRE(job->proof);
        INFO(job->name() << "\n" << stopsOf(*job->proof));
        CHECK(stopsOf(*job->proof).empty());
    }
    CHECK(stopsOf(*d.job(Role::body)->proof).empty());
    // Pots stand in the control plate.
    CHECK(d.body->part.panel(PartId(Role::plate, 2))->holes.size() == 4 + 2);
}

TEST_CASE("A cover for the back is cut with its outer face up and fits as it lies", "[plates]") {
    const Derived d = drawnBody(withPlate({{"kind", "cavity-cover"}}));
    const Panel& cover = *d.body->part.panel(PartId(Role::plate, 1));
    const Contour lying = mirroredInY(cover.outline);
    const double ledge = d.project.body.cavity.ledge;
    for (Vec2 p : placesAlong(d.body->part.hollow(), 5)) {
        CHECK(inside(pointsOf(lying, 0.01), p));
        CHECK(distanceTo(lying, p) > ledge + 2); // screws clear of the lid's ledge
    }
    const std::vector<Hole> pilots = screwsOf(*d.body->part.panel(Role::body));
    const std::vector<Hole> through = screwsOf(cover);
    REQUIRE(pilots.size() == through.size());
    for (std::size_t i = 0; i < pilots.size(); ++i) {
        CHECK(pilots[i].fromBack);
        CHECK(pilots[i].at.y == Approx(-through[i].at.y));
    }
}

TEST_CASE("A plate that cannot be made says why", "[plates]") {
    CHECK(stopsAbout(withPlate({{"outline", guard}})).empty());
    CHECK_THAT(stopsAbout(withPlate({})), Contains("Plate 1: it has no outline"));
    CHECK_THAT(stopsAbout(withPlate({{"outline", guard}, {"bevel", "2.4"}})),
               Contains("a bevel of 2.40 mm"));
    CHECK_THAT(
        stopsAbout(withPlate({{"outline", "-162 -40 r8, -100 -40 r8, -100 62 r8, -162 62 r8"}})),
        Contains("plate-rim") && Contains("pickup 1") && !Contains("outside-body")); // told once
    CHECK_THAT(stopsAbout(withPlate({{"outline", guard}, {"screw_inset", "18"}})),
               Contains("plate-rim") && Contains("another number of screws"));
    CHECK_THAT(
        stopsAbout(withPlate({{"outline", "-400 -62 r8, -100 -62 r8, -100 62 r8, -400 62 r8"}})),
        Contains("plate-under-neck"));
    CHECK_THAT(
        stopsAbout(withPlate({{"outline", "0 0 c, 9 0 c, 9 9 c, 0 9 c"}, {"screw_inset", "6"}})),
        Contains("too narrow for screws"));
}
