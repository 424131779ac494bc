// Projects from nothing, and random ones through the whole chain.

#include "exchange/board_solid.h"
#include "exchange/stl.h"
#include "job/part_sheet.h"
#include "proof/rs274.h"

#include "support.h"

#include <random>
#include <set>

using namespace wren;
using test::findingOf;

TEST_CASE("Any ordinary instrument is cut as it stands", "[new]") {
    for (int strings = 4; strings <= 9; ++strings) {
        for (double scale : {520.0, 648.0, 864.0}) {
            for (Hand hand : {Hand::right, Hand::left}) {
                INFO(strings << " strings, " << scale);
                const Project p = newProject("x", strings, scale, 20, hand);
                const Derived d = deriveDrawing(p);
                REQUIRE(d.lies(Role::board));
                CHECK_FALSE(hasStop(d.findings));
                CHECK(p.board.hand == hand);
                CHECK(p.blank.length > d.board->length() + 40);
                CHECK(p.blank.width > d.board->widest() + 19);
                CHECK(p.blank.thickness > p.board.thickness);
            }
        }
    }
    CHECK(test::sentenceOf([] { newProject("x", 3, 648, 22, Hand::right); }).find("4 to 9") !=
          std::string::npos);
    CHECK(test::sentenceOf([] { newProject("", 6, 648, 22, Hand::right); }).find("name") !=
          std::string::npos);
}

TEST_CASE("A short board's neck is shaped by stations on it", "[new]") {
    for (int frets : {1, 2, 5, 8, 11}) {
        INFO(frets);
        const Project p = withKey(newProject("x", 6, 628, frets, Hand::right), "neck.joint", "set");
        const Derived d = deriveDrawing(
            withKey(withKey(p, "machine.like", "Long router"), "body.build", "one-piece"));
        CHECK(d.neck);
        CHECK(d.body);
        for (const Finding& f : d.findings) {
            INFO(f.message);
            CHECK(f.weight != Weight::stop);
        }
    }
}

TEST_CASE("A second scale makes a fan that ends along its last fret", "[new]") {
    const Project one = newProject("x", 7, 686, 24, Hand::left);
    const Project two = withTrebleScale(one, 648, "8");
    CHECK(two.board.fanned());
    CHECK(two.board.end == BoardEnd::slanted);
    const Derived d = derive(two);
    CHECK(d.proofOf(Role::board)->passed);
    CHECK_FALSE(hasStop(d.findings));
    CHECK(two.blank.length > d.board->length() + 40);
    CHECK_THROWS_AS(withTrebleScale(one, 648, "the seventh"), Error);
    CHECK_THROWS_AS(withTrebleScale(one, 12, "nut"), Error);
}

namespace {

/// A board within the ranges a maker would type, made of every feature there is.
class RandomBoard {
public:
    explicit RandomBoard(unsigned seed) : random_(seed) {}

    Project make() {
        const int frets = maybe(5) ? whole(0, 3) : whole(12, 27);
        project_ = newProject("random", whole(4, 9), real(480, 880), frets,
                              maybe(2) ? Hand::right : Hand::left);
        if (maybe(2)) {
            project_ = withTrebleScale(project_, project_.board.scaleLength * real(0.93, 1),
                                       word({"nut", "5.5", "7", "9", "bridge"}));
        }
        set("board.radius", real(190, 500));
        set("board.thickness", real(5.2, 8));
        set("blank.thickness", project_.board.thickness + real(0.2, 3.5));
        if (maybe(2)) {
            set("board.far_radius", real(250, 600));
        }
        if (maybe(3)) {
            setWord("board.zero_fret", "yes");
        }
        if (maybe(3)) {
            set("board.nut_shelf", real(3, 8));
        }
        if (maybe(3)) {
            set("board.blind_margin", real(1, 4));
        }
        if (maybe(2)) {
            setWord("markers.frets", "3 5 7 9 12");
            setWord("markers.shape", word({"dot", "leaf", "wrap"}));
            setWord("markers.inlay", word({"pressed", "filled"}));
            set("markers.size", real(3.5, 6));
            set("markers.reach", real(8, 12));
            set("markers.depth", real(0.8, 2));
        }
        setWord("machine.like", word({"Bench router", "Desk router", "Long router"}));
        setWord("cut.school", word({"radius-first", "slots-first"}));
        set("cut.scallop", real(0.008, 0.04));
        return project_;
    }

private:
    bool maybe(int oneIn) { return whole(1, oneIn) == 1; }
    int whole(int a, int b) { return std::uniform_int_distribution<int>(a, b)(random_); }
    double real(double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random_);
    }
    std::string word(const std::vector<std::string>& words) {
        return words[static_cast<std::size_t>(whole(0, static_cast<int>(words.size()) - 1))];
    }
    void set(const char* key, double mm) { setWord(key, std::to_string(mm)); }
    void setWord(const char* key, const std::string& text) {
        project_ = withKey(project_, key, text);
    }

    std::mt19937 random_;
    Project project_;
};

/// What says that the design or the shop will not do, before any program is judged.
const std::set<std::string> designStops{
    "fret-beyond-board", "marker-off-board", "markers-meet",    "marker-over-slot",
    "thin-under-slot",   "thin-edge",        "no-slot-bit",     "marker-too-fine",
    "fret-loose",        "outside-travel",   "zero-faced-away", "shelf-above-face",
    "slots-meet",        "frets-cross",      "marker-deep",     "marker-shape"};

} // namespace

TEST_CASE("Random boards are proved, or a finding says what is wrong with them",
          "[random][proof][long]") {
    int proved = 0;
    for (unsigned seed = 1; seed <= (WREN_SANITIZED ? 6 : 24); ++seed) {
        INFO("seed " << seed);
        const Derived d = derive(RandomBoard(seed).make());
        bool excused = !d.lies(Role::board);
        for (const Finding& f : d.findings) {
            excused = excused || (f.weight == Weight::stop && designStops.count(f.code));
        }
        for (const Finding& f : d.findings) {
            INFO(f.code << ": " << f.message);
            CHECK((excused || f.weight != Weight::stop));
            CHECK(f.message.size() > 20);
            CHECK(f.message.back() == '.');
        }
        if (excused) {
            continue;
        }
        ++proved;
        CHECK(d.proofOf(Role::board)->gougeMax <= gougeAllowed);
        CHECK(d.proofOf(Role::board)->wallMax <= wallAllowed);
        CHECK(d.proofOf(Role::board)->excessMax <= d.project.cut.scallop + excessBeyondScallop);
        for (const PostedProgram& p : d.programs) {
            const ProgramReading read = readProgram(p.program.text, p.program.file);
            CHECK(read.ends);
            CHECK(read.spindleOffAtEnd);
        }
        CHECK(sheetPdf(d, *d.job(Role::board), 0).size() > 5000);
        // What comes back from the file gives the same programs.
        const Derived again = derive(projectFromText(projectToText(d.project), "again"));
        REQUIRE(again.programs.size() == d.programs.size());
        for (std::size_t i = 0; i < d.programs.size(); ++i) {
            CHECK(again.programs[i].sha256 == d.programs[i].sha256);
        }
    }
    CHECK(proved >= (WREN_SANITIZED ? 1 : 10));
}

TEST_CASE("Random boards have closed solids of their own volume", "[random][solid]") {
    int looked = 0;
    for (unsigned seed = 1; seed <= (WREN_SANITIZED ? 2 : 6); ++seed) {
        INFO("seed " << seed);
        const Derived d = deriveDrawing(RandomBoard(seed).make());
        if (!d.board || hasStop(d.findings)) {
            continue;
        }
        ++looked;
        const BoardSolid solid(*d.board);
        CHECK(solid.volume() == Approx(d.board->volume()).epsilon(2e-4));
        CHECK(volumeOf(solid.mesh()) == Approx(d.board->volume()).epsilon(1e-3));
    }
    CHECK(looked >= 1);
}

TEST_CASE("A solid no one waits for any more is given up", "[solid]") {
    const BoardPart part(test::plainWith({{"board.far_radius", "400"}}).board);
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(BoardSolid(part, {stop.get_token(), {}}), Cancelled);
    double last = 0;
    const BoardSolid whole(BoardPart(test::plainWith().board), {{}, [&](double share) {
                                                                    CHECK(share >= last - 1e-9);
                                                                    CHECK(share <= 1 + 1e-9);
                                                                    last = share;
                                                                }});
    CHECK(last > 0.5);
}
