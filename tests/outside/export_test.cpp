// What is exported, read back by programs and libraries that had no part in writing it.

#include "base/files.h"
#include "design/scale.h"

#include "support.h"

#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS_Shape.hxx>

#include <cstring>
#include <map>

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;

namespace {

/// Boards of every kind that changes what a solid is made of.
const std::vector<std::vector<std::pair<const char*, const char*>>> boards{
    {},
    {{"board.far_radius", "400"}},
    {{"board.frets", "0"}, {"board.past_last_fret", "430"}},
    {{"board.treble_scale", "600"},
     {"board.square_fret", "7"},
     {"board.hand", "left"},
     {"board.blind_margin", "3"},
     {"board.end", "slanted"}},
    {{"markers.frets", "3 12"},
     {"markers.shape", "leaf"},
     {"board.nut_shelf", "5"},
     {"board.end", "radiused"}},
    {{"markers.frets", "5 7"}, {"markers.shape", "wrap"}},
    {{"board.treble_scale", "619.98"}}}; // all but square

std::string exported(const test::Folder& folder, const std::string& project,
                     const std::string& format, const std::string& more = "") {
    const std::string out = (folder / ("out." + format)).string();
    const test::Ran r = test::wren("export " + project + " --part fretboard --format " + format +
                                   " -o " + out + more);
    INFO(r.err);
    REQUIRE(r.code == 0);
    return out;
}

std::string saved(const test::Folder& folder,
                  const std::vector<std::pair<const char*, const char*>>& changes) {
    Project p = test::plainWith();
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    const std::string file = (folder / "p.wren").string();
    saveProject(p, file);
    return file;
}

struct Triangle {
    std::array<std::array<float, 3>, 3> p;
};

std::vector<Triangle> trianglesOf(const std::string& stl) {
    std::uint32_t count = 0;
    std::memcpy(&count, stl.data() + 80, 4);
    REQUIRE(stl.size() == 84 + 50 * static_cast<std::size_t>(count));
    std::vector<Triangle> all(count);
    for (std::size_t i = 0; i < count; ++i) {
        std::memcpy(&all[i], stl.data() + 84 + 50 * i + 12, 36);
    }
    return all;
}

/// Volume by the divergence theorem.
double volumeInside(const std::vector<Triangle>& all) {
    double six = 0;
    for (const Triangle& t : all) {
        const auto& [a, b, c] = t.p;
        six += a[0] * (double(b[1]) * c[2] - double(b[2]) * c[1]) -
               a[1] * (double(b[0]) * c[2] - double(b[2]) * c[0]) +
               a[2] * (double(b[0]) * c[1] - double(b[1]) * c[0]);
    }
    return six / 6;
}

/// Edges that are not walked once in each direction.
int openEdges(const std::vector<Triangle>& all) {
    std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> walked;
    for (const Triangle& t : all) {
        for (int i = 0; i < 3; ++i) {
            ++walked[{t.p[i], t.p[(i + 1) % 3]}];
        }
    }
    int open = 0;
    for (const auto& [edge, times] : walked) {
        const auto back = walked.find({edge.second, edge.first});
        open += back == walked.end() || back->second != times ? 1 : 0;
    }
    return open;
}

} // namespace

TEST_CASE("An exported STEP is one valid closed solid of the design's volume",
          "[outside][export]") {
    for (std::size_t i = 0; i < boards.size(); ++i) {
        INFO("board " << i);
        const test::Folder folder;
        const std::string project = saved(folder, boards[i]);
        STEPControl_Reader reader;
        REQUIRE(reader.ReadFile(exported(folder, project, "step").c_str()) == IFSelect_RetDone);
        reader.TransferRoots();
        const TopoDS_Shape shape = reader.OneShape();
        int solids = 0;
        for (TopExp_Explorer e(shape, TopAbs_SOLID); e.More(); e.Next()) {
            ++solids;
        }
        CHECK(solids == 1);
        CHECK(BRepCheck_Analyzer(shape).IsValid());
        GProp_GProps props;
        BRepGProp::VolumeProperties(shape, props);
        const BoardPart part(loadProject(project).board);
        CHECK(props.Mass() == Approx(part.volume()).epsilon(2e-5));
        // A hundredth of a millimetre over the whole face would be some 2e-3.
    }
}

TEST_CASE("An exported STL is watertight and holds the solid's volume", "[outside][export]") {
    for (std::size_t i = 0; i < boards.size(); ++i) {
        INFO("board " << i);
        const test::Folder folder;
        const std::string project = saved(folder, boards[i]);
        const std::vector<Triangle> all = trianglesOf(readFile(exported(folder, project, "stl")));
        CHECK(all.size() > 20);
        CHECK(openEdges(all) == 0);
        const BoardPart part(loadProject(project).board);
        // Chords within 0.005 mm over a face of some 23,000 mm2.
        CHECK(volumeInside(all) == Approx(part.volume()).epsilon(5e-4));
        CHECK(volumeInside(all) > 0); // turned outward
    }
}

TEST_CASE("A second reader finds millimetres, lines and arcs in the DXF", "[outside][export]") {
    const test::Folder folder;
    const std::string project =
        saved(folder, {{"markers.frets", "3 5"}, {"board.end", "radiused"}});
    const test::Ran r = test::run("/usr/bin/python3 " WREN_SOURCE "/tests/outside/dxf_reader.py " +
                                  exported(folder, project, "dxf"));
    INFO(r.err);
    REQUIRE(r.code == 0);
    const json doc = json::parse(r.out);
    CHECK(doc["version"] == "AC1015");
    CHECK(doc["units"] == 4); // millimetres, DXF reference, $INSUNITS
    CHECK(doc["errors"] == 0);
    std::map<std::string, int> kinds;
    int slot = 0;
    for (const json& e : doc["entities"]) {
        ++kinds[e["layer"].get<std::string>() + " " + e["type"].get<std::string>()];
        if (e["layer"] == "slots") {
            ++slot;
            // Equal temperament, written out here.
            CHECK(e["from"][0].get<double>() ==
                  Approx(620 - 620 / std::pow(2.0, slot / 12.0)).margin(1e-6));
        }
        if (e["type"] == "ARC") {
            CHECK(e["radius"].get<double>() == Approx(120));
        }
    }
    CHECK(kinds["slots LINE"] == 22);
    CHECK(kinds["outline LINE"] == 3);
    CHECK(kinds["outline ARC"] == 1);
    CHECK(kinds["markers CIRCLE"] == 2);
    CHECK(kinds["numbers TEXT"] == 22);
    CHECK(kinds["strings LINE"] == 6);
}

TEST_CASE("The SVG is at full size, in millimetres", "[outside][export]") {
    // CSS 2.1, 4.3.2: physical units; a user unit is a millimetre when width and viewBox agree.
    const test::Folder folder;
    const std::string svg = readFile(exported(folder, saved(folder, {}), "svg"));
    double width = 0;
    double height = 0;
    double box[4] = {};
    const char* at = std::strstr(svg.c_str(), "width=");
    REQUIRE(at);
    REQUIRE(std::sscanf(at, "width=\"%lfmm\" height=\"%lfmm\" viewBox=\"%lf %lf %lf %lf\"", &width,
                        &height, box, box + 1, box + 2, box + 3) == 6);
    CHECK(width == box[2]);
    CHECK(height == box[3]);
    CHECK(svg.find("<g id=\"slots\"") != std::string::npos);
    // Fret 12 of 620 mm stands at half of it.
    CHECK(svg.find("M310,") != std::string::npos);
}

TEST_CASE("The same project gives the same bytes in every format", "[outside][export]") {
    const test::Folder a;
    const test::Folder b;
    const std::string project = saved(a, {{"markers.frets", "5"}});
    for (const char* format : {"step", "stl", "dxf", "svg", "pdf"}) {
        INFO(format);
        CHECK(readFile(exported(a, project, format)) == readFile(exported(b, project, format)));
    }
}

TEST_CASE("What cannot be exported is said in a sentence", "[outside][export][failure]") {
    const test::Folder folder;
    const std::string project = saved(folder, {});
    const std::string out = (folder / "x").string();
    const auto refused = [&](const std::string& words) {
        const test::Ran r = test::wren("export " + project + words + " -o " + out);
        CHECK(r.code == 1);
        CHECK_FALSE(std::filesystem::exists(out));
        return r.err;
    };
    CHECK(refused(" --format obj").find("one of step, stl, dxf, svg, pdf") != std::string::npos);
    CHECK(refused(" --format pdf --paper b5").find("one of a4, a3, letter") != std::string::npos);
    CHECK(refused(" --format stl --part lid").find("its parts are: fretboard") !=
          std::string::npos);
    const test::Ran r =
        test::wren("export " + project + " --format svg -o " + (folder / "no/where.svg").string());
    CHECK(r.code == 1);
}
