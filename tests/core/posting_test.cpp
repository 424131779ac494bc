// What reaches the folder a machine reads from, also when the disk is full or the folder is odd.

#include "base/files.h"
#include "job/posting.h"
#include "job/report.h"

#include "full_disk.h"
#include "support.h"

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;
using test::Folder;
using test::FullDisk;
using test::plainWith;
using test::sentenceOf;

namespace {

std::vector<std::string> namesIn(const std::filesystem::path& folder) {
    std::vector<std::string> names;
    for (const auto& entry : std::filesystem::directory_iterator(folder)) {
        names.push_back(entry.path().filename().string());
    }
    std::sort(names.begin(), names.end());
    return names;
}

const Papers papers{{Role::board},
                    {"01-fretboard-face-up.pdf", "00-everything-in-order.pdf", "bench-nut.pdf",
                     "bench-frets.pdf", "bench-sawing.pdf", "bench-sled.pdf"},
                    {"fretboard.step", "fretboard.stl"},
                    {},
                    {"01-fretboard-radius-ball-12-air.nc", "02-fretboard-slots-slot-0.58-air.nc",
                     "03-fretboard-outline-flat-6-air.nc"},
                    {"01-fretboard-radius-ball-12-trace.nc",
                     "02-fretboard-slots-slot-0.58-trace.nc",
                     "03-fretboard-outline-flat-6-trace.nc"},
                    {"hardware.csv", "glue.csv", "cutlist.csv", "wood.csv"}};

} // namespace

TEST_CASE("Posting writes exactly what belongs to it", "[posting]") {
    const Folder folder;
    const Derived d = derive(plainWith());
    CHECK(post(d, folder.str()) == PostingRight::free);
    CHECK(namesIn(folder.str()) == std::vector<std::string>{"air", "lists", "models", "programs",
                                                            "report.json", "sheets", "trace"});
    CHECK(namesIn(folder / "air") == papers.air);
    CHECK(namesIn(folder / "trace") == papers.traces);
    CHECK(namesIn(folder / "programs").size() == 3);
    std::vector<std::string> sheets = papers.sheets;
    std::sort(sheets.begin(), sheets.end());
    CHECK(namesIn(folder / "sheets") == sheets);
    CHECK(namesIn(folder / "models") == papers.models);
    for (const PostedProgram& p : d.programs) {
        CHECK(readFile(folder / "programs" / p.program.file) == p.program.text);
    }
    CHECK(readFile(folder / "report.json") == reportJson(d, papers));
    post(d, folder.str()); // again: nothing piles up
    CHECK(namesIn(folder / "programs").size() == 3);
}

TEST_CASE("A program whose name has changed is set aside", "[posting]") {
    const Folder folder;
    post(derive(plainWith()), folder.str());
    post(derive(plainWith({{"cut.radius.bit", "ball-6"}})), folder.str());
    CHECK(namesIn(folder / "programs") ==
          std::vector<std::string>{
              "01-fretboard-radius-ball-12.nc.stale", "01-fretboard-radius-ball-6.nc",
              "02-fretboard-slots-slot-0.58.nc", "03-fretboard-outline-flat-6.nc"});
}

TEST_CASE("Files that are not ours stay where they are", "[posting][long]") {
    const Folder folder;
    std::filesystem::create_directories(folder / "programs");
    writeFileSafely(folder / "programs" / "99-mine.nc", "(mine)\n");
    writeFileSafely(folder / "keep.nc", "(mine too)\n");
    // A report somebody has tampered with must not lead outside the folder.
    writeFileSafely(folder / "report.json",
                    R"({"programs": [{"file": "../keep.nc"}, {"file": 5}, 7]})");
    post(derive(plainWith()), folder.str());
    CHECK(readFile(folder / "programs" / "99-mine.nc") == "(mine)\n");
    CHECK(readFile(folder / "keep.nc") == "(mine too)\n");
    writeFileSafely(folder / "report.json", "{ not json");
    CHECK_NOTHROW(post(derive(plainWith()), folder.str()));
    CHECK(json::parse(readFile(folder / "report.json"))["posted"] == true);
}

TEST_CASE("A full disk leaves the programs of before, whole", "[posting][failure]") {
    const Folder folder;
    const Derived before = derive(plainWith());
    post(before, folder.str());
    const Derived after = derive(plainWith({{"blank.thickness", "7.5"}}));
    std::string sentence;
    {
        const FullDisk full(20000); // the radius fits, the slots do not
        sentence = sentenceOf([&] { post(after, folder.str()); });
    }
    CHECK(sentence.find("02-fretboard-slots") != std::string::npos);
    for (const PostedProgram& p : before.programs) {
        CHECK(readFile(folder / "programs" / p.program.file) == p.program.text);
    }
    CHECK(namesIn(folder / "programs").size() == 3);
    CHECK(readFile(folder / "report.json") == reportJson(before, papers));
}

TEST_CASE("A full disk on saving from the command line loses nothing", "[posting][failure]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    const std::string good = readFile(test::plainFile);
    writeFileSafely(file, good);
    // ulimit counts blocks of 1024 bytes in bash: none at all may be written.
    const test::Ran r = test::run("bash -c 'trap \"\" XFSZ; ulimit -f 0; " WREN_BIN "/wren set " +
                                  file + " board.frets=20 2>&1'");
    CHECK(r.code == 1);
    CHECK(r.out.find("could not be written") != std::string::npos);
    CHECK(readFile(file) == good);
    CHECK(namesIn(folder.str()) == std::vector<std::string>{"p.wren"});
}

TEST_CASE("Who may post: free, with a reason, or never", "[posting]") {
    CHECK(postingRight(derive(plainWith())) == PostingRight::free);
    const auto withReason = [](const Project& p, const char* code) {
        Derived d = derive(p);
        giveReasons(d, {{Role::board, code, "held by vacuum"}});
        return d;
    };
    const Derived unasked = withReason(plainWith(), "part-free");
    CHECK(postingRight(unasked) == PostingRight::free);
    CHECK(unasked.overrides.empty());
    CHECK(unasked.programs[0].program.text == derive(plainWith()).programs[0].program.text);
    const Project tabless = plainWith({{"cut.tabs_per_side", "0"}});
    CHECK(postingRight(derive(tabless)) == PostingRight::refused);
    const Derived forced = withReason(tabless, "part-free");
    CHECK(postingRight(forced) == PostingRight::overridden);
    CHECK(forced.programs[0].program.text.find("part-free, held by vacuum") != std::string::npos);
    CHECK(forced.programs[0].sha256 != derive(tabless).programs[0].sha256);
    const Project intoBed = plainWith({{"cut.through", "4"}});
    CHECK(postingRight(withReason(intoBed, "into-bed")) == PostingRight::refused);
    const Project noBoard = plainWith({{"board.slot_depth", "7"}});
    CHECK(postingRight(withReason(noBoard, "no-floor")) == PostingRight::refused);
    CHECK(postingRight(deriveDrawing(plainWith())) == PostingRight::refused); // not proved yet
}

TEST_CASE("A reason lifts one finding in one part, and nothing else", "[posting][override][long]") {
    Project p = loadProject(WREN_SOURCE "/demo/whinchat.wren");
    p = withKey(p, "cut.tabs_per_side", "0");
    p = withKey(p, "neck_cut.tab_height",
                "0.5"); // tabs that tie nothing: another stop, another part
    Derived d = derive(p);
    REQUIRE(postingRight(d, Role::board) == PostingRight::refused);
    REQUIRE(postingRight(d, Role::neck) == PostingRight::refused);
    giveReasons(d, {overrideFrom("fretboard:part-free=vacuum", d.findings, d.wanted())});
    CHECK(postingRight(d, Role::board) == PostingRight::overridden);
    CHECK(postingRight(d, Role::neck) == PostingRight::refused);
    CHECK(postingRight(d, Role::lid) == PostingRight::free);
    // The same code in another part, or another code in the same part, is not lifted by it.
    giveReasons(d, {{Role::lid, "part-free", "vacuum"}, {Role::board, "gouge", "vacuum"}});
    CHECK(d.overrides.empty());
    CHECK(postingRight(d, Role::board) == PostingRight::refused);
    // A neck's stop is lifted like any other.
    Overrides all;
    for (const Finding& f : d.findings) {
        if (f.weight == Weight::stop && f.part == Role::neck) {
            CHECK(f.overridable);
            all.push_back({f.part, f.code, "held by hand"});
        }
    }
    giveReasons(d, all);
    CHECK(postingRight(d, Role::neck) == PostingRight::overridden);
    for (const PostedProgram& program : d.programs) {
        CHECK((program.program.text.find("A stop was overridden") != std::string::npos) ==
              (program.program.part == Role::neck));
    }
}

TEST_CASE("A reason is typed for a finding, blank ones are none", "[posting][override]") {
    Findings found;
    sayOf(Role::neck, found, Weight::stop, "overload", "x", 1, 1);
    sayOf(Role::board, found, Weight::stop, "overload", "x", 1, 1);
    sayOf(Role::board, found, Weight::stop, "into-bed", "x", 1, 1).overridable = false;
    const std::vector<PartId> all{Role::board, Role::neck};
    CHECK(overrideFrom("neck:overload= slow by hand ", found, all) ==
          Override{Role::neck, "overload", "slow by hand"});
    CHECK(overrideFrom("overload=slow", found, {Role::neck}) ==
          Override{Role::neck, "overload", "slow"});
    CHECK(overrideFrom("slow = steady", found, {Role::neck}).reason == "slow = steady");
    for (const char* blank : {"", "   ", "overload=", "neck:overload= \t"}) {
        CHECK(test::sentenceOf([&] { overrideFrom(blank, found, all); }).find("empty") !=
              std::string::npos);
    }
    CHECK(test::sentenceOf([&] { overrideFrom("slow", found, all); }).find("neck:overload") !=
          std::string::npos);
    CHECK_FALSE(test::sentenceOf([&] { overrideFrom("into-bed=x", found, all); }).empty());
}

TEST_CASE("A refused posting writes the report and sets the old programs aside", "[posting]") {
    const Folder folder;
    post(derive(plainWith()), folder.str());
    const Derived bad = derive(plainWith({{"cut.tabs_per_side", "0"}}));
    CHECK(post(bad, folder.str()) == PostingRight::refused);
    const json report = json::parse(readFile(folder / "report.json"));
    CHECK(report["posted"] == false);
    CHECK(report["programs"].empty());
    CHECK(report["proof"][0]["passed"] == false);
    for (const std::string& name : namesIn(folder / "programs")) {
        CHECK(name.find(".nc.stale") != std::string::npos);
    }
}

TEST_CASE("The report tells numbers without noise", "[posting]") {
    const json report = json::parse(
        reportJson(derive(plainWith({{"machine.units", "inch"}})), {{Role::board}, {}, {}, {}}));
    CHECK(report["design_hash"].get<std::string>().size() == 64);
    for (const json& p : report["programs"]) {
        for (const char* corner : {"min", "max"}) {
            for (const json& v : p["extents_mm"][corner]) {
                const double rounded = std::round(v.get<double>() * 1e6) / 1e6;
                CHECK(v.get<double>() == rounded);
            }
        }
    }
    const json box = report["parts"][0]["bbox_mm"];
    CHECK(box["min"][2] == 0);
    CHECK(box["max"][2] == 6);
    CHECK(box["min"][1].get<double>() == -box["max"][1].get<double>());
}

TEST_CASE("Derivation goes in steps, each on top of the last", "[derive]") {
    Derived d = deriveDrawing(plainWith());
    CHECK(d.board);
    CHECK(d.lies(Role::board));
    CHECK(d.programs.empty());
    CHECK_FALSE(d.boardPlan());
    derivePrograms(d);
    CHECK(d.programs.size() == 3);
    CHECK_FALSE(d.proofOf(Role::board));
    deriveProof(d);
    CHECK(d.proofOf(Role::board)->passed);
    CHECK(d.seconds() > d.secondsPlain());
    // Nothing to work on: the later steps leave it alone.
    Derived none = deriveDrawing(plainWith({{"blank.width", "50"}}));
    derivePrograms(none);
    deriveProof(none);
    CHECK_FALSE(none.boardPlan());
    CHECK_FALSE(none.proofOf(Role::board));
    CHECK(hasFirmStop(none.findings));
}

TEST_CASE("The heaviest finding comes first", "[derive]") {
    const Derived d = derive(plainWith(
        {{"cut.tabs_per_side", "0"}, {"cut.slots.depth_per_pass", "0.5"}, {"blank.width", "62"}}));
    REQUIRE(d.findings.size() >= 3);
    for (std::size_t i = 1; i < d.findings.size(); ++i) {
        CHECK(d.findings[i - 1].weight <= d.findings[i].weight);
    }
    CHECK(std::string(weightName(d.findings.front().weight)) == "stop");
    CHECK(std::string(weightName(d.findings.back().weight)) == "caution");
}

TEST_CASE("Overrides are on record with what they overrode", "[posting]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    Derived forced = derive(plainWith({{"cut.tabs_per_side", "0"}}));
    giveReasons(forced, {{Role::board, "part-free", "held by vacuum"}});
    recordOverride(forced, Role::board, book);
    const OverrideRecord r = book.overrides().at(0);
    CHECK(r.project == "Whinchat");
    CHECK(r.part == "fretboard");
    CHECK(r.codes == "part-free");
    CHECK(r.reason == "held by vacuum");
    CHECK(r.when.size() == 20);
}
