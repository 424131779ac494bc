// The drawer, the shelf of machines, and test slots.

#include "base/files.h"
#include "job/drawer.h"
#include "job/test_slot.h"
#include "proof/rs274.h"

#include "support.h"

#include <set>

using namespace wren;

TEST_CASE("Bits are added as copies and taken out by name", "[shop]") {
    const Project p = test::plainWith();
    const Project more = withBit(p, "flat-6 new", "flat-6");
    REQUIRE(more.bits.size() == p.bits.size() + 1);
    CHECK(more.bits.back().diameter == 6);
    CHECK(withoutBit(more, "flat-6 new") == p);
    CHECK(freeBitName(p.bits, "flat-6") == "flat-6 b");
    CHECK(freeBitName(withBit(p, "flat-6 b", "flat-6").bits, "flat-6") == "flat-6 c");
    CHECK(freeBitName(p.bits, "other") == "other");
    CHECK(test::sentenceOf([&] { withBit(p, "flat-6", "flat-6"); }).find("already") !=
          std::string::npos);
    CHECK(test::sentenceOf([&] { withBit(p, "", "flat-6"); }).find("1 to 80") != std::string::npos);
    CHECK(test::sentenceOf([&] { withoutBit(p, "none such"); }).find("it holds slot-0.58") !=
          std::string::npos);
}

TEST_CASE("The drawer is kept by the commands", "[shop][command]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    CHECK(test::wren("bits " + file + " --add odd --like ball-6").code == 0);
    const Project p = loadProject(file);
    REQUIRE(p.bits.back().name == "odd");
    const std::string key = "bits." + std::to_string(p.bits.size() - 1) + ".diameter";
    CHECK(test::wren("set " + file + " " + key + "=5/16in").code == 0);
    CHECK(loadProject(file).bits.back().diameter == Approx(7.9375));
    CHECK(test::wren("bits " + file + " --add bare").code == 2);
    CHECK(test::wren("bits " + file + " --remove nothing").code == 1);
    CHECK(test::wren("bits " + file + " --remove odd").code == 0);
    CHECK(loadProject(file).bits.size() == p.bits.size() - 1);
}

TEST_CASE("A machine from the shelf replaces all of this one's numbers", "[shop]") {
    const Project p = test::plainWith({{"machine.like", "Desk router"}});
    CHECK(p.machine.programUnit == LengthUnit::inch);
    CHECK_FALSE(p.machine.arcs);
    CHECK(showValue(keyAt(p, "machine.like"), keyAt(p, "machine.like").get(p)) == "Desk router");
    const Project own = withKey(p, "machine.plate", "20");
    CHECK(showValue(keyAt(own, "machine.like"), keyAt(own, "machine.like").get(own)) == "own");
    CHECK(withKey(own, "machine.like", "own") == own);
    // It is another way of saying the rest, so files do not hold it.
    CHECK(projectToText(p).find("\"like\"") == std::string::npos);
}

TEST_CASE("The same board is proved on every machine of the shelf", "[shop][proof]") {
    std::set<std::string> texts;
    for (const Machine& m : starterMachines()) {
        INFO(m.name);
        Project p = test::plainWith();
        p.machine = m;
        const Derived d = derive(p);
        REQUIRE(d.proofOf(Role::board));
        CHECK(d.proofOf(Role::board)->passed);
        texts.insert(d.programs.back().program.text);
    }
    CHECK(texts.size() == starterMachines().size());
}

TEST_CASE("Test slots are cut as the board's own would be", "[test-slots]") {
    for (const char* width : {"0.58", "0.70"}) {
        INFO(width);
        const Project p =
            test::plainWith({{"board.slot_width", width}, {"board.blind_margin", "3"}});
        const TestSlots t = deriveTestSlots(p);
        REQUIRE(t.program);
        CHECK_FALSE(hasStop(t.findings));
        const Derived d = derive(p);
        const Cut& own = *d.boardPlan()->face().cutOf(CutKind::slots);
        const Cut& test = t.plan->face().cuts.front();
        CHECK(test.bit == own.bit);
        CHECK(test.feeds.feed == own.feeds.feed);
        CHECK(test.feeds.depthPerPass == own.feeds.depthPerPass);
        // Read back from the text: three slots, as deep as drawn, as wide as drawn, entered from
        // the air.
        const ProgramReading read = readProgram(t.program->program.text, "test");
        CHECK(read.ends);
        double lowest = 0;
        double leastX = 1e9;
        double mostX = -1e9;
        for (const Move& m : read.path) {
            if (!m.cuts()) {
                continue;
            }
            lowest = std::min(lowest, m.to.z);
            const bool straightDown = m.from.xy() == m.to.xy();
            if (straightDown) {
                CHECK((m.to.y < 0 || m.to.y > p.offcut.width));
            }
            if (m.to.x < 30) { // the first slot, at 20.2
                leastX = std::min(leastX, m.to.x - own.bit.radius());
                mostX = std::max(mostX, m.to.x + own.bit.radius());
            }
        }
        CHECK(lowest == Approx(-p.board.slotDepth).margin(0.01));
        CHECK(mostX - leastX == Approx(p.board.slotWidth).margin(0.002));
    }
}

TEST_CASE("Test slots are written with their form, or refused in a sentence", "[test-slots]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(test::plainWith(), file);
    CHECK(test::wren("test-slots " + file + " --out " + (folder / "ts").string()).code == 0);
    CHECK(readFile(folder / "ts/test-slots.pdf").substr(0, 5) == "%PDF-");
    CHECK(readFile(folder / "ts/test-slots.nc").find("M2") != std::string::npos);
    saveProject(test::plainWith({{"test.thickness", "2"}}), file);
    const test::Ran thin = test::wren("test-slots " + file + " --out " + (folder / "no").string());
    CHECK(thin.code == 1);
    CHECK(thin.err.find("2.00 mm deep and the offcut 2.00 mm thick") != std::string::npos);
    Project bare = test::plainWith();
    bare.bits = {};
    CHECK_FALSE(deriveTestSlots(bare).program);
    CHECK(test::sentenceOf([&] {
              postTestSlots(deriveTestSlots(bare), bare, folder / "no");
          }).find("No slotting bit") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(folder / "no"));
    // An offcut is not part of the design: programs that were run stay what they are.
    CHECK(designHash(test::plainWith({{"test.length", "120"}})) == designHash(test::plainWith()));
}
