// What is cut in a body's layers before they are glued.

#include "body_support.h"
#include "job/cures.h"
#include "job/drawer.h"
#include "job/hand_steps.h"
#include "part/body_layers.h"

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

const Changes apart{{"cavity.cut", "before-gluing"},
                    {"body.pickups.0.cut", "before-gluing"},
                    {"body.pickups.1.cut", "before-gluing"},
                    {"body.controls.0.cut", "before-gluing"},
                    {"body.controls.1.cut", "before-gluing"}};

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
