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

TEST_CASE("Necks lie side by side in one blank, turned over together", "[nest][long]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Changes one{{"neck_hold.turn", turn}};
        const Changes two{{"neck_hold.turn", turn}, {"neck_blank.pieces", "2"}};
        const Derived single = deriveOnly(withKeys(neckWith(), one), Role::neck);
        const Derived pair = deriveOnly(withKeys(neckWith(), two), Role::neck);
        const PartJob& job = *pair.job(Role::neck);
        REQUIRE(job.proof);
        CHECK(stopsOf(*job.proof).empty());
        CHECK(pair.programs.size() == single.programs.size());
        const Held& held = job.held;
        REQUIRE(held.face.places.size() == 2);
        REQUIRE(held.back->places.size() == 2);
        // A place of either neck is found at the same spot of the blank by its face and, turned
        // over as its blank is, by its back.
        for (std::size_t k = 0; k < 2; ++k) {
            for (Vec2 p : {Vec2{-60, 10}, Vec2{300, -20}}) {
                const Vec3 up = held.face.places[k].toSetup({p.x, p.y, 0});
                const Vec3 down = held.back->places[k].toSetup({p.x, p.y, 0});
                const bool side = std::string(turn) == "side-for-side";
                CHECK(down.x == Approx(side ? up.x : held.blank.length - up.x));
                CHECK(down.y == Approx(side ? held.blank.width - up.y : up.y));
            }
        }
        // Both are made, and only once: the ball goes twice as far.
        const auto lapsOf = [](const Derived& d) {
            double sum = 0;
            for (const Cut& cut : d.job(Role::neck)->plan().sides[1].cuts) {
                for (const Move& m : cut.path) {
                    sum += cut.kind == CutKind::finish && m.cuts() ? m.length() : 0;
                }
            }
            return sum;
        };
        CHECK(lapsOf(pair) == Approx(2 * lapsOf(single)).epsilon(1e-6));
    }
    // What is wrong with the second alone is found.
    Derived d = deriveDrawing(neckWith({{"neck_blank.pieces", "2"}}));
    derivePrograms(d);
    PartJob& job = *std::find_if(d.parts.begin(), d.parts.end(),
                                 [](const PartJob& j) { return j.id == Role::neck; });
    const double other = job.held.back->places[1].toSetup({}).y;
    for (RunProgram& p : job.read[1]) {
        for (Move& m : p.path) {
            if (p.has(CutKind::finish) && m.cuts() && std::abs(m.to.y - other) < 20) {
                m.from.z -= 0.3;
                m.to.z -= 0.3;
            }
        }
    }
    deriveProof(d);
    bool second = false;
    for (const Finding& f : d.findings) {
        second = second || (f.weight == Weight::stop && f.message.rfind("Piece 2", 0) == 0);
    }
    CHECK(second);
    // So many do not fit a blank that is too narrow, and not into stations.
    const Derived narrow = deriveDrawing(
        neckWith({{"neck_blank.pieces", "3"}, {"neck_blank.width", "150"}}));
    REQUIRE(findingOf(narrow.findings, "blank-too-small"));
    CHECK_THAT(findingOf(narrow.findings, "blank-too-small")->message, Contains("A row of 3 necks"));
    const Derived lying = deriveDrawing(
        neckWith({{"neck_blank.pieces", "2"}, {"machine.travel_x", "560"}}));
    REQUIRE(findingOf(lying.findings, "no-stations"));
    CHECK_THAT(findingOf(lying.findings, "no-stations")->message, Contains("one at a time"));
}
