// A fan as it leaves the house: every fret crosses the outer strings at those strings' own scales,
// in the drawing, in the table and on paper; and the solid's faces are what the design says.

#include "base/files.h"

#include "support.h"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Section.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>

#include <map>
#include <sstream>

#include <nlohmann/json.hpp>

using namespace wren;
using nlohmann::json;

namespace {

constexpr double bassScale = 686;
constexpr double trebleScale = 648;

Project fan() {
    return test::plainWith({{"board.strings", "7"},
                            {"board.hand", "left"},
                            {"board.nut_width", "50"},
                            {"board.last_fret_width", "66"},
                            {"board.scale", "686"},
                            {"board.treble_scale", "648"},
                            {"board.square_fret", "8"},
                            {"board.end", "slanted"}});
}

std::string written(const test::Folder& folder, const Project& project, const std::string& format) {
    const std::string file = (folder / "p.wren").string();
    const std::string out = (folder / ("out." + format)).string();
    saveProject(project, file);
    const test::Ran r = test::wren("export " + file + " --format " + format + " -o " + out);
    INFO(r.err);
    REQUIRE(r.code == 0);
    return out;
}

struct Line {
    Vec2 a;
    Vec2 b;
    Vec2 at(double t) const { return a + (b - a) * t; }
};

Line lineOf(const json& shape) {
    const auto& p = shape["points"];
    return {{p[0][0], p[0][1]}, {p[1][0], p[1][1]}};
}

/// Where two straight lines meet.
Vec2 meet(const Line& p, const Line& q) {
    const Vec2 u = p.b - p.a;
    const Vec2 v = q.b - q.a;
    return p.at(cross(q.a - p.a, v) / cross(u, v));
}

} // namespace

TEST_CASE("In the drawing every fret crosses each outer string at that string's scale",
          "[outside][fan][export]") {
    const test::Folder folder;
    const test::Ran r = test::run("/usr/bin/python3 " WREN_SOURCE "/tests/outside/svg_reader.py " +
                                  written(folder, fan(), "svg"));
    INFO(r.err);
    REQUIRE(r.code == 0);
    const json layers = json::parse(r.out)["layers"];
    REQUIRE(layers["slots"].size() == 22);
    REQUIRE(layers["strings"].size() == 7);
    // The lowest string, at +Y on a left-handed board, carries the longer scale.
    const Line bass = lineOf(layers["strings"].front());
    const Line treble = lineOf(layers["strings"].back());
    CHECK(bass.a.y > treble.a.y);
    const Line nut = lineOf(layers["nut"].front());
    for (int n = 1; n <= 22; ++n) {
        INFO("fret " << n);
        const Line fret = lineOf(layers["slots"][static_cast<std::size_t>(n - 1)]);
        const double share = 1 - std::pow(2.0, -n / 12.0); // equal temperament
        CHECK(meet(fret, bass).x - meet(nut, bass).x == Approx(bassScale * share).margin(0.001));
        CHECK(meet(fret, treble).x - meet(nut, treble).x ==
              Approx(trebleScale * share).margin(0.001));
        if (n == 8) {
            CHECK(fret.a.x == Approx(fret.b.x).margin(0.001)); // square there
        }
    }
    // Slots end on the outline's long edges.
    const auto& outline = layers["outline"].front()["points"];
    REQUIRE(outline.size() >= 4);
    const Line upper{{outline[0][0], outline[0][1]}, {outline[1][0], outline[1][1]}};
    for (const json& shape : layers["slots"]) {
        const Line fret = lineOf(shape);
        const Vec2 top = fret.a.y > fret.b.y ? fret.a : fret.b;
        const Vec2 way = upper.b - upper.a;
        CHECK(std::abs(cross(way, top - upper.a)) / length(way) < 0.001);
    }
}

TEST_CASE("The fret table's columns are the same places as the drawing's",
          "[outside][fan][export]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(fan(), file);
    const test::Ran table = test::wren("frets " + file + " --csv");
    REQUIRE(table.code == 0);
    const test::Ran svg =
        test::run("/usr/bin/python3 " WREN_SOURCE "/tests/outside/svg_reader.py " +
                  written(folder, fan(), "svg"));
    const json layers = json::parse(svg.out)["layers"];
    const Line nut = lineOf(layers["nut"].front());
    const auto upperEnd = [](const Line& l) { return l.a.y > l.b.y ? l.a : l.b; };
    const auto lowerEnd = [](const Line& l) { return l.a.y > l.b.y ? l.b : l.a; };
    std::istringstream rows(table.out);
    std::string row;
    std::getline(rows, row);
    CHECK(row.rfind("fret,from_nut_mm,bass_edge_mm,treble_edge_mm,angle_deg", 0) == 0);
    for (int n = 1; std::getline(rows, row) && n <= 22; ++n) {
        INFO(row);
        int fret = 0;
        double middle = 0;
        double bass = 0;
        double treble = 0;
        double angle = 0;
        REQUIRE(std::sscanf(row.c_str(), "%d,%lf,%lf,%lf,%lf", &fret, &middle, &bass, &treble,
                            &angle) == 5);
        CHECK(fret == n);
        const Line slot = lineOf(layers["slots"][static_cast<std::size_t>(n - 1)]);
        CHECK(bass == Approx(upperEnd(slot).x - upperEnd(nut).x).margin(0.0051));
        CHECK(treble == Approx(lowerEnd(slot).x - lowerEnd(nut).x).margin(0.0051));
        const Line centre{{0, 0}, {1, 0}};
        CHECK(middle == Approx(meet(slot, centre).x - meet(nut, centre).x).margin(0.0051));
        const Vec2 way = lowerEnd(slot) - upperEnd(slot);
        CHECK(angle == Approx(std::atan2(way.x, -way.y) * 180 / M_PI).margin(0.001));
    }
}

TEST_CASE("As the scales converge the fan becomes the plain board", "[outside][fan][export]") {
    const Project plain = test::plainWith();
    double last = 1e9;
    for (const char* treble : {"600", "616", "619.5", "619.99"}) {
        const Project p = withKey(plain, "board.treble_scale", treble);
        double worst = 0;
        const auto a = fretTable(p.board);
        const auto b = fretTable(plain.board);
        for (std::size_t i = 0; i < a.size(); ++i) {
            worst = std::max({worst, std::abs(a[i].onBassEdge - b[i].onBassEdge),
                              std::abs(a[i].onTrebleEdge - b[i].onTrebleEdge)});
        }
        INFO(treble << " " << worst);
        CHECK(worst < last);
        last = worst;
    }
    CHECK(last < 0.02);
}

TEST_CASE("The solid's face and floors are the cylinders of the design", "[outside][export]") {
    const test::Folder folder;
    const Project p = test::plainWith();
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(written(folder, p, "step").c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    const TopoDS_Shape shape = reader.OneShape();
    std::map<long, int> radii; // in hundredths of a millimetre
    int planes = 0;
    for (TopExp_Explorer e(shape, TopAbs_FACE); e.More(); e.Next()) {
        const BRepAdaptor_Surface surface(TopoDS::Face(e.Current()));
        planes += surface.GetType() == GeomAbs_Plane ? 1 : 0;
        if (surface.GetType() == GeomAbs_Cylinder) {
            ++radii[std::lround(surface.Cylinder().Radius() * 100)];
            // Their common axis lies a radius under the crown, along the board.
            CHECK(surface.Cylinder().Axis().Location().Z() == Approx(6 - 300.0).margin(1e-6));
            CHECK(std::abs(surface.Cylinder().Axis().Direction().X()) == Approx(1));
        }
    }
    CHECK(radii[30000] == 23); // the face, in the pieces the slots leave of it
    CHECK(radii[29800] == 22); // their floors
    CHECK(radii.size() == 2);
    CHECK(planes >= 5 + 2 * 22);
}

TEST_CASE("Sections of the solid have the areas of a circle's segment over a box",
          "[outside][export]") {
    const test::Folder folder;
    const Project p = test::plainWith({{"board.far_radius", "420"}});
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile(written(folder, p, "step").c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    const TopoDS_Shape shape = reader.OneShape();
    const BoardPart part(p.board);
    for (double x : {20.0, 110.0, 240.0, 330.0, 450.0}) { // between slots
        const TopoDS_Shape plane =
            BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(x, 0, 0), gp_Dir(1, 0, 0)), -100, 100, -100, 100)
                .Face();
        GProp_GProps props;
        BRepGProp::SurfaceProperties(BRepAlgoAPI_Common(shape, plane).Shape(), props);
        const double r = part.face().radiusAt(x);
        const double half = part.edge(1, x);
        // Box up to the crown, less the crown's excess over the arc.
        const double segment = r * r * std::asin(half / r) + half * std::sqrt(r * r - half * half);
        const double area = 2 * half * (6 - r) + segment;
        INFO("at " << x);
        CHECK(props.Mass() == Approx(area).epsilon(1e-5));
    }
}
