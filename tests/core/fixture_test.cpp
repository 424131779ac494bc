#include "neck_support.h"

#include "base/files.h"
#include "job/fixture.h"
#include "proof/rs274.h"

#include <map>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

TEST_CASE("The fixture's holes lie under the neck's pins, whichever side is up",
          "[neck][fixture]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Project p = neckWith({{"neck_hold.turn", turn}, {"neck_hold.fixture", "18"}});
        const Fixture f = deriveFixture(p);
        REQUIRE(f.program);
        CHECK_FALSE(hasStop(f.findings));
        const HeldNeck n = drawnNeck(p);
        REQUIRE(n.held.pins.size() == 2);
        // Where the text itself drills: the deepest Z of each place.
        std::map<std::pair<long, long>, double> holes;
        for (const Move& m : readProgram(f.program->program.text, "fixture", {0, 0, 20}).path) {
            if (m.to.z < -1) {
                double& z = holes[{std::lround(m.to.x * 100), std::lround(m.to.y * 100)}];
                z = std::min(z, m.to.z);
            }
        }
        REQUIRE(holes.size() == 2);
        for (const Setup* side : {&n.held.face, &*n.held.back}) {
            CHECK(side->zeroOnMachine == f.setup.zeroOnMachine);
            for (const RegisterPin& pin : n.held.pins) {
                const Vec2 at = side->fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
                const auto hole = holes.find({std::lround(at.x * 100), std::lround(at.y * 100)});
                REQUIRE(hole != holes.end());
                // 12 mm full width and the drill's point, which the board still holds.
                CHECK(hole->second == Approx(-12 - f.program->program.bit.tipHeight()));
                CHECK(hole->second > -18);
            }
        }
        // The machinist must not zero on a neck blank that lies on it.
        CHECK_THAT(f.program->program.text, Contains("It is the blank of this program") &&
                                                Contains("no neck lies on it yet"));
    }
}

TEST_CASE("A fixture that cannot be drilled says why", "[neck][fixture]") {
    const Folder folder;
    const auto said = [&](const Project& p) {
        const Fixture f = deriveFixture(p);
        CHECK_FALSE(f.program);
        REQUIRE_FALSE(f.findings.empty());
        CHECK_THROWS_WITH(postFixture(f, folder / "none"), f.findings.front().message);
        CHECK_FALSE(std::filesystem::exists(folder / "none"));
        return f.findings.front().message;
    };
    CHECK_THAT(said(neckWith({{"neck_hold.register", "marks"}})), Contains("no pins to drill for"));
    CHECK_THAT(said(neckWith({{"neck.joint", "none"}})), Contains("no pins to drill for"));
    Project p = neckWith({{"neck_hold.pin_size", "9"}});
    std::erase_if(p.bits, [](const Bit& b) { return b.diameter > 4; });
    CHECK_THAT(said(p), Contains("9.00 mm drill"));
    // Bored where no drill fits, to the same width and depth.
    const Fixture bored = deriveFixture(neckWith({{"neck_hold.pin_size", "9"}}));
    REQUIRE(bored.program);
    CHECK(bored.program->program.bit.kind != BitKind::drill);
    CHECK_FALSE(hasStop(bored.findings));
    postFixture(bored, folder / "out");
    CHECK(readFile(folder / "out" / "fixture-pins.nc") == bored.program->program.text);
    CHECK(test::wren("fixture " + plainFile + " --out " + (folder / "cli").string()).code == 1);
}

TEST_CASE("A fixture's program that was altered does not pass", "[neck][fixture]") {
    const Project p = neckWith({{"neck_hold.fixture", "18"}});
    const Fixture f = deriveFixture(p);
    REQUIRE(f.program);
    const HeldNeck n = drawnNeck(p);
    const Program good = f.program->program;
    const auto codes = [&](const Program& program) {
        std::string out;
        for (const Finding& g : judgeFixture(f, n.held, p.machine, program)) {
            out += g.weight == Weight::stop ? g.code + " " : "";
        }
        return out;
    };
    CHECK(codes(good) == "");
    const auto altered = [&](const std::string& what, const std::string& by) {
        Program bad = good;
        const std::size_t at = bad.text.rfind(what);
        REQUIRE(at != std::string::npos);
        bad.text.replace(at, what.size(), by);
        return codes(bad);
    };
    // One hole more, a groove between holes, a hole not drilled, a plunge at the rapid's pace.
    CHECK_THAT(altered("M5", "G0 X60 Y20\nG1 Z-6 F200\nG0 Z20\nM5"), Contains("fixture-cut"));
    CHECK_THAT(altered("M5", "G0 X60 Y20\nG1 Z-3 F200\nX90\nG0 Z20\nM5"),
               Contains("fixture-cut") && Contains("overload"));
    const std::size_t drilled = good.text.rfind("G1");
    Program shut = good;
    shut.text = good.text.substr(0, drilled) + "G0 Z20\nM5\nM2\n";
    CHECK_THAT(codes(shut), Contains("pin-hole"));
}
