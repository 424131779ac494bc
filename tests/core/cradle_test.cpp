// The board a neck lies in face up once its back is carved.
#include "body_support.h"
#include "neck_support.h"

#include "exchange/panel_solid.h"
#include "hold/cradle.h"
#include "mesh_support.h"
#include "part/panel_mesh.h"
#include "proof/panel_proof.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project cradled(const Changes& changes = {}) {
    return withKeys(neckWith({{"neck_hold.make_cradle", "yes"}}), changes);
}

const Trough& troughOf(const PartJob& job) {
    return *job.panel->frontFall.trough();
}

} // namespace

TEST_CASE("A trough is the back it takes up, seen from inside", "[cradle]") {
    const Derived d = deriveDrawing(cradled());
    const PartJob* job = d.job(Role::neckCradle);
    REQUIRE((job && job->placed));
    const Trough& t = troughOf(*job);
    const NeckBack& back = d.neck->part.back();
    CHECK(t.from() >= back.headTo());
    CHECK(t.to() <= back.heelFrom());
    CHECK(t.to() - t.from() > 200);
    // Where it lies is told: the glue plane over the board's face, the heel on packing.
    REQUIRE(findingOf(d.findings, "cradle-lies"));
    CHECK(findingOf(d.findings, "cradle-lies")->value == Approx(t.top()));
    const double heel = back.slice(back.heelTo()).spine();
    CHECK(packingUnderHeel(d.neck->part, *job->panel) ==
          Approx(t.top() + (job->panel->top - job->panel->bottom) - heel));
    for (double x = t.from(); x <= t.to(); x += 23) {
        const std::array<double, 2> rim = t.across(x, 0);
        for (double share : {0.02, 0.3, 0.5, 0.77, 0.98}) {
            const double y = rim[0] + (rim[1] - rim[0]) * share;
            CHECK(t.depth({x, y}) == Approx(back.depth(x, y) - t.top()).margin(1e-6));
        }
        CHECK(t.depth({x, rim[0] - 0.05}) == 0);
        CHECK(t.depth({x, rim[1] + 0.05}) == 0);
        // The neck's shoulders stay over the board's face.
        CHECK(-t.backAt(x, 1).z < t.top());
        for (double share : {-1.0, -0.4, 0.0, 0.9}) {
            const Trough::Touch touch = t.touch(x, share);
            CHECK(touch.up.z > 0);
            CHECK(length(touch.up) == Approx(1));
            CHECK(-touch.at.z - t.top() == Approx(t.depth(touch.at.xy())).margin(0.01));
        }
    }
}

TEST_CASE("A cradle's programs leave the negative of the back", "[cradle]") {
    for (const Changes& changes :
         {Changes{}, Changes{{"board.hand", "left"}},
          Changes{{"board.end", "slanted"}, {"board.treble_scale", "600"}}}) {
        const Derived d = deriveOnly(cradled(changes), Role::neckCradle);
        const PartJob* job = d.job(Role::neckCradle);
        REQUIRE((job && job->proof));
        CHECK(stopsOf(*job->proof).empty());
        REQUIRE(d.programs.size() == 2);
        CHECK(d.programs[1].program.kinds.front() == CutKind::carving);
        const ProofReport& report = job->proof->sides[0];
        CHECK(report.gougeMax < 0.01);
        CHECK(report.excessMax < d.project.bodyCut.carveScallop + 0.02);
    }
}

TEST_CASE("A cradle's program that was altered does not pass", "[cradle]") {
    const Derived d = deriveOnly(cradled(), Role::neckCradle);
    const PartJob& job = *d.job(Role::neckCradle);
    const auto judged = [&](const std::function<void(std::string&)>& alter) {
        std::vector<Program> programs;
        for (const PostedProgram& p : d.programs) {
            programs.push_back(p.program);
        }
        alter(programs[1].text);
        const SidePrograms read{readBack(programs, job.held.face), {}};
        return stopsOf(provePanel({{job.held, read}, *job.panel}, job.panelPlan(),
                                  d.project.bodyCut, d.project.machine));
    };
    CHECK(judged([](std::string&) {}).empty());
    CHECK_THAT(judged([](std::string& text) { // half of the ball's lines never run
                   const std::size_t half = text.find('\n', text.size() / 2);
                   text = text.substr(0, half + 1) + "G0 Z20\nM5\nM30\n";
               }),
               Contains("left"));
}

TEST_CASE("Solid and triangles of a cradle are closed and of one volume", "[cradle][long]") {
    const Derived d = deriveDrawing(cradled());
    const Panel& panel = *d.job(Role::neckCradle)->panel;
    const double solid = PanelSolid(panel).volume();
    const Mesh mesh = panelMesh(panel);
    CHECK(openEdges(mesh) == 0);
    CHECK(volumeOf(mesh) == Approx(solid).epsilon(2e-4));
}

TEST_CASE("A shaft too short for a cradle is told", "[cradle]") {
    const Derived d = deriveDrawing(cradled({{"board.frets", "14"},
                                             {"neck.heel_transition", "150"},
                                             {"head.transition", "150"},
                                             {"head.transition_from", "120"}}));
    REQUIRE(d.neck);
    const NeckBack& back = d.neck->part.back();
    const bool shorter = std::floor(back.heelFrom()) - std::ceil(back.headTo()) < shortestCradle;
    CHECK(findingOf(judgeCradle(d.neck->part), "cradle-too-short").has_value() == shorter);
    CHECK(shorter);
    CHECK((d.job(Role::neckCradle) == nullptr) == shorter);
}
