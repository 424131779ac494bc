// A program run above the work, and round it, before it cuts.
#include "body_support.h"

#include "job/check.h"
#include "proof/air_pass.h"
#include "proof/outline_trace.h"
#include "proof/rs274.h"

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

std::string airOf(const std::string& text, double lift = 25.4) {
    return airPass(text, "p.nc", lift);
}

std::string sentenceOfAir(const std::string& text, double lift = 25.4) {
    return sentenceOf([&] { airOf(text, lift); });
}

/// As the text moves, read from its first line.
Path pathOf(const std::string& text) {
    return readProgram(text, "p.nc").path;
}

} // namespace

TEST_CASE("Every height goes up and nothing else changes", "[air]") {
    const std::string air = airOf("(Z5 in a comment)\nG21 G90\nS9000 M3\nG0 Z5 ; Z6 is said\n"
                                  "X10 Y2\nG1 Z-1.25 F200\nG2 X12 Y4 I2 J0\nG1 z - 2.5\nG53 G0 Z0\n"
                                  "M5\nM2\n");
    CHECK(air == "(AIR PASS: all heights 25.4 mm up, else as p.nc)\n(Z5 in a comment)\nG21 G90\n"
                 "S9000 M3\nG0 Z30.4 ; Z6 is said\nX10 Y2\nG1 Z24.15 F200\nG2 X12 Y4 I2 J0\n"
                 "G1 z22.9\nG53 G0 Z0\nM5\nM2\n");
    // In inches, and after the line that changes to them.
    CHECK_THAT(airOf("G20 G90\nG0 Z.5\nG1 X1 Z-.125 F20\nM2\n", 12.7),
               Contains("G0 Z1\n") && Contains("X1 Z0.375"));
    // Steps from a height that was told go on from there.
    CHECK_THAT(airOf("G21 G90\nG0 Z5\nG91\nG1 Z-6 F100\nG90\nG0 Z5\nM2\n"),
               Contains("G0 Z30.4\nG91\nG1 Z-6 F100\nG90\nG0 Z30.4"));
    CHECK(airOf("%\nG21 G90\nG0 Z5\nM2\n%\n").rfind("%\n(AIR", 0) == 0);
}

TEST_CASE("What cannot be lifted is told with its line", "[air]") {
    CHECK_THAT(sentenceOfAir("G21 G91\nG0 Z5\nG1 X3 F90\nM2\n"), Contains("line 3"));
    CHECK_THAT(sentenceOfAir("G21 G90\nG0 Z5\nG38.2 Z-10 F50\nM2\n"),
               Contains("line 3") && Contains("probe"));
    CHECK_THAT(sentenceOfAir("G21 G90\nG0 Q5\nM2\n"), Contains("line 2"));
    CHECK_THAT(sentenceOfAir("G21\nM2\n", 0), Contains("more than 0"));
    CHECK_THAT(sentenceOfAir("G21\nM2\n", 501), Contains("up to 500"));
}

TEST_CASE("Posted programs run through the air as they would through the wood", "[air][long]") {
    constexpr double lift = 40;
    for (LengthUnit unit : {LengthUnit::mm, LengthUnit::inch}) {
        Project p = bodyWith();
        p.machine.programUnit = unit;
        const Derived d = derive(p);
        REQUIRE(d.programs.size() > 8);
        for (const PostedProgram& posted : d.programs) {
            INFO(posted.program.file);
            const Path wood = pathOf(posted.program.text);
            const Path air = pathOf(airOf(posted.program.text, lift));
            REQUIRE(air.size() == wood.size());
            double lowest = 1e9;
            for (std::size_t i = 1; i < wood.size(); ++i) {
                CHECK(length(air[i].to - wood[i].to - Vec3{0, 0, lift}) < 1e-3);
                CHECK(air[i].feed == wood[i].feed);
                lowest = std::min(lowest, air[i].to.z);
            }
            // Nothing comes down to the blank.
            const ProgramPlace place =
                d.placeOf(static_cast<std::size_t>(posted.program.order - 1));
            const Setup& setup = place.setup();
            CHECK(lowest >= setup.bottomZ() + lift - d.project.machine.spoilDepth - 1e-3);
        }
    }
}

TEST_CASE("A trace goes round all that is cut, above it and with the spindle standing",
          "[air][trace]") {
    // A quarter of a circle bulges 10 mm past its ends' chord.
    const std::string text = "G21 G90 G17\nS9000 M3\nG0 Z8\nX50 Y10\nG1 Z-3 F300\nX20\n"
                             "G2 X10 Y20 I0 J10\nG1 Y60\nX50 Y40\nY10\nG0 Z8\nM5\nM2\n";
    const std::string trace = outlineTrace(text, "p.nc");
    const Path path = pathOf(trace);
    std::vector<Vec2> round; // the first move only lifts
    for (std::size_t i = 1; i < path.size(); ++i) {
        CHECK(path[i].to.z == 8);
        CHECK_FALSE(path[i].spindleOn);
        round.push_back(path[i].to.xy());
    }
    REQUIRE(round.size() > 10);
    const std::vector<Vec2> rectangle{{10, 10}, {50, 10}, {50, 60}, {10, 60}, {10, 10}};
    CHECK(std::vector<Vec2>(round.begin(), round.begin() + 5) == rectangle);
    double area = 0;
    for (std::size_t i = 5; i + 1 < round.size(); ++i) {
        area += cross(round[i], round[i + 1]) / 2;
    }
    CHECK(round[5] == round.back());
    // By hand: of the rectangle the line leaves out the triangle over the edge that falls from 60
    // to 40, and the corner outside the quarter of a circle.
    constexpr double pi = 3.14159265358979;
    CHECK(area == Approx(40 * 50 - 40 * 20 / 2.0 - (100 - pi * 25)).margin(0.05));
    CHECK_THAT(trace, Contains("X 10.0 to 50.0, Y 10.0 to 60.0"));
    CHECK(checkProgram(trace, "t.nc", {900, 600, 110}).findings.empty());
    // A single hole is gone to.
    CHECK_THAT(outlineTrace("G21 G90\nG0 Z8\nX5 Y6\nG1 Z-3 F90\nG0 Z8\nM2\n", "p.nc"),
               Contains("G0 Z8\nX5 Y6\nM5"));
    CHECK_THAT(sentenceOf([] { outlineTrace("G21\nG0 X3\nM2\n", "p.nc"); }),
               Contains("cuts nothing"));
    CHECK_THAT(sentenceOf([] { outlineTrace("G21 F9\nG1 X3\nX5 Y5\nX0\nM2\n", "p.nc"); }),
               Contains("never stands above"));
}
