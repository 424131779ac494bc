#include "body_support.h"

#include "base/files.h"
#include "hold/fixture_board.h"
#include "job/fixture.h"
#include "job/shop_boards.h"
#include "proof/rs274.h"

#include <map>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// Where a text drills: the deepest Z of each place, in hundredths of a millimetre.
std::map<std::pair<long, long>, double> drilled(const std::string& text) {
    std::map<std::pair<long, long>, double> holes;
    for (const Move& m : readProgram(text, "fixture", {0, 0, 20}).path) {
        if (m.to.z < -1) {
            double& z = holes[{std::lround(m.to.x * 100), std::lround(m.to.y * 100)}];
            z = std::min(z, m.to.z);
        }
    }
    return holes;
}

/// Every pin of a setup has its hole in the fixture, and the zero its own: on the machine they lie
/// on one another.
void checkUnder(const Held& held, const Setup& board,
                const std::map<std::pair<long, long>, double>& holes, double deep) {
    REQUIRE(held.pins.size() == 2);
    CHECK(holes.size() == 3);
    const auto deepAt = [&](Vec2 part) {
        const Vec2 at = part + held.face.zeroOnMachine - board.zeroOnMachine;
        const auto hole = holes.find({std::lround(at.x * 100), std::lround(at.y * 100)});
        return hole == holes.end() ? 0 : hole->second;
    };
    CHECK(deepAt({zeroHoleInset, zeroHoleInset}) == Approx(-deep));
    for (std::size_t side = 0; side < held.sides(); ++side) {
        for (const RegisterPin& pin : held.pins) {
            const Vec2 at = held.side(side).fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
            CHECK(deepAt(at) == Approx(-deep));
        }
    }
}

std::string stopsWith(const PartJob& job, const Derived& d, const std::string& text) {
    Program program = d.programs.front().program;
    program.text = text;
    const SidePrograms read{readBack({program}, job.held.face), {}};
    return stopsOf(provePanel({{job.held, read}, *job.panel}, job.panelPlan(), d.project.bodyCut,
                              d.project.machine));
}

} // namespace

TEST_CASE("A fixture's holes lie under the pins, whichever side is up", "[fixture]") {
    const Folder folder;
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Project p = neckWith({{"neck_hold.turn", turn}, {"neck_hold.fixture", "18"}});
        const PostedProgram posted = postFixture(p, folder / turn);
        CHECK(readFile(folder / turn / "fixture-pins.nc") == posted.program.text);
        const Held neck = drawnNeck(p).held;
        const Held board =
            deriveDrawing(wanting(p, Role::neckFixture)).job(Role::neckFixture)->held;
        // It reaches out beyond the blank's ends for the probe plate, its middle under the same.
        CHECK(board.blank.length == Approx(neck.blank.length + 2 * probeShelf));
        CHECK(board.face.zeroOnMachine == neck.face.zeroOnMachine - Vec2{probeShelf, 0});
        CHECK(neck.back->zeroOnMachine == neck.face.zeroOnMachine);
        CHECK(board.face.zZero == ZZero::top);
        // 12 mm full width and the drill's point, which the board still holds.
        CHECK(posted.program.bit.tipHeight() == Approx(6 * drillPoint).margin(0.01));
        checkUnder(neck, board.face, drilled(posted.program.text), 12 + 6 * drillPoint);
        // The machinist must not zero on a neck blank that lies on it.
        CHECK_THAT(posted.program.text, Contains("It is the blank of this program") &&
                                            Contains("no part lies on it yet"));
    }
}

TEST_CASE("One fixture holds every layer of a body", "[fixture][body]") {
    const Project p =
        wanting(bodyWith({{"body.build", "topped"}, {"body.back", "6"}}), Role::bodyFixture);
    const Derived d = deriveOnly(p, Role::bodyFixture);
    CHECK_FALSE(hasStop(d.findings));
    REQUIRE(d.programs.size() == 1);
    const Derived all = deriveDrawing(p);
    for (Role layer : {Role::core, Role::top, Role::back, Role::body}) {
        checkUnder(all.job(layer)->held, all.job(Role::bodyFixture)->held.face,
                   drilled(d.programs.front().program.text), 12 + 6 * drillPoint);
    }
}

TEST_CASE("A fixture that cannot be drilled says why", "[fixture]") {
    const Folder folder;
    const auto said = [&](const Project& p) {
        try {
            postFixture(p, folder / "none");
        } catch (const Error& e) {
            CHECK_FALSE(std::filesystem::exists(folder / "none"));
            return std::string(e.what());
        }
        return std::string();
    };
    CHECK_THAT(said(neckWith({{"neck_hold.register", "marks"}})), Contains("no pins to drill for"));
    CHECK_THAT(said(neckWith({{"neck.joint", "none"}})), Contains("no pins to drill for"));
    Project p = neckWith({{"neck_hold.pin_size", "9"}});
    std::erase_if(p.bits, [](const Bit& b) { return b.diameter > 4; });
    CHECK_THAT(said(p), Contains("9.00 mm drill"));
    // Bored where no drill fits, to the same width and depth.
    CHECK(postFixture(neckWith({{"neck_hold.pin_size", "9"}}), folder / "out").program.bit.kind !=
          BitKind::drill);
    CHECK(test::wren("fixture " + plainFile + " --out " + (folder / "cli").string()).code == 1);
}

TEST_CASE("A fixture's program that was altered does not pass", "[fixture]") {
    const PartId board = Role::neckFixture;
    const Derived d = deriveOnly(wanting(neckWith({{"neck_hold.fixture", "18"}}), board), board);
    const PartJob& job = *d.job(board);
    const std::string good = d.programs.front().program.text;
    CHECK(stopsWith(job, d, good).empty());
    const auto altered = [&](const std::string& by) {
        std::string bad = good;
        bad.replace(bad.rfind("M5"), 2, by);
        return stopsWith(job, d, bad);
    };
    // One hole more, a groove between holes, a hole not drilled.
    CHECK_THAT(altered("G0 X60 Y20\nG1 Z-6 F200\nG0 Z20\nM5"), Contains("gouge"));
    CHECK_THAT(altered("G0 X60 Y20\nG1 Z-3 F200\nX90\nG0 Z20\nM5"), Contains("gouge"));
    CHECK_THAT(stopsWith(job, d, good.substr(0, good.rfind("G1")) + "G0 Z20\nM5\nM2\n"),
               Contains("stays over the floor"));
}
