#include "geom/inset.h"
#include "job/fit_pass.h"
#include "panel_support.h"
#include "part/body_shapes.h"
#include "proof/tied_wood.h"

#include <numeric>

using namespace wren;
using namespace wren::test;

namespace {

PanelPocket pocket(const std::vector<Contour>& borders, double deep, bool fromBack = false) {
    PanelPocket p;
    p.what = "pocket";
    p.cut = "pockets";
    p.borders = borders;
    p.fromBack = fromBack;
    p.mouth = fromBack ? -20 : 0;
    p.floor = fromBack ? -20 + deep : -deep;
    return p;
}

Contour box(Vec2 middle, double l, double w, double r) {
    return counterClockwise(shapeOutline(boxShape(middle, l, w, r)));
}

/// The deepest of a path.
double lowest(const Path& path) {
    double z = 1e9;
    for (const Move& m : path) {
        z = std::min(z, m.to.z);
    }
    return z;
}

} // namespace

TEST_CASE("A pocket is cleared, its walls lapped last, climbing", "[panel]") {
    const Plank plank({pocket({box({0, 0}, 50, 30, 6)}, 9)});
    const PanelPlan plan = plank.plan();
    REQUIRE(plan.findings.empty());
    const Cut* cut = plan.sides[0].cutOf(CutKind::pocket);
    REQUIRE(cut);
    CHECK(lowest(cut->path) == Approx(plank.held.face.fromInstrument.toSetup({0, 0, -9}).z));
    // Of the last lap the wall is on the right: it turns left, counter-clockwise.
    double turned = 0;
    for (const Move& m : cut->path) {
        turned += m.motion == Motion::arcCounter ? m.sweep() : 0;
        turned -= m.motion == Motion::arcClockwise ? m.sweep() : 0;
    }
    CHECK(turned > 6);
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
    CHECK(proof.sides[0].wallMax < 0.003);
    CHECK(proof.sides[0].excessMax < 1e-6);
}

TEST_CASE("No rapid and no plunge meets wood anywhere in a pocket with an island", "[panel]") {
    const Contour island = clockwise(circleContour({4, 2}, 16));
    const Plank plank({pocket({box({0, 0}, 80, 50, 8), island}, 12)});
    const PanelPlan plan = plank.plan();
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed()); // the island stands, or its cells would be gouged
    for (const Cut& c : plan.sides[0].cuts) {
        if (c.what != "pockets") {
            continue;
        }
        // Entries are ramps: straight down it goes only where it has been as deep before.
        double reached = plank.held.face.topZ();
        for (const Move& m : c.path) {
            if (m.cuts() && length(m.to.xy() - m.from.xy()) < 1e-9) {
                CHECK(m.to.z >= reached - 1e-6);
            }
            reached = m.cuts() ? std::min(reached, m.to.z) : reached;
        }
    }
}

TEST_CASE("Tight corners are left to a finer bit, the rest to a wider one", "[panel]") {
    const Plank plank({pocket({box({0, 0}, 60, 40, 1.6)}, 10)});
    const PanelPlan plan = plank.plan();
    const Cut* clear = plan.sides[0].cutOf(CutKind::pocket);
    const Cut* corners = plan.sides[0].cutOf(CutKind::corners);
    REQUIRE(clear);
    REQUIRE(corners);
    CHECK(clear->bit.diameter == 6);
    CHECK(corners->bit.diameter == 3);
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
}

TEST_CASE("A sharp inside corner is refused with the numbers", "[panel]") {
    const Plank plank({pocket({box({0, 0}, 60, 40, 0)}, 10)});
    const PanelPlan plan = plank.plan();
    const auto f = findingOf(plan.findings, "no-bit");
    REQUIRE(f);
    CHECK(f->message.find("does not go into corners of 0.00 mm") != std::string::npos);
}

TEST_CASE("Down-cut where the edge is seen and shallow, up-cut deep, compression through",
          "[panel]") {
    const Plank shallow({pocket({box({0, 0}, 50, 30, 6)}, 5)});
    CHECK(shallow.plan().sides[0].cutOf(CutKind::pocket)->bit.kind == BitKind::downCut);
    const Plank deep({pocket({box({0, 0}, 50, 30, 6)}, 15)});
    CHECK(deep.plan().sides[0].cutOf(CutKind::pocket)->bit.kind == BitKind::flat);
    CHECK(deep.plan().sides[0].cutOf(CutKind::outline)->bit.kind == BitKind::compression);
    CHECK(deep.plan().sides[0].cutOf(CutKind::outline)->why.find("both faces") !=
          std::string::npos);
}

TEST_CASE("The outline's last pass climbs and is as light as the stock left", "[panel]") {
    // Climbing, a clockwise spindle has the part on its right: clockwise round it.
    const Plank plank;
    const PanelPlan plan = plank.plan();
    const Cut& cut = *plan.sides[0].cutOf(CutKind::outline);
    CHECK(cut.why.find("takes 0.25 mm") != std::string::npos);
    const Setup& setup = plan.sides[0].setup;
    double lastLap = 0;
    double nearest = 1e9;
    for (const Move& m : cut.path) {
        if (!m.cuts()) {
            continue;
        }
        const Vec2 a = setup.fromInstrument.toInstrument(m.from).xy();
        const Vec2 b = setup.fromInstrument.toInstrument(m.to).xy();
        const double off = distanceTo(plank.panel.outline, (a + b) * 0.5) - cut.bit.radius();
        nearest = std::min(nearest, distanceTo(plank.panel.outline, a) - cut.bit.radius());
        if (std::abs(off) < 1e-3 && length(b - a) > 1) { // along the wall
            const Vec2 inward = nearestOn(plank.panel.outline, (a + b) * 0.5) - (a + b) * 0.5;
            CHECK(cross(b - a, inward) < 0);
            lastLap += m.length();
        }
    }
    CHECK(nearest > -1e-3);
    CHECK(lastLap > 200); // the straight stretches; before it every lap stands that stock off
    for (const Move& m : cut.path) {
        const Vec2 p = setup.fromInstrument.toInstrument(m.to).xy();
        const double off = distanceTo(plank.panel.outline, p) - cut.bit.radius();
        if (&m - cut.path.data() < static_cast<long>(cut.path.size()) / 3 && m.cuts()) {
            CHECK(off > plank.cut.stockToLeave - 1e-3);
        }
    }
}

TEST_CASE("An outline too tall for any flutes is shared by both faces", "[panel]") {
    Plank plank({pocket({box({0, 0}, 30, 30, 6)}, 8, true)});
    plank.panel.bottom = -70;
    plank.panel.pockets[0].mouth = -70;
    plank.panel.pockets[0].floor = -62;
    plank.machine.travel.z = 200;
    plank.lay();
    const PanelPlan plan = plank.plan();
    CHECK(plan.sharedOutline);
    REQUIRE(plan.sides[0].cutOf(CutKind::outline));
    REQUIRE(plan.sides[1].cutOf(CutKind::outline));
    const PartProof proof = plank.proof(plan);
    std::string stops = stopsOf(proof);
    INFO(stops);
    CHECK(stops.find("outline") == std::string::npos);
    CHECK(stops.find("tab") == std::string::npos);
}

TEST_CASE("The proof of a panel notices what is wrong with its programs", "[panel][proof]") {
    const Plank plank({pocket({box({-20, 0}, 40, 30, 6)}, 9)},
                      {{"pin", {35, 0}, 6, 0, -12, false, false}});
    const PanelPlan good = plank.plan();
    REQUIRE(plank.proof(good).passed());
    const auto spoiled = [&](const std::string& what, const std::function<void(Move&)>& change) {
        PanelPlan plan = good;
        for (Cut& c : plan.sides[0].cuts) {
            if (c.what == what) {
                for (Move& m : c.path) {
                    change(m);
                }
            }
        }
        return stopsOf(plank.proof(plan));
    };
    SECTION("too deep") {
        CHECK(spoiled("pockets", [](Move& m) {
                  m.to.z -= m.cuts() ? 0.03 : 0;
                  m.from.z -= 0.03;
              }).find("gouge") != std::string::npos);
    }
    SECTION("not deep enough") {
        CHECK(spoiled("pockets", [](Move& m) {
                  m.to.z += m.to.z < 12 ? 0.05 : 0;
              }).find("wood-left") != std::string::npos);
    }
    SECTION("a wall shifted by 0.04 mm") {
        CHECK(spoiled("pockets", [](Move& m) {
                  m.to.y += 0.04;
                  m.from.y += 0.04;
                  m.centre.y += m.isArc() ? 0.04 : 0;
              }).find("wall: ") != std::string::npos);
    }
    SECTION("a hole in the wrong place") {
        CHECK(spoiled("pins", [](Move& m) {
                  m.to.x += 0.1;
                  m.from.x += 0.1;
              }).find("pin hole") != std::string::npos);
    }
    SECTION("a skin under the outline") {
        CHECK(spoiled("outline", [](Move& m) {
                  m.to.z += m.to.z < 1 ? 0.5 : 0;
              }).find("skin-left") != std::string::npos);
    }
    SECTION("no tabs") {
        Plank free = plank;
        free.cut.tabs = 0;
        CHECK(stopsOf(free.proof(free.plan())).find("part-free") != std::string::npos);
    }
    SECTION("a rapid through the wood") {
        CHECK(spoiled("pockets", [](Move& m) {
                  if (!m.cuts() && m.to.z > 20) {
                      m.to.z = 15;
                  }
              }).find("rapid-through-stock") != std::string::npos);
    }
}

TEST_CASE("A whole body with its lid is proved from its posted text", "[body][proof]") {
    const Derived d = derive(bodyWith());
    REQUIRE(d.body);
    for (const PartJob* piece : d.pieces()) {
        const PartJob& job = *piece;
        REQUIRE(job.proof);
        INFO(job.name() << "\n" << stopsOf(*job.proof));
        CHECK(job.proof->passed());
        for (const ProofReport& side : job.proof->sides) {
            CHECK(side.wallMax < wallAllowed);
            CHECK(side.gougeMax < gougeAllowed);
        }
    }
    // The neck goes into its pocket with the room that was asked for, and the lid into its ledge.
    REQUIRE(d.body->neckFit);
    REQUIRE(d.body->neckFit->places.size() > 50);
    CHECK(d.body->neckFit->least == Approx(0.08).margin(0.01));
    REQUIRE(d.body->lidFit);
    CHECK(d.body->lidFit->least == Approx(0.25).margin(0.01));
    CHECK(d.body->lidFit->most == Approx(0.25).margin(0.02));
    // Every program belongs to a setup of its own piece.
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const ProgramPlace place = d.placeOf(i);
        REQUIRE(place.job);
        CHECK(place.setup().part == d.programs[i].program.part);
        CHECK(place.setup().name == d.programs[i].program.setup);
    }
}

TEST_CASE("Bodies of every kind are proved", "[body][proof]") {
    if (WREN_SANITIZED) {
        return;
    }
    const std::vector<Changes> kinds{
        {{"neck_pocket.angle", "3"}},
        {{"neck_pocket.angle", "-1"}, {"board.hand", "left"}},
        {{"body_hold.turn", "end-for-end"}},
        {{"body_hold.z_face", "top"}, {"body_hold.z_back", "top"}},
        {{"body_blank.thickness", "1 7/8 in"}},
        {{"neck.heel_shape", "square"}, {"neck_pocket.relief", "dogbone"}},
        {{"body.build", "topped"},
         {"body.chambers", "-40 -104 s, 10 -130 s, 62 -120 s, 86 -72 s, 60 -52 r12, -20 -54 r12"},
         {"body.channels", "-140 40 -60 52 8 14; -60 52 0 74 8 14"},
         {"body_blank.top_thickness", "11"}},
        {{"bridge.kind", "posts"},
         {"cavity.fixing", "screws"},
         {"cavity.fixing_size", "2"},
         {"jack.kind", "cup"},
         {"jack.x", "70"},
         {"jack.y", "-110"}},
        {{"body_hold.register", "marks"}, {"body_cut.tabs", "6"}},
        {{"body.front_edge", "round"},
         {"body.front_edge_size", "8"},
         {"body.back_edge", "chamfer"},
         {"body.back_edge_size", "5"},
         {"body_hold.turn", "end-for-end"}},
        {{"board.hand", "left"},
         {"body.front_slopes", "40 -60 116 20 12 40; -240 90 -180 126 8 25"},
         {"body.back_slopes", "-140 -100 -10 -120 14 60 24"},
         {"body.front_edge", "round"},
         {"body.front_edge_size", "3"}},
        {{"body.arch", "7"},
         {"body.arch_width", "70"},
         {"body.front_edge", "chamfer"},
         {"body.front_edge_size", "2"},
         {"body_hold.z_face", "top"}},
        {{"body_blank.outside", "saw"}, {"body_blank.saw_off", "4"}},
        {{"body_blank.outside", "saw"},
         {"body.front_edge", "round"},
         {"body.back_edge", "round"},
         {"body.thickness", "38"}},
        {{"body.recesses", "front 2.5: 60 -20 r4, 90 -20 r4, 90 20 r4, 60 20 r4; back through: -90 "
                           "-104 r5, -60 -104 r5, -60 -84 r5, -90 -84 r5; inlay 1.5: -20 -60 c, 20 "
                           "-60 c, 0 -34 c"},
         {"bridge.kind", "singles"},
         {"bridge.screws", "2"},
         {"body.thickness", "40"}}};
    for (const Changes& changes : kinds) {
        const Derived d = derive(bodyWith(changes));
        REQUIRE(d.body);
        for (const PartJob* piece : d.pieces()) {
            const PartJob& job = *piece;
            REQUIRE(job.proof);
            INFO(changes.front().first << " " << changes.front().second << ", " << job.name()
                                       << "\n"
                                       << stopsOf(*job.proof));
            CHECK(job.proof->passed());
        }
    }
}

TEST_CASE("A second side that lies off shows in the proof", "[body][proof]") {
    const Derived d = drawnBody(bodyWith());
    const PartProof shifted = provedPiece(d, Role::body, [](PanelPlan& plan) {
        for (Cut& c : plan.sides[1].cuts) {
            for (Move& m : c.path) {
                m.from.y += 0.05;
                m.to.y += 0.05;
                m.centre.y += m.isArc() ? 0.05 : 0;
            }
        }
    });
    CHECK_FALSE(shifted.passed());
    CHECK(shifted.sides[1].wallMax > 0.04);
}

TEST_CASE("A glued-up piece keeps its chambers until something opens them", "[stock]") {
    Blank b;
    b.length = 20;
    b.width = 20;
    b.thickness = 10;
    Stock core(b, 0, 1);
    for (int r = 5; r < 15; ++r) {
        for (int c = 5; c < 15; ++c) {
            core.row(r)[c] = 4;
        }
    }
    b.thickness = 3;
    const Stock top(b, 0, 1);
    Stock glued = core;
    glued.glueOn(top, 10, 13);
    CHECK(glued.volume() == Approx(20 * 20 * 13 - 10 * 10 * 6));
    CHECK(glued.high(8, 8) == Approx(13));
    // Turned over, the hollow lies where it was.
    const Stock turned = glued.turnedSideForSide(20, 20, 0);
    CHECK(turned.volume() == Approx(glued.volume()));
    // A cut down into it makes the chamber's floor the top.
    glued.row(8)[8] = 9;
    glued.openCutHollows();
    CHECK(glued.high(8, 8) == Approx(4));
    CHECK(glued.high(9, 9) == Approx(13));
    CHECK(glued.lifted(2).high(9, 9) == Approx(15));
}

TEST_CASE("A fit pass takes just that much off a pocket's walls", "[body][fit][long]") {
    const Project p = bodyWith();
    for (const char* what : {"neck pocket", "ledge"}) {
        const FitPass pass = deriveFitPass(p, what, 0.1);
        INFO(what);
        REQUIRE(pass.program);
        for (const Finding& f : pass.findings) {
            CHECK(f.weight != Weight::stop);
        }
        CHECK(pass.wallMax < 0.003);
        // No deeper than the floor, and one lap is enough.
        const Derived d = drawnBody(p);
        const PanelPocket& pocket = pocketNamed(*d.body->part.panel(Role::body), what);
        const double floor = pass.setup.fromInstrument.toSetup({0, 0, pocket.floor}).z;
        CHECK(pass.program->extents[0].z == Approx(floor).margin(1e-3));
        CHECK(pass.program->time.seconds < 120);
        const Folder folder;
        CHECK(postFitPass(pass, folder.str()).rfind("fit-", 0) == 0);
    }
    CHECK_THROWS_WITH(deriveFitPass(p, "neck pocket", 0.5), Catch::Contains("0.02 to 0.20 mm"));
    CHECK_THROWS_WITH(deriveFitPass(p, "sauna", 0.1), Catch::Contains("it has: neck pocket"));
}

TEST_CASE("All of a name are fitted together: channels, magnets, a layer's chambers",
          "[body][fit][long]") {
    const Project p = bodyWith({{"body.channels", "-60 24 -20 24 8 10; -60 -24 -20 -24 8 10"}});
    const Derived d = drawnBody(p);
    const std::vector<std::string> names = fitNames(d);
    for (const char* wanted : {"neck pocket", "ledge", "channel", "pickup 1", "cavity"}) {
        CHECK(std::count(names.begin(), names.end(), wanted) == 1);
    }
    const FitPass pass = deriveFitPass(p, "channel", 0.05);
    REQUIRE(pass.program);
    CHECK(pass.findings.empty());
    CHECK(pass.wallMax < 0.003);
    // Both of them: the program goes to either side of the centreline.
    const double centre = pass.setup.fromInstrument.toSetup({0, 0, 0}).y;
    CHECK(pass.program->extents[0].y < centre - 20);
    CHECK(pass.program->extents[1].y > centre + 20);
    const Project topped =
        bodyWith({{"body.build", "topped"},
                  {"body.chambers", "-60 -90 r12, 40 -90 r12, 40 -50 r12, -60 -50 r12"}});
    CHECK(deriveFitPass(topped, "chamber", 0.1).setup.part == Role::core);
}

TEST_CASE("What begins in a pocket no bit can cut is not cut into the wood over it",
          "[panel][cut]") {
    // No bit goes into corners of 0.2 mm; the round one on its floor alone would be easy.
    PanelPocket tight = pocketOf("tight", shapeOutline(boxShape({0, 0}, 60, 40, 0.2)), -8, 0);
    tight.feature = {FeatureKind::recess, 0};
    PanelPocket seat = pocketOf("seat", circleContour({0, 0}, 20), -12, -8);
    seat.feature = {FeatureKind::seat, 0};
    const PanelPlan plan = Plank({tight, seat}).plan();
    REQUIRE(plan.findings.size() == 1);
    CHECK(plan.findings[0].code == "no-bit");
    CHECK(plan.findings[0].feature == tight.feature);
    CHECK(plan.tasks.empty());
    // Where the outer one can be cut, both are, the inner one after it.
    tight = pocketOf("wide", shapeOutline(boxShape({0, 0}, 60, 40, 6)), -8, 0);
    const Plank plank({tight, seat});
    const PanelPlan both = plank.plan();
    REQUIRE(both.tasks.size() == 2);
    CHECK(*both.tasks[0].cut <= *both.tasks[1].cut);
    CHECK(stopsOf(plank.proof(both)) == "");
}

TEST_CASE("A task names the cut that makes its pocket, whatever cuts are called", "[panel][cut]") {
    // Two pockets of one word: the corners of each want a bit of their own.
    const PanelPocket a = pocketOf("pocket", shapeOutline(boxShape({-30, 0}, 40, 40, 3.2)), -6, 0);
    const PanelPocket b = pocketOf("pocket", shapeOutline(boxShape({30, 0}, 40, 40, 1)), -6, 0);
    const Plank plank({a, b});
    const PanelPlan plan = plank.plan();
    REQUIRE(plan.tasks.size() == 2);
    for (const PanelTask& t : plan.tasks) {
        const Cut* cut = plan.cutOf(t);
        REQUIRE(cut);
        CHECK(cut->bit.name == t.bit);
        CHECK(cut->bit.radius() <= (t.feature == 0 ? 3.2 : 1.0) + 1e-9);
    }
    CHECK(stopsOf(plank.proof(plan)) == "");
}

TEST_CASE("A trench must pass the underside by what counts as through", "[panel][proof]") {
    const Plank plank;
    const PanelPlan plan = plank.plan();
    for (double past : {plank.cut.through, 2 * throughBy, throughBy / 2, -0.2}) {
        PanelPlan spoilt = plan;
        for (Move& m : spoilt.sides[0].cuts.back().path) {
            for (Vec3* p : {&m.from, &m.to}) {
                p->z = m.cuts() ? std::max(p->z, -past) : p->z;
            }
        }
        const bool skin = stopsOf(plank.proof(spoilt)).find("skin-left") != std::string::npos;
        INFO(past);
        CHECK(skin == (past < throughBy));
    }
}
