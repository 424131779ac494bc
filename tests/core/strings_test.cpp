// The string set, and what gives way to a bridge in a recess, a measured heel, a neck without
// pocket.
#include "body_support.h"

#include "design/setup_solver.h"
#include "design/string_set.h"
#include "job/compare.h"
#include "job/setup_report.h"

#include <set>

#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using nlohmann::json;

namespace {

std::vector<std::string> notesOf(const std::vector<StringGauge>& set) {
    std::vector<std::string> out;
    for (const StringGauge& s : set) {
        out.push_back(s.note);
    }
    return out;
}

} // namespace

TEST_CASE("A set to begin with is tuned as its instrument usually is", "[strings]") {
    // Common practice, no source.
    using Notes = std::vector<std::string>;
    CHECK(notesOf(usualSet(6, 648)) == Notes{"E2", "A2", "D3", "G3", "B3", "E4"});
    CHECK(notesOf(usualSet(7, 648)) == Notes{"B1", "E2", "A2", "D3", "G3", "B3", "E4"});
    CHECK(notesOf(usualSet(4, 864)) == Notes{"E1", "A1", "D2", "G2"});
    CHECK(notesOf(usualSet(5, 864)) == Notes{"B0", "E1", "A1", "D2", "G2"});
    CHECK(notesOf(usualSet(6, 864)) == Notes{"B0", "E1", "A1", "D2", "G2", "C3"});
    for (int strings = 4; strings <= 9; ++strings) {
        for (double scale : {560.0, 648.0, 864.0}) {
            INFO(strings << " at " << scale);
            const std::vector<StringGauge> set = usualSet(strings, scale);
            REQUIRE(set.size() == static_cast<std::size_t>(strings));
            for (std::size_t i = 1; i < set.size(); ++i) {
                // Each sounds higher and is thinner than the one before; no plain one below a
                // wound.
                CHECK(noteFrequency(set[i].note) > noteFrequency(set[i - 1].note));
                CHECK(set[i].thickness < set[i - 1].thickness);
                CHECK((set[i - 1].wound || !set[i].wound));
            }
        }
    }
}

TEST_CASE("Notes, weights and cores are kept in the file and refused with a sentence",
          "[strings][command]") {
    const Folder folder;
    const std::string file = (folder / "a.wren").string();
    Project p = bodyWith();
    p.board.gauges = usualSet(6, p.board.scaleLength);
    p.board.gauges[0].core = 0.4;
    p.board.gauges[0].weight = 6.8;
    saveProject(p, file);
    CHECK(loadProject(file).board.gauges == p.board.gauges);
    const Ran bad = test::wren("set " + file + " board.gauges.0.note=H2");
    CHECK(bad.code == 1);
    CHECK(bad.err.find("\"H2\" is not a note") != std::string::npos);
    CHECK(test::wren("set " + file + " board.gauges.0.weight=0").code == 1);
    CHECK(loadProject(file).board.gauges == p.board.gauges);
    CHECK(test::wren("set " + file + " board.gauges.0.note=D2").code == 0);
    const json g = json::parse(test::wren("geometry " + file + " --json").out);
    // By hand: 6.8 g/m over 648 mm at D2, 73.4162 Hz: 0.0068 x (2 x 0.648 x 73.4162)^2.
    const double by = 0.0068 * std::pow(2 * p.board.scaleLength / 1000 * 73.4162, 2);
    CHECK(g["strings"][0]["tension_n"].get<double>() == Approx(by).epsilon(1e-5));
    CHECK(g["strings"][1]["tension_n"].is_null()); // wound, its weight not known
}

TEST_CASE("A string's own stretch moves its saddle, else the usual does", "[strings]") {
    Project p = bodyWith();
    const auto behind = [&](std::size_t i) { return setupOf(drawnBody(p)).strings.at(i); };
    CHECK_FALSE(behind(5).compensated);
    CHECK(behind(0).compensation - behind(5).compensation == Approx(3)); // common practice
    p.board.gauges = usualSet(6, p.board.scaleLength);
    CHECK(behind(5).compensated);
    CHECK_FALSE(behind(0).compensated); // wound, nothing known of it
    CHECK(behind(5).compensation ==
          Approx(*stretchCompensation(p.board.gauges[5], p.board.scaleLength, p.body.aims.action)));
    // Twice the action stretches it four times as far.
    const double low = behind(5).compensation;
    p.body.aims.action *= 2;
    CHECK(behind(5).compensation == Approx(4 * low));
    // Two scales beside one another: each string pulls by its own.
    Project fan = withTrebleScale(newProject("fan", 5, 864, 22, Hand::left), 813, "7");
    fan.board.gauges = usualSet(5, 864);
    for (StringGauge& s : fan.board.gauges) {
        s.weight = 10;
    }
    fan = withKey(withKey(fan, "neck.joint", "bolt-on"), "body.build", "one-piece");
    const Derived d = deriveDrawing(fan);
    REQUIRE(d.body);
    const SetupGeometry g = setupOf(d);
    CHECK(*g.strings.front().tension == Approx(stringTension(10, 864, noteFrequency("B0"))));
    CHECK(*g.strings.back().tension == Approx(stringTension(10, 813, noteFrequency("G2"))));
}

TEST_CASE("A recess under the bridge counts in what is aimed at", "[strings]") {
    Project p = bodyWith({{"pickup1.kind", "none"}, {"pickup2.kind", "none"}});
    CHECK(bridgeFloor(p.body) == 0);
    const double level = saddleAim(p.body);
    CHECK(level == Approx((p.body.bridge.saddleLow + p.body.bridge.saddleHigh) / 2));
    p = withKey(p, "body.recesses", "front 3: -20 -45 r4, 30 -45 r4, 30 45 r4, -20 45 r4");
    CHECK(bridgeFloor(p.body) == -3);
    CHECK(saddleAim(p.body) == Approx(level - 3));
    CHECK(drawnBody(p).body->part.bridgeStandsOn() == Approx(-3));
    // Solved over it the saddles stand in the middle of their travel.
    const SetupAnswer answer = solveSetup(p, {"pocket", {}, {}, {}});
    const SetupGeometry g = setupOf(deriveDrawing(answer.project));
    CHECK(g.middleSaddle == Approx((g.saddleLow + g.saddleHigh) / 2).margin(1e-6));
    p.body.saddleAim = 12.5;
    CHECK(saddleAim(p.body) == 12.5);
    p.body.saddleAim.reset();
    p.body.aims.school = StringSchool::flat;
    CHECK(saddleAim(p.body) == Approx(p.body.bridge.saddleLow - 3));
}

TEST_CASE("The pocket can give way instead, and stops at the body's back", "[strings]") {
    const Project p = bodyWith({{"setup.gives_way", "pocket"}});
    const Project low =
        settledAfter(p, withKey(withKey(p, "bridge.saddle_low", "5"), "bridge.saddle_high", "9"));
    CHECK(low.body.pocket.depth > p.body.pocket.depth);
    CHECK(setupOf(deriveDrawing(low)).middleSaddle == Approx(7).margin(0.01));
    // As much wood stays under its mouth as anywhere.
    CHECK(deepestPocket(p.body, p.neck, 0) == Approx(p.body.thickness - 2.5));
    CHECK(
        deepestPocket(p.body, p.neck, 3) ==
        Approx(p.body.thickness - 2.5 - p.neck.heelLength * std::tan(3 * 3.14159265358979 / 180)));
    CHECK(deepestPocket(p.body, p.neck, -2) == Approx(p.body.thickness - 2.5));
    // A neck that goes through lies in none: how proud it sits gives way in its stead.
    const Project through = withKey(p, "neck.joint", "through");
    CHECK(settledAfter(p, through).body.pocket.depth == p.body.pocket.depth);
    CHECK(settledAfter(p, through).body.pocket.proud > 0);
    // Without a neck nothing follows, and nothing can be asked.
    const Project alone = withKey(p, "neck.joint", "none");
    CHECK(settledAfter(p, alone) == alone);
    CHECK_THROWS_AS(solveSetup(alone, {"angle", {}, {}, {}}), Error);
    CHECK_THROWS_AS(setupOf(deriveDrawing(alone)), Error);
    // The ways out: what can be made first, of these what takes least wood, another bridge last.
    const auto ways = [&](double aim) {
        std::vector<GivesWay> out;
        for (const SetupCure& cure : setupCures(p.body, p.neck, p.board, aim)) {
            if (cure.serves) {
                out.push_back(cure.what);
            }
        }
        return out;
    };
    using Ways = std::vector<GivesWay>;
    // A degree of angle is as much at the bridge as 2.9 mm of pocket, and takes 1.3 mm of wood.
    CHECK(ways(14) == Ways{GivesWay::angle, GivesWay::pocket, GivesWay::saddles});
    CHECK(ways(26) == Ways{GivesWay::angle, GivesWay::saddles}); // the pocket would be too shallow
    CHECK(ways(60) == Ways{GivesWay::saddles});
}

TEST_CASE("A comparison tells what a new bridge moves", "[strings]") {
    const Project a = bodyWith();
    Project b = withKey(a, "setup.gives_way", "angle");
    b = settledAfter(b, withKey(withKey(b, "bridge.saddle_high", "24"), "bridge.saddle_low", "16"));
    const Comparison c = compare(a, b);
    std::set<std::string> keys;
    for (const Comparison::Changed& k : c.keys) {
        keys.insert(k.key);
    }
    CHECK(keys == std::set<std::string>{"bridge.saddle_high", "bridge.saddle_low",
                                        "neck_pocket.angle", "setup.gives_way"});
    CHECK(std::any_of(c.moved.begin(), c.moved.end(), [](const Comparison::Moved& m) {
        return m.what == "neck angle" && m.first == 0 && m.second > 2;
    }));
    CHECK_FALSE(c.stale.empty());
    CHECK(comparisonText(c).find("neck_pocket.angle") != std::string::npos);
}
