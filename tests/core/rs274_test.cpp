#include "proof/rs274.h"

#include "support.h"

using namespace wren;
using test::sentenceOf;

namespace {

Path read(const std::string& text) {
    return readProgram(text, "t.nc").path;
}

std::string fault(const std::string& text) {
    return sentenceOf([&] { readProgram(text, "t.nc"); });
}

} // namespace

TEST_CASE("Modes last until they are changed", "[rs274]") {
    const Path p = read("G21 G90\nG0 X10\nY5\nG1 Z-1 F200\nX20\nM2\n");
    REQUIRE(p.size() == 4);
    CHECK(p[1].motion == Motion::rapid);
    CHECK(p[1].to == Vec3{10, 5, 0});
    CHECK(p[3].motion == Motion::line);
    CHECK(p[3].to == Vec3{20, 5, -1});
    CHECK(p[3].feed == 200);
    CHECK(p[3].line == 5);
}

TEST_CASE("Case, spaces, comments and line numbers do not matter", "[rs274]") {
    const Path p = read("%\nn10 g0 x 1 . 5 (to the left) y-2 ; and on\n/N20 G1 Z-.5F+60\n\n%\n");
    REQUIRE(p.size() == 2);
    CHECK(p[0].to == Vec3{1.5, -2, 0});
    CHECK(p[1].to.z == -0.5);
    CHECK(p[1].feed == 60);
}

TEST_CASE("The spindle is known at every move and off after the end", "[rs274]") {
    const ProgramReading r = readProgram("S18000 M3\nG0 X1\nM5\nX2\nM3\nX3\nM30\nX99\n", "t.nc");
    REQUIRE(r.path.size() == 3);
    CHECK(r.path[0].spindleOn);
    CHECK_FALSE(r.path[1].spindleOn);
    CHECK(r.path[2].spindleOn);
    CHECK(r.ends);
    CHECK(r.spindleOffAtEnd);
    CHECK_FALSE(readProgram("G0 X1\n", "t.nc").ends);
}

TEST_CASE("Machine coordinates and offsets", "[rs274]") {
    Rs274Reader r("t.nc");
    r.read("G10 L2 P2 X100 Y50 Z-20");
    r.read("G55");
    CHECK(r.read("G0 X10 Y0 Z0").moves.at(0).to == Vec3{110, 50, -20});
    CHECK(r.read("G53 G0 Z0").moves.at(0).to == Vec3{110, 50, 0});
    CHECK(r.read("G54 G0 X0").moves.at(0).to == Vec3{0, 50, 0});
    CHECK(r.read("G91 G0 X5 Y5").moves.at(0).to == Vec3{5, 55, 0});
    CHECK(r.read("G53 G0 X1").moves.at(0).to.x == 1); // absolute even then
}

TEST_CASE("A line that cannot be read changes nothing", "[rs274][failure]") {
    Rs274Reader r("t.nc");
    r.read("G21 G90 G1 X5 F100");
    CHECK_THROWS_AS(r.read("G20 G91 X7 Q3"), Error);
    CHECK(r.position() == Vec3{5, 0, 0});
    CHECK(r.unit() == LengthUnit::mm);
    CHECK(r.read("X6").moves.at(0).to == Vec3{6, 0, 0});
}

TEST_CASE("Faults name the file, the line and the word", "[rs274][failure]") {
    CHECK(fault("G21\nG0 X1\nG0 W5\n") == "t.nc, line 3: unknown word \"W5\".");
    struct Case {
        const char* text;
        const char* says;
    };
    const Case cases[] = {
        {"G0 G1 X1", "exclude each other"},
        {"G20 G21", "exclude each other"},
        {"M3 M5", "exclude each other"},
        {"G0 X1 X2", "stands twice"},
        {"G77", "G77 is not known"},
        {"M98", "M98 is not known"},
        {"G81 X1 Z-1 R1 F10", "G81 is not known"},
        {"G0 X", "a number was expected"},
        {"G0 X1.2.3", "unknown word"},
        {"G0 X1e3", "unknown word"},
        {"X5", "without a motion"},
        {"G1 X5", "before any F"},
        {"G1 F0 X5", "before any F"},
        {"F-5", "below zero"},
        {"S-5", "below zero"},
        {"M3", "without a speed"},
        {"G2 X5 F10", "needs R, or I and J"},
        {"G2 I5 F10", "needs X or Y"},
        {"G2 X5 R10 I3 F10", "not both"},
        {"G2 X0 Y0 R10 F10", "end elsewhere"},
        {"G2 X50 R10 F10", "too small"},
        {"G1 F10 G53 X1\nG2 G53 X2 I1", "G53 needs G0 or G1"},
        {"G4", "needs P"},
        {"G10 L20 P1 X0", "needs L2"},
        {"G10 L2 P9 X0", "P1 to P6"},
        {"#1=5", "parameters"},
        {"G0 X[1+2]", "parameters"},
        {"G0 X1 (open", "not closed"},
        {"G0 X1 (a (b))", "inside a comment"},
        {"G0 X1)", "closing bracket"},
        {"G38.2 Z-5 F100", "does not probe"},
    };
    for (const Case& c : cases) {
        INFO(c.text);
        const std::string sentence = fault(c.text);
        INFO(sentence);
        CHECK(sentence.find(c.says) != std::string::npos);
        CHECK(sentence.find("t.nc, line ") == 0);
    }
    CHECK(fault("G0 X1" + std::string(300, ' ')).find("256") != std::string::npos);
}

TEST_CASE("Rubbish is refused, never swallowed or crashed on", "[rs274][failure]") {
    unsigned seed = 12345;
    const std::string letters = "GMXYZIJRFSTPLN0123456789.-+()%;/ #[]=\n\t\"\x01\xff";
    for (int round = 0; round < 3000; ++round) {
        std::string text;
        for (int i = 0; i < 40; ++i) {
            seed = seed * 1103515245 + 12345;
            text += letters[(seed >> 16) % letters.size()];
        }
        try {
            const ProgramReading r = readProgram(text, "t.nc");
            for (const Move& m : r.path) {
                CHECK(std::isfinite(m.to.x + m.to.y + m.to.z));
            }
        } catch (const Error& e) {
            CHECK(std::string(e.what()).find("t.nc, line ") == 0);
        }
    }
}

TEST_CASE("Waiting is kept, even before the first move", "[rs274]") {
    const Path p = read("S1000 M3\nG4 P2.5\nG0 X1\nG4 P1\n");
    double dwell = 0;
    for (const Move& m : p) {
        dwell += m.dwell;
    }
    CHECK(dwell == 3.5);
    CHECK(p.front().length() == 0);
}
