// What is cut in a body's layers before they are glued.

#include "body_support.h"
#include "job/cures.h"
#include "job/drawer.h"
#include "job/hand_steps.h"
#include "job/store.h"
#include "part/body_layers.h"

#include <random>

using namespace wren;
using namespace wren::test;

namespace {

/// Glued up of three; the cavity's floor lies in the top, the pots' seats are thinner still.
Project layered(const Changes& changes = {}) {
    Changes all{{"body.build", "topped"},
                {"body.thickness", "46"},
                {"body.top", "8"},
                {"body.back", "6"},
                {"cavity.wood", "6"},
                {"body.controls.0.seat", "26"},
                {"body.controls.1.seat", "26"},
                {"cavity.ledge", "9"}};
    all.insert(all.end(), changes.begin(), changes.end());
    return bodyWith(all);
}

const Changes apart{{"cavity.cut", "in-layers"},
                    {"body.pickups.0.cut", "in-layers"},
                    {"body.pickups.1.cut", "in-layers"},
                    {"body.controls.0.cut", "in-layers"},
                    {"body.controls.1.cut", "in-layers"}};

std::size_t cutsOf(const Derived& d, PartId part, FeatureKind kind) {
    const PartJob& job = *d.job(part);
    std::size_t n = 0;
    for (const PanelTask& t : job.panelPlan().tasks) {
        n += featureOf(*job.panel, static_cast<int>(t.feature)).kind == kind ? 1 : 0;
    }
    return n;
}

std::string stopsIn(const Derived& d) {
    std::string out;
    for (const Finding& f : d.findings) {
        out +=
            f.weight == Weight::stop ? f.part.name() + " " + f.code + ": " + f.message + "\n" : "";
    }
    return out;
}

} // namespace

TEST_CASE("A cavity is shared out: through core and back, thinned from behind the top",
          "[body][layers][apart]") {
    const Derived d = drawnBody(layered(apart));
    const auto share = [&](Role role, FeatureKind kind) {
        for (const PanelPocket& p : d.body->part.panel(role)->pockets) {
            if (p.feature.kind == kind) {
                return p;
            }
        }
        FAIL("no share");
        return PanelPocket{};
    };
    for (Role role : {Role::core, Role::back}) {
        const PanelPocket p = share(role, FeatureKind::cavity);
        CHECK(p.through);
        CHECK_FALSE(p.fromBack);
        CHECK(p.stage == PocketStage::share);
    }
    const PanelPocket thinned = share(Role::top, FeatureKind::cavity);
    CHECK(thinned.fromBack);
    CHECK(thinned.mouth == Approx(-8));
    CHECK(thinned.floor == Approx(-6));
    const PanelPocket seat = share(Role::top, FeatureKind::seat);
    CHECK(seat.floor == Approx(-3.2)); // about 1/8 in over a pot: common practice, no source
    // A pickup 19 mm deep goes through the top and 11 mm into the core.
    CHECK(share(Role::top, FeatureKind::pickup).through);
    CHECK(share(Role::core, FeatureKind::pickup).floor == Approx(-19));
    CHECK_FALSE(share(Role::core, FeatureKind::pickup).through);
    // The finished body is drawn the same, whenever it is cut.
    const Derived glued = drawnBody(layered());
    CHECK(d.body->part.volume() == Approx(glued.body->part.volume()).epsilon(1e-4));
    CHECK(d.body->part.pockets().size() == glued.body->part.pockets().size());
}

TEST_CASE("What a bit must reach is told for both ways", "[body][layers][apart]") {
    const Derived d = drawnBody(layered(apart));
    const BitReach cavity = reachFor(d.body->part, {FeatureKind::cavity});
    CHECK(cavity.glued == Approx(40)); // 46 thick, 6 left
    CHECK(cavity.apart == Approx(32)); // the core
    const BitReach seat = reachFor(d.body->part, {FeatureKind::seat, 0});
    CHECK(seat.glued == Approx(46 - 3.2));
    CHECK(seat.apart == Approx(8 - 3.2));
    CHECK(reachFor(drawnBody(layered()).body->part, {FeatureKind::cavity}).apart == 0);
}

TEST_CASE("A body cut in its layers is proved and comes out as one cut after gluing",
          "[body][layers][apart]") {
    if (WREN_SANITIZED) {
        return;
    }
    const Derived before = derive(layered(apart));
    CHECK(stopsIn(before) == "");
    const Derived after = derive(layered());
    CHECK(stopsIn(after) == "");
    for (FeatureKind kind : {FeatureKind::cavity, FeatureKind::pickup, FeatureKind::seat}) {
        CHECK(cutsOf(before, Role::body, kind) == 0);
        CHECK(cutsOf(after, Role::body, kind) > 0);
        CHECK(cutsOf(before, Role::top, kind) > 0);
        CHECK(cutsOf(after, Role::top, kind) == 0);
    }
    CHECK(cutsOf(before, Role::core, FeatureKind::cavity) == 1);
    CHECK(cutsOf(before, Role::body, FeatureKind::ledge) == 1); // waits for the glue
    // The wood that is left, from the posted programs of all pieces.
    const auto wood = [](const Derived& d) { return d.job(Role::body)->proof->stock->volume(); };
    CHECK(wood(before) == Approx(wood(after)).epsilon(2e-3));
    // Its plugs are sawn out before the glue.
    const HandStep step = handStepBefore(&before.body->part, *before.job(Role::body)->panel);
    CHECK(step.what.find("plugs sawn out") != std::string::npos);
}

TEST_CASE("A core no bit reaches through is cut half from each face", "[body][layers][apart]") {
    if (WREN_SANITIZED) {
        return;
    }
    // 42 mm of core: no flutes in the drawer are as long.
    const Derived d = derive(layered({{"body.thickness", "60"},
                                      {"body.top", "8"},
                                      {"body.back", "10"},
                                      {"cavity.cut", "in-layers"}}));
    const PartJob& core = *d.job(Role::core);
    REQUIRE(core.panel->thickness() == Approx(42));
    REQUIRE(core.held.back);
    CHECK(core.panelPlan().halved.size() == 1);
    for (std::size_t side : {0U, 1U}) {
        CHECK(cutsOf(d, Role::core, FeatureKind::cavity) == 2);
        CHECK_FALSE(core.plan().sides[side].cuts.empty());
    }
    INFO(stopsIn(d));
    CHECK(core.proof->passed());
}

TEST_CASE("A seat cut before its cavity goes in from behind the top", "[body][layers][apart]") {
    const Derived d = drawnBody(layered({{"body.controls.0.cut", "in-layers"}}));
    for (const PanelPocket& p : d.body->part.panel(Role::top)->pockets) {
        CHECK(p.feature.kind == FeatureKind::seat);
        CHECK(p.fromBack);
        CHECK(p.mouth == Approx(-8)); // the underside: there is no cavity yet
        CHECK(p.floor == Approx(-3.2));
    }
    CHECK(d.body->part.panel(Role::top)->pockets.size() == 1);
}

TEST_CASE("Random bodies cut in their layers hold what both ways say", "[body][layers][apart]") {
    if (WREN_SANITIZED) {
        return;
    }
    std::mt19937 random(71);
    const auto one = [&](std::initializer_list<const char*> words) {
        std::uniform_int_distribution<std::size_t> which(0, words.size() - 1);
        return *(words.begin() + static_cast<std::ptrdiff_t>(which(random)));
    };
    for (int i = 0; i < 4; ++i) {
        const Project p = layered({{"board.hand", one({"right", "left"})},
                                   {"body.top", one({"4", "6", "9"})},
                                   {"body.back", one({"0", "5", "8"})},
                                   {"cavity.wood", one({"3.5", "5", "8"})},
                                   {"cavity.cut", one({"glued-up", "in-layers"})},
                                   {"body.pickups.0.cut", one({"glued-up", "in-layers"})},
                                   {"body.pickups.1.cut", "in-layers"},
                                   {"body.controls.0.cut", one({"glued-up", "in-layers"})},
                                   {"body.controls.0.seat_wood", "3"},
                                   {"body.controls.1.seat", one({"0", "25"})},
                                   {"body.controls.1.seat_wood", "3"},
                                   {"body_cut.plug_tabs", one({"0", "2"})},
                                   {"body_hold.turn", one({"side-for-side", "end-for-end"})}});
        INFO(projectToText(p));
        const Derived d = derive(p);
        CHECK(stopsIn(d) == "");
        REQUIRE(d.job(Role::body)->proof);
        // What is left of the blank beyond the outline is the same whichever way it is cut.
        Project glued = p;
        glued.body.cavity.cut = CutWhen::glued;
        for (Pickup& pickup : glued.body.pickups) {
            pickup.cut = CutWhen::glued;
        }
        for (Control& control : glued.body.controls) {
            control.cut = CutWhen::glued;
        }
        const Derived other = deriveDrawing(glued);
        CHECK(d.body->part.volume() == Approx(other.body->part.volume()).epsilon(1e-4));
    }
}

TEST_CASE("A layer's spoilt share is found when the body is proved", "[body][layers][apart]") {
    if (WREN_SANITIZED) {
        return;
    }
    Derived d = deriveDrawing(layered(apart));
    derivePrograms(d);
    // The thinning behind the top gone 1 mm too deep.
    for (RunProgram& program :
         d.parts[static_cast<std::size_t>(d.job(Role::top) - d.parts.data())].read[1]) {
        for (Move& m : program.path) {
            m.from.z -= m.cuts() ? 1 : 0;
            m.to.z -= m.cuts() ? 1 : 0;
        }
    }
    deriveProof(d);
    CHECK_FALSE(d.job(Role::top)->proof->passed());
    CHECK_FALSE(d.job(Role::body)->proof->passed());
}

TEST_CASE("Where no bit reaches in the glued body its layers are offered",
          "[body][layers][apart]") {
    Project p = layered({{"body.thickness", "60"}, {"body.back", "8"}});
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    bool offered = false;
    for (const Finding& f : d.findings) {
        if (f.code == "no-bit" && f.feature.kind == FeatureKind::cavity) {
            const std::vector<Cure> cures = curesFor(d, f);
            REQUIRE(cures.size() == 1);
            CHECK(cures[0].label == "Cut the cavity in the layers, before gluing");
            CHECK(cured(p, cures[0]).body.cavity.cut == CutWhen::apart);
            offered = true;
        }
    }
    CHECK(offered);
}

TEST_CASE("A seat wider than its cavity is stopped with a size that fits",
          "[body][layers][apart]") {
    const Project p = layered({{"body.controls.0.seat", "60"}});
    const Derived d = deriveDrawing(p);
    const auto it = std::find_if(d.findings.begin(), d.findings.end(),
                                 [](const Finding& f) { return f.code == "seat-outside"; });
    REQUIRE(it != d.findings.end());
    CHECK(it->weight == Weight::stop);
    const std::vector<Cure> cures = curesFor(d, *it);
    REQUIRE(cures.size() == 1);
    const Derived after = deriveDrawing(cured(p, cures[0]));
    CHECK(std::none_of(after.findings.begin(), after.findings.end(),
                       [](const Finding& f) { return f.code == "seat-outside"; }));
}

TEST_CASE("A ledge too narrow for what holds the lid is told with a width that fits",
          "[body][cavity]") {
    const auto narrow = [](const Project& p) {
        const Derived d = deriveDrawing(p);
        for (const Finding& f : d.findings) {
            if (f.code == "narrow-ledge") {
                return std::optional(std::pair(f, curesFor(d, f)));
            }
        }
        return std::optional<std::pair<Finding, std::vector<Cure>>>();
    };
    // Half a millimetre of wood on either side of a 6.35 mm magnet.
    CHECK_FALSE(narrow(layered({{"cavity.ledge", "7.36mm"}})));
    CHECK_FALSE(narrow(layered({{"cavity.ledge", "0"}})));
    CHECK_FALSE(narrow(layered({{"cavity.ledge", "3mm"}, {"cavity.fixings", "0"}})));
    CHECK_FALSE(narrow(layered(
        {{"cavity.ledge", "3mm"}, {"cavity.fixing", "screws"}, {"cavity.fixing_size", "2mm"}})));
    const auto open = narrow(layered({{"cavity.ledge", "6.3mm"}}));
    REQUIRE(open);
    CHECK(open->first.weight == Weight::stop); // the hole would come out of the ledge
    const Project p = layered({{"cavity.ledge", "7.2mm"}});
    const auto found = narrow(p);
    REQUIRE(found);
    CHECK(found->first.weight == Weight::caution);
    CHECK(found->first.message ==
          "The cavity's ledge is 7.2 mm wide; magnets of 6.35 mm want one of 7.35 mm.");
    REQUIRE(found->second.size() == 1);
    CHECK_FALSE(narrow(cured(p, found->second[0])));
}
