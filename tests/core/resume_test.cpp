// A program taken up again: modes, place, and the wood that comes of it.
#include "neck_support.h"

#include "job/run_program.h"
#include "proof/resume.h"
#include "proof/rs274.h"

#include <random>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// Modes at a line by reading words alone, apart from the program's own reader.
struct SecondReader {
    int motion = 0, plane = 17, unit = 21;
    double feed = 0, speed = 0;
    Vec3 at{1e9, 1e9, 1e9};

    void read(const std::string& line) {
        for (std::size_t i = 0; i < line.size(); ++i) {
            if (line[i] == '(') {
                return;
            }
            const double v = i + 1 < line.size() ? std::atof(line.c_str() + i + 1) : 0;
            switch (line[i]) {
            case 'G':
                motion = v <= 3 ? int(v) : motion;
                plane = v >= 17 && v <= 19 ? int(v) : plane;
                unit = v == 20 || v == 21 ? int(v) : unit;
                break;
            case 'F':
                feed = v;
                break;
            case 'S':
                speed = v;
                break;
            case 'X':
                at.x = v;
                break;
            case 'Y':
                at.y = v;
                break;
            case 'Z':
                at.z = v;
                break;
            default:
                break;
            }
        }
    }
};

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> out;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);) {
        out.push_back(line);
    }
    return out;
}

} // namespace

TEST_CASE("At any line a program is taken up with what was set there", "[resume]") {
    const Derived d = derive(plainWith());
    std::mt19937 random(3);
    for (const PostedProgram& p : d.programs) {
        const Setup& setup = d.placeOf(std::size_t(p.program.order - 1)).setup();
        const std::vector<std::string> lines = linesOf(p.program.text);
        for (int n = 0; n < 40; ++n) {
            const int line =
                std::uniform_int_distribution<int>(20, int(lines.size()) - 4)(random);
            INFO(p.program.file << " line " << line);
            const Resumed r =
                resumedFrom(p.program.text, p.program.file, setup, p.program.zero, line);
            SecondReader before, again;
            for (int i = 0; i < line - 1; ++i) {
                before.read(lines[std::size_t(i)]);
            }
            // Up to the line that is gone on with: it is the first of the same text's tail.
            const std::vector<std::string> resumed = linesOf(r.text);
            const std::size_t tail = lines.size() - std::size_t(line - 1);
            REQUIRE(resumed.size() > tail);
            for (std::size_t i = 0; i < resumed.size() - tail; ++i) {
                again.read(resumed[i]);
            }
            CHECK(again.unit == before.unit);
            CHECK(again.plane == before.plane);
            CHECK(again.speed == before.speed);
            if (before.feed > 0) {
                CHECK(again.feed == Approx(before.feed));
            }
            if (before.at.z < 100) {
                const bool high = before.at.z >= setup.topZ() + 5.9;
                CHECK(again.at.x == Approx(before.at.x).margin(1e-3));
                CHECK(again.at.y == Approx(before.at.y).margin(1e-3));
                CHECK((high || std::abs(again.at.z - before.at.z) < 1e-3));
            }
            // Its motion is said, not remembered.
            SecondReader first;
            first.motion = -1;
            const std::string& gone = resumed[resumed.size() - tail];
            const bool moves = gone.find_first_of("XYZ") != std::string::npos &&
                               gone.find('(') == std::string::npos;
            first.read(gone);
            if (moves) {
                SecondReader whole = before;
                whole.read(lines[std::size_t(line - 1)]);
                CHECK(first.motion == whole.motion);
            }
        }
    }
}

TEST_CASE("The wood after stop and resume is the wood of the whole program", "[resume][long]") {
    const Derived d = derive(plainWith());
    std::mt19937 random(5);
    const PartJob& board = *d.job(Role::board);
    const Setup& setup = board.held.face;
    const double cell = 0.3;
    const Stock whole = simulate(setup, board.read[0], cell).stock;
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const PostedProgram& p = d.programs[i];
        const Path& path = board.read[0][i].path;
        for (int n = 0; n < 4; ++n) {
            const auto at = std::uniform_int_distribution<std::size_t>(10, path.size() - 2)(random);
            const int stopped = path[at].line;
            for (const int line : {stopped, lastSafeLine(p.program.text, p.program.file, setup,
                                                         p.program.zero, stopped)}) {
                INFO(p.program.file << " stopped at " << stopped << ", resumed at " << line);
                // As far as it came, then the rest as it is posted, then what follows.
                std::vector<RunProgram> programs(board.read[0].begin(),
                                                 board.read[0].begin() + std::ptrdiff_t(i));
                RunProgram begun = board.read[0][i];
                begun.path.erase(begun.path.begin() + std::ptrdiff_t(at) + 1, begun.path.end());
                programs.push_back(begun);
                Program rest = p.program;
                rest.text =
                    resumedFrom(p.program.text, p.program.file, setup, p.program.zero, line).text;
                programs.push_back(readBack({rest}, setup).front());
                programs.insert(programs.end(), board.read[0].begin() + std::ptrdiff_t(i) + 1,
                                board.read[0].end());
                const Simulation again = simulate(setup, programs, cell);
                double worst = 0;
                for (int r = 0; r < whole.rows(); ++r) {
                    for (int c = 0; c < whole.columns(); ++c) {
                        const double a = std::max(whole.high(c, r), float(whole.bottomZ()));
                        const double b =
                            std::max(again.stock.high(c, r), float(whole.bottomZ()));
                        worst = std::max(worst, std::abs(a - b));
                    }
                }
                CHECK(worst < 0.01);
            }
        }
    }
}

TEST_CASE("Where a program cannot be taken up is said", "[resume]") {
    const Derived d = derive(plainWith());
    const PostedProgram& p = d.programs[0];
    const Setup& setup = d.placeOf(0).setup();
    const auto refusal = [&](int line) {
        return sentenceOf(
            [&] { resumedFrom(p.program.text, p.program.file, setup, p.program.zero, line); });
    };
    CHECK_THAT(refusal(0), Contains("there is no line 0"));
    CHECK_THAT(refusal(1000000), Contains("there is no line"));
    CHECK_THAT(refusal(int(linesOf(p.program.text).size())), Contains("Nothing"));
    // What will happen is told before it does.
    const int line = 60;
    const Resumed r = resumedFrom(p.program.text, p.program.file, setup, p.program.zero, line);
    REQUIRE(r.does.size() >= 4);
    CHECK_THAT(r.does[1], Contains("rpm"));
    CHECK_THAT(r.does.back(), Contains("line 60"));
    // The last safe place is over the wood.
    const int safe = lastSafeLine(p.program.text, p.program.file, setup, p.program.zero, line);
    CHECK(safe <= line);
    const Resumed from = resumedFrom(p.program.text, p.program.file, setup, p.program.zero, safe);
    CHECK(from.at.z >= setup.topZ() - 1e-9);
}
