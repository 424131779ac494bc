// What a shop writes down, what it measures, and what it learns from its runs.
#include "body_support.h"
#include "full_disk.h"

#include "base/files.h"
#include "book/experience.h"
#include "book/machine_hours.h"
#include "job/measure.h"
#include "job/store.h"

#include <random>
#include <thread>

#include <SQLiteCpp/SQLiteCpp.h>
#include <fmt/format.h>
#include <sys/wait.h>
#include <unistd.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

RunRecord runOf(const std::string& bit, const std::string& wood, const std::string& cuts,
                int feed = 100, double planned = 600, double taken = 600) {
    RunRecord r;
    r.project = "Whinchat";
    r.part = "fretboard";
    r.program = "01-fretboard-slots.nc";
    r.bit = bit;
    r.wood = wood;
    r.cuts = cuts;
    r.start = r.end = "2026-11-20T10:00:00Z";
    r.plannedSeconds = planned;
    r.takenSeconds = taken;
    r.feedPercent = feed;
    r.outcome = "done";
    return r;
}

Measured read(const Project& p, const std::string& size, const std::string& value,
              const std::string& moisture = {}, const CutAlready& cut = {}) {
    return measured(deriveDrawing(p), p, {size, value, moisture}, cut);
}

} // namespace

TEST_CASE("Whatever is written down comes back, and nothing else goes in", "[shop-memory][book]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    const auto refusal = [](const std::string& kind, const std::vector<std::string>& typed) {
        return sentenceOf([&] { recordFrom(kind, typed); });
    };
    CHECK_THAT(refusal("dream", {}), Contains("keeps no \"dream\""));
    CHECK_THAT(refusal("note", {"txt=x"}), Contains("txt=x") && Contains("text"));
    CHECK_THAT(refusal("note", {"part=neck"}), Contains("wants its text"));
    CHECK_THAT(refusal("blank", {"name=a", "wood=ash", "length=600"}), Contains("has no unit"));
    CHECK_THAT(refusal("blank", {"name=a", "wood=ash", "length=600km"}), !Contains("there is none"));
    CHECK_THAT(refusal("blank", {"name=a", "wood=ash", "moisture=wet"}), Contains("no number"));
    CHECK_THAT(refusal("blank", {"name=a", "wood=ash", "moisture=90"}), Contains("0 to 60"));
    CHECK_THAT(refusal("hardware", {"name=rod", "state=lost"}), Contains("ordered"));
    const auto id = book.add(recordFrom("blank", {"name=ash 3", "wood=white-ash", "length=20in",
                                                  "moisture=8.5", "note=a \"knot\", at one end"}));
    book.add(recordFrom("note", {"text=next time the pocket first", "part=body"}));
    const std::vector<Record> blanks = ShopBook(folder / "book.sqlite").records("blank");
    REQUIRE(blanks.size() == 1);
    CHECK(blanks[0].id == id);
    CHECK(blanks[0].field("length") == "508"); // an inch is 25.4 mm
    CHECK(book.records("note").size() == 1);
    CHECK(book.records("bit").empty());
    const std::string csv = recordsCsv(recordKind("blanks"), blanks);
    CHECK_THAT(csv, Contains("length_mm") && Contains("\"a \"\"knot\"\", at one end\""));
    CHECK_THAT(recordsJson(recordKind("blank"), blanks), Contains("\"length_mm\": 508"));
}

TEST_CASE("A reading feeds what is cut next, and the drawn size stays", "[shop-memory][measure]") {
    const Project p = bodyWith();
    const Measured m = read(p, "neck.heel_width", "55.5mm");
    REQUIRE(m.drawn);
    CHECK(m.project.body.pocket.measuredWidth == 55.5);
    CHECK(m.project.neck == p.neck); // the drawing of the neck
    // The pocket follows, by half the difference a side.
    const auto pocketWidth = [](const Project& q) {
        const Derived d = drawnBody(q);
        const auto box = boxOf(
            pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders.front());
        return box[1].y - box[0].y;
    };
    CHECK(pocketWidth(m.project) - pocketWidth(p) == Approx(55.5 - *m.drawn).margin(0.02));
    // In inches it is the same reading.
    CHECK(read(p, "neck.heel_width", "2.185in").value == Approx(2.185 * 25.4));
    CHECK(read(p, "fretboard.slot_width", "0.6mm").project.board.slotWidth ==
          p.board.slotWidth);
    const auto refusal = [&](const std::string& size, const std::string& reading) {
        return sentenceOf([&] { read(p, size, reading); });
    };
    CHECK_THAT(refusal("neck.heel_width", "55.93"), Contains("no unit"));
    CHECK_THAT(refusal("neck.heel_width", "5.6mm"), Contains("cannot be the same part"));
    CHECK_THAT(refusal("fretboard.slot_width", "1.2mm"), Contains("cannot be"));
    CHECK_THAT(refusal("neck.hat", "5mm"), Contains("neck.heel_width"));
    for (const char* size : {"body.blank_thickness", "neck.heel_depth", "body.pocket_depth"}) {
        CHECK_THAT(sentenceOf([&] { read(plainWith(), size, "18mm"); }), // a board alone
                   Contains("has no such part"));
    }
}

TEST_CASE("What ended well is suggested for its own bit, wood and cut alone", "[shop-memory][book]") {
    std::mt19937 random(11);
    const auto pick = [&](std::initializer_list<const char*> of) {
        return std::string(*(of.begin() + std::uniform_int_distribution<std::size_t>(
                                              0, of.size() - 1)(random)));
    };
    for (int round = 0; round < 50; ++round) {
        std::vector<RunRecord> runs; // newest first
        std::vector<Record> mishaps;
        for (int i = 0; i < 30; ++i) {
            RunRecord r = runOf(pick({"flat-6", "ball-6"}), pick({"ash", "maple"}),
                                pick({"slots", "outline"}), 50 + 10 * int(random() % 10),
                                300 + random() % 600, 300 + random() % 900);
            r.id = 100 - i;
            r.end = r.start = fmt::format("2026-11-{:02}T10:00:00Z", 29 - i % 28);
            r.outcome = pick({"done", "done", "stopped"});
            r.standIn = random() % 4 == 0;
            r.program = pick({"01-a.nc", "01-a-air.nc", "01-a.nc from line 40"});
            runs.push_back(r);
        }
        std::sort(runs.begin(), runs.end(),
                  [](const RunRecord& a, const RunRecord& b) { return a.end > b.end; });
        for (int i = 0; i < 3; ++i) {
            Record m = recordFrom("mishap", {"what=chatter", "bit=" + pick({"flat-6", "ball-6"}),
                                             "wood=" + pick({"ash", "maple"})});
            m.time = fmt::format("2026-11-{:02}T12:00:00Z", 1 + random() % 29);
            mishaps.push_back(m);
        }
        const std::vector<Experience> all = experienceOf(runs, mishaps);
        // A plain reference, one question at a time.
        for (const char* bit : {"flat-6", "ball-6"}) {
            for (const char* wood : {"ash", "maple"}) {
                for (const char* cuts : {"slots", "outline"}) {
                    double planned = 0, taken = 0;
                    const RunRecord* newest = nullptr;
                    for (const RunRecord& r : runs) {
                        const bool plain = r.program == "01-a.nc";
                        if (r.outcome == "done" && !r.standIn && plain && r.bit == bit &&
                            r.wood == wood && r.cuts == cuts) {
                            newest = newest ? newest : &r;
                            planned += r.plannedSeconds;
                            taken += r.takenSeconds;
                        }
                    }
                    const Experience* e = experienceFor(all, bit, wood, cuts);
                    REQUIRE((e != nullptr) == (newest != nullptr));
                    if (!e) {
                        continue;
                    }
                    int bad = 0;
                    for (const Record& m : mishaps) {
                        bad += m.field("bit") == bit && m.field("wood") == wood &&
                                       m.time >= newest->end
                                   ? 1
                                   : 0;
                    }
                    CHECK(e->feedPercent ==
                          (bad ? std::max(50, newest->feedPercent - 10 * bad)
                               : newest->feedPercent));
                    CHECK(e->minutesRatio == Approx(taken / planned));
                    CHECK(e->evidence.front() == newest->id);
                }
            }
        }
    }
}

TEST_CASE("A backup put back is the same book", "[shop-memory][book]") {
    const Folder folder;
    const auto file = folder / "book.sqlite";
    {
        ShopBook book(file);
        RunRecord r = runOf("flat-6", "ash", "slots", 80);
        r.id = book.begin(r);
        book.finish(r);
        book.add(recordFrom("note", {"text=one"}));
        book.backup(folder / "copy.sqlite");
        CHECK_THAT(sentenceOf([&] { book.backup(folder / "copy.sqlite"); }), Contains("already"));
        book.add(recordFrom("note", {"text=two"}));
    }
    CHECK(ShopBook(file).records("note").size() == 2);
    ShopBook::restore(folder / "copy.sqlite", file);
    const ShopBook back(file);
    REQUIRE(back.records("note").size() == 1);
    CHECK(back.runs().at(0).feedPercent == 80);
    CHECK(back.runs().at(0).cuts == "slots");
    CHECK(ShopBook(folder / "book.sqlite.before").records("note").size() == 2);
    // What is no book is not put in its place.
    writeFileSafely(folder / "no.sqlite", "not a book at all, whatever it is called");
    CHECK_FALSE(sentenceOf([&] { ShopBook::restore(folder / "no.sqlite", file); }).empty());
    CHECK(ShopBook(file).records("note").size() == 1);
}

TEST_CASE("Ten write at once and one is killed again and again: the book stays whole",
          "[shop-memory][book][long]") {
    const Folder folder;
    const auto file = folder / "book.sqlite";
    ShopBook(file).add(recordFrom("note", {"text=first"}));
    std::vector<std::jthread> writers;
    for (int w = 0; w < 10; ++w) {
        writers.emplace_back([&file, w] {
            ShopBook book(file);
            for (int i = 0; i < 10; ++i) {
                book.add(recordFrom("note", {fmt::format("text=writer {} entry {}", w, i)}));
            }
        });
    }
    writers.clear();
    CHECK(ShopBook(file).records("note").size() == 101);
    std::mt19937 random(2);
    const int kills = WREN_SANITIZED ? 5 : 100;
    for (int k = 0; k < kills; ++k) {
        const pid_t child = ::fork();
        if (child == 0) {
            try {
                ShopBook book(file);
                for (;;) {
                    book.add(recordFrom("note", {"text=to be cut off"}));
                }
            } catch (...) {
                ::_exit(1);
            }
        }
        ::usleep(2000 + random() % 15000);
        ::kill(child, SIGKILL);
        ::waitpid(child, nullptr, 0);
    }
    SQLite::Database whole(file.string(), SQLite::OPEN_READONLY);
    CHECK(whole.execAndGet("PRAGMA integrity_check").getString() == "ok");
    CHECK(ShopBook(file).records("note").size() >= 101);
}

TEST_CASE("A book that may only be read is read, and says so when something is to be written",
          "[shop-memory][book]") {
    const Folder folder;
    const std::filesystem::path file = folder / "a book?#%.sqlite";
    ShopBook(file).add(recordFrom("note", {"text=heel first"}));
    {
        ShopBook waiting(folder / "waiting.sqlite");
        waiting.add(recordFrom("note", {"text=still in the journal"}));
        for (const char* tail : {"", "-wal", "-shm"}) { // as it lies while somebody writes
            std::filesystem::copy_file((folder / "waiting.sqlite").string() + tail,
                                       (folder / "w.sqlite").string() + tail);
        }
    }
    {
        SQLite::Database old((folder / "old.sqlite").string(),
                             SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
        old.exec("PRAGMA user_version=3");
    }
    using std::filesystem::perms;
    const auto only = [](const std::filesystem::path& p, perms what) {
        std::filesystem::permissions(p, what);
    };
    const perms all = perms::owner_read | perms::group_read | perms::others_read;
    for (const auto& entry : std::filesystem::directory_iterator(folder.str())) {
        only(entry, all);
    }
    only(folder.str(), all | perms::owner_exec | perms::group_exec | perms::others_exec);
    // Nothing is forbidden to root: as somebody else.
    const pid_t child = ::fork();
    if (child == 0) {
        if (::geteuid() == 0 && ::seteuid(65534) != 0) {
            ::_exit(9);
        }
        int wrong = 0;
        const auto ask = [&](int bit, bool holds) { wrong |= holds ? 0 : bit; };
        const auto sentence = [](auto f) {
            try {
                f();
                return std::string();
            } catch (const Error& e) {
                return std::string(e.what());
            }
        };
        const auto refused = sentence([&] {
            ShopBook book(file);
            ask(1, book.readOnly() && book.records("note").at(0).field("text") == "heel first");
            book.add(recordFrom("note", {"text=no"}));
        });
        ask(2, refused.find("may only be read") != std::string::npos);
        ask(4, sentence([&] {
                  ask(8, ShopBook(folder / "w.sqlite").records("note").size() == 1);
              }).empty());
        ask(16, sentence([&] { ShopBook(folder / "old.sqlite"); }).find("of version 3") !=
                    std::string::npos);
        ::_exit(wrong);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    CHECK(WIFEXITED(status));
    CHECK(WEXITSTATUS(status) == 0);
    only(folder.str(), perms::owner_all);
    CHECK_FALSE(ShopBook(file).readOnly());
}

TEST_CASE("On a full disk an entry is refused and the book keeps what it has", "[shop-memory][book]") {
    const Folder folder;
    const auto file = folder / "book.sqlite";
    ShopBook(file).add(recordFrom("note", {"text=kept"}));
    {
        ShopBook open(file);
        const FullDisk full(4096);
        for (const std::size_t much : {200000UL, 100000UL}) {
            Record r;
            r.kind = "note";
            r.fields["text"] = std::string(much, 'x');
            CHECK_THAT(sentenceOf([&] { open.add(r); }), Contains("could not be used"));
        }
        CHECK(open.records("note").size() == 1); // work goes on where it can
    }
    ShopBook again(file);
    CHECK(again.records("note").at(0).field("text") == "kept");
    again.add(recordFrom("note", {"text=room again"}));
    CHECK(again.records("note").size() == 2);
    SQLite::Database whole(file.string(), SQLite::OPEN_READONLY);
    CHECK(whole.execAndGet("PRAGMA integrity_check").getString() == "ok");
}

TEST_CASE("A machine's hours count from its last service and its board's last surfacing",
          "[shop-memory][book]") {
    const auto ran = [](const char* day, double hours, bool standIn = false) {
        RunRecord r = runOf("flat-6", "ash", "outline", 100, 600, hours * 3600);
        r.machine = "router";
        r.start = std::string("2026-") + day + "T10:00:00Z";
        r.standIn = standIn;
        return r;
    };
    RunRecord old = runOf("flat-6", "ash", "outline");
    const std::vector<RunRecord> runs{ran("11-01", 1.5), ran("10-01", 2), ran("09-01", 4),
                                      ran("11-02", 8, true), old};
    const std::vector<Record> told{
        recordFrom("machine", {"name=router", "event=surfaced", "when=2026-10-20"}),
        recordFrom("machine", {"name=router", "event=serviced", "when=2026-09-20"}),
        recordFrom("machine", {"name=saw", "event=serviced", "when=2026-09-20"})};
    const auto all = machineHours(runs, told);
    REQUIRE(all.size() == 2);
    CHECK(all[0].machine == "router");
    CHECK(all[0].hours == Approx(7.5));
    CHECK(all[0].sinceServiced == Approx(3.5));
    CHECK(all[0].sinceSurfaced == Approx(1.5));
    CHECK(all[1].hours == 0);
    CHECK(machineHours(runs, told, true)[0].hours == Approx(15.5));
}
