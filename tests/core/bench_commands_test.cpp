// What the command line does about bed, batches, stale programs and foreign ones.
#include "body_support.h"
#include "neck_support.h"

#include "base/files.h"
#include "job/store.h"

#include <nlohmann/json.hpp>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;
using nlohmann::json;

namespace {

/// The plain board's project in a folder of its own.
struct Shop {
    Folder folder;
    std::string file = (folder / "p.wren").string();

    explicit Shop(const Project& p = loadProject(plainFile)) { saveProject(p, file); }

    std::string in(const char* name) const { return (folder / name).string(); }
    Ran ask(const std::string& words) const { return test::wren(words); }
    void set(const std::string& change) const {
        REQUIRE(test::wren(fmt::format("set {} {}", file, change)).code == 0);
    }
};

} // namespace

TEST_CASE("The bed is told and its programs are written from the command line", "[bed][command]") {
    const Shop shop;
    shop.set("machine.gap=150mm machine.spoil_thickness=12");
    const Ran told = shop.ask("bed " + shop.file);
    REQUIRE(told.code == 0);
    CHECK_THAT(told.out, Contains("12.0 mm thick, 3.0 mm of it to be surfaced away") &&
                             Contains("there are 150.0 mm"));
    const json doc = json::parse(shop.ask("bed " + shop.file + " --json").out);
    CHECK(doc["spoil_board"]["left_mm"] == 3.0);
    CHECK(doc["gap_mm"] == 150.0);
    // The sum is that of its own terms.
    const json& most = doc["most_room"];
    const double sum = most["fixture_mm"].get<double>() + most["blank_mm"].get<double>() +
                       most["lift_mm"].get<double>() + most["bit_mm"].get<double>() +
                       most["nut_mm"].get<double>();
    CHECK(sum == Approx(most["total_mm"].get<double>()).margin(0.01));
    const Ran posted = shop.ask(fmt::format("bed {} --surface 0.5mm --lines 0.016in --out {}",
                                            shop.file, shop.in("bench")));
    CHECK(posted.code == 0);
    CHECK_THAT(readFile(shop.folder / "bench" / "bed-surface.nc"),
               Contains("Zero: Z on the spoil board") && Contains("Part bed"));
    CHECK_THAT(readFile(shop.folder / "bench" / "bed-lines.nc"), Contains("Z-0.4064"));
    for (const char* words : {"--surface 0", "--surface 9mm", "--lines 5mm", "--lines -1"}) {
        const Ran refused =
            shop.ask(fmt::format("bed {} {} --out {}", shop.file, words, shop.in("no")));
        CHECK(refused.code == 1);
        CHECK_THAT(refused.err, Contains("was expected"));
    }
    CHECK_FALSE(std::filesystem::exists(shop.folder / "no"));
    CHECK(shop.ask("bed nowhere.wren").code != 0);
}

TEST_CASE("A batch goes out from the command line, or not at all", "[batch][command]") {
    const Shop shop;
    for (const char* bird : {"Wheatear", "Dipper"}) {
        REQUIRE(shop.ask(fmt::format("add {} batch name={} board_thickness={}", shop.file, bird,
                                     bird == std::string("Dipper") ? "7.4mm" : "auto"))
                    .code == 0);
    }
    const Ran text = shop.ask("batch " + shop.file);
    REQUIRE(text.code == 0);
    CHECK_THAT(text.out, Contains("Wheatear") && Contains("Dipper") &&
                             Contains("one instrument after the other"));
    const Ran out = shop.ask(fmt::format("batch {} --json --out {}", shop.file, shop.in("two")));
    REQUIRE(out.code == 0);
    const json doc = json::parse(out.out);
    CHECK(doc["instruments"].size() == 2);
    CHECK(doc["bit_changes"] <= doc["bit_changes_one_by_one"]);
    CHECK(doc == json::parse(readFile(shop.folder / "two" / "batch.json")));
    for (const auto& step : doc["order"]) {
        CHECK((step["instrument"] == "Wheatear" || step["instrument"] == "Dipper"));
    }
    // The first step of all lays a blank and puts a bit in.
    CHECK(doc["order"][0]["lay_blanks"] == true);
    CHECK(doc["order"][0]["change_bit"] == true);
    CHECK(std::filesystem::exists(shop.folder / "two" / "1-wheatear" / "report.json"));
    CHECK(std::filesystem::exists(shop.folder / "two" / "2-dipper" / "report.json"));
    // A blank that is too thin: nothing of the batch is written.
    shop.set("batch.1.board_thickness=3mm");
    const Ran thin = shop.ask(fmt::format("batch {} --out {}", shop.file, shop.in("none")));
    CHECK(thin.code == 1);
    CHECK_THAT(thin.err, Contains("Dipper:") && Contains("Nothing was posted"));
    CHECK_FALSE(std::filesystem::exists(shop.folder / "none"));
    CHECK(shop.ask(fmt::format("set {} batch.1.board_thickness=900mm", shop.file)).code != 0);
}

TEST_CASE("Stale programs are told with what changed", "[stale][command]") {
    const Shop shop;
    const std::string book = " --book " + shop.in("book.sqlite");
    CHECK_THAT(shop.ask("stale " + shop.file + book).out, Contains("no posted programs"));
    REQUIRE(shop.ask(fmt::format("make {} --out {}", shop.file, shop.in("job"))).code == 0);
    const Ran fresh = shop.ask("stale " + shop.file + book);
    CHECK(fresh.code == 0);
    CHECK_THAT(fresh.out, Contains("3 programs as they would be posted today, 0 not"));
    shop.set("board.slot_depth=2.2mm");
    const Ran stale = shop.ask("stale " + shop.file + book);
    CHECK(stale.code == 1); // for a script before it sends anything
    CHECK_THAT(stale.out, Contains("changed board.slot_depth: 2.20 mm, was") &&
                              Contains("02-fretboard-slots") && !Contains("cut already"));
    // A clamp or another name makes nothing stale.
    shop.set("board.slot_depth=2mm name=Other");
    CHECK_THAT(shop.ask("stale " + shop.file + book).out, Contains("no posted programs of Other"));
}

TEST_CASE("How a part is laid tells where the plate lies and how its sides meet",
          "[bed][command]") {
    const Shop shop(neckWith({}));
    const json neck = json::parse(shop.ask("hold " + shop.file + " --part neck --json").out);
    REQUIRE(neck["setups"].size() == 2);
    CHECK(neck["register"]["better"] == "pins");
    CHECK(neck["register"]["by_pins_mm"] < neck["register"]["by_marks_mm"]);
    for (const auto& setup : neck["setups"]) {
        REQUIRE(setup["probe_spot"].is_array());
        const bool bed = setup["z_zero"] == "bed";
        CHECK(setup["probe_on"] ==
              (bed ? "the fixture board's face" : "the blank's face")); // it stands on pins
        const double x = setup["probe_spot"][0], y = setup["probe_spot"][1];
        const auto& box = setup["bed_mm"];
        const bool over =
            x > box["min"][0] && x < box["max"][0] && y > box["min"][1] && y < box["max"][1];
        CHECK(over == !bed);
    }
    const json board = json::parse(shop.ask("hold " + shop.file + " --part fretboard --json").out);
    CHECK(board["setups"][0]["probe_on"] == "the bed");
    CHECK_FALSE(board.contains("register")); // it is cut from one side
    // A line of its own, 80 mm behind the long one: told on the way to the zero.
    shop.set("blank.line=80mm");
    const json moved = json::parse(shop.ask("hold " + shop.file + " --part fretboard --json").out);
    CHECK(moved["setups"][0]["jogs"].size() == board["setups"][0]["jogs"].size() + 1);
    CHECK(moved["setups"][0]["bed_mm"]["min"][1].get<double>() ==
          Approx(board["setups"][0]["bed_mm"]["min"][1].get<double>() + 80));
    double sum = 0;
    for (const auto& jog : moved["setups"][0]["jogs"]) {
        sum += jog["by_mm"][1].get<double>();
    }
    CHECK(sum == Approx(moved["setups"][0]["jogs"].back()["to_mm"][1].get<double>()));
}

TEST_CASE("A foreign program is asked for clamps and the spindle as well", "[clamps][command]") {
    Project p = loadProject(plainFile);
    Clamp strap;
    strap.at = {250, -25};
    strap.turn = 90;
    p.clamps = {strap};
    const Shop shop(p);
    writeFileSafely(shop.folder / "along.nc",
                    "G21 G90 G17\nM3 S12000\nG0 X10 Y-6 Z20\nG1 Z5 F300\nG1 X490 F900\n"
                    "G0 Z40\nM5\nM30\n");
    const std::string words = "check " + shop.in("along.nc") + " --project " + shop.file +
                              " --part fretboard --bit flat-6";
    const Ran met = shop.ask(words);
    CHECK_THAT(met.out + met.err, Contains("line 5") && Contains("into clamp 1"));
    shop.set("clamps.0.at=250,-200");
    const Ran clear = shop.ask(words);
    CHECK_THAT(clear.out + clear.err, !Contains("into clamp"));
    shop.set("machine.shoe_width=120mm machine.shoe_below=63mm");
    const Ran shoe = shop.ask(words);
    CHECK_THAT(shoe.out + shoe.err, Contains("dust shoe"));
}
