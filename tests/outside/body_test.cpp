// The body against libraries that measure solids and plane regions, a second DXF reader, and the
// trade.

#include "core/panel_support.h"

#include "base/files.h"
#include "exchange/body_drawing.h"
#include "exchange/dxf.h"
#include "exchange/panel_solid.h"
#include "exchange/stl.h"
#include "geom/inset.h"
#include "job/models.h"
#include "part/body_shapes.h"
#include "part/panel_field.h"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <STEPControl_Reader.hxx>
#include <polyclipping/clipper.hpp>

#include <map>
#include <numbers>
#include <sstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using nlohmann::json;

namespace {

constexpr double perMm = 1e5; ///< the library counts in whole numbers

ClipperLib::Paths pathsOf(const std::vector<Contour>& rings, double chord) {
    ClipperLib::Paths out;
    for (const Contour& c : rings) {
        ClipperLib::Path path;
        for (Vec2 p : pointsOf(c, chord)) {
            path.push_back({std::llround(p.x * perMm), std::llround(p.y * perMm)});
        }
        out.push_back(std::move(path));
    }
    return out;
}

double areaOfPaths(const ClipperLib::Paths& paths) {
    double sum = 0;
    for (const ClipperLib::Path& p : paths) {
        sum += ClipperLib::Area(p);
    }
    return sum / (perMm * perMm);
}

/// A new instrument whose one-piece body has a contour over its front's edge.
Project contoured(const Changes& changes) {
    Project p = newProject("t", 6, 648, 22, Hand::right);
    Changes all{{"machine.like", "Long router"},
                {"neck.joint", "bolt-on"},
                {"body.build", "one-piece"},
                {"body.front_slopes", "20 -128 116 -40 14 40"}};
    all.insert(all.end(), changes.begin(), changes.end());
    for (const auto& [key, text] : all) {
        p = withKey(p, key, text);
    }
    return p;
}

/// What two regions do not have in common, mm2.
double apart(const ClipperLib::Paths& a, const ClipperLib::Paths& b) {
    ClipperLib::Clipper clipper;
    clipper.AddPaths(a, ClipperLib::ptSubject, true);
    clipper.AddPaths(b, ClipperLib::ptClip, true);
    ClipperLib::Paths out;
    clipper.Execute(ClipperLib::ctXor, out, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
    double sum = 0;
    for (const ClipperLib::Path& p : out) {
        sum += std::abs(ClipperLib::Area(p));
    }
    return sum / (perMm * perMm);
}

ClipperLib::Paths shrunk(const ClipperLib::Paths& paths, double by) {
    ClipperLib::ClipperOffset offset(2, 0.0005 * perMm);
    offset.AddPaths(paths, ClipperLib::jtRound, ClipperLib::etClosedPolygon);
    ClipperLib::Paths out;
    offset.Execute(out, -by * perMm);
    return out;
}

} // namespace

TEST_CASE("Offsets of outlines and pockets agree with Clipper's on the same rings",
          "[outside][body]") {
    std::vector<std::vector<Contour>> shapes;
    for (const char* name : {"fell", "tarn", "scree"}) {
        shapes.push_back({counterClockwise(shapeOutline(Body::bodyShape(name)))});
    }
    // A pocket with two islands.
    shapes.push_back({counterClockwise(shapeOutline(boxShape({0, 0}, 120, 70, 9))),
                      clockwise(circleContour({-25, 5}, 22)),
                      clockwise(shapeOutline(boxShape({30, -8}, 30, 14, 3, 0.4)))});
    constexpr double chord = 0.0005;
    for (std::size_t i = 0; i < shapes.size(); ++i) {
        const ClipperLib::Paths whole = pathsOf(shapes[i], chord);
        for (double d : {0.25, 2.4, 7.0, 13.0, 31.0, 48.0}) {
            INFO("shape " << i << ", distance " << d);
            const std::vector<Contour> rings = inset(shapes[i], d);
            const ClipperLib::Paths mine = pathsOf(rings, chord);
            const ClipperLib::Paths theirs = shrunk(whole, d);
            double around = 1;
            for (const Contour& r : rings) {
                around += lengthOf(r);
            }
            CHECK(areaOfPaths(mine) == Approx(areaOfPaths(theirs)).margin(0.005 * around));
            CHECK(apart(mine, theirs) < 0.005 * around); // 0.005 mm all along
        }
    }
}

TEST_CASE("What a pocket's paths sweep is the pocket, by Clipper", "[outside][panel]") {
    struct Case {
        std::vector<Contour> borders;
        double deep;
    };
    const Contour wide = counterClockwise(shapeOutline(boxShape({0, 0}, 84, 52, 6)));
    const std::vector<Case> cases{
        {{wide}, 9},
        {{wide, clockwise(circleContour({10, 4}, 15))}, 12},
        {{counterClockwise(shapeOutline(
             shapeNodes("-46 -20 s, -10 -30 s, 30 -18 r7, 44 20 r9, 4 12 s, -30 30 s")))},
         7}};
    for (const Case& c : cases) {
        PanelPocket p = pocketOf("pocket", c.borders.front(), -c.deep, 0);
        p.borders = c.borders;
        const Plank plank({p});
        const PanelPlan plan = plank.plan();
        REQUIRE(plan.findings.empty());
        const Vec3 shift = plank.held.face.fromInstrument.toSetup({0, 0, -c.deep});
        ClipperLib::Paths swept;
        for (const Cut& cut : plan.sides[0].cuts) {
            if (cut.what != "pocket" && cut.what != "corners") {
                continue;
            }
            ClipperLib::ClipperOffset grow(2, 0.0005 * perMm);
            for (const Move& m : cut.path) { // what runs on the floor
                if (!m.cuts() || m.from.z > shift.z + 1e-6 || m.to.z > shift.z + 1e-6) {
                    continue;
                }
                ClipperLib::Path line;
                const int parts = chordsFor(m, 0.0005);
                for (int i = 0; i <= parts; ++i) {
                    const Vec2 q = m.at(double(i) / parts).xy() - shift.xy();
                    line.push_back({std::llround(q.x * perMm), std::llround(q.y * perMm)});
                }
                grow.AddPath(line, ClipperLib::jtRound, ClipperLib::etOpenRound);
            }
            ClipperLib::Paths one;
            grow.Execute(one, cut.bit.radius() * perMm);
            swept.insert(swept.end(), one.begin(), one.end());
        }
        ClipperLib::Clipper all;
        all.AddPaths(swept, ClipperLib::ptSubject, true);
        ClipperLib::Paths floor;
        all.Execute(ClipperLib::ctUnion, floor, ClipperLib::pftNonZero, ClipperLib::pftNonZero);
        double around = 0;
        for (const Contour& border : c.borders) {
            around += lengthOf(border);
        }
        // Nothing of the floor is left out, and no wall is passed, but for 0.005 mm along it.
        CHECK(apart(floor, pathsOf(c.borders, 0.0005)) < 0.005 * around);
    }
}

TEST_CASE("Volumes and centroids of the body's pieces agree with Open CASCADE", "[outside][body]") {
    for (const Changes& changes :
         {Changes{}, Changes{{"neck_pocket.angle", "3"}, {"cavity.relief", "1.2"}},
          Changes{{"body.build", "topped"},
                  {"body.chambers", "-40 -104 s, 10 -130 s, 62 -120 s, 86 -72 s, 60 -52 r12, -20 "
                                    "-54 r12"},
                  {"body.channels", "-140 40 -60 52 8 14; -60 52 0 74 8 14"}},
          Changes{{"body.front_edge", "round"},
                  {"body.front_edge_size", "3.5"},
                  {"body.back_edge", "chamfer"},
                  {"body.back_edge_size", "2"}},
          Changes{{"body.front_slopes", "40 -60 116 20 12 40"},
                  {"body.back_slopes", "-20 -60 116 -10 10 60"},
                  {"body.recesses", "front 2.5: 60 -20 r4, 90 -20 r4, 90 20 r4, 60 20 r4"}},
          Changes{{"body.front_slopes", "40 -60 116 20 12 40"},
                  {"body.front_edge", "round"},
                  {"body.front_edge_size", "3"}}}) {
        const Derived d = drawnBody(bodyWith(changes));
        for (const PartJob* job : d.pieces()) {
            const Panel& panel = *job->panel;
            INFO(job->name() << (changes.empty() ? "" : changes[0].first));
            const PanelSolid solid(panel);
            // The cells' own sums, by the definition that the proof uses.
            constexpr double cell = 0.2;
            const PanelField field = PanelField::over(panel, cell);
            const auto within = [&](std::size_t i, double z) {
                return std::clamp<double>(z, field.back[i], field.front[i]);
            };
            std::vector<std::vector<std::vector<Vec2>>> hollows;
            for (const PanelPocket& hollow : panel.shutIn) {
                hollows.push_back(polygonsOf(hollow.borders));
            }
            double volume = 0;
            Vec3 moment;
            for (std::size_t i = 0; i < field.front.size(); ++i) {
                if (!field.in(i) || field.open(i)) {
                    continue;
                }
                double h = field.front[i] - field.back[i];
                double z = h * (field.front[i] + field.back[i]) / 2;
                for (std::size_t n = 0; n < hollows.size(); ++n) {
                    const PanelPocket& hollow = panel.shutIn[n];
                    if (insideOf(hollows[n], field.at(i))) {
                        const double low = within(i, hollow.floor);
                        const double high = within(i, hollow.mouth);
                        if (hollow.what == "chamber") { // channels overlap one another
                            h -= high - low;
                            z -= (high - low) * (high + low) / 2;
                        }
                    }
                }
                volume += h;
                moment = moment + Vec3{field.at(i).x * h, field.at(i).y * h, z};
            }
            const double k = cell * cell;
            const double channels = panel.shutIn.empty() ? 2e-4 : 6e-3; // left out above
            CHECK(solid.volume() == Approx(volume * k).epsilon(channels));
            const Vec3 c = solid.centroid();
            CHECK(c.x == Approx(moment.x / volume).margin(panel.shutIn.empty() ? 0.02 : 0.5));
            CHECK(c.y == Approx(moment.y / volume).margin(panel.shutIn.empty() ? 0.02 : 0.5));
            CHECK(c.z == Approx(moment.z / volume).margin(panel.shutIn.empty() ? 0.01 : 0.2));
        }
        const PanelSolid whole(*d.body->part.panel(Role::body));
        CHECK(whole.volume() == Approx(d.body->part.volume()).epsilon(3e-4));
    }
}

TEST_CASE("A fallen front's solid has the definition's heights and volume, crests and all",
          "[outside][body]") {
    // Where two sides meet, in a horn or at a corner, arches and wide edges make a crest.
    const Project project = GENERATE(
        bodyWith({{"body.outline", test::hornedOutline("two")},
                  {"body.arch", "8"},
                  {"body.arch_width", "60"},
                  {"body.front_slopes", "40 -60 116 20 6 60"},
                  {"body.front_edge", "round"},
                  {"body.front_edge_size", "2"},
                  {"body.back_edge", "round"},
                  {"body.back_edge_size", "2"}}),
        bodyWith({{"body.outline", test::hornedOutline("alike")},
                  {"body.arch", "4"},
                  {"body.arch_width", "20"}}),
        bodyWith(
            {{"body.outline",
              test::hornedOutline("one")}, // rounded by 12 mm over corners of 4, arched 150 mm in
             {"body.front_edge", "round"},
             {"body.front_edge_size", "12"},
             {"body.arch", "3"},
             {"body.arch_width", "150"}}),
        bodyWith({{"body.outline", test::hornedOutline("two")},
                  {"body.front_edge", "chamfer"},
                  {"body.front_edge_size", "8"},
                  {"body.back_edge", "chamfer"},
                  {"body.back_edge_size", "5"}}),
        bodyWith({{"body.outline",
                   test::hornedOutline("alike")}, // past the floor of the neck's pocket at the rim
                  {"body.front_edge", "round"},
                  {"body.front_edge_size", "12"},
                  {"body.arch", "5"},
                  {"body.arch_width", "33"}}));
    const Derived d = drawnBody(project);
    const Panel& panel = *d.body->part.panel(Role::body);
    const PanelSolid solid(panel);
    const Panel flat = [&] {
        Panel p = panel;
        p.frontFall = {};
        return p;
    }();
    CHECK(solid.volume() == Approx(d.body->part.volume()).epsilon(1e-4));
    CHECK(solid.volume() < PanelSolid(flat).volume() - 10000);
    // Corners of the front's triangles lie on the surface, those of pockets and holes left out.
    std::vector<std::vector<std::vector<Vec2>>> pockets;
    for (const PanelPocket& p : panel.pockets) {
        pockets.push_back(polygonsOf(p.borders));
    }
    const auto cut = [&](Vec2 at) {
        for (std::size_t i = 0; i < pockets.size(); ++i) {
            for (const Contour& border : panel.pockets[i].borders) {
                if (insideOf(pockets[i], at) || distanceTo(border, at) < 0.05) {
                    return true;
                }
            }
        }
        return std::any_of(panel.holes.begin(), panel.holes.end(), [&](const Hole& h) {
            return length(at - h.at) < h.diameter / 2 + 0.05;
        });
    };
    const double lowest = panel.top - panel.frontFall.deepest();
    long seen = 0;
    double worst = 0;
    for (const Vec3& v : solid.mesh(0.02).vertices) {
        // At the foot of a rounding, where it stands upright, a height says little.
        if (v.z > lowest - 1e-6 && distanceTo(panel.outline, v.xy()) > 0.5 && !cut(v.xy())) {
            worst = std::max(worst, std::abs(v.z - panel.faceAt(v.xy(), false)));
            ++seen;
        }
    }
    CHECK(seen > 2000);
    CHECK(worst < 0.01);
}

TEST_CASE("Edges run down contours in the solid as they do in the definition", "[outside][body]") {
    const Project project = GENERATE(
        contoured(
            {{"body.like", "scree"}, {"body.front_edge", "round"}, {"body.front_edge_size", "6"}}),
        contoured({{"body.like", "tarn"},
                   {"body.front_edge", "chamfer"}, // 5 mm, and corners of 4
                   {"body.back_edge", "round"},
                   {"body.back_slopes", "116 40 20 128 9 30"}}),
        contoured({{"body.like", "fell"},
                   {"body.front_edge", "round"},
                   {"body.back_edge", "chamfer"},
                   {"body.back_edge_size", "7"}}));
    const Derived d = drawnBody(project);
    const Panel& panel = *d.body->part.panel(Role::body);
    const PanelSolid solid(panel);
    CHECK(solid.volume() == Approx(d.body->part.volume()).epsilon(1e-3));
    // Nothing the library made strays from the definition: its corners, measured along Z where the
    // surface is not steep.
    double worst = 0;
    long seen = 0;
    for (const Vec3& v : solid.mesh(0.05).vertices) {
        const double in = distanceTo(panel.outline, v.xy());
        for (bool back : {false, true}) {
            const double gap = std::abs(v.z - panel.faceAt(v.xy(), back));
            if (gap < 0.5 && in > 1) {
                worst = std::max(worst, gap);
                ++seen;
            }
        }
    }
    CHECK(seen > 2000);
    CHECK(worst < 0.01);
    CHECK(panelModels(panel, "body", {}, ModelKind::step).missing.empty());
}

TEST_CASE("A body's STEP is read back as one valid solid of its volume", "[outside][body]") {
    const Derived d = drawnBody(bodyWith());
    const PanelSolid solid(*d.body->part.panel(Role::body));
    const Folder folder;
    writeFileSafely(folder / "body.step", solid.step("body"));
    STEPControl_Reader reader;
    REQUIRE(reader.ReadFile((folder / "body.step").c_str()) == IFSelect_RetDone);
    reader.TransferRoots();
    GProp_GProps props;
    BRepGProp::VolumeProperties(reader.OneShape(), props, 1e-6);
    CHECK(props.Mass() == Approx(solid.volume()).epsilon(1e-6));
    // And its triangles enclose as much (divergence theorem).
    const Mesh mesh = solid.mesh();
    double six = 0;
    for (const auto& t : mesh.triangles) {
        const auto v = [&](std::size_t k) { return mesh.vertices[std::size_t(t[k])]; };
        six += dot(v(0), cross(v(1), v(2)));
    }
    CHECK(six / 6 == Approx(solid.volume()).epsilon(1e-4));
}

TEST_CASE("The simulated body weighs what its solid does", "[outside][body]") {
    const Derived d = derive(bodyWith());
    const PartJob& job = *d.job(Role::body);
    REQUIRE(job.proof);
    CHECK(woodInside(job) == Approx(PanelSolid(*job.panel).volume()).epsilon(1e-3));
}

TEST_CASE("A body's DXF is read back by a second reader", "[outside][body]") {
    const Derived d = drawnBody(bodyWith());
    const Folder folder;
    writeFileSafely(folder / "body.dxf", toDxf(bodyDrawing(d.body->part, "body")));
    const Ran r = run("/usr/bin/python3 " WREN_SOURCE "/tests/outside/dxf_reader.py " +
                      (folder / "body.dxf").string());
    INFO(r.err);
    REQUIRE(r.code == 0);
    const json doc = json::parse(r.out);
    CHECK(doc["units"] == 4);
    CHECK(doc["errors"] == 0);
    std::map<std::string, int> kinds;
    for (const json& e : doc["entities"]) {
        ++kinds[e["layer"].get<std::string>() + " " + e["type"].get<std::string>()];
        if (e["layer"] == "string-holes") {
            CHECK(e["radius"].get<double>() == Approx(2));
            CHECK(e["centre"][0].get<double>() == Approx(d.project.board.scaleLength + 2 + 16));
        }
    }
    CHECK(kinds["string-holes CIRCLE"] == d.project.board.strings);
    CHECK(kinds["ferrule-holes CIRCLE"] == d.project.board.strings);
    CHECK(kinds["magnet CIRCLE"] == 4);
    CHECK(kinds["outline ARC"] > 20);
}

TEST_CASE("The body's defaults are the trade's", "[outside][body]") {
    // Common practice, no source.
    const Body body;
    CHECK(body.thickness == Approx(1.75 * 25.4).margin(0.1)); // 1 3/4 in usual
    CHECK(body.pocket.depth == Approx(16));                   // about 16 mm deep
    CHECK(body.pocket.clearance >= 0.05);                     // snug: 0.05 to 0.1 mm a side
    CHECK(body.pocket.clearance <= 0.1);
    CHECK(body.oversize == Approx(5));            // of a top until it is glued
    CHECK(body.cavity.clearance == Approx(0.25)); // a finished lid, 0.010 in all round
    CHECK(body.cavity.fixings == 4);
    CHECK(body.cavity.fixingSize == Approx(6.35)); // magnets 1/4 in across
    CHECK(body.bridge.holeSize == Approx(5.0 / 32 * 25.4).margin(0.05));
    CHECK(body.bridge.ferruleSize == Approx(5.0 / 16 * 25.4).margin(0.1));
    CHECK(body.bridge.ferruleDepth == Approx(12.7));
    CHECK(Pickup().depth == Approx(19).margin(0.1)); // 3/4 in, its ears 1 in
    CHECK(Pickup().earDepth == Approx(25.4));
    CHECK(body.jacks[0].size == Approx(12.7)); // a barrel's 1/2 in hole, or a 7/8 in cup
    CHECK(body.jacks[0].cupSize == Approx(22.225).margin(0.05));
    const BodyCut cut;
    CHECK(cut.through == Approx(0.3));       // past the underside
    CHECK(cut.tabs == 4);                    // four round a body
    CHECK(cut.stockToLeave == Approx(0.25)); // what roughing leaves
}
