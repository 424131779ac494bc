// The neck against a library that measures solids, against closed forms, and against the trade.

#include "base/files.h"
#include "exchange/neck_solid.h"
#include "exchange/stl.h"
#include "shop/starter.h"

#include "support.h"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <STEPControl_Reader.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Pln.hxx>

#include <map>
#include <numbers>
#include <sstream>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;

namespace {

using Changes = std::vector<std::pair<const char*, const char*>>;

Project neckProject(const Changes& changes = {}) {
    Project p = test::plainWith();
    p.bits = starterDrawer();
    p = withKey(p, "neck.joint", "bolt-on");
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

double areaByLibrary(const TopoDS_Shape& solid, double x) {
    const TopoDS_Face plane =
        BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(x, 0, 0), gp_Dir(1, 0, 0)), -200, 200, -200, 200)
            .Face();
    GProp_GProps props;
    BRepGProp::SurfaceProperties(BRepAlgoAPI_Common(plane, solid).Shape(), props);
    return props.Mass();
}

/// Every edge has one triangle on each side.
bool closed(const Mesh& mesh) {
    std::map<std::pair<int, int>, int> edges;
    for (const auto& t : mesh.triangles) {
        for (std::size_t i = 0; i < 3; ++i) {
            ++edges[{t[i], t[(i + 1) % 3]}];
        }
    }
    return std::all_of(edges.begin(), edges.end(), [&](const auto& e) {
        const auto back = edges.find({e.first.second, e.first.first});
        return e.second == 1 && back != edges.end() && back->second == 1;
    });
}

} // namespace

TEST_CASE("An exported neck reloads as one valid solid with the design's measures",
          "[outside][neck][solid]") {
    const std::vector<Changes> necks{
        {},
        {{"head.kind", "tilted"},
         {"head.angle", "12"},
         {"neck.stations", "1 20 soft-V/C, 12 22 D"},
         {"head.volute", "2"},
         {"board.hand", "left"}},
        {{"rod.run", "follows"},
         {"neck.stations", "1 20 @t, 12 23 C"},
         {"neck.traces", "t: -21 0, -20 5, -16 9.5, -8 12.6, 0 13.5, 8 12.9, 16 9.4, 19.5 5, 21 0"},
         {"board.treble_scale", "625"},
         {"board.square_fret", "7"},
         {"neck.nut_slot", "3"},
         {"head.plate", "1.5"},
         {"head.plate_screws", "2"}},
        {{"rod.from", "back"},
         {"rod.cover", "3.5"},
         {"rod.depth", "6"},
         {"rod.adjuster_depth", "6"},
         {"neck.stations", "1 22 C, 12 24 C"}},
        {{"head.like", "keel"},
         {"tuners.bass_side", "3"},
         {"neck.heel_shape", "tapered"},
         {"tuners.places", "-42 -18, -72 -20, -102 -22, -102 22, -72 20, -42 18"}},
        {{"neck.fret_face", "carved"},
         {"rod.from", "back"},
         {"rod.cover", "1.5"},
         {"markers.frets", "3 5 12"},
         {"neck.nut_slot", "2"}}};
    for (const Changes& changes : necks) {
        INFO((changes.empty() ? "plain" : changes.front().second));
        const test::Folder folder;
        const std::string file = (folder / "p.wren").string();
        saveProject(neckProject(changes), file);
        const std::string step = (folder / "neck.step").string();
        const test::Ran r = test::wren("export " + file + " --part neck --format step -o " + step);
        INFO(r.err);
        REQUIRE(r.code == 0);
        STEPControl_Reader reader;
        REQUIRE(reader.ReadFile(step.c_str()) == IFSelect_RetDone);
        reader.TransferRoots();
        const TopoDS_Shape shape = reader.OneShape();
        int solids = 0;
        for (TopExp_Explorer e(shape, TopAbs_SOLID); e.More(); e.Next()) {
            ++solids;
        }
        CHECK(solids == 1);
        CHECK(BRepCheck_Analyzer(shape).IsValid());
        const NeckPart part(loadProject(file).neck, loadProject(file).board);
        GProp_GProps props;
        BRepGProp::VolumeProperties(shape, props);
        // The library's own integration over faces of many spans is good to some 1e-3 only; a wrong
        // depth of 0.02 mm over the whole neck would be 1.5e-3.
        CHECK(props.Mass() == Approx(part.volume()).epsilon(1.2e-3));
        // Ten sections, clear of holes.
        for (double x : {-12.0, -7.0, 0.0, 8.0, 45.0, 110.0, 180.0, 260.0, 340.0, 352.0}) {
            if (part.carved() && x == 0) {
                continue; // along the face's wall
            }
            CHECK(areaByLibrary(shape, x) == Approx(part.sectionArea(x)).epsilon(1e-3));
        }
    }
}

TEST_CASE("The neck's STL is watertight and holds the volume, also that of the simulated wood",
          "[outside][neck][solid]") {
    const Project p = neckProject();
    const Derived d = derive(p);
    REQUIRE(d.neck);
    const NeckSolid solid(d.neck->part);
    const Mesh mesh = solid.mesh();
    CHECK(closed(mesh));
    // Chords lie inside a bulging back: a little less, never more.
    const double volume = volumeOf(mesh);
    CHECK(volume == Approx(d.neck->part.volume()).epsilon(4e-4));
    // Wood inside the outline in the stock at the end: the design, plus ridges of 0.02 mm at most
    // and what the bits' roundness leaves in the slots' corners.
    REQUIRE(d.job(Role::neck)->proof);
    const Stock& stock = *d.job(Role::neck)->proof->stock;
    const NeckOutline& o = d.neck->part.outline();
    double wood = 0;
    Vec3 moment;
    for (int c = 0; c < stock.columns(); ++c) {
        const double x =
            d.job(Role::neck)->held.back->fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        for (const auto& stretch : o.stretches(x)) {
            for (int r = 0; r < stock.rows(); ++r) {
                const double y =
                    d.job(Role::neck)->held.back->fromInstrument.toInstrument({0, stock.y(r), 0}).y;
                if (y > stretch[0] && y < stretch[1] && stock.wood(c, r)) {
                    const double h = stock.high(c, r) - stock.low(c, r);
                    wood += h;
                    moment = moment + Vec3{x, y, -(stock.high(c, r) + stock.low(c, r)) / 2} * h;
                }
            }
        }
    }
    const Vec3 centre = moment * (1 / wood);
    wood *= stock.cell() * stock.cell();
    CHECK(wood == Approx(volume).epsilon(3e-3));
    const Vec3 byLibrary = solid.centroid();
    CHECK(centre.x == Approx(byLibrary.x).margin(0.5));
    CHECK(centre.y == Approx(byLibrary.y).margin(0.05));
    CHECK(centre.z == Approx(byLibrary.z).margin(0.05));
    for (double x : {40.0, 150.0, 300.0}) {
        const int c = static_cast<int>(std::lround(
            stock.column(d.job(Role::neck)->held.back->fromInstrument.toSetup({x, 0, 0}).x)));
        double area = 0;
        const double here =
            d.job(Role::neck)->held.back->fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const auto across = o.across(here);
        for (int r = 0; r < stock.rows(); ++r) {
            const double y =
                d.job(Role::neck)->held.back->fromInstrument.toInstrument({0, stock.y(r), 0}).y;
            if (y > across[0] && y < across[1]) {
                area += std::max(0.0, double(stock.high(c, r)) - stock.low(c, r)) * stock.cell();
            }
        }
        CHECK(area == Approx(d.neck->part.sectionArea(here)).epsilon(5e-3));
        CHECK(solid.sectionArea(here) == Approx(d.neck->part.sectionArea(here)).epsilon(1e-3));
    }
}

TEST_CASE("A carved neck's STL is watertight and holds the volume", "[outside][neck][solid]") {
    const Project p = neckProject({{"neck.fret_face", "carved"}, {"rod.from", "none"}});
    const NeckPart part(p.neck, p.board);
    const Mesh mesh = NeckSolid(part).mesh();
    CHECK(closed(mesh));
    CHECK(volumeOf(mesh) == Approx(part.volume()).epsilon(5e-4));
    double top = 0;
    for (const Vec3& corner : mesh.vertices) {
        top = std::max(top, corner.z);
    }
    CHECK(top == Approx(p.board.thickness).margin(1e-6));
}

TEST_CASE("Sections on the command line are the design's, or say what was expected",
          "[outside][neck]") {
    const test::Folder folder;
    const std::string file = (folder / "p.wren").string();
    const Project p = neckProject({{"neck.stations", "1 20.5 C, 12 22.5 C"}});
    saveProject(p, file);
    const double x = Fan(p.board).line(12).middle();
    const test::Ran r =
        test::wren("section " + file + " --part neck --at " + fmt::format("{:.6f}", x) + ",50");
    REQUIRE(r.code == 0);
    std::istringstream lines(r.out);
    std::string line;
    std::getline(lines, line);
    CHECK(line == "x_mm,y_mm,z_mm");
    double lowest = 0;
    int count = 0;
    while (std::getline(lines, line)) {
        double px = 0, py = 0, pz = 0;
        char comma = 0;
        std::istringstream(line) >> px >> comma >> py >> comma >> pz;
        ++count;
        if (std::abs(px - x) < 0.001) {
            lowest = std::min(lowest, pz);
        }
    }
    CHECK(count == 2 * 97);
    CHECK(-lowest + p.board.thickness == Approx(22.5).margin(0.002));
    CHECK(test::wren("section " + file + " --part neck --at 900").code == 1);
    CHECK(test::wren("section " + file + " --part body --at 9").err.find("body") !=
          std::string::npos);
    for (const char* format : {"dxf", "svg", "pdf"}) {
        const std::string out = (folder / (std::string("s.") + format)).string();
        CHECK(test::wren("export " + file + " --part neck --format " + format +
                         " --at 20,30in,100 -o " + out)
                  .code == 1); // 30 in is past its end
        CHECK(test::wren("export " + file + " --part neck --format " + format + " --at 20,100 -o " +
                         out)
                  .code == 0);
        CHECK(
            test::wren("export " + file + " --part neck --format " + format + " -o " + out).code ==
            0);
        CHECK(readFile(out).size() > 1000);
    }
}

TEST_CASE("The break angle over the nut by hand", "[outside][neck]") {
    // A string leaves the nut at board 6 + crown 1.1 + air 0.5 = 7.6 mm. Its post 100 mm behind
    // takes it 6 mm over a face dropped by 8 mm, at -2: 9.6 mm down over 100 mm is 5.48 degrees.
    Project p = neckProject({{"head.drop", "8"},
                             {"tuners.post_height", "6"},
                             {"board.thickness", "6"},
                             {"wire.crown_height", "1.1"},
                             {"tuners.post", "6"}});
    NeckDrawn n = *deriveDrawing(withKey(p, "tuners.places",
                                         "-100 -21, -66 -14, -90 -6, -114 0, -138 7, -162 13"))
                       .neck;
    const TunerPlace& bass = n.part.tuners().front();
    const double way = length(bass.winds - bass.nut);
    CHECK(bass.breakAngle == Approx(std::atan(9.6 / way) * 180 / std::numbers::pi).margin(1e-9));
    CHECK(way == Approx(100).margin(0.2));
    // A head tilted by 13 degrees takes the face down 100 tan 13 = 23.1 mm, less the nut's 5 mm.
    p = withKey(p, "head.kind", "tilted");
    n = *deriveDrawing(p).neck;
    const TunerPlace& t = n.part.tuners()[3];
    const double fall = (-5 - t.winds.x) * std::tan(13 * std::numbers::pi / 180);
    CHECK(t.breakAngle ==
          Approx(std::atan2(7.6 + fall - 6, length(t.winds - t.nut)) * 180 / std::numbers::pi));
}

TEST_CASE("A scarf joint by trigonometry", "[outside][neck]") {
    // A plank sawn through at 15 degrees, worked by hand with sin 15 = 0.258819 and tan 15 =
    // 0.267949: a head 14 mm thick comes out 14 / 0.258819 = 54.092 mm from its start; 20 mm of
    // plank give a ramp of 20 / 0.258819 = 77.274 mm that runs 20 / 0.267949 = 74.641 mm.
    const Project p = neckProject({{"head.kind", "tilted"},
                                   {"head.stock", "scarf"},
                                   {"head.angle", "15"},
                                   {"head.thickness", "14"},
                                   {"neck.heel_depth", "20"},
                                   {"neck_blank.thickness", "20"}});
    const Derived d = deriveDrawing(p);
    REQUIRE(d.neck);
    const NeckOutline& o = d.neck->part.outline();
    const std::optional<Scarf> s = d.job(Role::neck)->held.scarf;
    REQUIRE(s);
    CHECK(s->plank == Approx(20).margin(1e-6)); // the heel is the deepest
    CHECK(s->ramp == Approx(77.274).margin(0.001));
    CHECK(s->run == Approx(74.641).margin(0.001));
    CHECK(s->atFace - o.headStart() == Approx(54.092).margin(0.001));
    CHECK(s->atFace - s->atBack == Approx(74.641).margin(0.001));
    // The ramp is a straight line through both places, and the head's face lies 14 mm over it.
    const double x = o.headStart() - 50;
    const double onRamp = -(s->atFace - x) * std::tan(s->angle);
    CHECK((d.neck->part.face(x) - onRamp) * std::cos(s->angle) == Approx(14).margin(1e-9));
    // Said as the two cuts, with the mark from the heel's end.
    const auto cuts = std::find_if(d.findings.begin(), d.findings.end(),
                                   [](const Finding& f) { return f.code == "scarf-cuts"; });
    REQUIRE(cuts != d.findings.end());
    CHECK(cuts->message.find(fmt::format("{:.1f} mm from the heel's end", s->neckPiece)) !=
          std::string::npos);
    CHECK(s->neckPiece == Approx(o.end() + 30 - s->atFace));
    CHECK_FALSE(deriveDrawing(withKey(p, "head.stock", "thick")).job(Role::neck)->held.scarf);
}

TEST_CASE("A neck of the trade's usual figures is cut from the usual blank", "[outside][neck]") {
    // Common practice, no source: a blank of 25.4 mm, a 6.35 mm slot for a two-way rod, 420 to 460
    // mm long and 9 to 10 deep, 3 mm of wood under it; 20 to 21 mm thick at fret 1 and 22 to 23 at
    // fret 12 with the board; four pilots of 3.2 mm in a heel 56 by 76 mm.
    const Project p = neckProject({{"neck.stations", "1 20.5 C, 12 22.5 C"},
                                   {"rod.width", "6.35"},
                                   {"rod.depth", "9.5"},
                                   {"rod.length", "430"},
                                   {"neck.heel_length", "76"},
                                   {"neck.bolts", "4"},
                                   {"neck.bolt_pilot", "3.2"},
                                   {"neck_blank.thickness", "25.4"}});
    const Derived d = derive(p);
    REQUIRE(d.neck);
    CHECK(d.neck->part.deepest() < 25.4);
    for (const WoodUnder& w : d.neck->woodUnder) {
        CHECK(w.wood > 3);
    }
    REQUIRE(d.job(Role::neck)->proof);
    CHECK(d.job(Role::neck)->proof->passed());
    const auto across = d.neck->part.outline().across(d.neck->part.outline().heelStart() + 38);
    CHECK(across[1] - across[0] == Approx(56).margin(3));
    // Sections from a real neck are taken every 5 mm near its ends (common practice, no source):
    // between two so taken the back bends no more than a straight-edge would hide.
    const NeckBack& back = d.neck->part.back();
    for (double x = back.headTo(); x < back.heelFrom() - 5; x += 5) {
        const double between = back.slice(x + 2.5).spine();
        CHECK(between ==
              Approx((back.slice(x).spine() + back.slice(x + 5).spine()) / 2).margin(0.01));
    }
}

TEST_CASE("A scarfed blank holds the wood of its two pieces, and no more",
          "[outside][neck][scarf]") {
    // Seen from the side: a plank of 20 mm from the heel's end to where its underside meets the
    // ramp, and a head's piece 14 mm thick that hangs at 15 degrees; they share the ramp. Plane
    // trigonometry: the plank's side is a rectangle and the triangle over the ramp, the piece's a
    // parallelogram whose level cut through it is 14 / sin 15 long.
    const Project p = neckProject({{"head.kind", "tilted"},
                                   {"head.stock", "scarf"},
                                   {"head.angle", "15"},
                                   {"head.thickness", "14"},
                                   {"head.transition_from", "10"},
                                   {"neck.heel_depth", "20"},
                                   {"neck_blank.thickness", "20"}});
    const Derived d = deriveDrawing(p);
    REQUIRE(d.neck);
    const Held& setups = d.job(Role::neck)->held;
    const Scarf s = *d.job(Role::neck)->held.scarf;
    REQUIRE(s.plank == Approx(20).margin(1e-6));
    const double headStart = d.neck->part.outline().headStart();
    const double low = setups.face.fromInstrument.toInstrument({0, 0, 0}).x;
    const double high = low + setups.blank.length;
    const double t = std::tan(15 * std::numbers::pi / 180);
    // The plank: down to the ramp from where the joint meets the face, whole beyond.
    const double plank = (high - s.atFace) * 20 + 20 * 20 / t / 2;
    // The piece: between the face's line and the ramp's, upright height 14 / cos 15, from the
    // blank's end to the head's start, and the triangle under the glue plane up to the joint.
    const double upright = 14 / std::cos(15 * std::numbers::pi / 180);
    const double piece = (headStart - low) * upright + upright * (s.atFace - headStart) / 2;
    const auto& scarfed = setups.face.scarfed;
    REQUIRE(scarfed);
    double area = 0; // strips of a hundredth of a millimetre
    double block = 0;
    for (double x = low + 0.005; x < high; x += 0.01) {
        const WoodSpan wood = setups.face.woodAt(x);
        area += (wood.over - wood.under) * 0.01;
        if (scarfed->block > 0 && x > scarfed->blockFrom && x < scarfed->atBack) {
            block += std::max(0.0, scarfed->block - (s.atFace - x) * t) * 0.01;
        }
    }
    CHECK(area - block == Approx(plank + piece).epsilon(1e-5));
    // The proof's stock begins as that piece: nothing run, its volume is the area times the width.
    const std::array<std::vector<RunProgram>, 2> nothing;
    const Stock stock = stockAt(neckSides(d.neck->part, setups, nothing), 0, {}, 0.5);
    CHECK(stock.volume() == Approx(area * setups.blank.width).epsilon(2e-3));
    CHECK(stock.volume() < 0.6 * setups.blank.length * setups.blank.width * setups.blank.thickness);
}
