// Clamps on the bed: whether anything that moves meets one, and where they find room.
#include "body_support.h"

#include "job/clamps.h"
#include "job/cures.h"
#include "job/store.h"
#include "proof/clamp_check.h"

#include <nlohmann/json.hpp>

#include <random>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

RunProgram run(std::initializer_list<Vec3> places, const Bit& bit) {
    RunProgram p;
    p.file = "p.nc";
    p.bit = bit;
    Vec3 last = *places.begin();
    for (Vec3 to : places) {
        if (!(to == last)) {
            p.path.push_back(straightMove(Motion::line, last, to, 900));
            p.path.back().line = int(p.path.size());
        }
        last = to;
    }
    return p;
}

Bit plainBit() {
    Bit bit;
    bit.diameter = 6;
    bit.shank = 8;
    bit.fluteLength = 20;
    bit.reach = 30;
    return bit;
}

ClampBox boxAt(Vec2 middle, Vec2 half, double high, double degrees = 0) {
    ClampBox box;
    box.middle = middle;
    box.half = half;
    box.high = high;
    const double a = degrees * 3.14159265358979 / 180;
    box.way = {std::cos(a), std::sin(a)};
    return box;
}

Project clamped(std::vector<Clamp> clamps, Project p = loadProject(plainFile)) {
    p.clamps = std::move(clamps);
    return p;
}

} // namespace

TEST_CASE("Flutes, shank and collet nut meet a clamp as far as they reach", "[clamps]") {
    const Bit bit = plainBit();
    const ClampBox box = boxAt({100, 0}, {20, 10}, 50);
    // Beside it, tip at the bed: flutes of 3 mm up to 20, the shank of 4 over that, the nut of
    // 13 mm from 30 up; the clamp is 50 tall.
    const auto at = [&](double y, double z) {
        return firstTouch(run({{0, y, 80}, {60, y, 80}, {60, y, z}, {140, y, z}}, bit), box,
                          SpindleEnd());
    };
    const auto nut = at(10 + 12.9, 0);
    REQUIRE(nut);
    CHECK(nut->with == ToolPart::nut);
    CHECK(nut->by == Approx(0.1));
    CHECK_FALSE(at(10 + 13.1, 0));
    // So high that the nut passes over it: the shank's turn, and then the flutes'.
    CHECK(at(10 + 3.9, 20.5)->with == ToolPart::shank);
    CHECK_FALSE(at(10 + 4.1, 20.5));
    CHECK(at(10 + 2.9, 30.5)->with == ToolPart::flutes);
    CHECK_FALSE(at(10 + 3.1, 30.5));
    CHECK_FALSE(at(0, 50.1)); // over it
    CHECK(at(0, 49.9));
    // A clearance widens and heightens it.
    CHECK(firstTouch(run({{0, 25, 60}, {140, 25, 60}, {140, 25, 0}, {60, 25, 0}}, bit), box,
                     SpindleEnd(), 3));
}

TEST_CASE("The first move that touches is named, an arc's bulge too", "[clamps]") {
    const Bit bit = plainBit();
    RunProgram p = run({{0, 0, 10}, {50, 0, 10}, {50, 0, 1}, {50, 60, 1}}, bit);
    Move arc = straightMove(Motion::line, {50, 60, 1}, {150, 60, 1}, 900);
    arc.motion = Motion::arcClockwise; // over the top, to Y 110
    arc.centre = {100, 60, 0};
    p.path.push_back(arc);
    const auto high = firstTouch(p, boxAt({100, 115}, {5, 3}, 5), SpindleEnd());
    REQUIRE(high);
    CHECK(high->move == 3);
    // 12 mm beyond, 3 of flutes; within the arc.
    CHECK_FALSE(firstTouch(p, boxAt({100, 125}, {5, 3}, 5), SpindleEnd()));
    CHECK_FALSE(firstTouch(p, boxAt({100, 60}, {5, 3}, 5), SpindleEnd()));
    // A turned one.
    CHECK(firstTouch(p, boxAt({30, 30}, {25, 2}, 5, 0), SpindleEnd()));
    CHECK_FALSE(firstTouch(p, boxAt({30, 30}, {25, 2}, 5, 90), SpindleEnd()));
}

TEST_CASE("A move that grazes a clamp is found as by dense sampling", "[clamps][long]") {
    std::mt19937 random(11);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const Bit bit = plainBit();
    int touched = 0, differ = 0;
    for (int i = 0; i < 3000; ++i) {
        const ClampBox box =
            boxAt({between(-20, 20), between(-20, 20)}, {between(2, 25), between(2, 12)},
                  between(2, 45), between(-90, 90));
        const Vec3 from{between(-70, 70), between(-70, 70), between(0, 50)};
        const Vec3 to{between(-70, 70), between(-70, 70), between(0, 50)};
        RunProgram p = run({from, to}, bit);
        // A third of them with a spindle over the nut, a third with a dust shoe too: one may even
        // hang below the bit's tip.
        SpindleEnd end;
        end.nutLength = 8;
        end.noseWidth = i % 3 > 0 ? 60 : 0;
        end.shoeWidth = i % 3 > 1 ? 90 : 0;
        end.shoeBelowNose = between(0, 45);
        const bool found = firstTouch(p, box, end).has_value();
        // The same by looking at it closely, and how near it is to the other answer.
        double nearest = 1e9;
        for (int k = 0; k <= 4000; ++k) {
            const Vec3 tip = from + (to - from) * (k / 4000.0);
            const Vec2 own = box.own(tip.xy());
            const double off = std::hypot(std::max(0.0, std::abs(own.x) - box.half.x),
                                          std::max(0.0, std::abs(own.y) - box.half.y));
            for (const auto& [over, radius] : {std::pair{0.0, 3.0},
                                               {20.0, 4.0},
                                               {30.0, 13.0},
                                               {38.0, end.noseWidth / 2},
                                               {38.0 - end.shoeBelowNose, end.shoeWidth / 2}}) {
                if (radius <= 0) {
                    continue;
                }
                nearest = std::min(nearest, std::max(off - radius, tip.z + over - box.high));
            }
        }
        touched += found ? 1 : 0;
        differ += std::abs(nearest) > 0.05 && found != (nearest < 0) ? 1 : 0;
    }
    CHECK(differ == 0);
    CHECK(touched > 300);
    CHECK(touched < 2500);
}

TEST_CASE("A clamp in the way stops the part's programs, with program and line", "[clamps]") {
    const Derived clear = derive(loadProject(plainFile));
    REQUIRE_FALSE(hasStop(clear.findings));
    // On the board itself.
    const Project p = clamped({{"fretboard", 1, ClampKind::strap, {250, 38}, 90, {}}});
    const Derived d = derive(p);
    const std::optional<Finding> f = findingOf(d.findings, "meets-clamp");
    // Told once, however many programs meet it.
    CHECK(std::count_if(d.findings.begin(), d.findings.end(), [](const Finding& one) {
              return one.code == "meets-clamp";
          }) == 1);
    REQUIRE(f);
    CHECK_THAT(f->message, Contains("more programs of this setup meet it too"));
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
    CHECK(f->line > 0);
    CHECK(f->feature == FeatureId{FeatureKind::clamp, 0});
    CHECK_THAT(f->message, Contains(f->program) && Contains("clamp 1"));
    // The program's line really goes there.
    bool goes = false;
    for (const RunProgram& program : d.read(Role::board)) {
        for (const Move& m : program.path) {
            goes = goes || (program.file == f->program && m.line == f->line);
        }
    }
    CHECK(goes);
    const std::vector<Cure> cures = curesFor(d, *f);
    REQUIRE(cures.size() == 1);
    CHECK_FALSE(hasStop(derive(cured(p, cures[0])).findings));
    // Clamps move no cut: only ways between cuts are led round them.
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const auto cutsOf = [](const Path& path) {
            std::vector<Vec3> out;
            for (const Move& m : path) {
                if (m.cuts()) {
                    out.push_back(m.to);
                }
            }
            return out;
        };
        CHECK(cutsOf(d.read(Role::board)[i].path) == cutsOf(clear.read(Role::board)[i].path));
    }
    // Turned over it would be another setup's.
    CHECK(findingOf(
        deriveDrawing(clamped({{"fretboard", 2, ClampKind::strap, {5, 5}, 0, {}}})).findings,
        "clamp-for-nothing"));
}

TEST_CASE("Places that cannot be are told", "[clamps]") {
    const auto code = [](std::vector<Clamp> clamps, const char* what) {
        return findingOf(deriveDrawing(clamped(std::move(clamps), bodyWith())).findings, what);
    };
    const Clamp one{"neck", 1, ClampKind::strap, {300, -20}, 90, {}};
    CHECK_FALSE(code({one}, "clamps-overlap"));
    Clamp two = one;
    two.at.x += 20;
    CHECK(code({one, two}, "clamps-overlap"));
    two.at.x += 20;
    CHECK_FALSE(code({one, two}, "clamps-overlap"));
    CHECK(code({{"neck", 1, ClampKind::screw, {11, 45}, 0, {}}}, "clamp-on-pin"));
    CHECK(code({{"neck", 1, ClampKind::cleat, {2000, 45}, 0, {}}}, "clamp-off-bed"));
    CHECK(code({{"neck", 1, ClampKind::strap, {300, -60}, 90, {}}}, "strap-beside-wood"));
    CHECK(code({{"sail", 1, ClampKind::strap, {300, -60}, 90, {}}}, "clamp-for-nothing"));
    CHECK_FALSE(code({{"neck", 2, ClampKind::tape, {0, 0}, 0, {}}}, "clamp-for-nothing"));
}

TEST_CASE("Straps are suggested where nothing comes, and pass their own check", "[clamps][long]") {
    for (const char* hand : {"right", "left"}) {
        const Project p = bodyWith({{"board.hand", hand}});
        const Derived d = derive(p);
        Project with = p;
        for (PartId part : {PartId(Role::board), PartId(Role::neck), PartId(Role::body)}) {
            const PartJob& job = *d.job(part);
            std::vector<Clamp> all;
            for (std::size_t side = 0; side < job.held.sides(); ++side) {
                const std::vector<Clamp> some = suggestedClamps(d, job, side);
                INFO(job.name() << " side " << side);
                CHECK(some.size() >= 2);
                CHECK(some.size() <= 5);
                all.insert(all.end(), some.begin(), some.end());
            }
            with = withClamps(with, part, all);
        }
        CHECK(with.clamps.size() >= 10);
        const Derived held = derive(with);
        for (const Finding& f : held.findings) {
            INFO(f.message);
            CHECK(f.feature.kind != FeatureKind::clamp);
        }
    }
}

TEST_CASE("Tape alone is told where a bit pushes harder than it holds", "[clamps]") {
    const Derived taped = derive(clamped({{"fretboard", 1, ClampKind::tape, {0, 0}, 0, {}}}));
    CHECK_FALSE(findingOf(taped.findings, "held-by-tape"));
    // The same with the outline's power so that ten times its edge's push is a share of what a
    // hundredth of a newton a mm2 holds under 500 x 77 mm: 385 N, worked by hand.
    const auto pushing = [&](double share, ClampKind kind) {
        Derived d = taped;
        d.project.clamps[0].kind = kind;
        PartJob& board = *std::find_if(d.parts.begin(), d.parts.end(),
                                       [](const PartJob& j) { return j.id == Role::board; });
        auto proof = std::make_shared<PartProof>(*board.proof);
        ProgramLoad& load = proof->sides[0].loads.back();
        const RunProgram& program = board.read[0].back();
        const double rpm = program.path[load.peak.move].rpm;
        const double edge = 3.14159265358979 * program.bit.diameter / 1000 * rpm / 60; // m/s
        load.watts = share * 385 / 10 * edge;
        board.proof = proof;
        return findingOf(judgeClamps(d), "held-by-tape");
    };
    CHECK_FALSE(pushing(0.95, ClampKind::tape));
    const std::optional<Finding> f = pushing(1.05, ClampKind::tape);
    REQUIRE(f);
    CHECK(f->value == Approx(1.05 * 385));
    CHECK(f->limit == Approx(385));
    CHECK(f->program == taped.read(Role::board).back().file);
    CHECK_FALSE(pushing(1.05, ClampKind::tapeAndGlue));
    CHECK_FALSE(pushing(5, ClampKind::cleat)); // held by more than tape
}

TEST_CASE("Clamps are kept, listed and asked for by command", "[clamps][command]") {
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(loadProject(plainFile), file);
    REQUIRE(test::wren("add " + file + " clamps part=fretboard kind=cleat at=250,-11").code == 0);
    const Project p = loadProject(file);
    REQUIRE(p.clamps.size() == 1);
    CHECK(p.clamps[0].kind == ClampKind::cleat);
    CHECK(p.clamps[0].at == Vec2{250, -11});
    const auto card =
        nlohmann::json::parse(test::wren("hold " + file + " --part fretboard --json").out);
    CHECK(card["setups"][0]["clamps"][0]["kind"] == "cleat");
    const std::string out = (folder / "q.wren").string();
    CHECK(test::wren("hold " + file + " --part fretboard --suggest --out " + out).code == 0);
    const Project q = loadProject(out);
    CHECK(q.clamps.size() >= 2);
    CHECK_FALSE(hasStop(derive(q).findings));
}
