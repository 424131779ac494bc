// What is cut before, beside and after the radius: facing, the nut's ledge, fillings; and where the
// zero stands on machines that home elsewhere.

#include "cut/facing_cut.h"
#include "cut/shelf_cut.h"
#include "job/drawer.h"
#include "proof/filling.h"
#include "run/machine_sim.h"

#include "support.h"

#include <algorithm>

using namespace wren;
using test::findingOf;

namespace {

/// The plain board with the whole drawer.
Project plainWith(std::initializer_list<std::pair<const char*, const char*>> changes = {}) {
    Project p = test::plainWith({{"cut.face_blank", "when-thick"}});
    p.bits = starterDrawer();
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

double lowest(const Path& path) {
    double z = 1e9;
    for (const Move& m : path) {
        z = std::min(z, m.to.z);
    }
    return z;
}

} // namespace

TEST_CASE("A thick blank is faced over its board and no deeper than asked", "[facing][long]") {
    const Derived d = derive(plainWith({{"blank.thickness", "10"}}));
    const Cut* facing = d.boardPlan()->face().cutOf(CutKind::facing);
    REQUIRE(facing);
    CHECK(d.boardPlan()->face().cuts.front().what == "facing");
    const Setup& setup = d.boardPlan()->face().setup;
    CHECK(setup.faced == Approx(10 - 6 - d.project.cut.stockToLeave));
    CHECK(lowest(facing->path) == Approx(setup.topZ() - setup.faced));
    // Every place of the board lies under some pass.
    const double r = facing->bit.radius();
    for (double x : {1.0, 200.0, 450.0}) {
        for (double y : {-20.0, 0.0, 20.0}) {
            const Vec2 p = setup.fromInstrument.toSetup({x, y, 0}).xy();
            const bool covered =
                std::any_of(facing->path.begin(), facing->path.end(), [&](const Move& m) {
                    return m.cuts() && std::abs(m.to.z - (setup.topZ() - setup.faced)) < 1e-9 &&
                           distanceToSegment(p, m.from.xy(), m.to.xy()) <= r;
                });
            CHECK(covered);
        }
    }
    // Levels no deeper than the bit's own pass.
    double last = setup.topZ();
    for (const Move& m : facing->path) {
        if (m.cuts() && m.to.z < last - 1e-9) {
            CHECK(last - m.to.z <= facing->feeds.depthPerPass + 1e-6);
            last = m.to.z;
        }
    }
    CHECK(d.proofOf(Role::board)->passed);
    CHECK_FALSE(derive(plainWith({{"blank.thickness", "10"}, {"cut.face_blank", "never"}}))
                    .boardPlan()
                    ->face()
                    .cutOf(CutKind::facing));
    CHECK(derive(plainWith({{"cut.face_blank", "always"}}))
              .boardPlan()
              ->face()
              .cutOf(CutKind::facing));
}

TEST_CASE("Facing away the face that Z is zeroed on is a stop", "[facing]") {
    const Derived d = derive(plainWith({{"blank.thickness", "10"}, {"hold.z_zero", "top"}}));
    const auto f = findingOf(d.findings, "zero-faced-away");
    REQUIRE(f);
    CHECK(f->value < f->limit);
}

TEST_CASE("The nut's ledge is flat, as deep as drawn, and cut from outside the board", "[shelf]") {
    for (const char* treble : {"620", "600"}) {
        INFO(treble);
        const Derived d = derive(plainWith({{"board.nut_shelf", "5"},
                                            {"board.shelf_floor", "3.2"},
                                            {"board.treble_scale", treble},
                                            {"board.end", "slanted"}}));
        const Cut* cut = d.boardPlan()->face().cutOf(CutKind::shelf);
        REQUIRE(cut);
        CHECK(lowest(cut->path) == Approx(d.boardPlan()->face().setup.bottomZ() + 3.2));
        for (const Move& m : cut->path) {
            if (m.cuts() && m.from.xy() == m.to.xy() && m.to.z < m.from.z) {
                const Vec3 at = d.boardPlan()->face().setup.fromInstrument.toInstrument(m.to);
                CHECK(d.board->outsideBy(at.xy()) > cut->bit.radius());
            }
        }
        CHECK(d.proofOf(Role::board)->passed);
    }
}

TEST_CASE("A ledge that the face comes down to is stopped, with both heights", "[shelf]") {
    const Derived d =
        deriveDrawing(plainWith({{"board.nut_shelf", "5"}, {"board.shelf_floor", "5.9"}}));
    const auto f = findingOf(d.findings, "shelf-above-face");
    REQUIRE(f);
    CHECK_FALSE(f->overridable);
    CHECK(f->value == Approx(5.9));
    CHECK(f->limit < 5.9);
    CHECK_FALSE(d.board);
}

TEST_CASE("Tabs keep clear of markers that wrap over the edge", "[tabs]") {
    const Derived d = derive(plainWith(
        {{"markers.frets", "3 5 7 9 12 15"}, {"markers.shape", "wrap"}, {"markers.reach", "14"}}));
    REQUIRE_FALSE(d.boardPlan()->tabs.empty());
    for (const Tab& tab : d.boardPlan()->tabs) {
        for (const MarkerPocket& pocket : d.board->pockets()) {
            if (pocket.place.at.y * tab.side > 0) {
                CHECK(std::abs(tab.x - pocket.place.at.x) >
                      (tab.length + d.project.board.markers.size) / 2);
            }
        }
    }
    CHECK(d.proofOf(Role::board)->passed);
}

TEST_CASE("A polygon is asked row by row", "[filling]") {
    const ConvexRows diamond({{0, -2}, {3, 0}, {0, 2}, {-3, 0}});
    CHECK(diamond.low() == -2);
    CHECK(diamond.high() == 2);
    const auto middle = diamond.at(0);
    CHECK(middle.first == Approx(-3));
    CHECK(middle.second == Approx(3));
    const auto half = diamond.at(1);
    CHECK(half.first == Approx(-1.5));
    CHECK(half.second == Approx(1.5));
    const auto outside = diamond.at(2.5);
    CHECK(outside.first > outside.second);
    const ConvexRows none;
    CHECK(none.at(0).first > none.at(0).second);
}

TEST_CASE("Filled markers are poured after their pockets and before their skim", "[filling]") {
    const Derived d = derive(plainWith({{"markers.frets", "5 12"}, {"markers.inlay", "filled"}}));
    const auto fillings = fillingsOf(*d.board, *d.lies(Role::board), d.read(Role::board));
    REQUIRE(fillings.size() == 3); // two at the octave
    std::size_t markers = 99;
    std::size_t skim = 99;
    for (std::size_t i = 0; i < d.read(Role::board).size(); ++i) {
        markers = d.read(Role::board)[i].has(CutKind::markers) ? i : markers;
        skim = d.read(Role::board)[i].has(CutKind::skim) ? i : skim;
    }
    for (const Filling& f : fillings) {
        CHECK(f.beforeProgram == skim);
        CHECK(f.fillTo > f.floorZ + d.project.board.markers.depth);
    }
    CHECK(markers < skim);
    CHECK(findingOf(d.findings, "filling-bleeds"));
    CHECK(d.programs[skim].program.handBefore.find("pour") != std::string::npos);
    CHECK(d.proofOf(Role::board)->passed);
}

TEST_CASE("A drilled dot that is filled may end in the drill's point, and no deeper", "[filling]") {
    const Project p = plainWith({{"markers.frets", "5 12"}, {"markers.inlay", "filled"}});
    Derived d = derive(p);
    REQUIRE(d.boardPlan()->face().cutOf(CutKind::markers)->bit.kind == BitKind::drill);
    // The same programs with every marker 0.3 mm deeper.
    std::vector<RunProgram> programs = d.read(Role::board);
    for (RunProgram& program : programs) {
        if (program.kinds.front() == CutKind::markers) {
            for (Move& m : program.path) {
                m.from.z -= m.cuts() ? 0.3 : 0;
                m.to.z -= m.cuts() ? 0.3 : 0;
            }
        }
    }
    const ProofReport deeper = test::provedBoard(d, programs);
    const auto f = findingOf(deeper.findings, "pocket-depth");
    REQUIRE(f);
    // Cells stand up to 0.14 mm from the axis, where the point is up to 0.085 mm higher.
    CHECK(f->value > 0.21);
    CHECK(f->value < 0.31);
}

TEST_CASE("The same blank lies on the same lines wherever a machine homes", "[home][long]") {
    for (const char* home : {"front-left", "front-right", "back-left", "back-right"}) {
        INFO(home);
        const std::string corner = home;
        const bool right = corner.find("right") != std::string::npos;
        const bool back = corner.find("back") != std::string::npos;
        const Project p = plainWith({{"machine.home", home},
                                     {"machine.crossing_x", right ? "-450" : "450"},
                                     {"machine.crossing_y", back ? "-300" : "300"}});
        const Derived d = derive(p);
        CHECK(d.lies(Role::board)->zeroOnMachine.x - p.machine.lowCorner().x == Approx(450 - 250));
        CHECK(d.lies(Role::board)->zeroOnMachine.y - p.machine.lowCorner().y == Approx(300 - 38.5));
        CHECK(d.proofOf(Role::board)->passed);
        // A crossing off the bed on that side sends every move outside.
        const Derived off = derive(withKey(p, "machine.crossing_x", right ? "-880" : "880"));
        CHECK(findingOf(off.findings, "outside-travel"));
        CHECK(findingOf(off.findings, "blank-overhangs"));
    }
}

TEST_CASE("The simulated machine stands at its own corner and keeps to its own travel",
          "[home][sim]") {
    MachineSimOptions o;
    o.machine.home = HomeCorner::backRight;
    MachineSim sim(o);
    CHECK(sim.position().x == 0);
    sim.receive("G21 G90 G53 G0 X-890 Y-590");
    sim.advance(120);
    CHECK(sim.state() == MachineSim::State::idle);
    CHECK(sim.position().x == Approx(-890));
    sim.receive("G53 G0 X1");
    sim.advance(10);
    CHECK(sim.state() == MachineSim::State::alarm);
}

TEST_CASE("A bit that cannot reach is a stop with what it reaches and what it should", "[bits]") {
    Project p = plainWith();
    for (Bit& bit : p.bits) {
        if (cutsFlat(bit.kind)) {
            bit.reach = 4;
        }
    }
    const Derived d = derive(p);
    const auto f = findingOf(d.findings, "no-reach");
    REQUIRE(f);
    CHECK(f->value == 4);
    CHECK(f->limit > 6.8);
    CHECK(f->message.find("collet nut") != std::string::npos);
    // And a bit that was taken out of the drawer, but is asked for by hand.
    const Derived gone = derive(withoutBit(plainWith({{"cut.outline.bit", "flat-6"}}), "flat-6"));
    CHECK(findingOf(gone.findings, "no-bit")->message.find("not in the drawer") !=
          std::string::npos);
}
