// A program from anywhere, run on the wood of a part and held against it.
#include "body_support.h"

#include "job/check_on_part.h"

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

std::optional<Finding> strays(const ProgramCheck& c) {
    return findingOf(c.findings, "strays");
}

const Derived& plainBoard() {
    static const Derived d = derive(loadProject(plainFile));
    return d;
}

ProgramCheck onBoard(const std::string& text, const char* bit = "flat-6") {
    const Derived& d = plainBoard();
    return checkOnPart(d, *d.job(Role::board), {}, text, "p.nc", *findBit(d.project.bits, bit));
}

/// In the board's blank: its middle line, so far from the nut, tip so high over the bed.
std::string slotAt(double fromNut, double z, const char* between = "") {
    const Setup& s = *plainBoard().lies(Role::board);
    const Vec3 at = s.fromInstrument.toSetup({fromNut, 0, 0});
    return fmt::format("G21 G90\nS9000 M3\nG0 Z12\nX{:.4f} Y{:.4f}\n{}G1 Z{:.4f} F300\n"
                       "X{:.4f} F900\nG0 Z12\nM5\nM2\n",
                       at.x, at.y, between, z, at.x + 20);
}

} // namespace

TEST_CASE("The part's own programs do not stray", "[check][long]") {
    const Derived d = derive(bodyWith());
    for (const PartId id : {PartId(Role::board), PartId(Role::neck), PartId(Role::body)}) {
        const PartJob& job = *d.job(id);
        for (const PostedProgram& p : d.programs) {
            if (p.program.part != id) {
                continue;
            }
            INFO(p.program.file);
            const ProgramCheck c =
                checkOnPart(d, job, {p.program.side, p.program.station}, p.program.text,
                            p.program.file, *bitInHeader(p.program.text, d.project.bits));
            const auto f = strays(c);
            INFO((f ? f->message : ""));
            CHECK_FALSE(f);
        }
    }
}

TEST_CASE("The first line that takes wood off the part is named, and how much of it", "[check]") {
    const double crown = plainBoard().board->face(200, 0);
    // A cut in what is above the board's face, then one 1.5 mm into it.
    const std::string harmless = slotAt(200, crown + 0.1);
    CHECK_FALSE(strays(onBoard(harmless)));
    const std::string deep = slotAt(200, crown - 1.5, "G1 Z6.5 F300\nX300 F900\nG0 Z12\nX200\n");
    const auto f = strays(onBoard(deep));
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
    // By hand: the plunge after the four lines that go astray nowhere.
    CHECK(f->line == 9);
    CHECK(f->value == Approx(1.5).margin(0.06));
    CHECK_THAT(f->message, Contains("p.nc, line 9"));
}

TEST_CASE("A slip past a wall is found, a hair is not", "[check]") {
    const Derived& d = plainBoard();
    const Setup& s = *d.lies(Role::board);
    const auto along = [&](double outside) {
        // Beside the bass edge at mid length, the bit's side so far outside it.
        const double x = 220;
        const auto edges = *d.board->across(x);
        const Vec3 at = s.fromInstrument.toSetup({x, edges[0] - 3 - outside, 0});
        return fmt::format("G21 G90\nS9000 M3\nG0 Z12\nX{:.4f} Y{:.4f}\nG1 Z0.2 F300\nG0 Z12\n"
                           "M5\nM2\n",
                           at.x, at.y);
    };
    CHECK_FALSE(strays(onBoard(along(0.01))));
    CHECK(strays(onBoard(along(-0.4))));
}

TEST_CASE("A foreign program's travel, rapids and words are told as one's own", "[check]") {
    CHECK(findingOf(onBoard("G21 G90\nS9 M3\nG0 Z12\nX5000 Y5\nM5\nM2\n").findings,
                    "outside-travel"));
    CHECK(
        findingOf(onBoard("G21 G90\nS9 M3\nG0 Z12\nX30 Y20\nG1 Z-9 F90\nG0 Z12\nM5\nM2\n").findings,
                  "into-bed"));
    CHECK(findingOf(onBoard("G21 G90\nS9 M3\nG0 Z12\nX30 Y20\nZ3\nM5\nM2\n").findings,
                    "rapid-through-stock"));
    CHECK_THAT(sentenceOf([] { onBoard("G21\nG81 X3 Z-2 R1\nM2\n"); }), Contains("line 2"));
    const PartJob& job = *plainBoard().job(Role::board);
    CHECK_THAT(sentenceOf([&] { setupNamed(job, "upside down"); }), Contains("face up"));
    CHECK(bitInHeader("(Bit flat-6: flat)\nG21\n", plainBoard().project.bits)->name == "flat-6");
    CHECK(bitInHeader("(no bit)\n", plainBoard().project.bits) == nullptr);
    CHECK(bitInHeader("(Bit axe: flat)\n", plainBoard().project.bits) == nullptr);
}
