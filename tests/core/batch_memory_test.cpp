// A batch of three from the rack to finished parts: what the first taught changes the second.
#include "body_support.h"
#include "sim_link.h"

#include "job/batch.h"
#include "book/progress.h"
#include "job/job_card.h"
#include "job/rack.h"
#include "job/run_advice.h"
#include "job/run_program.h"
#include "job/store.h"
#include "part/body_shapes.h"

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

MachineSimOptions machineOf(const Project& p) {
    MachineSimOptions o;
    o.machine = p.machine;
    o.controller = p.machine.talk;
    return o;
}

/// Runs programs as the room does, each at the feed the book advises or at `feed`.
void runWhere(const Derived& d, ShopBook& book, int feed,
              const std::function<bool(const PostedProgram&)>& wanted) {
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        if (!wanted(d.programs[i])) {
            continue;
        }
        SimLink link(machineOf(d.project));
        link.stepSeconds = 2;
        SendControl control;
        const auto experience = experienceOf(book.runs(), book.records("mishap"), true);
        const auto advice =
            adviceFor(d.programs[i], d.placeOf(i).setup().blank.wood, experience);
        control.feedPercent = advice ? advice->feedPercent : feed;
        Sender sender(link, control, {}, d.project.machine.talk);
        RunAsk ask;
        ask.order = static_cast<int>(i) + 1;
        ask.by = "Ansa";
        const RunRecord r = runOn(sender.talk(), d, ask, "sim", book);
        INFO(r.program << ": " << r.remark);
        REQUIRE(r.outcome == "done");
    }
}

void runAll(const Derived& d, Role part, ShopBook& book, int feed) {
    runWhere(d, book, feed,
             [&](const PostedProgram& p) { return p.program.part == PartId(part); });
}

double pocketWidth(const Derived& d) {
    const auto box =
        boxOf(pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders.front());
    return box[1].y - box[0].y;
}

} // namespace

TEST_CASE("What the first of a batch taught changes the second, and it is said why",
          "[shop-memory]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    const char* thick[] = {"6.8mm", "7.1mm", "6.9mm"};
    for (int k = 0; k < 3; ++k) {
        book.add(recordFrom("blank", {"name=maple " + std::to_string(k + 1), "wood=hard-maple",
                                      "length=500mm", "width=77mm",
                                      std::string("thickness=") + thick[k]}));
    }
    const std::vector<Project> batch =
        batchProjects(loadProject(WREN_SOURCE "/demo/whinchat.wren"));
    REQUIRE(batch.size() == 3);
    const char* heels[] = {"56.70mm", "56.55mm", "56.62mm"};
    std::vector<JobCard> before;
    std::vector<double> pockets, taken;
    for (std::size_t k = 0; k < batch.size(); ++k) {
        // Each from its own blank, which is kept for it.
        const RackBlank blank = rackOf(book.records("blank"), "2026-11-30").at(k);
        Project p = withBlank(batch[k], Role::board, blank);
        CHECK(p.blank.thickness == blank.thickness);
        book.add(reservedFor(blank, p.name));
        const Derived d = deriveOnly(p, Role::board);
        REQUIRE(d.proved());
        before.push_back(jobCard(d, remember(book), LengthUnit::mm, true));
        runAll(d, Role::board, book, 80);
        if (k == 0) { // it chattered in the slots
            book.add(recordFrom("mishap", {"what=chatter", "bit=slot-0.58", "wood=hard-maple",
                                           "cuts=slots"}));
            std::this_thread::sleep_for(std::chrono::milliseconds(1100)); // the book tells seconds
        }
        // The finished neck is measured, and the body's pocket follows it.
        const Derived drawn = deriveDrawing(p);
        const Reading heel{"neck.heel_width", heels[k], "8"};
        const Measured m = measured(drawn, p, heel, CutAlready(book.runs(), p.name, true));
        CHECK(m.kept.empty());
        book.add(measurementRecord(drawn, heel, m));
        pockets.push_back(pocketWidth(deriveDrawing(m.project)));
        double minutes = 0;
        for (const RunRecord& r : book.runs()) {
            minutes += r.project == p.name ? r.takenSeconds / 60 : 0;
        }
        taken.push_back(minutes);
    }
    // Nothing was known before the first; before the second every cut's minutes were, and before
    // the slots why they go slower.
    for (std::size_t i = 0; i < before[0].steps.size(); ++i) {
        CHECK_FALSE(before[0].steps[i].expected);
        REQUIRE(before[1].steps[i].expected);
        CHECK(*before[1].steps[i].expected > before[1].steps[i].planned * 1.1);
    }
    const Derived second = deriveOnly(batch[1], Role::board);
    const auto slots =
        std::find_if(second.programs.begin(), second.programs.end(), [](const PostedProgram& p) {
            return std::count(p.program.kinds.begin(), p.program.kinds.end(), CutKind::slots) > 0;
        });
    REQUIRE(slots != second.programs.end());
    const auto of = [&](const char* project) {
        for (const RunRecord& r : book.runs()) {
            if (r.project == project && r.cuts == "slots") {
                return r;
            }
        }
        return RunRecord();
    };
    CHECK(of("Whinchat 1").feedPercent == 80);
    CHECK(of("Whinchat 2").feedPercent == 70); // the chatter took ten per cent off
    CHECK(of("Whinchat 3").feedPercent == 70); // and the second ended well so
    CHECK(of("Whinchat 2").takenSeconds > of("Whinchat 1").takenSeconds * 1.05);
    const auto now = adviceFor(*slots, "hard-maple",
                               experienceOf(book.runs(), book.records("mishap"), true));
    REQUIRE(now);
    CHECK_THAT(now->says, Contains("slot-0.58 in hard-maple ended well at 70 %"));
    // Pockets as wide as their own necks ask.
    CHECK(pockets[0] - pockets[1] == Approx(0.15).margin(0.005));
    CHECK(pockets[2] - pockets[1] == Approx(0.07).margin(0.005));
    CHECK(taken[1] > taken[0]);
    // The card tells who did what, at the machine and at the bench.
    const BenchStep fretting = before[0].bench.at(1);
    book.add(benchRecord("Whinchat 1", fretting, true, "Merle", "90"));
    const JobCard card = jobCard(deriveOnly(batch[0], Role::board), remember(book), LengthUnit::mm,
                                 true);
    const auto done = std::find_if(card.bench.begin(), card.bench.end(),
                                   [&](const BenchStep& s) { return s.id() == fretting.id(); });
    REQUIRE(done != card.bench.end());
    CHECK(done->minutes == 90);
    CHECK_THAT(cardText(card, LengthUnit::mm), Contains(", Merle, 90 min"));
    CHECK_THAT(cardCsv(card), Contains(",\"" + fretting.id() + "\",") || Contains("," + fretting.id() + ","));
    book.add(benchRecord("Whinchat 1", fretting, false, "", ""));
    CHECK_THAT(cardText(jobCard(deriveOnly(batch[0], Role::board), remember(book), LengthUnit::mm),
                        LengthUnit::mm),
               !Contains("Merle"));
    const auto all = progressOf(book.instruments(), book.runs());
    REQUIRE(all.size() == 3);
    for (const InstrumentProgress& i : all) {
        CHECK(i.parts.at(0).programs == int(before[0].steps.size()));
    }
}

namespace {

/// The rest of a project from what was derived before it: only what changed is worked out again.
Derived again(const Project& p, const Derived& before) {
    Derived d = deriveDrawing(p, &before);
    derivePrograms(d, {}, &before);
    deriveProof(d, {}, &before);
    return d;
}

/// Off the caliper, into book and design.
Project taken(const Derived& d, const Project& p, ShopBook& book, const char* size, double mm,
              const char* moisture) {
    const Reading reading{size, fmt::format("{:.3f}mm", mm), moisture};
    const Measured m = measured(d, p, reading, CutAlready(book.runs(), p.name, true));
    book.add(measurementRecord(d, reading, m));
    return m.project;
}

double lidWidth(const Derived& d) {
    const auto box = d.body->part.panel(Role::lid)->box();
    return box[1].y - box[0].y;
}

} // namespace

TEST_CASE("Three instruments from the rack to finished parts, each learning from the one before",
          "[shop-memory][long]") {
    const Folder folder;
    ShopBook book(folder / "book.sqlite");
    const auto onRack = [&](const std::string& name, const char* wood, const char* length,
                            const char* width, double thick) {
        book.add(recordFrom("blank", {"name=" + name, std::string("wood=") + wood,
                                      std::string("length=") + length, std::string("width=") + width,
                                      fmt::format("thickness={:.2f}mm", thick), "moisture=8"}));
    };
    const double more[] = {0, 0.25, -0.1}; // mm: no two planks are alike
    for (int k = 0; k < 3; ++k) {
        const std::string n = std::to_string(k + 1);
        onRack("board " + n, "hard-maple", "500mm", "77mm", 6.8 + more[k]);
        onRack("neck " + n, "hard-maple", "720mm", "98mm", 25.4 + more[k]);
        onRack("core " + n, "white-ash", "475mm", "370mm", 34);
    }
    const std::vector<Project> batch =
        batchProjects(loadProject(WREN_SOURCE "/demo/whinchat.wren"));
    REQUIRE(batch.size() == 3);
    const double heels[] = {-0.05, 0.12, -0.1}, lengths[] = {0.1, -0.3, 0.2};
    std::vector<JobCard> before;
    std::vector<double> pockets, lids, bridges;
    for (std::size_t k = 0; k < 3; ++k) {
        Project p = batch[k];
        const auto rack = rackOf(book.records("blank"), "2026-11-30");
        for (const auto& [part, kind] : {std::pair{Role::board, "board "}, {Role::neck, "neck "},
                                         {Role::core, "core "}}) {
            const std::string name = kind + std::to_string(k + 1);
            const auto it = std::find_if(rack.begin(), rack.end(),
                                         [&](const RackBlank& b) { return b.name == name; });
            REQUIRE(it != rack.end());
            p = withBlank(p, part, *it);
            book.add(reservedFor(*it, p.name));
        }
        Derived d = derive(p);
        for (const Finding& f : d.findings) {
            INFO(f.message);
            CHECK(f.weight != Weight::stop);
        }
        before.push_back(jobCard(d, remember(book), LengthUnit::mm, true));
        runWhere(d, book, 80, [](const PostedProgram& r) { return !r.program.part.ofBody(); });
        if (k == 0) {
            book.add(recordFrom("mishap", {"what=chatter", "bit=slot-0.58", "wood=hard-maple",
                                           "cuts=slots"}));
            std::this_thread::sleep_for(std::chrono::milliseconds(1100)); // the book tells seconds
        }
        // The finished neck: the pocket follows its heel and ends where it does.
        const double heel = heelWidth(d.neck->part.outline()), end = d.neck->part.outline().end();
        p = taken(d, p, book, "neck.heel_width", heel + heels[k], "8");
        p = taken(d, p, book, "neck.length", end + lengths[k], "8");
        d = again(p, d);
        pockets.push_back(pocketWidth(d));
        CHECK(d.body->part.place().neckEnd == Approx(end + lengths[k]));
        runWhere(d, book, 80, [](const PostedProgram& r) {
            return r.program.part.ofBody() && !(r.program.part == PartId(Role::lid));
        });
        // What is cut stays, whatever is read now; the lid is cut for the recess as it came out.
        const double cut = pockets.back();
        p = taken(d, p, book, "neck.heel_width", heel + heels[k] - 0.04, "7");
        const double recess = *knownSizes(d, Role::body, {}).at(1).drawn;
        p = taken(d, p, book, "body.recess_width", recess + 0.1 * double(k), "8");
        d = again(p, d);
        CHECK(pocketWidth(d) == Approx(cut));
        CHECK(p.body.pocket.cutWidth == Approx(heel + heels[k]));
        lids.push_back(lidWidth(d));
        runAll(d, Role::lid, book, 80);
        // All of it is done by the book, and still would be cut the same.
        const JobCard card = jobCard(d, remember(book), LengthUnit::mm, true);
        for (const CardStep& s : card.steps) {
            INFO(s.order << " " << s.what);
            CHECK((s.order == 0 || s.taken.has_value()));
        }
        CHECK(card.expectedMinutes() == 0);
    }
    CHECK(pockets[1] - pockets[0] == Approx(heels[1] - heels[0]).margin(0.002));
    CHECK(pockets[2] - pockets[0] == Approx(heels[2] - heels[0]).margin(0.002));
    CHECK(lids[1] - lids[0] == Approx(0.1).margin(0.002));
    CHECK(lids[2] - lids[0] == Approx(0.2).margin(0.002));
    // The first knew nothing; every cut of the second is expected to take what the first's took,
    // and its slots go slower for the chatter.
    for (std::size_t i = 0; i < before[0].steps.size(); ++i) {
        CHECK_FALSE(before[0].steps[i].expected);
        CHECK((before[1].steps[i].order == 0 || before[1].steps[i].expected.has_value()));
    }
    for (const RunRecord& r : book.runs()) {
        if (r.cuts == "slots") {
            CHECK(r.feedPercent == (r.project == "Whinchat 1" ? 80 : 70));
        }
    }
}
