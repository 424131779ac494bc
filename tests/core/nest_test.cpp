// Several pieces of one kind in one blank.
#include "body_support.h"
#include "neck_support.h"

#include "proof/panel_proof.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

std::size_t cutsIn(const Derived& d) {
    std::size_t n = 0;
    for (const RunProgram& p : d.read(Role::lid)) {
        for (const Move& m : p.path) {
            n += m.cuts() && m.from.xy() != m.to.xy() ? 1 : 0;
        }
    }
    return n;
}

} // namespace

TEST_CASE("Several lids are cut from one piece, each as the first", "[nest]") {
    const Derived one = deriveOnly(bodyWith(), Role::lid);
    const Derived three = deriveOnly(bodyWith({{"body_blank.lids", "3"}}), Role::lid);
    const PartJob& job = *three.job(Role::lid);
    REQUIRE(job.proof);
    CHECK(stopsOf(*job.proof).empty());
    CHECK_FALSE(hasStop(three.findings));
    const Setup& setup = job.held.face;
    REQUIRE(setup.places.size() == 3);
    CHECK(three.programs.size() == one.programs.size()); // no bit is mounted twice
    CHECK(cutsIn(three) == 3 * cutsIn(one));
    // Every one of them lies within the blank, none in another's trench.
    const auto box = job.panel->box();
    for (std::size_t k = 0; k < 3; ++k) {
        for (Vec2 corner : box) {
            const Vec2 at = setup.places[k].toSetup({corner.x, corner.y, 0}).xy();
            CHECK((at.x > 10 && at.y > 10 && at.x < setup.blank.length - 10 &&
                   at.y < setup.blank.width - 10));
        }
        for (std::size_t i = 0; i < k; ++i) {
            const Vec3 a = setup.places[i].toSetup({0, 0, 0});
            const Vec3 b = setup.places[k].toSetup({0, 0, 0});
            CHECK((std::abs(a.x - b.x) > box[1].x - box[0].x + 19 ||
                   std::abs(a.y - b.y) > box[1].y - box[0].y + 19));
        }
    }
    // A piece too small for all of them says so with the sizes.
    const Derived small = deriveDrawing(bodyWith({{"body_blank.lids", "3"},
                                                  {"body_blank.lid_width", "100"},
                                                  {"body_blank.lid_length", "130"}}));
    REQUIRE(findingOf(small.findings, "blank-too-small"));
    CHECK_THAT(findingOf(small.findings, "blank-too-small")->message, Contains("3 pieces like the lid"));
}

TEST_CASE("A fault in the last of several pieces is found", "[nest]") {
    Derived d = deriveOnly(bodyWith({{"body_blank.lids", "2"}}), Role::lid);
    const PartJob& job = *d.job(Role::lid);
    REQUIRE(job.held.face.places.size() == 2);
    // The outline's program ends half way through: the second piece is never cut out.
    SidePrograms read = job.read;
    Path& path = read[0].back().path;
    path.resize(path.size() / 2 + 2);
    Held other = job.held;
    other.face = job.held.face.at(1);
    const auto judged = [&](const Held& held) {
        return stopsOf(provePanel({PartSides{held, read, {}, {}}, *job.panel}, job.panelPlan(),
                                  d.project.bodyCut, d.project.machine));
    };
    CHECK(judged(job.held).empty());
    CHECK_FALSE(judged(other).empty());
}

TEST_CASE("Several plates are cut from one sheet", "[nest]") {
    Project p = bodyWith();
    p.body.plates.resize(1);
    p.body.plates[0].kind = PlateKind::cavityCover;
    p.body.plates[0].pieces = 2;
    const Derived d = deriveOnly(p, PartId(Role::plate, 1));
    const PartJob* job = d.job({Role::plate, 1});
    REQUIRE((job && job->proof));
    CHECK(job->held.face.places.size() == 2);
    CHECK(stopsOf(*job->proof).empty());
}
