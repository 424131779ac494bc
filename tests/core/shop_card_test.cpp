// What the book makes of what was written down: bits' lives, instruments' progress, advice before a
// run, what is not in hand, the job card.
#include "body_support.h"

#include "book/bit_life.h"
#include "book/progress.h"
#include "book/run_entry.h"
#include "book/run_list.h"
#include "book/search.h"
#include "book/time_spent.h"
#include "job/job_card.h"
#include "job/keys.h"
#include "job/rack.h"
#include "job/run_advice.h"
#include "job/store.h"
#include "shop/shrinkage.h"

#include <random>

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

std::string dayOf(int n) {
    return fmt::format("2026-10-{:02}T10:00:00Z", n);
}

Record recordAt(const std::string& kind, const std::vector<std::string>& typed, int n) {
    Record r = recordFrom(kind, typed);
    r.time = dayOf(n);
    return r;
}

RunRecord runOn(int n, const std::string& bit, const std::string& wood, double seconds,
                double mm) {
    RunRecord r;
    r.id = n;
    r.project = "Whinchat 1";
    r.part = "neck";
    r.program = fmt::format("{:02}-neck.nc", n);
    r.start = r.end = dayOf(n);
    r.bit = bit;
    r.wood = wood;
    r.cuts = "rough";
    r.plannedSeconds = r.takenSeconds = seconds;
    r.cutLength = mm;
    r.outcome = "done";
    return r;
}

} // namespace

TEST_CASE("A bit's hours and metres are those since it is new, wood by wood", "[shop-memory]") {
    std::mt19937 random(8);
    const std::vector<std::string> woods{"white-ash", "hard-maple"};
    for (int round = 0; round < 30; ++round) {
        std::vector<RunRecord> runs;
        for (int n = 28; n > 0; --n) { // newest first
            RunRecord r = runOn(n, random() % 2 ? "flat-6" : "ball-6", woods[random() % 2],
                                double(60 + random() % 600), double(random() % 9000));
            r.standIn = random() % 5 == 0;
            r.outcome = random() % 5 == 0 ? "stopped" : "done";
            r.takenSeconds = r.outcome == "done" ? r.plannedSeconds : r.plannedSeconds / 4;
            r.program += random() % 6 == 0 ? "x-air.nc" : "";
            runs.push_back(r);
        }
        const int fresh = 1 + int(random() % 28), sharp = 1 + int(random() % 28);
        const std::vector<Record> events{recordAt("bit", {"name=flat-6", "event=new"}, fresh),
                                         recordAt("bit", {"name=flat-6", "event=sharpened"}, sharp)};
        const auto lives = bitLives(runs, events, {});
        for (const BitLife& life : lives) {
            const int since = life.bit == "flat-6" ? fresh : 0;
            double seconds = 0, ash = 0, mm = 0, afterSharp = 0;
            for (const RunRecord& r : runs) { // one question at a time
                const bool real = !r.standIn && r.program.find("-air") == std::string::npos;
                if (!real || r.bit != life.bit || int(r.id) < since) {
                    continue;
                }
                seconds += r.takenSeconds;
                ash += r.wood == "white-ash" ? r.takenSeconds : 0;
                mm += r.cutLength * (r.outcome == "done" ? 1 : 0.25);
                const bool counts = life.bit != "flat-6" || sharp < fresh || int(r.id) >= sharp;
                afterSharp += counts ? r.takenSeconds : 0;
            }
            CHECK(life.all().seconds == Approx(seconds));
            CHECK(life.all().mm == Approx(mm));
            CHECK(life.sinceSharp.seconds == Approx(afterSharp));
            const auto it = life.byWood.find("white-ash");
            CHECK((it == life.byWood.end() ? 0 : it->second.seconds) == Approx(ash));
            CHECK(life.sharpenings == (life.bit == "flat-6" && sharp >= fresh ? 1 : 0));
        }
    }
}

TEST_CASE("A slot's width is its bit's and its wood's, and void on a new bit", "[shop-memory]") {
    const auto reading = [](const char* bit, const char* wood, const char* width, int n) {
        return recordAt("measurement",
                        {"project=A", "size=fretboard.slot_width", std::string("value=") + width,
                         std::string("bit=") + bit, std::string("wood=") + wood},
                        n);
    };
    const std::vector<Record> all{reading("slot-0.58", "ebony", "0.61mm", 20),
                                  reading("slot-0.58", "ebony", "0.60mm", 12),
                                  reading("slot-0.58", "rosewood", "0.63mm", 8)};
    const auto life = [&](int fresh) {
        return bitLives({}, {recordAt("bit", {"name=slot-0.58", "event=new"}, fresh)}, all).front();
    };
    CHECK(life(1).slotIn("ebony")->width == Approx(0.61));
    CHECK(life(1).slotIn("rosewood")->width == Approx(0.63));
    CHECK(life(10).slotIn("ebony")->width == Approx(0.61));
    CHECK_FALSE(life(10).slotIn("rosewood"));
    CHECK_FALSE(life(25).slotIn("ebony"));
    CHECK_FALSE(life(1).slotIn("maple"));
}

TEST_CASE("How far an instrument is follows from its runs", "[shop-memory]") {
    std::vector<RunRecord> runs{runOn(9, "b", "w", 600, 0), runOn(7, "b", "w", 60, 0),
                                runOn(6, "b", "w", 120, 0), runOn(5, "b", "w", 300, 0)};
    runs[0].part = "body";
    runs[1].program = "05-neck.nc from line 40"; // the rest of the one that was stopped
    runs[2].program = "05-neck-air.nc";
    runs[3].outcome = "stopped";
    const auto all = progressOf({{1, "Whinchat 1", dayOf(5)}, {2, "Dotterel", dayOf(6)}}, runs);
    REQUIRE(all.size() == 2);
    REQUIRE(all[0].parts.size() == 2);
    const PartProgress& neck = all[0].parts[0];
    CHECK(neck.part == "neck");
    CHECK(neck.programs == 1);
    CHECK(neck.failed == 1);
    CHECK(neck.minutes == Approx(8));
    CHECK(neck.first == dayOf(5));
    CHECK(neck.last == dayOf(7));
    CHECK(all[0].parts[1].programs == 1);
    CHECK(all[0].minutes() == Approx(18));
    CHECK(all[1].parts.empty());
}

TEST_CASE("Runs and records belong to instruments there are", "[shop-memory][book]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    RunRecord run = runOn(3, "flat-6", "white-ash", 600, 5000);
    run.cutLength = 4321.5;
    run.id = book.begin(run);
    book.finish(run);
    book.add(recordFrom("note", {"text=slow", "project=Dotterel"}));
    book.add(recordFrom("note", {"text=of none"}));
    const auto all = book.instruments();
    REQUIRE(all.size() == 2);
    CHECK(all[0].name == "Whinchat 1");
    CHECK(all[1].name == "Dotterel");
    CHECK(book.runs().front().cutLength == 4321.5);
    SQLite::Database raw((folder / "book.sqlite").string(), SQLite::OPEN_READWRITE);
    raw.exec("PRAGMA foreign_keys=ON");
    CHECK_THROWS_AS(raw.exec("DELETE FROM instruments"), SQLite::Exception);
    CHECK_THAT(runsCsv(book.runs()), Contains("Whinchat 1,neck,03-neck.nc"));
    CHECK(nlohmann::json::parse(runsJson(book.runs())).at(0).at("cut_mm") == 4321.5);
}

TEST_CASE("Before a run the book says how its like went, and why", "[shop-memory]") {
    const Derived d = derive(plainWith());
    const PostedProgram& p = d.programs.front();
    const std::string wood = d.placeOf(0).setup().blank.wood;
    RunRecord r = runOn(4, p.program.bit.name, wood, 600, 0);
    r.cuts = fmt::format("{}", fmt::join(p.program.what, " + "));
    r.takenSeconds = 720;
    r.feedPercent = 80;
    const auto advice = adviceFor(p, wood, experienceOf({r}, {}));
    REQUIRE(advice);
    CHECK(advice->feedPercent == 80);
    CHECK(advice->minutes == Approx(p.time.seconds / 60 * 1.2));
    CHECK_THAT(advice->says, Contains("80 % feed on 2026-10-04 (run 4)") && Contains("1.20 times"));
    // A chatter since takes ten per cent off, and it is said.
    const auto chatter = recordAt(
        "mishap", {"what=chatter", "bit=" + p.program.bit.name, "wood=" + wood}, 6);
    const auto after = adviceFor(p, wood, experienceOf({r}, {chatter}));
    REQUIRE(after);
    CHECK(after->feedPercent == 70);
    CHECK_THAT(after->says, Contains("80 % feed") && Contains("One mishap") && Contains("70 %"));
    // For no other wood.
    CHECK_FALSE(adviceFor(p, "white-pine", experienceOf({r}, {})));
}

TEST_CASE("What is not measured in hand is named before the cut that wants it", "[shop-memory]") {
    const Derived d = drawnBody(bodyWith());
    const auto state = [&](const std::vector<Record>& hardware, const std::string& what) {
        for (const NotInHand& n : notInHand(d, hardware)) {
            if (n.wanted.what == what) {
                return n.state;
            }
        }
        return std::string("measured");
    };
    const std::string rod = "name=truss rod", mine = "project=" + d.project.name;
    CHECK(state({}, "truss rod") == "not on the list");
    CHECK(state({recordFrom("hardware", {rod, "state=ordered"})}, "truss rod") == "ordered");
    CHECK(state({recordFrom("hardware", {rod, "state=measured", "size=6.3mm"})}, "truss rod") ==
          "measured");
    CHECK(state({recordFrom("hardware", {rod, "state=measured", "project=Another"})},
                "truss rod") == "not on the list");
    // One of this instrument counts before one of none.
    CHECK(state({recordFrom("hardware", {rod, "state=measured"}),
                 recordFrom("hardware", {rod, "state=ordered", mine})},
                "truss rod") == "ordered");
    // Each belongs to a part's cuts: a rod is known before the neck is carved.
    const auto all = notInHand(d, {});
    const auto names = [&](PartId part) {
        std::set<std::string> out;
        for (const NotInHand& n : notInHandFor(all, part)) {
            out.insert(n.wanted.what);
        }
        return out;
    };
    CHECK(names(Role::neck).count("truss rod") == 1);
    CHECK(names(Role::body).count("truss rod") == 0);
    CHECK(names(Role::core) == names(Role::body));
    CHECK(names(Role::body).count("pickup 1") == 1);
    CHECK(names(Role::board).count("fret wire") == 1);
}

TEST_CASE("A size moves with its wood's moisture", "[shop-memory]") {
    const auto maple = shrinkageOf("hard-maple");
    REQUIRE(maple);
    // Common practice, no source: 56 mm of maple move 0.09 to 0.19 mm for 1 % of moisture.
    CHECK(sizeAt(56, maple->radial, 8, 9) - 56 == Approx(0.09).margin(0.01));
    CHECK(sizeAt(56, maple->tangential, 8, 9) - 56 == Approx(0.19).margin(0.015));
    // Green to oven-dry is the figure itself, and there is no shrinking above 30 %.
    CHECK(sizeAt(100, maple->tangential, 30, 0) == Approx(100 - maple->tangential));
    CHECK(sizeAt(100, maple->tangential, 45, 30) == Approx(100));
    CHECK(sizeAt(sizeAt(56, maple->radial, 12, 7), maple->radial, 7, 12) == Approx(56));
    CHECK_FALSE(shrinkageOf("mdf"));
}

TEST_CASE("The job card lists what is done, what comes and what came out", "[shop-memory]") {
    const Derived d = derive(plainWith());
    const PostedProgram& p = d.programs.front();
    ShopMemory memory;
    RunRecord r = runOn(4, p.program.bit.name, d.placeOf(0).setup().blank.wood, 600, 0);
    r.project = d.project.name;
    r.part = p.program.part.name();
    r.motion = p.motion;
    r.cuts = fmt::format("{}", fmt::join(p.program.what, " + "));
    r.takenSeconds = 1200;
    memory.runs = {r};
    memory.records["note"] = {recordFrom("note", {"text=slower in the corners", "next=yes"}),
                              recordFrom("note", {"text=of another", "project=Another"})};
    memory.records["measurement"] = {
        recordAt("measurement", {"project=" + d.project.name, "size=fretboard.slot_width",
                                 "value=0.6mm", "moisture=8"}, 5)};
    const JobCard card = jobCard(d, memory, LengthUnit::mm);
    REQUIRE(card.steps.size() == d.programs.size());
    CHECK(*card.steps[0].taken == Approx(20));
    CHECK(card.steps[0].when == dayOf(4));
    CHECK(*card.steps[0].expected == Approx(p.time.seconds / 60 * 2));
    CHECK_FALSE(card.steps[1].taken);
    double left = 0;
    for (std::size_t i = 1; i < card.steps.size(); ++i) {
        left += d.programs[i].time.seconds / 60;
    }
    CHECK(card.expectedMinutes() == Approx(left)); // what is done is not to come
    CHECK(card.notes == std::vector<std::string>{"Next time: slower in the corners"});
    const auto slot = std::find_if(card.sizes.begin(), card.sizes.end(), [](const KnownSize& k) {
        return std::string(k.size->name) == "fretboard.slot_width";
    });
    REQUIRE(slot != card.sizes.end());
    CHECK(*slot->read == Approx(0.6));
    CHECK(*slot->drawn == Approx(d.project.board.slotWidth));
    CHECK_THAT(cardText(card, LengthUnit::mm),
               Contains("At the machine, in order") && Contains("Next time: slower") &&
                   Contains("0.60 mm") && Contains("at 8 %"));
    CHECK_THAT(cardText(card, LengthUnit::inch), Contains("0.0236 in"));
    const std::string csv = cardCsv(card);
    CHECK(std::count(csv.begin(), csv.end(), '\n') == long(card.steps.size() + card.bench.size()) + 1);
    const auto doc = nlohmann::json::parse(cardJson(card));
    CHECK(doc.at("steps").size() == card.steps.size());
    CHECK(doc.at("steps").at(0).at("taken_min") == 20);
    const std::string pdf = cardPdf(card, LengthUnit::mm, paperNamed("a4"));
    CHECK(pdf.rfind("%PDF", 0) == 0);
    CHECK(pdf == cardPdf(card, LengthUnit::mm, paperNamed("a4")));
}

TEST_CASE("The rack holds the newest of each blank, and a part is cut from one", "[shop-memory]") {
    const std::vector<Record> blanks{ // newest first
        recordFrom("blank", {"name=ash", "wood=white-ash", "length=470mm", "width=350mm",
                             "thickness=36mm", "reserved=Whinchat 1", "since=2026-11-20"}),
        recordFrom("blank", {"name=burnt", "wood=cherry", "gone=yes"}),
        recordFrom("blank", {"name=maple", "wood=hard-maple", "length=600mm", "since=soon"}),
        recordFrom("blank", {"name=burnt", "wood=cherry", "length=500mm"}),
        recordFrom("blank", {"name=ash", "wood=white-ash", "thickness=38mm"})};
    const auto rack = rackOf(blanks, "2026-11-30");
    REQUIRE(rack.size() == 2);
    CHECK(rack[0].name == "ash"); // it was written down first
    CHECK(rack[0].thickness == 36);
    CHECK(rack[0].restDays == 10);
    CHECK(rack[0].reserved == "Whinchat 1");
    CHECK_FALSE(rack[1].restDays); // "soon" is no day
    const Project p = bodyWith();
    const Project cut = withBlank(p, partsFromRack(p).back(), rack[0]);
    CHECK(*cut.bodyBlank.thickness == 36);
    CHECK(std::get<std::string>(keyAt(cut, "body.wood").get(cut)) == "white-ash");
    CHECK(cut.neckBlank == p.neckBlank);
    CHECK_THAT(sentenceOf([&] { withBlank(p, Role::neck, rack[1]); }),
               Contains("no width is written down"));
    RackBlank beam = rack[0];
    beam.thickness = 70;
    CHECK_THAT(sentenceOf([&] { withBlank(p, Role::board, beam); }),
               Contains("blank.thickness") && Contains("60"));
    CHECK(reservedFor(rack[1], "Dotterel").field("reserved") == "Dotterel");
}

TEST_CASE("Runs sent otherwise are entered, found, and told apart by where time goes",
          "[shop-memory][book]") {
    const std::vector<std::string> typed{"project=Old", "part=neck", "program=05.nc", "bit=flat-6",
                                         "wood=hard-maple", "cuts=rough", "planned=10",
                                         "taken=12.5", "metres=3.5", "when=2026-03-14"};
    const RunRecord r = runFrom(typed);
    CHECK(r.outcome == "done");
    CHECK(r.takenSeconds == Approx(750));
    CHECK(r.cutLength == Approx(3500));
    CHECK(r.start == "2026-03-14T12:00:00Z");
    CHECK_THAT(sentenceOf([&] { runFrom({"project=Old"}); }), Contains("A run wants its part"));
    for (const char* when : {"when=14.3.2026", "when=2026-13-01", "when=2026-02-30", "when=2026-03-14T25"}) {
        CHECK_THAT(sentenceOf([&] { recordFrom("note", {"text=x", when}); }), Contains("no day"));
    }
    RunRecord other = runOn(5, "ball-6", "white-ash", 1200, 0);
    other.cuts = "finish";
    RunRecord lost = runOn(6, "ball-6", "white-ash", 1200, 0);
    lost.outcome = "lost";
    const std::vector<RunRecord> runs{lost, other, r};
    const auto texts = searchTexts(runs);
    CHECK(found(texts, "").size() == 3);
    CHECK(found(texts, "BALL-6 ash") == std::vector<std::size_t>{0, 1});
    CHECK(found(texts, "old rough 2026-03") == std::vector<std::size_t>{2});
    CHECK(found(texts, "neck5").empty()); // no word runs from one field into the next
    const TimeSpent spent = timeSpent(runs);
    REQUIRE(spent.cuts.size() == 2); // what was lost is not counted
    CHECK(spent.cuts[0].first == "finish");
    CHECK(spent.cuts[1].second.taken == Approx(750));
    CHECK(spent.cuts[1].second.planned == Approx(600));
    CHECK(spent.bits[0].first == "ball-6");
    CHECK(spent.instruments.size() == 2);
}

TEST_CASE("Sizes of a joint are asked for where there is one", "[shop-memory][measure]") {
    const auto asks = [](const Project& p, PartId part, const char* size) {
        const Derived d = drawnBody(p);
        const auto all = knownSizes(d, part, {});
        return std::any_of(all.begin(), all.end(), [&](const KnownSize& k) {
            return std::string(k.size->name) == size;
        });
    };
    Project through = loadProject(WREN_SOURCE "/demo/dotterel.wren");
    CHECK_FALSE(asks(through, Role::neck, "neck.heel_width"));
    CHECK_FALSE(asks(through, Role::body, "body.pocket_depth"));
    CHECK(asks(through, Role::neck, "neck.blank_thickness"));
    CHECK(asks(bodyWith(), Role::neck, "neck.heel_width"));
    CHECK(asks(bodyWith(), Role::body, "body.pocket_depth"));
    CHECK_FALSE(asks(bodyWith(), Role::board, "neck.heel_width"));
}
