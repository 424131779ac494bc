// A neck longer than the machine, cut in two stations.
#include "body_support.h"

#include "cut/divide.h"
#include "hold/fixture_board.h"
#include "hold/stations.h"
#include "job/clamps.h"
#include "job/fixture.h"
#include "job/store.h"
#include "proof/rs274.h"
#include "proof/travel.h"

#include <set>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

const auto anywhere = [](double) { return true; };

/// A neck of ordinary length, on a machine that is too short for it.
Project shortMachine(const Changes& changes = {}) {
    Changes all{
        {"machine.travel_x", "560"}, {"machine.crossing_x", "280"}, {"neck_blank.width", "110"}};
    all.insert(all.end(), changes.begin(), changes.end());
    return withKeys(neckWith(), all);
}

Cut lineCut(std::initializer_list<Vec3> places) {
    Cut cut;
    cut.feeds.plunge = 300;
    Vec3 last = *places.begin();
    for (Vec3 p : places) {
        if (!(p == last)) {
            const bool fed = std::min(p.z, last.z) < 5;
            cut.path.push_back(
                straightMove(fed ? Motion::line : Motion::rapid, last, p, fed ? 900 : 0));
        }
        last = p;
    }
    return cut;
}

SlideStation reaching(int number, double from, double to) {
    SlideStation s;
    s.number = number;
    s.from = from;
    s.to = to;
    return s;
}

/// The stretches of X that are cut at a depth, joined.
double cutAlong(const Path& path, double z) {
    double sum = 0;
    for (const Move& m : path) {
        sum += m.cuts() && m.from.z == z && m.to.z == z ? std::abs(m.to.x - m.from.x) : 0;
    }
    return sum;
}

} // namespace

TEST_CASE("Stations are planned by sums", "[stations]") {
    Machine m;
    m.travel.x = 900;
    // 1184 mm of cuts: 896 mm are reached, so the blank slides the other 288 mm at least.
    const StationPlan p = planStations({20, 1204}, 500, m, anywhere);
    CHECK(p.pitch == 288);
    CHECK(p.both[0] == 20 + 288);
    CHECK(p.both[1] == 20 + 896);
    CHECK(p.seam == 500);
    CHECK(p.pins[0] >= p.both[0]);
    CHECK(p.pins[1] <= p.both[1]);
    CHECK(p.pins[1] - p.pins[0] > 500);
    // The seam stays where both stations reach, its overlap too.
    CHECK(planStations({20, 1204}, 100, m, anywhere).seam == 308 + 25);
    CHECK(planStations({20, 1204}, 1100, m, anywhere).seam == 916 - 25);
    // Pins look for waste.
    const StationPlan narrow =
        planStations({20, 1204}, 500, m, [](double x) { return x > 400 && x < 700; });
    CHECK(narrow.pins == std::array<double, 2>{401, 699});
    CHECK_THAT(sentenceOf([&] {
                   planStations({0, 1700}, 500, m, anywhere);
               }),
               Contains("1700 mm of cuts") && Contains("1632 mm at most"));
    CHECK_THAT(sentenceOf([&] {
                   planStations({20, 1204}, 500, m, [](double x) { return x < 400; });
               }),
               Contains("no waste"));
}

TEST_CASE("A cut is parted where the stations meet, and nothing is cut twice beyond that",
          "[stations]") {
    PartPlan plan;
    SidePlan& side = plan.face();
    side.setup.stations = {reaching(1, -1e9, 110), reaching(2, 90, 1e9)};
    // A slot over the seam, a hole in the first reach, one in the second, one in both.
    side.cuts = {lineCut({{0, 0, 10}, {20, 0, 10}, {20, 0, -3}, {180, 0, -3}, {180, 0, 10}}),
                 lineCut({{0, 0, 10},
                          {30, 5, 10},
                          {30, 5, -8},
                          {30, 5, 10},
                          {100, 5, 10},
                          {100, 5, -8},
                          {100, 5, 10},
                          {150, 5, 10},
                          {150, 5, -8},
                          {150, 5, 10}})};
    divideAmongStations(plan, 75);
    REQUIRE(side.cuts.size() == 4);
    CHECK(side.cuts[0].station == 0);
    CHECK(side.cuts[1].station == 0);
    CHECK(side.cuts[2].station == 1);
    CHECK_THAT(side.cuts[2].handBefore, Contains("75.00 mm to the left"));
    CHECK(side.cuts[3].handBefore.empty());
    CHECK(cutAlong(side.cuts[0].path, -3) == Approx(90)); // 20 to 110
    CHECK(cutAlong(side.cuts[2].path, -3) == Approx(90)); // 90 to 180
    const auto holes = [](const Path& path) {
        std::multiset<double> at;
        for (const Move& m : path) {
            if (m.cuts() && m.to.z == -8) {
                at.insert(m.to.x);
            }
        }
        return at;
    };
    CHECK(holes(side.cuts[1].path) == std::multiset<double>{30, 100});
    CHECK(holes(side.cuts[3].path) == std::multiset<double>{150});
    for (const Cut& cut : side.cuts) {
        for (std::size_t i = 0; i < cut.path.size(); ++i) {
            const Move& m = cut.path[i];
            CHECK((i == 0 || cut.path[i - 1].to == m.from)); // no gap
            CHECK((m.cuts() || std::min(m.from.z, m.to.z) >= -3));
            CHECK((m.cuts() || m.from.z == m.to.z || length(m.from.xy() - m.to.xy()) == 0));
        }
    }
}

TEST_CASE("An arc over the seam is parted on its own circle", "[stations]") {
    PartPlan plan;
    SidePlan& side = plan.face();
    side.setup.stations = {reaching(1, -1e9, 10), reaching(2, -10, 1e9)};
    Cut cut = lineCut({{-50, 0, 10}, {-50, 0, -2}});
    Move half = straightMove(Motion::line, {-50, 0, -2}, {50, 0, -2}, 900);
    half.motion = Motion::arcClockwise; // over the top
    half.centre = {0, 0, 0};
    cut.path.push_back(half);
    cut.path.push_back(straightMove(Motion::rapid, {50, 0, -2}, {50, 0, 10}, 0));
    side.cuts = {cut};
    divideAmongStations(plan, 20);
    REQUIRE(side.cuts.size() == 2);
    constexpr double pi = 3.14159265358979;
    for (std::size_t k = 0; k < 2; ++k) {
        double turned = 0;
        for (const Move& m : side.cuts[k].path) {
            if (m.isArc()) {
                CHECK(m.radius() == Approx(50));
                CHECK(length(m.to.xy() - m.centre.xy()) == Approx(50));
                turned += m.sweep();
            }
        }
        // A quarter of a turn, and on to 10 mm beyond the middle.
        CHECK(turned == Approx(pi / 2 + std::asin(10 / 50.0)).epsilon(1e-9));
    }
}

TEST_CASE("What waits for hand work waits in every station", "[stations]") {
    PartPlan plan;
    SidePlan& side = plan.face();
    side.setup.stations = {reaching(1, -1e9, 110), reaching(2, 90, 1e9)};
    const Cut slot = lineCut({{20, 0, 10}, {20, 0, -3}, {180, 0, -3}, {180, 0, 10}});
    Cut after = slot;
    after.handBefore = "Glue the strip in";
    side.cuts = {slot, after};
    divideAmongStations(plan, 75);
    REQUIRE(side.cuts.size() == 4);
    // 1, 2, then glued where it lies, 2, and back to 1.
    CHECK(side.cuts[1].station == 1);
    CHECK(side.cuts[2].station == 1);
    CHECK(side.cuts[2].handBefore == "Glue the strip in");
    CHECK(side.cuts[3].station == 0);
    CHECK_THAT(side.cuts[3].handBefore, Contains("to the right"));
}

TEST_CASE("Hand work is told though what waits for it lies in the other station", "[stations]") {
    PartPlan plan;
    SidePlan& side = plan.face();
    side.setup.stations = {reaching(1, -1e9, 110), reaching(2, 90, 1e9)};
    Cut after = lineCut({{20, 0, 10}, {20, 0, -3}, {60, 0, -3}, {60, 0, 10}}); // in station 1 alone
    after.handBefore = "Glue the strip in.";
    // It lies in station 2 by then.
    side.cuts = {lineCut({{20, 0, 10}, {20, 0, -3}, {180, 0, -3}, {180, 0, 10}}), after};
    divideAmongStations(plan, 75);
    REQUIRE(side.cuts.size() == 3);
    CHECK(side.cuts[2].station == 0);
    CHECK_THAT(side.cuts[2].handBefore,
               Contains("Glue the strip in. Lift") && Contains("to the right"));
}

TEST_CASE("A neck longer than the machine is proved in two stations", "[stations][long]") {
    const Derived d = derive(shortMachine());
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK((f.weight != Weight::stop || f.part != Role::neck));
    }
    const PartJob& neck = *d.job(Role::neck);
    REQUIRE(neck.held.pitch > 0);
    REQUIRE(neck.proof);
    CHECK(findingOf(d.findings, "in-stations"));
    CHECK(neck.held.pins.size() == 4);
    // The stations follow one another so that the blank slides once, and is turned over between.
    std::vector<int> stations;
    int slides = 0;
    for (const PostedProgram& p : d.programs) {
        if (p.program.part != Role::neck) {
            continue;
        }
        const Setup& setup = neck.held.side(p.program.side);
        const int now = setup.stations[p.program.station].number;
        slides += !stations.empty() && stations.back() != now ? 1 : 0;
        stations.push_back(now);
        CHECK_THAT(p.program.setup, Contains(fmt::format("station {}", now)));
        // The text itself, from its own zero, inside the travel.
        const Vec2 zero = setup.stations[p.program.station].onMachine;
        for (const Move& m : readProgram(p.program.text, p.program.file).path) {
            CHECK(zero.x + m.to.x >= 0);
            CHECK(zero.x + m.to.x <= 560);
        }
    }
    CHECK(slides == 2); // on the way, and back with the back up
    CHECK(stations.front() == 1);
    CHECK(stations.back() == 1);
}

TEST_CASE("The same neck comes out of two stations as out of one", "[stations][long]") {
    const Derived one = derive(neckWith({{"neck_blank.width", "110"}}));
    const Derived two = derive(shortMachine());
    const ProofReport& whole = *one.proofOf(Role::neck, 1);
    const ProofReport& parted = *two.proofOf(Role::neck, 1);
    CHECK(parted.passed);
    CHECK(parted.gougeMax <= whole.gougeMax + 0.002);
    CHECK(parted.excessMax <= whole.excessMax + 0.05);
}

TEST_CASE("The board under it has the pins' places in either station", "[stations]") {
    const Project p = withKey(shortMachine(), "neck_hold.make_fixture", "yes");
    const Derived d = deriveOnly(p, Role::neckFixture);
    const PartJob& board = *d.job(Role::neckFixture);
    const Derived drawn = deriveDrawing(p);
    const Held& held = drawn.job(Role::neck)->held;
    REQUIRE(board.panel->holes.size() == 8);
    std::set<double> across;
    for (const Hole& h : board.panel->holes) {
        const Vec3 at = board.held.face.fromInstrument.toSetup({h.at.x, h.at.y, 0});
        const Vec2 machine = board.held.face.zeroOnMachine + at.xy();
        // Where a pin's hole of the blank lies in one station or the other.
        bool meets = false;
        for (const SlideStation& s : held.face.stations) {
            for (const RegisterPin& pin : held.pins) {
                const Vec3 in = held.face.fromInstrument.toSetup({pin.at.x, pin.at.y, 0});
                meets = meets || length(s.onMachine - s.zero + in.xy() - machine) < 1e-6;
            }
        }
        CHECK(meets);
        across.insert(std::round(machine.y));
    }
    CHECK(across.size() == 2);
}

TEST_CASE("A neck that cannot lie in two stations is told why", "[stations]") {
    const auto message = [](const Changes& changes) {
        const Derived d = deriveDrawing(shortMachine(changes));
        const std::optional<Finding> f = findingOf(d.findings, "no-stations");
        return f ? f->message : std::string();
    };
    CHECK_THAT(message({{"neck_hold.register", "marks"}}), Contains("registered by pins"));
    CHECK_THAT(message({{"machine.travel_x", "320"}}), Contains("at most"));
    CHECK_THAT(message({{"neck_blank.width", "100"}, {"neck_hold.pin_inset", "30"}}),
               Contains("wider blank"));
    CHECK(message({}).empty());
}

TEST_CASE("A board longer than the machine is cut in two stations", "[stations][long]") {
    Project p = loadProject(plainFile);
    for (const auto& [key, text] : Changes{{"machine.travel_x", "420"},
                                           {"machine.crossing_x", "200"},
                                           {"blank.width", "110"}}) {
        p = withKey(p, key, text);
    }
    const Derived d = deriveOnly(p, Role::board);
    const PartJob& board = *d.job(Role::board);
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK(f.weight != Weight::stop);
    }
    REQUIRE((board.proof && board.held.pitch > 0));
    CHECK(findingOf(d.findings, "in-stations"));
    // The pins' holes come first, in the first station.
    const Cut& first = board.plan().face().cuts.front();
    CHECK(first.of == FeatureKind::registerPin);
    CHECK(first.station == 0);
    for (const PostedProgram& posted : d.programs) {
        const Vec2 zero = board.held.face.stations[posted.program.station].onMachine;
        for (const Move& m : readProgram(posted.program.text, posted.program.file).path) {
            CHECK((zero.x + m.to.x >= 0 && zero.x + m.to.x <= 420));
        }
    }
    // The wood that comes out is the same as from a machine that is long enough.
    const Derived whole = deriveOnly(withKey(p, "machine.travel_x", "900"), Role::board);
    const ProofReport& parted = board.proof->sides[0];
    const ProofReport& one = *whole.proofOf(Role::board);
    CHECK(parted.gougeMax <= one.gougeMax + 0.002);
    CHECK(parted.excessMax <= one.excessMax + 0.05);
    // A narrow blank has no waste for the pins.
    const Derived narrow = deriveDrawing(withKey(p, "blank.width", "77"));
    REQUIRE(findingOf(narrow.findings, "no-stations"));
    CHECK_THAT(findingOf(narrow.findings, "no-stations")->message, Contains("wider blank"));
}

TEST_CASE("A body's layers slide on the same pins, and come out whole", "[stations][long]") {
    Project p = bodyWith({{"machine.travel_x", "400"}, {"machine.crossing_x", "200"},
                          {"body.build", "topped"}});
    const Derived d = derive(p);
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK((f.weight != Weight::stop || !f.part.ofBody()));
    }
    const Held& body = d.job(Role::body)->held;
    REQUIRE(body.pitch > 0);
    CHECK(body.pitch == Approx(body.blank.length + 24 - (400 - 4)).margin(1));
    for (Role role : {Role::core, Role::top}) {
        const Held& layer = d.job(role)->held;
        REQUIRE(layer.pins.size() == 4);
        CHECK(layer.pitch == body.pitch);
        for (std::size_t i = 0; i < 4; ++i) {
            CHECK(length(layer.pins[i].at - body.pins[i].at) < 1e-9);
        }
    }
}

TEST_CASE("Clamps stand in one station or in both", "[stations][clamps][long]") {
    const Project p = shortMachine();
    const Derived d = derive(p);
    const PartJob& neck = *d.job(Role::neck);
    const std::vector<Clamp> some = suggestedClamps(d, neck, 0);
    std::set<int> stations;
    for (const Clamp& c : some) {
        stations.insert(c.station);
    }
    CHECK(stations == std::set<int>{1, 2});
    Project held = withClamps(p, Role::neck, some);
    const Derived clamped = derive(held);
    CHECK_FALSE(findingOf(clamped.findings, "meets-clamp"));
    CHECK_FALSE(findingOf(clamped.findings, "clamp-off-bed"));
    CHECK(clampsOf(held, Role::neck, 0).size() == some.size());
    CHECK(clampsOf(held, Role::neck, 0, 1).size() + clampsOf(held, Role::neck, 0, 2).size() ==
          some.size());
    // One that is right in its own station is in the way of the other's programs.
    bool met = false;
    for (Clamp& c : held.clamps) {
        c.station = 0;
    }
    for (const Finding& f : derive(held).findings) {
        met = met || f.code == "meets-clamp" || f.code == "clamp-off-bed" ||
              f.code == "clamps-overlap";
    }
    CHECK(met);
    // It is kept in the file and told on the card.
    Project back = withClamps(p, Role::neck, some);
    CHECK(projectFromText(projectToText(back), "again").clamps == back.clamps);
    back.clamps[0].station = 3;
    CHECK_THAT(findingOf(deriveDrawing(back).findings, "clamp-for-nothing")->message,
               Contains("station 3"));
}
