// Drawings, and meshes made to follow a surface.

#include "exchange/board_drawing.h"
#include "exchange/stl.h"
#include "exchange/svg.h"
#include "exchange/template_pdf.h"
#include "geom/mesh_refine.h"

#include "support.h"

#include <algorithm>
#include <map>

using namespace wren;

namespace {

using Kind = ContourPiece::Kind;

DrawnLine circle(Vec2 centre, double radius) {
    const Vec2 a{centre.x - radius, centre.y};
    const Vec2 b{centre.x + radius, centre.y};
    return {"c", {{Kind::arcClockwise, a, b, centre}, {Kind::arcClockwise, b, a, centre}}, true};
}

DrawnLine rectangle(Vec2 low, Vec2 high) {
    const Vec2 a{low.x, high.y};
    const Vec2 b{high.x, low.y};
    return {"r",
            {{Kind::line, low, a, {}},
             {Kind::line, a, high, {}},
             {Kind::line, high, b, {}},
             {Kind::line, b, low, {}}},
            true};
}

} // namespace

TEST_CASE("A drawing's box holds its arcs' furthest points", "[drawing]") {
    Drawing d;
    d.lines.push_back(circle({10, 5}, 4));
    const auto [low, high] = d.box();
    CHECK(low == Vec2{6, 1});
    CHECK(high == Vec2{14, 9});
    WholeCircle whole;
    REQUIRE(isWholeCircle(d.lines[0], whole));
    CHECK(whole.radius == 4);
    d.lines.push_back(rectangle({0, 0}, {1, 2}));
    CHECK_FALSE(isWholeCircle(d.lines[1], whole));
    CHECK(d.layers() == std::vector<std::string>{"c", "r"});
    CHECK(Drawing{}.box()[1] == Vec2{});
}

TEST_CASE("A quarter arc's box ends where the arc does", "[drawing]") {
    Drawing d;
    d.lines.push_back({"a", {{ContourPiece::Kind::arcClockwise, {0, 10}, {10, 0}, {0, 0}}}, false});
    CHECK(d.box()[0] == Vec2{0, 0});
    CHECK(d.box()[1] == Vec2{10, 10});
}

TEST_CASE("An SVG holds whatever a name may hold", "[drawing]") {
    Drawing d;
    d.title = "Ash & \"Elm\" <5>";
    d.line("a", {0, 0}, {1, 1});
    const std::string svg = toSvg(d);
    CHECK(svg.find("<title>Ash &amp; &quot;Elm&quot; &lt;5&gt;</title>") != std::string::npos);
    CHECK(svg.find("M0,0 L1,-1") != std::string::npos);
}

TEST_CASE("Tiles cover the drawing, with the overlap between them", "[drawing][paper]") {
    Drawing d;
    for (const auto& [w, h] :
         {std::pair{460.0, 60.0}, {900.0, 60.0}, {50.0, 50.0}, {700.0, 500.0}}) {
        d.lines.clear();
        d.lines.push_back(rectangle({-7, -3}, {w - 7, h - 3}));
        for (const std::string& name : paperNames()) {
            INFO(w << " x " << h << " on " << name);
            const Tiling t = tile(d, paperNamed(name));
            const double wide = t.columns * (t.frameWidth() - t.overlap) + t.overlap;
            const double high = t.rows * (t.frameHeight() - t.overlap) + t.overlap;
            CHECK(wide >= w);
            CHECK(high >= h);
            // A point in the overlap lies on both neighbours, so many millimetres apart.
            const Vec2 a = t.placeOn(0, 0).at({100, 10});
            const Vec2 b = t.placeOn(1, 0).at({100, 10});
            CHECK(a.x - b.x == Approx(t.frameWidth() - t.overlap));
            CHECK(a.y == b.y);
        }
    }
}

TEST_CASE("The board's drawing says which is which by layer", "[drawing]") {
    const BoardPart part(
        test::plainWith(
            {{"markers.frets", "5"}, {"markers.side_frets", "5 12"}, {"board.hand", "left"}})
            .board);
    const Drawing d = boardDrawing(part, "x");
    const auto count = [&](const char* layer) {
        return std::count_if(d.lines.begin(), d.lines.end(),
                             [&](const DrawnLine& l) { return l.layer == layer; });
    };
    CHECK(count("outline") == 1);
    CHECK(count("slots") == 22);
    CHECK(count("nut") == 1);
    CHECK(count("strings") == 6);
    CHECK(count("markers") == 1);
    CHECK(count("side-dots") == 3); // two at the octave
    for (const DrawnLine& l : d.lines) {
        if (l.layer == "side-dots") {
            CHECK(l.pieces[0].from.y > 20); // the bass edge of a left-handed board is at +Y
        }
    }
}

TEST_CASE("Refining makes a coarse closed mesh follow its surface and stay closed", "[drawing]") {
    // A box whose lid is to become an arch.
    const auto arch = [](double, double y) { return 6 - y * y / 100; };
    Mesh box;
    for (double z : {0.0, 1.0}) {
        for (const auto& [x, y] :
             {std::pair{0.0, -10.0}, {40.0, -10.0}, {40.0, 10.0}, {0.0, 10.0}}) {
            box.vertices.push_back({x, y, z > 0 ? arch(x, y) : 0});
        }
    }
    box.triangles = {{0, 2, 1}, {0, 3, 2}, {4, 5, 6}, {4, 6, 7}, {0, 1, 5}, {0, 5, 4},
                     {1, 2, 6}, {1, 6, 5}, {2, 3, 7}, {2, 7, 6}, {3, 0, 4}, {3, 4, 7}};
    CHECK(volumeOf(box) == Approx(40 * 20 * 5.0));
    const PlanFace lid{arch, [](double, double) { return 1.0; }};
    std::vector<int> numbers(box.triangles.size(), 0);
    numbers[2] = numbers[3] = 1;
    refineOnto(
        box, numbers, [&](int n) { return n == 1 ? &lid : nullptr; }, 0.002);
    // Between the arch itself and its chords.
    const double exact = 40 * (20 * 6.0 - 2 * 1000 / 300.0);
    CHECK(volumeOf(box) <= exact + 1e-9);
    CHECK(volumeOf(box) >= exact - 40 * 20 * 0.002);
    std::map<std::pair<int, int>, int> walked;
    for (const auto& t : box.triangles) {
        for (std::size_t i = 0; i < 3; ++i) {
            ++walked[{t[i], t[(i + 1) % 3]}];
        }
    }
    for (const auto& [edge, times] : walked) {
        CHECK(times == 1);
        CHECK(walked.count({edge.second, edge.first}) == 1);
    }
}
