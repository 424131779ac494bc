// The reader against the published RS274/NGC definition, NIST IR 6556 (version 3); the paragraph is
// named beside each rule. The document was not at hand: paragraph numbers are from memory.

#include "proof/rs274.h"

#include "support.h"

#include <numbers>

using namespace wren;
using test::sentenceOf;

namespace {

Path read(const std::string& text) {
    return readProgram(text, "t").path;
}
bool refused(const std::string& text) {
    try {
        readProgram(text, "t");
        return false;
    } catch (const Error&) {
        return true;
    }
}

} // namespace

TEST_CASE("Arcs by centre: I and J are offsets from where the arc begins (3.5.3.2)",
          "[outside][rs274]") {
    // The definition's own kind of example: a clockwise arc whose centre lies below its start.
    const Path p = read("G17 G21 G90 F100\nG0 X10 Y10\nG2 X20 Y0 J-10\nG3 X10 Y10 I-10\n");
    REQUIRE(p.size() == 3);
    CHECK(p[1].centre == Vec3{10, 0, 0});
    CHECK(p[1].sweep() == Approx(std::numbers::pi / 2));
    CHECK(p[2].centre == Vec3{10, 0, 0});
    CHECK(p[2].length() == Approx(10 * std::numbers::pi / 2));
}

TEST_CASE("Arcs by radius: positive under half a turn, negative over (3.5.3.1)",
          "[outside][rs274]") {
    const Path small = read("G17 F100 G2 X10 Y10 R10\n");
    CHECK(small[0].sweep() == Approx(std::numbers::pi / 2));
    CHECK(small[0].centre.x == Approx(10));
    CHECK(small[0].centre.y == Approx(0).margin(1e-9));
    const Path large = read("G17 F100 G2 X10 Y10 R-10\n");
    CHECK(large[0].sweep() == Approx(3 * std::numbers::pi / 2));
    CHECK(large[0].centre.x == Approx(0).margin(1e-9));
    const Path other = read("G17 F100 G3 X10 Y10 R10\n");
    CHECK(other[0].sweep() == Approx(std::numbers::pi / 2));
    CHECK(other[0].centre.y == Approx(10));
    CHECK(refused("G17 F100 G2 X0 Y0 R10\n")); // start and end the same: an error in this format
}

TEST_CASE("The two radii of an arc may differ by 0.002 mm or 0.0002 in (3.5.3.2)",
          "[outside][rs274]") {
    CHECK_FALSE(refused("G21 F100 G2 X20.0019 Y0 I10 J0\n"));
    CHECK(refused("G21 F100 G2 X20.0022 Y0 I10 J0\n"));
    CHECK_FALSE(refused("G20 F10 G2 X2.00019 Y0 I1 J0\n"));
    CHECK(refused("G20 F10 G2 X2.00022 Y0 I1 J0\n"));
}

TEST_CASE("Arcs in the XZ and YZ planes, and helices (3.5.3)", "[outside][rs274]") {
    const Path xz = read("G18 F100 G2 X10 Z10 I10 K0\n"); // from X0 Z0 about X10 Z0
    CHECK(xz[0].plane == ArcPlane::zx);
    CHECK(xz[0].radius() == Approx(10));
    // Seen from +Y with Z up and X to the left, clockwise: by a quarter or by three.
    CHECK(xz[0].sweep() == Approx(3 * std::numbers::pi / 2));
    const Path yz = read("G19 F100 G3 Y10 Z10 J0 K10\n");
    CHECK(yz[0].plane == ArcPlane::yz);
    CHECK(yz[0].sweep() == Approx(std::numbers::pi / 2));
    const Path helix = read("G17 F100 G2 X10 Y10 Z-3 I10 J0\n");
    CHECK(helix[0].at(0.5).z == Approx(-1.5));
}

TEST_CASE("G20 and G21: one inch is 25.4 mm, for words and feeds (3.5.7)", "[outside][rs274]") {
    const Path p = read("G20 F10\nG1 X1\nG21\nG1 X50.8 F100\n");
    CHECK(p[0].to.x == Approx(25.4));
    CHECK(p[0].feed == Approx(254));
    CHECK(p[1].to.x == Approx(50.8));
    CHECK(p[1].feed == Approx(100));
}

TEST_CASE("G90 and G91: from the zero or from where the tool is (3.5.17)", "[outside][rs274]") {
    const Path p = read("G91 G0 X5 Y5\nX5\nG90 X0\nG91 G1 F10 Z-1\nZ-1\n");
    CHECK(p[1].to == Vec3{10, 5, 0});
    CHECK(p[2].to == Vec3{0, 5, 0});
    CHECK(p[4].to.z == -2);
    // I and J stay offsets in either mode.
    const Path arc = read("G91 F10 G2 X10 Y0 I5 J0\nX10 Y0 I5 J0\n");
    CHECK(arc[1].centre.x == Approx(15));
}

TEST_CASE("Codes of one modal group exclude each other on a line (table 4)", "[outside][rs274]") {
    for (const char* line : {"G0 G1 X1", "G17 G18", "G20 G21", "G90 G91", "G54 G55", "G61 G64",
                             "M3 M4", "M0 M30", "M8 M9"}) {
        INFO(line);
        CHECK(refused("S100 F10\n" + std::string(line) + "\n"));
    }
    CHECK_FALSE(refused("S100 M3 M7 M8\n")); // mist and flood may run together (table 4, group 8)
    CHECK_FALSE(refused("G90 G17 G94 G54 G21 G40 G49 G80\n"));
}

TEST_CASE("Execution follows table 8, whatever the order of the words", "[outside][rs274]") {
    // Feed and units before motion; motion before the program's end.
    const Path p = read("X1 G1 F5 G20\nM2 X2\n");
    CHECK(p[0].to.x == Approx(25.4));
    CHECK(p[0].feed == Approx(127));
    REQUIRE(p.size() == 2);
    CHECK(p[1].to.x == Approx(50.8));
}

TEST_CASE("Lines, words and numbers (3.3)", "[outside][rs274]") {
    // Spaces and case do not matter, also inside numbers; the definition's own example.
    const Path p = read("g0x +0. 12 34y 7\n");
    CHECK(p[0].to.x == Approx(0.1234));
    CHECK(p[0].to.y == 7);
    CHECK(refused("G0 X1 X2\n"));          // a letter other than G and M twice (3.3.4)
    CHECK(refused("G0 X1 (one (two))\n")); // no comment inside a comment (3.3.4)
    CHECK_FALSE(refused("\n  \n(only a comment)\nN5\n%\n"));
    CHECK(read("N0012 G0 X3\n")[0].to.x == 3);
}

TEST_CASE("A program ends with M2 or M30, which stop the spindle (3.6.1)", "[outside][rs274]") {
    const ProgramReading r = readProgram("S100 M3 F10\nG1 X1\nM30\nG1 X2\n", "t");
    CHECK(r.ends);
    CHECK(r.path.size() == 1);
    CHECK(r.spindleOffAtEnd);
}

TEST_CASE("G53 moves in machine coordinates for one line (3.5.12)", "[outside][rs274]") {
    const Path p = read("G10 L2 P1 X100 Y0 Z0\nG0 X5\nG53 G0 X5\nX6\n");
    CHECK(p[0].to.x == 105);
    CHECK(p[1].to.x == 5);
    CHECK(p[2].to.x == 106);
}
