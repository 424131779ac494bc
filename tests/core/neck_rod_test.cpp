#include "neck_support.h"

#include "proof/neck_proof.h"

#include <algorithm>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project rodFromBack(const char* cover = "3.5") {
    return neckWith({{"rod.from", "back"},
                     {"rod.depth", "6"},
                     {"rod.adjuster_depth", "6"},
                     {"rod.cover", cover},
                     {"neck.stations", "1 22 C, 12 24 C"}});
}

std::string messagesOf(const Findings& findings) {
    std::string all;
    for (const Finding& f : findings) {
        all += f.message + "\n";
    }
    return all;
}

double leastWood(const HeldNeck& n) {
    double least = 1e9;
    for (const WoodUnder& w : n.woodUnder) {
        least = std::min(least, w.wood);
    }
    return least;
}

} // namespace

TEST_CASE("A rod from the back is shut in before the back is carved", "[neck][rod][proof]") {
    Project p = rodFromBack();
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    REQUIRE(d.neck);
    const std::vector<Cut>& face = d.job(Role::neck)->neckPlan().sides[0].cuts;
    const std::vector<Cut>& back = d.job(Role::neck)->neckPlan().sides[1].cuts;
    CHECK(std::none_of(face.begin(), face.end(), [](const Cut& c) { return c.what == "rod"; }));
    REQUIRE(back.size() > 2);
    CHECK(back[0].what == "rod");
    CHECK(back[0].handBefore.empty());
    CHECK_THAT(back[1].handBefore, Contains("strip"));
    // The same bit may go on, but not in the same program: a night lies between.
    const auto glued =
        std::find_if(d.programs.begin(), d.programs.end(), [](const PostedProgram& q) {
            return !q.program.handBefore.empty() && q.program.part == Role::neck;
        });
    REQUIRE(glued != d.programs.end());
    CHECK((glued - 1)->program.what == std::vector<std::string>{"rod"});
    CHECK_THAT(glued->program.text, Contains("By hand first: Lay the rod in"));

    if (WREN_SANITIZED) {
        return;
    }
    deriveProof(d);
    INFO(messagesOf(d.findings));
    REQUIRE(d.job(Role::neck)->proof);
    CHECK(d.job(Role::neck)->proof->passed());
    CHECK(d.job(Role::neck)->proof->rodWoodLeast ==
          Approx(3.5).margin(0.02)); // over it; the strip is thicker
    // The same programs for a neck whose slot should end lower: found when the strip goes in.
    const HeldNeck other = drawnNeck(rodFromBack("4.2"));
    const PartJob& job = *d.job(Role::neck);
    const PartProof wrong = proveNeck(other.part, neckSides(other.part, other.held, job.read),
                                      job.neckPlan(), p.neckCut, p.machine);
    CHECK_FALSE(wrong.passed());
    CHECK_THAT(messagesOf(wrong.sides[1].findings),
               Contains("The rod's slot is 0.7") && Contains("too deep before it is filled"));
}

TEST_CASE("Wood on both sides of a rod from the back is asked for", "[neck][rod]") {
    const auto said = [](const Project& p) { return messagesOf(deriveDrawing(p).findings); };
    CHECK_THAT(said(rodFromBack("2.5")),
               Contains("2.50 mm of wood is left between the rod's slot and the glue plane"));
    CHECK_THAT(said(rodFromBack()), !Contains("between the rod's slot"));
    CHECK_THAT(said(withKey(rodFromBack(), "rod.depth", "12")),
               Contains("under the rod's room") || Contains("The rod's room breaks through"));
    // The strip is what is left of the neck below cover and rod.
    const HeldNeck n = drawnNeck(rodFromBack());
    const RodRoom room(n.part.design().rod, n.part.back());
    const auto s = room.at(200);
    REQUIRE(s);
    CHECK(s->roof == Approx(3.5));
    CHECK(s->floor == Approx(9.5));
    CHECK(leastWood(n) < n.part.back().slice(200).spine() - 9.5 + 1e-9);
}

TEST_CASE("A slot that follows keeps the same wood under it", "[neck][rod]") {
    const auto spread = [](const char* run) {
        const HeldNeck n = drawnNeck(neckWith({{"rod.run", run},
                                               {"rod.adjuster_length", "0"},
                                               {"rod.start", "40"},
                                               {"rod.length", "300"},
                                               {"neck.stations", "1 20 C, 12 24 C"}}));
        double least = 1e9;
        double most = 0;
        for (const WoodUnder& w : n.woodUnder) {
            least = std::min(least, w.wood);
            most = std::max(most, w.wood);
        }
        return std::pair{least, most - least};
    };
    const auto [level, levelSpread] = spread("level");
    const auto [follows, followsSpread] = spread("follows");
    CHECK(follows == Approx(level).margin(0.05)); // as deep where the neck is thinnest
    CHECK(levelSpread > 2);
    CHECK(followsSpread < 0.6); // the corners see a rounder or flatter back, no more
}

TEST_CASE("The path of a slot that follows lies on its floor", "[neck][rod][cut]") {
    for (const char* floor : {"flat", "round"}) {
        const Project p = neckWith({{"rod.run", "follows"},
                                    {"rod.floor", floor},
                                    {"rod.width", "6"},
                                    {"rod.adjuster_length", "0"},
                                    {"neck.stations", "1 20 C, 12 24 C"}});
        const HeldNeck n = drawnNeck(p);
        const NeckPocket& slot = n.part.pockets().front();
        REQUIRE(slot.run.size() > 10);
        const Bit bit = *findBit(p.bits, std::string(floor) == "flat" ? "flat-6" : "ball-6");
        const Setup& setup = n.held.face;
        const Path path = pocketPath({n.part, setup, p.neckCut, p.machine.spoilDepth}, {slot}, bit,
                                     {18000, 2000, 500, 3, ""});
        for (const Move& m : path) {
            const Vec3 at = setup.fromInstrument.toInstrument(m.to);
            if (m.cuts()) {
                CHECK(at.z - slot.bottomAt(at.x) > -1e-6);
            }
        }
        // A level end stands on the slope with its rim and leaves the floor itself behind it.
        const double rim = cutsFlat(bit.kind) ? bit.radius() : 0;
        for (double x = slot.box[0].x + 10; x < slot.box[1].x - 10; x += 25) {
            double over = 1e9;
            for (const Move& m : path) {
                const Vec3 a = setup.fromInstrument.toInstrument(m.from);
                const Vec3 b = setup.fromInstrument.toInstrument(m.to);
                if (m.cuts() && (a.x - x) * (b.x - x) <= 0 && a.x != b.x) {
                    const double z = a.z + (b.z - a.z) * (x - a.x) / (b.x - a.x);
                    const double floorThere =
                        std::max(slot.bottomAt(x - rim), slot.bottomAt(x + rim));
                    over = std::min(over, z - floorThere);
                }
            }
            CHECK(over == Approx(0).margin(1e-3));
        }
    }
}

TEST_CASE("A nut on a fan gets its slot along its own line", "[neck][cut]") {
    const Project p =
        withKey(withKey(neckWith({{"neck.nut_slot", "3"}, {"neck.nut_thickness", "5"}}),
                        "board.treble_scale", "600"),
                "board.square_fret", "8");
    const HeldNeck n = drawnNeck(p);
    const auto nut =
        std::find_if(n.part.pockets().begin(), n.part.pockets().end(),
                     [](const NeckPocket& q) { return q.kind == NeckPocketKind::nut; });
    REQUIRE(nut != n.part.pockets().end());
    const Fan fan(p.board);
    const FretLine line = fan.line(0);
    const Vec2 along = (line.treble - line.bass) * (1 / length(line.treble - line.bass));
    CHECK(std::abs(dot(nut->way, along)) < 1e-9); // square to the nut's line
    CHECK(std::abs(along.x) > 0.02);              // which does stand askew
    // Its front side is that line, its back side lies 5 mm behind, and the head begins after both.
    CHECK(nut->holds(line.bass + nut->way * -0.01));
    CHECK_FALSE(nut->holds(line.bass + nut->way * 0.01));
    CHECK(nut->holds(line.treble + nut->way * -4.99));
    CHECK_FALSE(nut->holds(line.treble + nut->way * -5.01));
    for (Vec2 corner : {line.bass + nut->way * -5, line.treble + nut->way * -5}) {
        CHECK(n.part.outline().headStart() <= corner.x + 0.05);
    }
    CHECK(n.part.outline().headStart() < -5);
    const Bit bit = *findBit(p.bits, "flat-3");
    const Path path = pocketPath({n.part, n.held.face, p.neckCut, p.machine.spoilDepth}, {*nut},
                                 bit, {18000, 2000, 500, 3, ""});
    for (const Move& m : path) {
        if (m.cuts()) {
            const Vec2 own = nut->own(n.held.face.fromInstrument.toInstrument(m.to).xy());
            CHECK(own.x >= nut->box[0].x + 1.5 - 1e-6);
            CHECK(own.x <= nut->box[1].x - 1.5 + 1e-6);
        }
    }
}

TEST_CASE("A face plate's screws keep clear of tuners and edges", "[neck][head]") {
    const Project p = neckWith({{"head.plate", "1.5"}, {"head.plate_screws", "2"}});
    const HeldNeck n = drawnNeck(p);
    std::vector<Hole> cauls;
    for (const Hole& h : n.part.holes()) {
        if (h.what == "caul") {
            cauls.push_back(h);
        }
    }
    REQUIRE(cauls.size() == 2);
    CHECK(cauls[0].at.x - cauls[1].at.x > 60); // apart, so that the plate cannot turn
    for (const Hole& h : cauls) {
        CHECK(h.at.x < n.part.plateEnd());
        CHECK(distanceTo(n.part.outline().contour(), h.at) > 3);
        for (const TunerPlace& t : n.part.tuners()) {
            CHECK(length(h.at - t.post) > p.neck.tuners.bushing / 2 + 2);
        }
        CHECK(h.mouth == Approx(n.part.face(h.at.x)));
    }
    CHECK(drawnNeck(withKey(p, "head.plate", "0")).part.holes().size() + 2 ==
          n.part.holes().size());
}
