// Ways between cuts led round what holds the blank.
#include "body_support.h"

#include "job/clamps.h"
#include "proof/clamp_check.h"
#include "proof/clear_links.h"

#include <random>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

constexpr double high = 26; // of the ways, setup Z

Bit flatSix() {
    Bit bit;
    bit.name = "flat";
    bit.kind = BitKind::flat;
    bit.diameter = 6;
    bit.fluteLength = 22;
    bit.shank = 6;
    bit.reach = 40;
    return bit;
}

Setup blankOf(double length, double width) {
    Setup setup;
    setup.blank.length = length;
    setup.blank.width = width;
    setup.blank.thickness = 20;
    setup.zeroOnMachine = {100, 100};
    setup.fromInstrument = SetupFromInstrument::faceUp({});
    setup.places = {setup.fromInstrument};
    return setup;
}

/// Down at one place, up, over to the other and down again.
SidePlan between(Vec2 a, Vec2 b) {
    SidePlan side;
    side.setup = blankOf(400, 300);
    Cut cut{CutName(CutKind::pocket)};
    cut.bit = flatSix();
    PathBuilder path({0, 0, high});
    path.rapid({a.x, a.y, high}).feed({a.x, a.y, 15}, 300).rapid({a.x, a.y, high});
    path.rapid({b.x, b.y, high}).feed({b.x, b.y, 15}, 300).rapid({b.x, b.y, high});
    cut.path = path.take();
    side.cuts.push_back(cut);
    return side;
}

ClampBox strapAt(Vec2 middle, Vec2 half = {45, 15}, double top = 45) {
    ClampBox box;
    box.middle = middle;
    box.half = half;
    box.high = top;
    return box;
}

RunProgram asRun(const SidePlan& side) {
    RunProgram run;
    run.bit = side.cuts[0].bit;
    run.path = side.cuts[0].path;
    return run;
}

double lengthOf(const Path& path) {
    double sum = 0;
    for (const Move& m : path) {
        sum += m.length();
    }
    return sum;
}

} // namespace

TEST_CASE("A way that would meet a clamp goes round it, no further than it must", "[links]") {
    const Machine machine;
    SidePlan side = between({60, 150}, {340, 150});
    const ClampBox clamp = strapAt({200, 150}, {20, 15});
    REQUIRE(firstTouch(asRun(side), clamp, machine.end));
    const double straight = lengthOf(side.cuts[0].path);
    clearLinks(side, {{clamp}}, machine);
    CHECK_FALSE(firstTouch(asRun(side), clamp, machine.end));
    // At that height nothing wider than shank and flutes hangs beside the clamp: 3 mm of radius
    // and 3 mm of room. Its near corners stand 120 mm along and 21 mm off the straight way.
    const double off = 15 + 3 + 3, along = 140 - 20 - 6, across = 2 * (20 + 6);
    const double expected = straight - 280 + 2 * std::hypot(along, off) + across;
    CHECK(lengthOf(side.cuts[0].path) == Approx(expected).margin(0.1));
    // The cuts are where they were.
    double lowest = 1e9;
    for (const Move& m : side.cuts[0].path) {
        lowest = std::min(lowest, m.to.z);
        CHECK((!m.cuts() || m.from.xy() == m.to.xy()));
    }
    CHECK(lowest == 15);
}

TEST_CASE("Where no way leads round, it leads over", "[links]") {
    Machine machine;
    machine.travel = {600, 260, 110};
    SidePlan side = between({60, 100}, {340, 100});
    side.setup.zeroOnMachine = {100, 0};
    const ClampBox wall = strapAt({200, 130}, {10, 200});
    clearLinks(side, {{wall}}, machine);
    CHECK_FALSE(firstTouch(asRun(side), wall, machine.end));
    double top = 0;
    for (const Move& m : side.cuts[0].path) {
        top = std::max(top, m.to.z);
        CHECK((m.to.y >= 0 && m.to.y <= 260));
    }
    CHECK(top >= 45 + 3);
    CHECK(top < 45 + 5);
}

TEST_CASE("Ways stay as they are where nothing stands in them", "[links]") {
    const Machine machine;
    const SidePlan before = between({60, 150}, {340, 150});
    SidePlan side = before;
    clearLinks(side, {{strapAt({200, 20})}}, machine);
    REQUIRE(side.cuts[0].path.size() == before.cuts[0].path.size());
    for (std::size_t i = 0; i < side.cuts[0].path.size(); ++i) {
        CHECK(side.cuts[0].path[i].to == before.cuts[0].path[i].to);
    }
}

TEST_CASE("Among clamps anywhere, no way meets one", "[links]") {
    const Machine machine;
    std::mt19937 random(19);
    std::uniform_real_distribution<double> x(0, 400), y(0, 300), turn(0, 3.2), half(5, 45);
    int met = 0;
    for (int i = 0; i < 300; ++i) {
        std::vector<ClampBox> clamps;
        for (int k = 0; k < 5; ++k) {
            ClampBox box = strapAt({x(random), y(random)}, {half(random), half(random) / 3}, 30);
            const double a = turn(random);
            box.way = {std::cos(a), std::sin(a)};
            clamps.push_back(box);
        }
        SidePlan side = between({x(random), y(random)}, {x(random), y(random)});
        // Only the ways are led; where a cut itself meets a clamp it is a stop.
        const auto cutMeets = [&] {
            for (const Move& m : side.cuts[0].path) {
                for (const ClampBox& c : clamps) {
                    const bool level = m.motion == Motion::rapid && m.from.z == m.to.z;
                    if (!level && touches(m, side.cuts[0].bit, c, machine.end, 0)) {
                        return true;
                    }
                }
            }
            return false;
        };
        if (cutMeets()) {
            continue;
        }
        const auto meets = [&](const SidePlan& s) {
            for (const ClampBox& c : clamps) {
                for (const Move& m : s.cuts[0].path) {
                    // By places close together along the way, apart from the check's own sums.
                    for (int n = 0; n <= 400 && m.from.xy() != m.to.xy(); ++n) {
                        const Vec3 p = m.at(n / 400.0);
                        const Vec2 own = c.own(p.xy());
                        const double away = std::hypot(std::max(0.0, std::abs(own.x) - c.half.x),
                                                       std::max(0.0, std::abs(own.y) - c.half.y));
                        if (p.z < c.high && away < 3 - 1e-6) {
                            return true;
                        }
                    }
                }
            }
            return false;
        };
        met += meets(side) ? 1 : 0;
        clearLinks(side, {clamps}, machine);
        CHECK_FALSE(meets(side));
        CHECK(side.cuts[0].path.back().to == Vec3{side.cuts[0].path.back().to.x,
                                                  side.cuts[0].path.back().to.y, high});
    }
    CHECK(met > 20);
}

TEST_CASE("A strap between two lids is gone round, though every way crosses it",
          "[links][clamps]") {
    const Project open = bodyWith({{"body_blank.lids", "2"}, {"body_blank.frame", "40"}});
    const Derived before = deriveOnly(open, Role::lid);
    const PartJob& job = *before.job(Role::lid);
    const Setup& face = job.held.face;
    const Vec2 middle = (job.panel->box()[0] + job.panel->box()[1]) * 0.5;
    const auto lies = [&](std::size_t k) {
        return face.places[k].toSetup({middle.x, middle.y, 0}).xy();
    };
    const Vec2 apart = lies(1) - lies(0);
    const Clamp strap{"body lid", 1, ClampKind::strap, (lies(0) + lies(1)) * 0.5,
                      std::abs(apart.x) > std::abs(apart.y) ? 90.0 : 0.0, {}};
    const ClampBox box = *boxOf(strap, face);
    bool crossed = false;
    for (const RunProgram& program : job.read[0]) {
        crossed = crossed || firstTouch(program, box, open.machine.end).has_value();
    }
    REQUIRE(crossed);
    Project held = open;
    held.clamps = {strap};
    const Derived after = deriveOnly(held, Role::lid);
    CHECK_FALSE(findingOf(after.findings, "meets-clamp"));
    CHECK(stopsOf(*after.job(Role::lid)->proof).empty());
    CHECK(designHash(held) != designHash(open)); // its programs are other ones
    // Taken away again, the ways are straight again.
    held.clamps.clear();
    CHECK(deriveOnly(held, Role::lid).programs[0].sha256 == before.programs[0].sha256);
}
