// How a part is laid on the machine, as told for the hands: marks, jogs, pins, the plate.
#include "body_support.h"

#include "base/sixty_fourths.h"
#include "job/hold_card.h"

#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;
using nlohmann::json;

TEST_CASE("Lengths on a rule are in lowest terms", "[hold]") {
    CHECK(sixtyFourths(25.4) == "1 in");
    CHECK(sixtyFourths(0.2) == "1/64 in"); // 0.504 of one
    CHECK(sixtyFourths(12.7) == "1/2 in");
    CHECK(sixtyFourths(61.9125) == "2 7/16 in");
    CHECK(sixtyFourths(25.4 * 2.99) == "2 63/64 in");
}

TEST_CASE("The jog card leads from home over the crossing to the corner", "[hold]") {
    // By hand: the crossing, less half the blank.
    const auto cards = [](const Changes& changes) {
        Changes all{{"neck_blank.length", "760"}, {"neck_blank.width", "110"}};
        all.insert(all.end(), changes.begin(), changes.end());
        const Derived d = deriveDrawing(withKeys(neckWith(), all));
        std::vector<HoldCard> out = holdCards(d, *d.job(Role::neck));
        for (HoldCard& c : out) {
            c.setup = nullptr; // goes with the derivation
        }
        return out;
    };
    const std::vector<HoldCard> front = cards({});
    REQUIRE(front.size() == 2);
    for (const HoldCard& c : front) {
        REQUIRE(c.jogs.size() == 3);
        CHECK(c.jogs[1].to == Vec2{450, 300});
        CHECK(c.jogs[2].by == Vec2{-380, -55});
        CHECK(c.jogs[2].to == Vec2{70, 245});
        CHECK(c.bed[0] == Vec2{70, 245});
        CHECK(c.bed[1] == Vec2{830, 355});
        CHECK(c.expectedError == Approx(0.12));
    }
    // Turned over about the long line the pins stand where they stood.
    REQUIRE(front[0].pins.size() == 2);
    for (std::size_t i = 0; i < 2; ++i) {
        CHECK(length(front[0].pins[i] - front[1].pins[i]) < 1e-9);
        CHECK(front[0].pins[i].y == Approx(300));
    }
    CHECK(front[0].pins[0].x == Approx(70 + 11));
    CHECK(front[0].pins[1].x == Approx(830 - 11 - 7));
    // Home at the right and the back: all of the bed is on its minus side.
    const std::vector<HoldCard> back = cards({{"machine.home", "back-right"},
                                              {"machine.crossing_x", "-450"},
                                              {"machine.crossing_y", "-300"}});
    CHECK(back[0].jogs[1].by == Vec2{-450, -300});
    CHECK(back[0].jogs[2].by == Vec2{-380, -55});
    CHECK(back[0].jogs[2].to == Vec2{-830, -355});
}

TEST_CASE("Marks are told for a rule, and what would shift the sides by its sum", "[hold]") {
    const Derived d = deriveDrawing(neckWith({{"neck_blank.length", "760"},
                                              {"neck_blank.width", "110"},
                                              {"neck_blank.thickness", "38"},
                                              {"neck_hold.register", "marks"}}));
    const std::vector<HoldCard> all = holdCards(d, *d.job(Role::neck));
    REQUIRE(all.size() == 2);
    REQUIRE(all[0].marks.size() == 4);
    CHECK(all[0].marks[0].fromEdge == 55);
    CHECK(all[0].marks[2].fromEnd == 380);
    CHECK(all[0].pins.empty());
    CHECK(all[0].expectedError == Approx(0.3));
    std::string shifts;
    for (const std::string& s : all[0].shifts) {
        shifts += s + "\n";
    }
    CHECK_THAT(shifts, Contains("missed by 0.1 mm puts the sides 0.2 mm apart"));
    // The tangent of half a degree over 38 mm (worked by hand: 0.33).
    CHECK_THAT(shifts, Contains("0.33 mm over 38.0 mm"));
    CHECK_THAT(shifts, Contains("0.2 mm at that end, nothing at the other"));
    CHECK_THAT(shifts, Contains("wrong width does nothing"));
}

TEST_CASE("A part held for one side has one card and nothing to bring together", "[hold]") {
    const Derived d = deriveDrawing(neckWith());
    const std::vector<HoldCard> all = holdCards(d, *d.job(Role::board));
    REQUIRE(all.size() == 1);
    CHECK(all[0].expectedError == 0);
    CHECK(all[0].shifts.empty());
    CHECK(all[0].marks.size() == 4);
    CHECK_THAT(holdText(d, *d.job(Role::board)), Contains("jog    X-Y zero"));
}

TEST_CASE("Cards are asked for by command", "[hold][command]") {
    const Folder folder;
    const std::string file = WREN_SOURCE "/demo/dotterel.wren";
    const json neck = json::parse(test::wren("hold " + file + " --part neck --json").out);
    REQUIRE(neck["setups"].size() == 4);
    const double pitch = neck["stations"]["pitch_mm"].get<double>();
    CHECK(pitch > 200);
    const json& one = neck["setups"][0];
    const json& two = neck["setups"][1];
    CHECK(one["setup"] == "face up, station 1");
    CHECK(two["setup"] == "face up, station 2");
    CHECK(one["bed_mm"]["min"][0].get<double>() - two["bed_mm"]["min"][0].get<double>() ==
          Approx(pitch));
    CHECK(one["pins"].size() == 4);
    CHECK(one["marks"][0].contains("from_edge_in"));
    CHECK(one["probe_spot"].is_array());
    const json board = json::parse(test::wren("hold " + file + " --part fretboard --json").out);
    CHECK(board["setups"].size() == 1);
    CHECK(board["stations"].is_null());
    CHECK(test::wren("hold " + file + " --part sail").code == 1);
}
