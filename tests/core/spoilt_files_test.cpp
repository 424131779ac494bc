// Files and texts made to hang, to crash or to be believed: one sentence, soon, and nothing lost.

#include "base/files.h"
#include "exchange/drawing_in.h"
#include "job/check.h"
#include "job/posting.h"
#include "post/gcode_writer.h"

#include "support.h"

#include <sys/stat.h>

#include <nlohmann/json.hpp>

using namespace wren;
using test::Folder;
using test::plainWith;
using test::sentenceOf;

namespace {

std::string times(int n, const std::string& text) {
    std::string out;
    for (int i = 0; i < n; ++i) {
        out += text;
    }
    return out;
}

std::string svgWith(const std::string& inside) {
    return R"(<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="300mm" )"
           R"(viewBox="0 0 300 300">)" +
           inside + "</svg>";
}

} // namespace

TEST_CASE("Nesting without end is told, not followed", "[spoilt]") {
    const std::string head = R"({"format": "upland-wren project", "version": 2, "deep": )";
    for (const std::string& text : {head + times(100000, "[") + times(100000, "]") + "}",
                                    head + times(50000, "{\"a\":") + "1" + times(50001, "}")}) {
        CHECK(sentenceOf([&] { projectFromText(text, "p.wren"); }).find("nested") !=
              std::string::npos);
    }
    const std::string svg = svgWith(times(50000, "<g>") + times(50000, "</g>"));
    CHECK(sentenceOf([&] { readSvg(svg, "d.svg"); }).find("nested") != std::string::npos);
    CHECK_NOTHROW(readSvg(svgWith(times(50, "<g>") + times(50, "</g>")), "d.svg"));
}

TEST_CASE("A drawing of too many pieces says how many it may have", "[spoilt]") {
    const DrawingRead many = readSvg(svgWith(times(12001, R"(<path d="M0 0 l1 1"/>)")), "many.svg");
    CHECK(sentenceOf([&] { trace(many, {}); }).find("12001 separate lines") != std::string::npos);
}

TEST_CASE("A DXF that announces more than it holds is not given the room", "[spoilt]") {
    for (const char* entity :
         {"0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n999999999\n73\n999999999\n74\n0\n",
          "0\nLWPOLYLINE\n8\n0\n90\n999999999\n70\n1\n10\n0\n20\n0\n"}) {
        const std::string text =
            std::string("0\nSECTION\n2\nENTITIES\n") + entity + "0\nENDSEC\n0\nEOF\n";
        CHECK(sentenceOf([&] { readDxf(text, "d.dxf"); }).find("announces 999999999") !=
              std::string::npos);
    }
}

TEST_CASE("Names are text, and versions are versions", "[spoilt]") {
    for (const std::string& name :
         {std::string("a\x01"), std::string("a\xff\xfe"), std::string("\xef\xbf\xbe"),
          std::string("\xed\xa0\x80"), std::string("a\x7f"), std::string("\xc3")}) {
        CHECK(sentenceOf([&] { withKey(plainWith(), "name", name); }).find("no text") !=
              std::string::npos);
    }
    CHECK_NOTHROW(withKey(plainWith(), "name", "Wiesenschm\xc3\xa4tzer \xe2\x99\xaf"));
    const std::string good = projectToText(plainWith());
    for (const char* version : {"18446744073709551615", "-3", "0", "99"}) {
        std::string text = good;
        const std::size_t at = text.find("\"version\": ") + 11;
        text.replace(at, text.find_first_of(",\n", at) - at, version);
        INFO(version);
        CHECK(sentenceOf([&] { projectFromText(text, "p.wren"); }).find("version") !=
              std::string::npos);
    }
}

TEST_CASE("An arc as wide as a village is refused, two thousand helices are not a burden",
          "[spoilt]") {
    const std::string head = "G21 G90\nS1000 M3\nG1 X0 Y0 F100\n";
    CHECK(sentenceOf([&] {
              checkProgram(head + "G2 X0 Y0 I1000000000000 J0\nM5\nM2\n", "a.nc", {900, 600, 110});
          }).find("radius") != std::string::npos);
    CHECK(sentenceOf([&] {
              checkProgram(head + "G1 X1000000000\nM5\nM2\n", "a.nc", {900, 600, 110});
          }).find("X stands") != std::string::npos);
    // An arc's reach is where it turns back, exactly.
    const ProgramCheck turn =
        checkProgram(head + "G2 X0 Y0 I25 J0 Z-1\nM5\nM2\n", "a.nc", {900, 600, 110});
    CHECK(turn.extents[1].x == Approx(50).margin(1e-9));
    CHECK(turn.extents[0].y == Approx(-25).margin(1e-9));
    CHECK(turn.extents[1].y == Approx(25).margin(1e-9));
}

TEST_CASE("A tapered ball without a tip ends in a sentence", "[spoilt]") {
    Project p = plainWith();
    p.bits = starterDrawer();
    for (Bit& b : p.bits) {
        b.tip = b.kind == BitKind::taperedBall ? 0 : b.tip;
    }
    p = withKey(p, "cut.radius.bit", "taper-1.5");
    Derived d = deriveDrawing(p);
    derivePrograms(d);
    CHECK(hasStop(d.findings));
    p = withKey(withKey(p, "neck.joint", "bolt-on"), "neck_cut.finish.bit", "taper-1.5");
    Derived neck = deriveDrawing(p);
    derivePrograms(neck);
    const auto stop = test::findingOf(neck.job(Role::neck)->neckPlan().findings, "no-bit");
    REQUIRE(stop);
    CHECK(stop->message.find("no width") != std::string::npos);
}

TEST_CASE("Comments hold letters, digits and harmless signs", "[spoilt][post]") {
    GcodeWriter writer(LengthUnit::mm, true);
    writer.comment("50 % of A?! ~ {b} $H @x #1 *2 ^X \x18 (in) ; M3 \xc3\xa4, 12.5 x 3/4 = ok");
    const std::string text = writer.take();
    CHECK(text.find_first_of("%?!~{}$@#*^;") == std::string::npos);
    CHECK(text.find("12.5 x 3/4 = ok") != std::string::npos);
    CHECK(std::count(text.begin(), text.end(), '(') == 1);
}

TEST_CASE("Saving keeps a link a link, and a file's mode", "[spoilt][files]") {
    const Folder folder;
    const auto real = folder / "real.wren";
    const auto link = folder / "link.wren";
    saveProject(plainWith(), real);
    REQUIRE(::chmod(real.c_str(), 0600) == 0);
    std::filesystem::create_symlink(real, link);
    saveProject(plainWith({{"board.frets", "20"}}), link);
    CHECK(std::filesystem::is_symlink(link));
    CHECK(loadProject(real).board.frets == 20);
    struct stat now {};
    REQUIRE(::stat(real.c_str(), &now) == 0);
    CHECK((now.st_mode & 0777) == 0600);
}

TEST_CASE("While files are exchanged the report says that the folder is unfinished",
          "[spoilt][posting]") {
    const Folder folder;
    post(derive(plainWith()), folder.str());
    // A process that was killed between two renames, and one that still lives.
    writeFileSafely(folder / "programs" / "x.nc.999999.part", "half");
    const std::string own = "y.nc." + std::to_string(::getpid()) + ".part";
    writeFileSafely(folder / "programs" / own, "half");
    bool asked = false;
    writeFilesSafely({{folder / "programs" / "z.nc", "new"}}, [&] {
        asked = true;
        CHECK_FALSE(std::filesystem::exists(folder / "programs" / "z.nc"));
    });
    CHECK(asked);
    // Killed before the report: what it says is not whole, and the next posting puts it right.
    writeFileSafely(folder / "report.json",
                    R"({"posted": false, "unfinished": true, "programs": ["z.nc"]})");
    post(derive(plainWith()), folder.str());
    const auto report = nlohmann::json::parse(readFile(folder / "report.json"));
    CHECK(report["posted"] == true);
    CHECK_FALSE(report.contains("unfinished"));
    CHECK(std::filesystem::exists(folder / "programs" / "z.nc.stale"));
    CHECK_FALSE(std::filesystem::exists(folder / "programs" / "x.nc.999999.part"));
    CHECK(std::filesystem::exists(folder / "programs" / own));
}

TEST_CASE("Without a HOME the book is asked for, not made where one stands", "[spoilt][book]") {
    const Folder folder;
    const test::Ran r = test::run("cd " + folder.str() +
                                  " && env -u HOME -u XDG_DATA_HOME -u UPLAND_WREN_BOOK " WREN_BIN
                                  "/wren book runs");
    CHECK(r.code == 1);
    CHECK(r.err.find("HOME") != std::string::npos);
    CHECK(std::filesystem::is_empty(folder.str()));
}
