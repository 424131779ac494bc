// The steps at the machine, from the first mark to the last tab.
#include "body_support.h"

#include "job/clamps.h"
#include "job/room.h"

#include <set>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

using Kind = RoomStep::Kind;

std::size_t countOf(const std::vector<RoomStep>& steps, Kind kind) {
    return std::size_t(std::count_if(steps.begin(), steps.end(),
                                     [&](const RoomStep& s) { return s.kind == kind; }));
}

std::size_t firstOf(const std::vector<RoomStep>& steps, Kind kind, std::size_t from = 0) {
    for (std::size_t i = from; i < steps.size(); ++i) {
        if (steps[i].kind == kind) {
            return i;
        }
    }
    return steps.size();
}

} // namespace

TEST_CASE("Every program has its air pass and its cut, every bit its mounting and probing",
          "[room]") {
    const Derived d = derive(bodyWith());
    const std::vector<RoomStep> steps = roomSteps(d, LengthUnit::mm);
    CHECK(countOf(steps, Kind::cut) == d.programs.size());
    CHECK(countOf(steps, Kind::air) == d.programs.size());
    std::set<PartId> parts;
    std::size_t mountings = 0;
    std::string bit;
    for (const PostedProgram& p : d.programs) {
        parts.insert(p.program.part);
        mountings += p.program.bit.name != bit ? 1 : 0;
        bit = p.program.bit.name;
    }
    CHECK(countOf(steps, Kind::mount) == mountings);
    CHECK(countOf(steps, Kind::free) == parts.size());
    CHECK(countOf(steps, Kind::mark) >= 2);
    CHECK(countOf(steps, Kind::turn) == 2); // neck and body
    // In order: marked, laid, clamped, homed, over the plate, bit, probed, in the air, cut.
    std::size_t at = 0;
    for (Kind kind : {Kind::lay, Kind::clamp, Kind::home, Kind::travel, Kind::mount, Kind::probe,
                      Kind::air, Kind::cut}) {
        const std::size_t next = firstOf(steps, kind, at);
        INFO(int(kind));
        CHECK((next > at || kind == Kind::lay));
        at = next;
    }
    std::set<std::string> ids;
    for (const RoomStep& s : steps) {
        CHECK(ids.insert(s.id).second); // each is ticked by itself
        CHECK_FALSE(s.title.empty());
        CHECK_FALSE(s.says.empty());
        CHECK(s.program > 0);
    }
    // A bit goes out of its nut as far as its deepest program wants; Z is probed after every one.
    for (std::size_t i = 0; i < steps.size(); ++i) {
        if (steps[i].kind == Kind::mount) {
            REQUIRE((i > 0 && i + 2 < steps.size()));
            CHECK(steps[i - 1].kind == Kind::park); // off the work first
            CHECK(steps[i + 1].kind == Kind::travel); // and back over the plate
            CHECK(steps[i + 2].kind == Kind::probe);
            REQUIRE((steps[i + 1].spot && steps[i + 2].spot));
            CHECK(length(*steps[i + 1].spot - *steps[i + 2].spot) == 0);
            CHECK_THAT(steps[i].number, Contains("out of the nut"));
            CHECK_FALSE(steps[i].caution.empty());
        }
    }
}

TEST_CASE("What comes next follows from ticks and from the book", "[room]") {
    const Derived d = derive(plainWith());
    const std::vector<RoomStep> steps = roomSteps(d, LengthUnit::mm);
    CHECK(nextStep(steps, {}, {}) == 0);
    CHECK(nextStep(steps, {steps[0].id, steps[1].id}, {}) == 2);
    // A program that has run leaves all before it behind.
    std::vector<bool> done(d.programs.size(), false);
    done[0] = true;
    const std::size_t next = nextStep(steps, {}, done);
    CHECK(steps[next].program == 2);
    CHECK(steps[next - 1].kind == Kind::cut);
    // All have run: the board is still to be taken off.
    const std::size_t last = nextStep(steps, {}, std::vector<bool>(d.programs.size(), true));
    REQUIRE(last < steps.size());
    CHECK(steps[last].kind == Kind::free);
    CHECK(nextStep(steps, {steps[last].id}, std::vector<bool>(d.programs.size(), true)) ==
          steps.size());
    // Another design's program is another step: its tick does not hold.
    const Derived other = derive(plainWith({{"board.thickness", "5.5"}}));
    std::set<std::string> ticked;
    for (const RoomStep& s : steps) {
        ticked.insert(s.kind == Kind::cut ? s.id : std::string());
    }
    std::size_t anew = 0;
    for (const RoomStep& s : roomSteps(other, LengthUnit::mm)) {
        anew += s.kind == Kind::cut && ticked.count(s.id) == 0 ? 1 : 0;
    }
    CHECK(anew >= 2);
}

TEST_CASE("A maker is free until hands are wanted again", "[room]") {
    std::vector<RoomStep> steps(5);
    steps[0].kind = Kind::air;
    steps[0].minutes = 2;
    steps[1].kind = Kind::cut;
    steps[1].minutes = 10;
    steps[2].kind = Kind::air; // of the next program with the same bit: it has shown its way
    steps[2].minutes = 3;
    steps[3].kind = Kind::cut;
    steps[3].minutes = 4;
    steps[4].kind = Kind::mount;
    CHECK(freeMinutes(steps, 0) == Approx(16));
    CHECK(freeMinutes(steps, 1) == Approx(14));
    CHECK(freeMinutes(steps, 4) == 0);
}

TEST_CASE("What a machine has no word for is the hand's", "[room]") {
    Project p = plainWith();
    p.machine.talk = plainController();
    const Derived d = derive(p);
    for (const RoomStep& s : roomSteps(d, LengthUnit::mm)) {
        CHECK(s.kind != Kind::park);
        const bool setting = s.kind == Kind::home || s.kind == Kind::travel || s.kind == Kind::probe;
        CHECK(s.byHand == setting);
        CHECK(s.ofMachine() == (s.kind == Kind::air || s.kind == Kind::cut));
    }
}

TEST_CASE("What is behind of a program is told by its planned time, not by its lines", "[room]") {
    const Derived d = derive(plainWith());
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const int program = int(i) + 1;
        const ProgramPlace place = d.placeOf(i);
        const Path& path = place.job->read[place.side][place.index].path;
        CHECK(timeBehind(d, program, 1) == 0.0);
        CHECK(*timeBehind(d, program, path.back().line + 1) == Approx(1));
        // Worked out again: the moves before a line, timed by themselves, standing at their end.
        const std::size_t half = path.size() / 2;
        const int line = path[half].line;
        Path before;
        for (const Move& m : path) {
            if (m.line < line) {
                before.push_back(m);
            }
        }
        const double alone = timeOf(before, d.project.machine).seconds;
        const double all = d.programs[i].time.seconds;
        CHECK(*timeBehind(d, program, line) == Approx(alone / all).margin(0.01));
    }
    CHECK_FALSE(timeBehind(d, int(d.programs.size()) + 1, 1));
}

TEST_CASE("A slot's reading is told before slots are cut, and missed on a new bit", "[room]") {
    const Derived d = derive(plainWith());
    const auto says = [&](const std::vector<Record>& bits, const std::vector<Record>& readings) {
        ShopKnows knows;
        knows.lives = bitLives({}, bits, readings);
        for (const RoomStep& s : roomSteps(d, LengthUnit::mm, &knows)) {
            if (s.kind == Kind::cut && s.title.find("slots") != std::string::npos) {
                return s.says;
            }
        }
        return std::string();
    };
    const std::string bit = d.programs[1].program.bit.name;
    Record reading = recordFrom("measurement",
                                {"project=A", "size=fretboard.slot_width", "value=0.6mm",
                                 "bit=" + bit, "wood=" + d.project.blank.wood, "when=2026-05-01"});
    CHECK_THAT(says({}, {}), Contains("No slot of this bit"));
    CHECK_THAT(says({}, {reading}), Contains("measured 0.60 mm on 2026-05-01"));
    CHECK_THAT(says({recordFrom("bit", {"name=" + bit, "event=new", "when=2026-06-01"})}, {reading}),
               Contains("No slot of this bit"));
}
