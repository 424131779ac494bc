// What a bit is asked to take, from the posted text and the wood: held against plain geometry, and
// against programs made too heavy on purpose.

#include "proof/ease.h"
#include "proof/proof.h"

#include "geom/inset.h"
#include "panel_support.h"

using namespace wren;
using test::findingOf;
using test::straight;

namespace {

constexpr double cell = 0.1;

/// A plank 100 x 60 x 20 with its top on Z 20.
Stock plank() {
    Blank b;
    b.length = 100;
    b.width = 60;
    b.thickness = 20;
    return Stock(b, 0, cell);
}

Bit flat6() {
    return *findBit(starterDrawer(), "flat-6");
}

RunProgram programOf(const Bit& bit, Path path) {
    for (std::size_t i = 0; i < path.size(); ++i) {
        path[i].line = static_cast<int>(i) + 1;
        path[i].rpm = 18000;
    }
    return {"p.nc", {CutKind::outline}, bit, std::move(path), true, true};
}

ProgramLoad loadIn(Stock stock, const RunProgram& program) {
    const Simulation run = simulateOn(std::move(stock), {program}, {}, {}, {}, Loads::traced);
    const Wood& maple = woodById("hard-maple");
    return loadOf(program, run.loads[0], ownPass(program.bit, maple, Machine()), maple);
}

} // namespace

TEST_CASE("A slot takes its depth times the bit's width, whichever way it runs", "[load]") {
    for (Vec3 to : {Vec3{80, 30, 18}, Vec3{20, 50, 18}, Vec3{70, 55, 18}}) {
        const RunProgram p = programOf(
            flat6(), {straight({20, 30, 26}, {20, 30, 18}, 500), straight({20, 30, 18}, to, 1000)});
        const ProgramLoad l = loadIn(plank(), p);
        CHECK(l.peak.area == Approx(12).epsilon(0.04));
        CHECK(l.peak.width == Approx(6).epsilon(0.04));
        CHECK(l.peak.depth == Approx(2).epsilon(0.04));
        // Half the diameter times 0.85 in hard maple, and a quarter more.
        CHECK(l.peak.ofAllowed == Approx(12 / (6 * 2.55 * 1.25)).epsilon(0.04));
        CHECK(l.peak.line == 2);
    }
}

TEST_CASE("A slotting bit's load is its own pass at any slant, and half as much again is seen",
          "[load]") {
    const Bit bit = *findBit(starterDrawer(), "slot-0.58");
    const OwnPass own = ownPass(bit, woodById("hard-maple"), Machine());
    // Down to 3 mm in its own passes, each way a hair beside the one before, as a fan's slot is
    // posted in four decimals of an inch: cells of the walls come away as tall as the slot.
    const auto slotAt = [&](double slant, double last) {
        Path path;
        const Vec2 way = unit(Vec2{std::sin(slant), std::cos(slant)});
        const auto at = [&](double along, double z, double off) {
            return Vec3{50 + way.x * along + way.y * off, 5 + way.y * along - way.x * off, z};
        };
        double z = 20;
        bool out = true;
        int pass = 0;
        Vec3 here = at(0, 26, 0);
        while (z > 17) {
            z -= z - own.depth < 17 ? last : own.depth;
            const double off = 0.004 * (++pass % 3);
            const Vec3 down = at(out ? 0 : 45, z, off);
            const Vec3 to = at(out ? 45 : 0, z, off);
            path.push_back(straight(here, down, 60));
            path.push_back(straight(down, to, 300));
            here = to;
            out = !out;
        }
        Blank b;
        b.length = 100;
        b.width = 60;
        b.thickness = 20;
        return loadIn(Stock(b, 0, 0.2), programOf(bit, path)).peak.ofAllowed;
    };
    for (double slant = 0; slant < 0.4; slant += 0.05) {
        INFO(slant);
        CHECK(slotAt(slant, own.depth) < 1);
        CHECK(slotAt(slant, 1.5 * own.depth) > 1);
    }
}

TEST_CASE("An arc's load is that of its own way", "[load]") {
    Move m = straight({60, 30, 17}, {40, 30, 17}, 1000);
    m.motion = Motion::arcCounter;
    m.centre = {50, 30, 0};
    const ProgramLoad l =
        loadIn(plank(), programOf(flat6(), {straight({60, 30, 26}, {60, 30, 17}, 500), m}));
    CHECK(l.peak.area == Approx(18).epsilon(0.05));
}

TEST_CASE("A tall thin layer is little, wood as tall over the whole width is too much", "[load]") {
    Stock open = plank();
    for (int c = 0; c < open.columns(); ++c) { // a wall at Y 30.2, air in front of it
        for (int r = 0; r < static_cast<int>(30.2 / cell); ++r) {
            open.keepCell(c, r, 0, 0);
        }
    }
    const RunProgram skim = programOf(flat6(), {straight({-10, 27.5, 1}, {90, 27.5, 1}, 2000)});
    const ProgramLoad light = loadIn(open, skim);
    CHECK(light.peak.width == Approx(0.3).margin(0.06));
    CHECK(light.peak.depth == Approx(19).margin(0.5));
    CHECK(light.peak.ofAllowed < 0.5);
    const ProgramLoad heavy = loadIn(plank(), skim);
    CHECK(heavy.peak.depth == Approx(19).margin(0.5));
    CHECK(heavy.peak.ofAllowed > 5);
    Setup setup;
    setup.part = Role::body;
    const Findings found = judgeLoads(setup, {skim}, {heavy});
    const auto stop = findingOf(found, "overload");
    REQUIRE(stop);
    CHECK(stop->weight == Weight::stop);
    CHECK(stop->program == "p.nc");
    CHECK(stop->line == 1);
    CHECK(stop->message.find("19.0 mm deep over 6.0 mm") != std::string::npos);
    CHECK(judgeLoads(setup, {skim}, {light}).empty());
}

TEST_CASE("Feeds are asked of every move, whatever it was meant for", "[load]") {
    const Bit drill = *findBit(starterDrawer(), "drill-4");
    Setup setup;
    setup.part = Role::neck;
    const auto judged = [&](const RunProgram& p) {
        return judgeLoads(setup, {p}, {loadIn(plank(), p)});
    };
    const RunProgram slow = programOf(drill, {straight({50, 30, 21}, {50, 30, 4}, 500)});
    CHECK(judged(slow).empty());
    const RunProgram fast = programOf(drill, {straight({50, 30, 21}, {50, 30, 4}, 2000)});
    CHECK(findingOf(judged(fast), "plunge-fast"));
    const RunProgram sideways = programOf(drill, {straight({50, 30, 21}, {50, 30, 16}, 500),
                                                  straight({50, 30, 16}, {60, 30, 16}, 300)});
    CHECK(findingOf(judged(sideways), "overload"));
    const RunProgram plunge = programOf(flat6(), {straight({50, 30, 21}, {50, 30, 12}, 400)});
    const auto deep = findingOf(judged(plunge), "plunge-deep");
    REQUIRE(deep);
    CHECK(deep->value == Approx(8).margin(0.1));
    const RunProgram chip = programOf(flat6(), {straight({20, 30, 19}, {60, 30, 19}, 4000)});
    const auto tooth = findingOf(judged(chip), "chip-load");
    REQUIRE(tooth);
    CHECK(tooth->value ==
          Approx(4000.0 / (18000 * 2))); // Machinery's Handbook: feed / (rpm x teeth)
}

TEST_CASE("A fall is read over more way than rounding bends, and not missed in crumbs of it",
          "[load]") {
    // What posting leaves of a gentle ramp in inches: crumbs of a micrometre, one of them bent to
    // a third of fall by its last digit.
    Path gentle{straight({20, 30, 26}, {20, 30, 18}, 500)};
    const auto on = [](Path& path, double along, double down) {
        const Vec3 at = path.back().to;
        path.push_back(straight(at, at + Vec3{along, 0, -down}, 2200));
    };
    on(gentle, 20, 1.5);
    on(gentle, 0.0008, 0.00025);
    on(gentle, 20, 1.5);
    CHECK(loadIn(plank(), programOf(flat6(), gentle)).fall.ofAllowed < 1);
    Path after{straight({20, 30, 26}, {20, 30, 18}, 500)}; // level at once, at the bit's own feed
    on(after, 0.01, 0);
    on(after, 20, 0);
    CHECK(loadIn(plank(), programOf(flat6(), after)).fall.ofAllowed < 1);
    Path steep{straight({20, 30, 26}, {20, 30, 18}, 500)};
    on(steep, 0.5, 0);
    for (int i = 0; i < 400; ++i) {
        on(steep, 0.01, 0.01);
    }
    CHECK(loadIn(plank(), programOf(flat6(), steep)).fall.ofAllowed > 1);
}

TEST_CASE("Time fed through air is told from time in wood", "[load]") {
    const RunProgram p = programOf(flat6(), {straight({-60, 30, 18}, {40, 30, 18}, 1000)});
    const ProgramLoad l = loadIn(plank(), p);
    // The bit's rim meets the plank's end when its middle stands 3 mm before it.
    CHECK(l.airSeconds == Approx(57 * 0.06).margin(0.1));
    CHECK(l.airSeconds + l.cutSeconds == Approx(6));
}

TEST_CASE("A wide ball that goes straight down takes its own cap away", "[load][stock]") {
    const Bit ball = *findBit(starterDrawer(), "ball-12");
    Stock stock = plank();
    const double before = stock.volume();
    sweep(stock, EndShape::of(ball), straight({50, 30, 21}, {50, 30, 16}, 400), 0, stock.rows());
    const double h = 4; // a cap of a sphere: pi h^2 (3 r - h) / 3
    CHECK(before - stock.volume() == Approx(3.14159265 * h * h * (18 - h) / 3).epsilon(0.005));
}

TEST_CASE("What would be too much is cut down in passes and leaves the same wood", "[load]") {
    Setup setup;
    setup.part = Role::body;
    setup.blank.wood = "hard-maple";
    Cut cut;
    cut.what = "outline";
    cut.bit = flat6();
    cut.feeds = feedsFor(cut.bit, woodById("hard-maple"), Machine());
    // A level way that meets a block 14 mm tall, and a straight plunge into its other end.
    Stock before = plank();
    for (int c = 0; c < static_cast<int>(50 / cell); ++c) {
        before.keep(c, 0, 6);
    }
    cut.path = {straight({10, 30, 26}, {10, 30, 6}, 0),   straight({10, 30, 6}, {80, 30, 6}, 2000),
                straight({80, 30, 6}, {80, 30, 26}, 0),   straight({80, 30, 26}, {80, 10, 26}, 0),
                straight({80, 10, 26}, {80, 10, 8}, 500), straight({80, 10, 8}, {60, 10, 8}, 2000),
                straight({60, 10, 8}, {60, 10, 26}, 0)};
    const Path plain = cut.path;
    const ProgramLoad was = loadIn(before, programOf(cut.bit, plain));
    CHECK(was.peak.ofAllowed > 4);
    CHECK(was.plunge.ofAllowed > 3);
    std::vector<Cut> cuts{cut};
    const std::vector<Filling> none;
    const Stock after = easeCuts(cuts, before, {setup, Machine(), none, {}});
    const ProgramLoad is = loadIn(before, programOf(cut.bit, cuts[0].path));
    CHECK(is.peak.ofAllowed <= 1);
    CHECK(is.plunge.ofAllowed <= 1);
    CHECK(cuts[0].path.size() > plain.size());
    Stock wanted = before;
    for (const Move& m : plain) {
        if (m.cuts()) {
            sweep(wanted, EndShape::of(cut.bit), m, 0, wanted.rows());
        }
    }
    double off = 0;
    for (int r = 0; r < wanted.rows(); ++r) {
        for (int c = 0; c < wanted.columns(); ++c) {
            off = std::max(off, double(std::abs(wanted.high(c, r) - after.high(c, r))));
        }
    }
    CHECK(off < 1e-4);
    // No rapid of the new path meets wood.
    const Simulation run = simulateOn(before, {programOf(cut.bit, cuts[0].path)});
    CHECK(run.collisions.empty());
    // What is light is left alone.
    std::vector<Cut> again = cuts;
    easeCuts(again, before, {setup, Machine(), none, {}});
    CHECK(again[0].path.size() == cuts[0].path.size());
}

TEST_CASE("A pass posted too deep is stopped at its line", "[load]") {
    PanelPocket recess;
    recess.what = recess.cut = "recess";
    recess.borders = {counterClockwise(shapeOutline(boxShape({0, 0}, 60, 40, 5)))};
    recess.floor = -12;
    test::Plank plank({recess});
    PanelPlan plan = plank.plan();
    CHECK_FALSE(findingOf(plank.proof(plan).sides[0].findings, "overload"));
    Path& path = plan.sides[0].cuts.front().path;
    double bottom = 0;
    for (const Move& m : path) {
        bottom = std::min(bottom, m.to.z - plank.held.face.topZ());
    }
    for (Move& m : path) { // all levels at once
        if (m.cuts()) {
            m.to.z = std::min(m.to.z, plank.held.face.topZ() + bottom);
            m.from.z = std::min(m.from.z, plank.held.face.topZ() + bottom);
        }
    }
    const PartProof proof = plank.proof(plan);
    const auto stop = findingOf(proof.sides[0].findings, "overload");
    REQUIRE(stop);
    CHECK(stop->line > 0);
    CHECK_FALSE(proof.passed());
}
