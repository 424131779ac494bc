#include "base/digest.h"
#include "job/posted.h"
#include "post/gcode_writer.h"
#include "post/motion_text.h"
#include "proof/rs274.h"

#include "support.h"

using namespace wren;
using test::plainWith;
using test::straight;

TEST_CASE("Only words that change are written", "[post]") {
    GcodeWriter w(LengthUnit::mm);
    w.begin();
    w.spindle(18000);
    w.path({straight({0, 0, 12}, {5, 0, 12}, 0), straight({5, 0, 12}, {5, 0, -1}, 100),
            straight({5, 0, -1}, {10, 0, -1}, 100),
            straight({10, 0, -1}, {10, 0, -1.00000001}, 100)});
    w.end();
    CHECK(w.take() ==
          "G21\nG90 G17 G94 G54\nS18000 M3\nG4 P4\nG0 Z12\nX5 Y0\nG1 Z-1 F100\nX10\nM5\nM2\n");
}

TEST_CASE("An arc that rounds away is not written as a whole turn", "[post]") {
    const auto arc = [](Vec3 from, Vec3 to, Vec2 centre) {
        Move m = straight(from, to, 100);
        m.motion = Motion::arcCounter;
        m.centre = {centre.x, centre.y, from.z};
        return m;
    };
    GcodeWriter w(LengthUnit::mm);
    const Vec2 centre{5, 3};
    const double turn = 1e-5; // of a radius of 3 mm: 0.00003 mm
    const Vec3 end{5 + 3 * std::sin(turn), 3 - 3 * std::cos(turn), 1};
    w.path({straight({0, 0, 1}, {5, 0, 1}, 100), arc({5, 0, 1}, end, centre),
            arc({5, 0, 1}, {end.x, end.y, 0.9}, centre), straight({5, 0, 0.9}, {9, 0, 0.9}, 100)});
    CHECK(w.take() == "G0 Z1\nG1 X5 Y0 F100\nZ0.9\nX9\n");
}

TEST_CASE("Comments cannot break out of their brackets", "[post]") {
    GcodeWriter w(LengthUnit::mm);
    w.comment("a) G0 Z-50 (b\nG0 X9");
    CHECK(w.take() == "(a  G0 Z-50  b G0 X9)\n");
}

TEST_CASE("Posted paths read back as they were, in both units", "[post]") {
    for (const char* unit : {"mm", "inch"}) {
        const Derived d = derive(plainWith({{"machine.units", unit}}));
        REQUIRE(d.programs.size() == 3);
        std::size_t cut = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            const Path& written = d.boardPlan()->face().cuts[i].path;
            Path readMoves;
            for (const Move& m : d.read(Role::board)[i].path) {
                if (m.length() > 1e-3) {
                    readMoves.push_back(m);
                }
            }
            REQUIRE(readMoves.size() == written.size());
            for (std::size_t k = 0; k < written.size(); ++k) {
                CHECK(length(readMoves[k].to - written[k].to) < 0.0003);
                CHECK(readMoves[k].motion == written[k].motion);
                cut += written[k].isArc();
            }
        }
        CHECK(cut == 4 * 3); // an arc at each corner in each of three laps; none was flattened
        CHECK(d.programs[0].program.text.find(unit == std::string("mm") ? "\nG21\n" : "\nG20\n") !=
              std::string::npos);
    }
}

TEST_CASE("Programs are named, ordered and headed as the shop needs them", "[post]") {
    const Derived d = derive(plainWith());
    const char* const names[] = {"01-fretboard-radius-ball-12.nc",
                                 "02-fretboard-slots-slot-0.58.nc",
                                 "03-fretboard-outline-flat-6.nc"};
    int order = 0;
    for (const PostedProgram& p : d.programs) {
        CHECK(p.program.file == names[order]);
        CHECK(p.program.order == ++order);
        const std::string& t = p.program.text;
        for (const char* word :
             {"Whinchat", "fretboard", "face up", "Zero: X-Y", "Zero: Z on what the blank lies on",
              "Bit ", "Blank 500.00", "minutes", "Design ", "G90 G17 G94 G54", "M3", "M5\nM2\n",
              "Eye and ear protection"}) {
            INFO(word);
            CHECK(t.find(word) != std::string::npos);
        }
        CHECK(t.find(d.designHash.substr(0, 16)) != std::string::npos);
        CHECK(t.find("M3") < t.find("G1 "));
    }
}

TEST_CASE("Same input, same bytes; another design, another hash", "[post]") {
    const Derived a = derive(plainWith());
    const Derived b = derive(plainWith());
    const Derived c = derive(plainWith({{"blank.thickness", "6.9"}}));
    for (std::size_t i = 0; i < 3; ++i) {
        CHECK(a.programs[i].program.text == b.programs[i].program.text);
        CHECK(a.programs[i].sha256 != c.programs[i].sha256);
    }
    CHECK(a.designHash != c.designHash);
    CHECK(a.designHash == derive(plainWith({{"name", "Another name"}})).designHash);
    // Who changed nothing decided nothing: a key that comes new, with its default, changes no hash.
    Project untouched;
    untouched.bits = {};
    CHECK(designHash(untouched) == sha256(R"({"bits":0,"hash":3})"));
}

TEST_CASE("Motion is what a program moves and switches, whatever its comments say", "[post]") {
    CHECK(motionText("(one)\nG1 X1 (two) Y2\n( )\n\nM2\n") == "G1 X1  Y2\nM2\n");
    // Another decision that no program of a board asks about: other comments, the same motion.
    const Derived a = derive(plainWith());
    const Derived b = derive(plainWith({{"jack.x", "31"}}));
    const Derived c = derive(plainWith({{"board.scale", "633"}}));
    REQUIRE(a.programs.size() == b.programs.size());
    for (std::size_t i = 0; i < a.programs.size(); ++i) {
        CHECK(a.programs[i].sha256 != b.programs[i].sha256);
        CHECK(a.programs[i].motion == b.programs[i].motion);
    }
    CHECK(a.programs.back().motion != c.programs.back().motion);
    PostedFolder posted;
    posted.designHash = a.designHash;
    CHECK(posted.isOf(a)); // as an older version wrote it
    CHECK_FALSE(posted.isOf(b));
    for (const PostedProgram& p : a.programs) {
        posted.motions.push_back(p.motion);
    }
    CHECK(posted.isOf(a));
    CHECK(posted.isOf(b));
    CHECK_FALSE(posted.isOf(c));
}

TEST_CASE("Neighbouring cuts with one bit share a program", "[post]") {
    const Derived d = derive(plainWith({{"cut.school", "slots-first"},
                                        {"cut.radius.bit", "flat-6"},
                                        {"cut.outline.bit", "flat-6"}}));
    REQUIRE(d.programs.size() == 2);
    CHECK(d.programs[1].program.file == "02-fretboard-radius-outline-flat-6.nc");
    CHECK(d.proofOf(Role::board)->passed);
}

TEST_CASE("A bit's odd name makes a harmless file name", "[post]") {
    Project p = plainWith();
    for (Bit& b : p.bits) {
        b.name = b.name == "ball-12" ? "../12 mm / ball" : b.name;
    }
    CHECK(derive(p).programs[0].program.file == "01-fretboard-radius-..-12-mm---ball.nc");
}

TEST_CASE("The blank's thickness goes through to every depth without touching anything else",
          "[post]") {
    const Derived thin = derive(plainWith({{"blank.thickness", "6.8"}}));
    const Derived thick = derive(plainWith({{"blank.thickness", "9.3"}}));
    for (const Derived* d : {&thin, &thick}) {
        CHECK(d->proofOf(Role::board)->passed);
        CHECK(d->programs[2].extents[0].z == Approx(-0.3).margin(1e-4)); // through, from the bed
        CHECK(d->programs[0].extents[1].z == Approx(d->project.blank.thickness + 6).margin(1e-4));
    }
    CHECK(thick.seconds() > thin.seconds());
}

TEST_CASE("A long comment goes on in the next line, no word lost", "[post]") {
    GcodeWriter w(LengthUnit::mm, true);
    std::string said;
    for (int i = 0; i < 60; ++i) {
        said += (i ? " word" : "word") + std::to_string(i);
    }
    w.comment(said);
    std::string read;
    std::istringstream in(w.take());
    int lines = 0;
    for (std::string line; std::getline(in, line); ++lines) {
        CHECK(line.size() <= 112); // 110 and the brackets
        REQUIRE(line.front() == '(');
        REQUIRE(line.back() == ')');
        read += (lines ? " " : "") + line.substr(1, line.size() - 2);
    }
    CHECK(lines > 3);
    CHECK(read == said);
    GcodeWriter one(LengthUnit::mm, true);
    one.comment(std::string(250, 'x')); // a single word longer than a line
    CHECK(one.take().size() == 250 + 3 * 3);
}
