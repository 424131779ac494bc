// The machine's bed: room under the spindle, its own programs, where the probe plate lies.
#include "body_support.h"
#include "neck_support.h"

#include "hold/fixture_board.h"
#include "job/bed.h"
#include "job/hold_card.h"
#include "job/probe_spot.h"
#include "job/register_advice.h"
#include "job/shop_boards.h"
#include "proof/spindle_room.h"

#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// A bit down to `z` and back up to `high` over a blank 40 mm thick, its zero on the bed.
RunProgram downTo(double z, double high) {
    RunProgram p;
    p.file = "p.nc";
    p.bit.name = "six";
    p.bit.reach = 35;
    for (const auto& [from, to] : {std::pair{Vec3{0, 0, high}, Vec3{50, 50, high}},
                                   {Vec3{50, 50, high}, Vec3{50, 50, z}},
                                   {Vec3{50, 50, z}, Vec3{60, 50, z}}}) {
        p.path.push_back(straight(from, to, 900));
        p.path.back().line = int(p.path.size());
    }
    return p;
}

Setup plainSetup() {
    Setup s;
    s.blank.length = 200;
    s.blank.width = 100;
    s.blank.thickness = 40;
    return s;
}

Machine machineWith(double gap) {
    Machine m;
    m.end.gap = gap;
    m.end.nutLength = 20;
    m.travel.z = 110;
    return m;
}

bool has(const Findings& found, const std::string& code) {
    return findingOf(found, code).has_value();
}

/// Every place the bit's flutes pass over at a depth, asked densely.
bool sweptAt(const Path& path, Vec2 at, double radius, double below) {
    return std::any_of(path.begin(), path.end(), [&](const Move& m) {
        return m.cuts() && std::max(m.from.z, m.to.z) <= below &&
               distanceToSegment(at, m.from.xy(), m.to.xy()) <= radius;
    });
}

} // namespace

TEST_CASE("Fixture, blank, lift, bit and nut must find room under the spindle", "[bed]") {
    // By hand: 18 of fixture + 40 of blank + 10 of lift + 35 of bit + 20 of nut = 123 mm.
    const Setup setup = plainSetup();
    const RunProgram p = downTo(0, 50);
    CHECK(spindleSum(setup, machineWith(200), 18, p).total() == Approx(123));
    CHECK(judgeSpindleRoom(setup, machineWith(123), 18, {p}).empty());
    const Findings tight = judgeSpindleRoom(setup, machineWith(122.9), 18, {p});
    REQUIRE(has(tight, "no-room-under-spindle"));
    CHECK_THAT(findingOf(tight, "no-room-under-spindle")->message,
               Contains("18.0 mm of fixture board, 40.0 mm of blank, 10.0 of lift, 35.0 of bit and "
                        "20.0 of collet nut are 123.0 mm") &&
                   Contains("122.9 mm"));
    // A bit whose stick-out is not told goes as deep into its collet as the program lets it: the
    // nut 3 mm over 40 mm of wood.
    RunProgram untold = p;
    untold.bit.reach = 0;
    untold.bit.fluteLength = 30;
    CHECK(untold.bit.reachOrUsual() == Approx(60));
    CHECK(spindleSum(setup, machineWith(200), 18, untold).bit == Approx(43));
    untold.bit.fluteLength = 50;
    CHECK(spindleSum(setup, machineWith(200), 18, untold).bit == Approx(50));
    // What is not measured is not asked.
    Machine unknown = machineWith(1);
    unknown.end.gap.reset();
    CHECK(judgeSpindleRoom(setup, unknown, 18, {p}).empty());
    // All the way down the tip stands at 166 - 110 - 20 - 35 = 1 mm over the spoil board.
    CHECK(has(judgeSpindleRoom(setup, machineWith(166), 0, {p}), "bit-ends-above"));
    CHECK(judgeSpindleRoom(setup, machineWith(165), 0, {p}).empty());
    CHECK(judgeSpindleRoom(setup, machineWith(166), 0, {downTo(1, 50)}).empty());
}

TEST_CASE("The nose and a dust shoe do not come down on the blank", "[bed]") {
    const Setup setup = plainSetup();
    Machine m;
    m.end.noseWidth = 60; // 35 + 20 mm over the tip: over the wood at any depth of 40
    CHECK(judgeSpindleRoom(setup, m, 0, {downTo(0, 50)}).empty());
    m.end.shoeWidth = 80;
    m.end.shoeBelowNose = 30; // 25 mm over the tip
    CHECK(judgeSpindleRoom(setup, m, 0, {downTo(15.1, 50)}).empty());
    const Findings low = judgeSpindleRoom(setup, m, 0, {downTo(14.9, 50)});
    REQUIRE(has(low, "spindle-on-wood"));
    CHECK(findingOf(low, "spindle-on-wood")->line == 2);
    CHECK_THAT(findingOf(low, "spindle-on-wood")->message, Contains("dust shoe"));
}

TEST_CASE("The spoil board is surfaced wherever a bit reaches, and not below", "[bed]") {
    for (const char* home : {"front-left", "back-right"}) {
        const Project p = withKey(loadProject(plainFile), "machine.home", home);
        const BedProgram bed = deriveSurfacing(p, 0.5);
        REQUIRE(bed.program);
        CHECK(bed.findings.empty());
        const RunProgram read = readBack({bed.program->program}, bed.setup).front();
        CHECK(bed.program->extents[0].z == Approx(-0.5));
        const double r = read.bit.radius();
        for (const Bit& bit : p.bits) { // no wider one leaves a flat floor
            const bool flat = cutsFlat(bit.kind) || bit.kind == BitKind::surfacing;
            CHECK((!flat || bit.diameter <= read.bit.diameter));
        }
        int missed = 0;
        for (double x = 2; x <= p.machine.travel.x - 2; x += 17) {
            for (double y = 2 - r + 0.1; y <= p.machine.travel.y - 2 + r - 0.1; y += 1.7) {
                missed += sweptAt(read.path, {x, y}, r, -0.4999) ? 0 : 1;
            }
        }
        CHECK(missed == 0);
    }
    CHECK_THAT(
        sentenceOf([] { postBedProgram(deriveSurfacing(loadProject(plainFile), 3.5), "/tmp"); }),
        Contains("3.500 mm cannot be taken off"));
    const Project thin = withKeys(
        loadProject(plainFile), {{"machine.spoil_thickness", "9.2"}, {"machine.spoil_least", "9"}});
    CHECK(has(deriveSurfacing(thin, 0.5).findings, "spoil-board-worn"));
    CHECK_FALSE(has(deriveSurfacing(thin, 0.1).findings, "spoil-board-worn"));
}

TEST_CASE("The engraved lines cross where the machine's crossing is stored", "[bed]") {
    for (const char* home : {"front-left", "back-right"}) {
        Project p = withKey(loadProject(plainFile), "machine.home", home);
        const bool far = p.machine.lowCorner().x < 0;
        p = withKeys(p, {{"machine.crossing_x", far ? "-447.3" : "452.7"},
                         {"machine.crossing_y", far ? "-301.25" : "298.75"}});
        p.batch.resize(3);
        p.batchLines = 120;
        const BedProgram bed = deriveBedLines(p, 0.4);
        REQUIRE(bed.program);
        CHECK(bed.findings.empty());
        const RunProgram read = readBack({bed.program->program}, bed.setup).front();
        std::vector<double> along, across;
        for (const Move& m : read.path) {
            if (m.cuts() && m.from.z < -0.3 && m.to.z < -0.3) {
                const bool level = std::abs(m.to.y - m.from.y) < 1e-9;
                (level ? along : across).push_back(level ? m.to.y : m.to.x);
            }
        }
        // On the machine they are where the program's zero, the travel's corner, puts them.
        const Vec2 zero = bed.setup.zeroOnMachine;
        std::sort(along.begin(), along.end());
        REQUIRE(along.size() == 3);
        REQUIRE(across.size() == 1);
        for (int i = 0; i < 3; ++i) {
            CHECK(along[std::size_t(i)] + zero.y ==
                  Approx(p.machine.crossing.y + 120 * (i - 1)).margin(5e-4));
        }
        CHECK(across[0] + zero.x == Approx(p.machine.crossing.x).margin(5e-4));
    }
    Project wide = loadProject(plainFile);
    wide.batch.resize(3);
    wide.batchLines = 400;
    CHECK_THAT(sentenceOf([&] { postBedProgram(deriveBedLines(wide, 0.4), "/tmp"); }),
               Contains("lies off the bed"));
}

TEST_CASE("An uneven or worn spoil board is told", "[bed]") {
    const auto with = [](const Changes& changes) {
        return judgeSpoilBoard(withKeys(loadProject(plainFile), changes));
    };
    CHECK(with({}).empty());
    CHECK(has(with({{"machine.spoil_uneven", "0.35"}}), "spoil-board-uneven"));
    CHECK(with({{"machine.spoil_uneven", "0.25"}}).empty());
    CHECK(has(with({{"machine.spoil_thickness", "8"}}), "spoil-board-worn"));
}

TEST_CASE("The probe plate lies where no clamp stands and nothing is cut", "[bed]") {
    Project p = withKey(loadProject(plainFile), "hold.z_zero", "top");
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    const PartJob& job = *d.job(Role::board);
    const Setup& setup = job.held.face;
    const Vec2 spot = probeSpot(d, job, 0) - setup.zeroOnMachine;
    // On the blank, on wood that no program of the setup takes anything off.
    CHECK((spot.x > 0 && spot.y > 0 && spot.x < setup.blank.length && spot.y < setup.blank.width));
    for (const RunProgram& program : job.read[0]) {
        for (const Move& m : program.path) {
            const bool low = m.cuts() && std::min(m.from.z, m.to.z) < setup.topZ() - 0.05;
            CHECK((!low || distanceToSegment(spot, m.from.xy(), m.to.xy()) >
                               program.bit.radius() + plateRests));
        }
    }
    // A strap laid over it drives it elsewhere; straps everywhere leave no place.
    Clamp strap;
    strap.at = spot;
    d.project.clamps = {strap};
    CHECK(length(probeSpot(d, job, 0) - setup.zeroOnMachine - spot) > plateHalf);
    d.project.clamps.clear();
    for (double x = -20; x < setup.blank.length + 40; x += 40) {
        for (double y = -20; y < setup.blank.width + 40; y += 15) {
            strap.at = {x, y};
            d.project.clamps.push_back(strap);
        }
    }
    CHECK(has(judgeProbeSpots(d), "no-probe-spot"));
}

TEST_CASE("On a fixture board the plate lies on that board, beside the blank", "[bed]") {
    for (const char* travel : {"900", "520"}) { // the latter in stations
        const Project p =
            neckWith({{"neck_hold.make_fixture", "yes"}, {"machine.travel_x", travel}});
        Derived d = deriveDrawing(p);
        derivePrograms(d);
        const PartJob* neck = d.job(Role::neck);
        const PartJob* fixture = d.job(Role::neckFixture);
        REQUIRE((neck && neck->placed && fixture));
        CHECK(neck->held.under == Approx(p.neckHold.fixture));
        for (std::size_t side = 0; side < 2; ++side) {
            const Setup& setup = neck->held.side(side);
            if (setup.zZero != ZZero::bed) {
                continue;
            }
            const std::size_t stations = std::max<std::size_t>(1, setup.stations.size());
            for (std::size_t k = 0; k < stations; ++k) {
                const Vec2 spot = probeSpot(d, *neck, side, k);
                const Vec2 own = spot - setup.zeroOn(k);
                CHECK((own.x < 0 || own.y < 0 || own.x > setup.blank.length ||
                       own.y > setup.blank.width));
                const Vec2 on = spot - fixture->held.face.zeroOnMachine;
                const Blank& board = fixture->held.blank;
                CHECK((on.x > 0 && on.y > 0 && on.x < board.length && on.y < board.width));
            }
        }
    }
}

TEST_CASE("Both ways of bringing sides together are weighed against each other", "[bed]") {
    const auto adviceOn = [](const Changes& changes) {
        Project p = bodyWith({});
        p = withKeys(p, changes);
        const Derived d = deriveDrawing(p);
        return *registerAdvice(p, *d.job(Role::neck));
    };
    // Dowels 0.12 mm, marks 0.3 mm (common practice, no source), play grown by blank over pins.
    const RegisterAdvice plain = adviceOn({});
    CHECK(plain.byMarks == Approx(0.3));
    CHECK(plain.byPins > 0.12);
    CHECK(plain.byPins < 0.16);
    CHECK(plain.better == Register::pins);
    // Steel pins 0.05; an edge half a degree out of square over 25 mm: 0.22 more (by hand).
    const RegisterAdvice steel = adviceOn({{"neck_hold.pin_kind", "reamed"},
                                           {"neck_hold.edge_square", "0.5"},
                                           {"neck_blank.thickness", "25"}});
    CHECK(steel.byPins < 0.07);
    CHECK(steel.byMarks == Approx(0.3 + 0.2182).margin(1e-3));
    const Derived d = deriveDrawing(bodyWith({{"neck_hold.register", "marks"},
                                              {"neck_hold.edge_square", "0.5"},
                                              {"neck_blank.thickness", "25"}}));
    CHECK(d.job(Role::neck)->held.expectedError == Approx(0.5182).margin(1e-3));
}
