#include "body_support.h"
#include "exchange/body_drawing.h"
#include "exchange/drawing_in.h"
#include "exchange/dxf.h"
#include "exchange/svg.h"
#include "exchange/template_pdf.h"
#include "job/import_outline.h"

#include <chrono>
#include <cstdlib>
#include <map>
#include <numbers>
#include <random>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;

namespace {

std::string
svg(const std::string& inside,
    const std::string& head = "width=\"100mm\" height=\"80mm\" viewBox=\"0 0 100 80\"") {
    return "<svg xmlns=\"http://www.w3.org/2000/svg\" " + head + ">" + inside + "</svg>";
}

Traced traced(const std::string& inside) {
    return trace(readSvg(svg(inside), "t.svg"), {});
}

/// A DXF of entities alone, in millimetres.
std::string dxf(const std::string& entities, int units = 4) {
    return "0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n" + std::to_string(units) +
           "\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + entities + "0\nENDSEC\n0\nEOF\n";
}

std::string dxfLine(double x1, double y1, double x2, double y2, const std::string& layer = "a") {
    return fmt::format("0\nLINE\n8\n{}\n10\n{}\n20\n{}\n11\n{}\n21\n{}\n", layer, x1, y1, x2, y2);
}

/// Every point of the one lies on the other.
void sameCurve(const Contour& a, const Contour& b, double within) {
    for (const Contour* c : {&a, &b}) {
        const Contour& other = c == &a ? b : a;
        for (const ContourPiece& p : *c) {
            for (double s : {0.0, 0.3, 0.6}) {
                CHECK(distanceTo(other, p.at(p.length() * s)) < within);
            }
        }
    }
    CHECK(areaOf(a) == Approx(areaOf(b)).epsilon(1e-4));
}

} // namespace

TEST_CASE("Shapes of an SVG come in as what they are, Y upward, in millimetres", "[import]") {
    const Traced circle = traced("<circle cx=\"30\" cy=\"20\" r=\"12\"/>");
    REQUIRE(circle.shapes.size() == 1);
    CHECK(circle.shapes[0].closed);
    CHECK(areaOf(circle.shapes[0].contour) == Approx(std::numbers::pi * 144));
    CHECK(circle.shapes[0].contour[0].centre.y == Approx(-20));

    const Traced rect = traced("<rect x=\"5\" y=\"5\" width=\"60\" height=\"30\" rx=\"8\"/>");
    CHECK(areaOf(rect.shapes[0].contour) == Approx(1800 - (4 - std::numbers::pi) * 64));

    const Traced path =
        traced("<path d=\"M10 10 h40 v20 a10 10 0 0 1 -10 10 L10,40z m60 0 l5 5 5-5z\"/>");
    REQUIRE(path.shapes.size() == 2);
    CHECK(areaOf(path.shapes[0].contour) == Approx(40 * 30 - (4 - std::numbers::pi) * 25));
    CHECK(areaOf(path.shapes[1].contour) == Approx(25));
}

TEST_CASE("Transforms, groups, units and colours of an SVG count", "[import]") {
    const DrawingRead d = readSvg(
        svg("<g id=\"body\" transform=\"translate(10 5) rotate(90)\"><rect width=\"20\" "
            "height=\"10\"/></g><path style=\"stroke:#ff0000;fill:none\" d=\"M0 0L9 0L9 9Z\"/>"
            "<text x=\"1\">words</text><image/><text>more</text>",
            "width=\"4in\" viewBox=\"0 0 200 100\""),
        "t.svg");
    CHECK(d.layers() == std::vector<std::string>{"body", "#ff0000"});
    REQUIRE(d.unit);
    CHECK(*d.unit == Approx(4 * 25.4 / 200));
    CHECK(d.skipped == std::vector<std::string>{"1 image", "2 texts"});
    Tracing only;
    only.layer = "body";
    const Traced t = trace(d, only);
    REQUIRE(t.shapes.size() == 1);
    CHECK(areaOf(t.shapes[0].contour) == Approx(200 * *d.unit * *d.unit));
    // No width: no unit, unless one is given.
    const DrawingRead bare = readSvg(svg("<circle r=\"5\"/>", "viewBox=\"0 0 9 9\""), "bare.svg");
    CHECK_THROWS_WITH(trace(bare, {}), Catch::Contains("does not say its unit"));
    Tracing inches;
    inches.unit = 25.4;
    CHECK(areaOf(trace(bare, inches).shapes[0].contour) ==
          Approx(std::numbers::pi * 25 * 25.4 * 25.4));
}

TEST_CASE("A Bezier circle comes in as arcs within the tolerance", "[import]") {
    const double k = 0.5522847498 * 20;
    const std::string d = fmt::format(
        "M60 40C60 {0} {1} 60 40 60 {2} 60 20 {0} 20 40 20 {3} {2} 20 40 20 {1} 20 60 {3} 60 40Z",
        40 + k, 40 + k, 40 - k, 40 - k);
    const Traced t = traced("<path d=\"" + d + "\"/>");
    REQUIRE(t.shapes.size() == 1);
    CHECK(t.deviation < 0.05);
    CHECK(t.shapes[0].contour.size() <= 4);
    CHECK(areaOf(t.shapes[0].contour) == Approx(std::numbers::pi * 400).epsilon(1e-3));
}

TEST_CASE("Loose lines are joined, doubles dropped, a gap too wide is left open", "[import]") {
    const std::string square = dxfLine(0, 0, 40, 0) + dxfLine(40.05, 0, 40, 30) +
                               dxfLine(0, 30, 40, 30) + dxfLine(0, 0, 0, 30) +
                               dxfLine(40, 30, 0, 30);
    const Traced t = trace(readDxf(dxf(square), "t.dxf"), {});
    REQUIRE(t.shapes.size() == 1);
    CHECK(t.shapes[0].closed);
    CHECK(t.doubled == 1);
    CHECK(t.joined >= 1);
    CHECK(areaOf(t.shapes[0].contour) == Approx(1200).margin(2));
    const std::string open = dxfLine(0, 0, 40, 0) + dxfLine(40, 0, 40, 30) + dxfLine(40, 30, 1, 1);
    CHECK_FALSE(trace(readDxf(dxf(open), "t.dxf"), {}).shapes[0].closed);
}

TEST_CASE("DXF entities: circles, arcs, bulged polylines, splines, units", "[import]") {
    const std::string circle = "0\nCIRCLE\n8\nholes\n10\n5\n20\n6\n40\n2\n";
    const Traced c = trace(readDxf(dxf(circle, 1), "t.dxf"), {}); // inches
    CHECK(areaOf(c.shapes[0].contour) == Approx(std::numbers::pi * 4 * 25.4 * 25.4));
    const std::string slot =
        "0\nLWPOLYLINE\n8\na\n90\n4\n70\n1\n10\n0\n20\n0\n10\n30\n20\n0\n42\n1\n"
        "10\n30\n20\n10\n10\n0\n20\n10\n42\n1\n";
    const Traced s = trace(readDxf(dxf(slot), "t.dxf"), {});
    REQUIRE(s.shapes.size() == 1);
    CHECK(areaOf(s.shapes[0].contour) == Approx(300 + std::numbers::pi * 25));
    const DrawingRead words =
        readDxf(dxf("0\nTEXT\n8\na\n10\n0\n20\n0\n40\n2\n1\nhello\n" + circle), "t.dxf");
    CHECK(words.skipped == std::vector<std::string>{"1 text"});
    CHECK_THROWS_WITH(trace(readDxf(dxf(circle, 0), "t.dxf"), {}), Catch::Contains("its unit"));
    Tracing wrong;
    wrong.layer = "body";
    CHECK_THROWS_WITH(trace(readDxf(dxf(circle), "t.dxf"), wrong),
                      Catch::Contains("its layers are: holes"));
}

TEST_CASE("Drawings that cannot be read say where", "[import]") {
    CHECK_THROWS_WITH(readDxf("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n", "cut.dxf"),
                      Catch::Contains("cut off"));
    CHECK_THROWS_WITH(readDxf(dxf("0\nLINE\n8\na\n10\nabc\n20\n0\n"), "n.dxf"),
                      Catch::Contains("n.dxf, line 20: \"abc\" is not a number"));
    CHECK_THROWS_WITH(readDxf("hello\nworld\n", "h.dxf"), Catch::Contains("line 1"));
    CHECK_THROWS_WITH(readSvg("<svg><path d=\"M0 0\"", "b.svg"), Catch::Contains("well-formed"));
    CHECK_THROWS_WITH(readSvg("<html/>", "b.svg"), Catch::Contains("holds no svg element"));
    CHECK_THROWS_WITH(readSvg(svg("<path d=\"M0 0 L q\"/>"), "b.svg"),
                      Catch::Contains("where a number was expected"));
    CHECK_THROWS_WITH(readSvg(svg("<path transform=\"turn(3)\" d=\"M0 0\"/>"), "b.svg"),
                      Catch::Contains("not a transform"));
    CHECK_THROWS_WITH(readPdf("not a pdf", "b.pdf"), Catch::Contains("b.pdf"));
    CHECK_THROWS_WITH(readDrawing("/nowhere/x.dwf"), Catch::Contains("x.dwf"));
}

namespace {

/// One of the three ways a body's drawing is written, for spoiling.
struct Spoiled {
    std::string name;
    std::string text;
    DrawingRead read() const {
        return name == "dxf"   ? readDxf(text, "f.dxf")
               : name == "svg" ? readSvg(text, "f.svg")
                               : readPdf(text, "f.pdf");
    }
};

/// Cut off, letters changed, a stretch doubled or taken out.
void spoil(std::string& text, std::mt19937& random) {
    const auto place = [&] { return text.empty() ? 0 : random() % text.size(); };
    const std::size_t from = place();
    switch (random() % 4) {
    case 0:
        text.resize(from);
        return;
    case 1:
        text.erase(from, random() % 60);
        break;
    case 2:
        text.insert(place(), text.substr(from, random() % 60));
        break;
    default:
        break;
    }
    for (unsigned k = random() % 6; k > 0 && !text.empty(); --k) {
        text[place()] = static_cast<char>(random() % 3 == 0 ? random() % 256 : 32 + random() % 95);
    }
}

/// How long to go on, from WREN_FUZZ_SECONDS.
double fuzzSeconds() {
    const char* asked = std::getenv("WREN_FUZZ_SECONDS");
    return asked ? std::atof(asked) : 3;
}

} // namespace

TEST_CASE("Cut and garbled drawings are refused or read, never worse", "[import][fuzz]") {
    const Derived d = drawnBody(bodyWith());
    const Drawing drawing = bodyDrawing(d.body->part, "body");
    Pdf pdf("drawing");
    pdf.page(500, 400);
    pdf.contour(d.body->part.outline(), true, {{-250, 250}, 1}, Pen{0.2, {}, {0, 0, 0}});
    const std::vector<Spoiled> whole{
        {"dxf", toDxf(drawing)}, {"svg", toSvg(drawing)}, {"pdf", pdf.finish()}};
    for (const Spoiled& w : whole) {
        CHECK_FALSE(w.read().lines.empty());
    }
    std::mt19937 random(20261125);
    std::map<std::string, std::array<int, 2>> came; // refused, read
    const auto until =
        std::chrono::steady_clock::now() + std::chrono::duration<double>(fuzzSeconds());
    for (int round = 0; round < 60 || std::chrono::steady_clock::now() < until; ++round) {
        Spoiled one = whole[std::size_t(round) % whole.size()];
        spoil(one.text, random);
        try {
            const Traced t = trace(one.read(), {});
            for (const TracedShape& shape : t.shapes) { // whatever came in is a drawing
                for (const ContourPiece& p : shape.contour) {
                    REQUIRE(std::isfinite(p.from.x + p.from.y + p.to.x + p.to.y));
                }
            }
            ++came[one.name][1];
        } catch (const Error& e) {
            INFO(e.what());
            CHECK(std::string(e.what()).size() > 15); // a sentence
            ++came[one.name][0];
        }
    }
    for (const Spoiled& w : whole) {
        INFO(w.name);
        CHECK(came[w.name][0] > 0);
        CHECK(came[w.name][1] > 0);
    }
}

TEST_CASE("Written drawings of a body reload to the same curves", "[import]") {
    const Project p = bodyWith();
    const Derived d = drawnBody(p);
    const Drawing drawing = bodyDrawing(d.body->part, "body");
    Tracing outline;
    outline.layer = "outline";
    for (const bool asDxf : {true, false}) {
        INFO((asDxf ? "DXF" : "SVG"));
        const DrawingRead read =
            asDxf ? readDxf(toDxf(drawing), "b.dxf") : readSvg(toSvg(drawing), "b.svg");
        const OutlineImport in = importOutline(p, read, outline);
        CHECK(in.placed.find("own bridge line") != std::string::npos);
        const Derived again = drawnBody(in.project);
        sameCurve(again.body->part.outline(), d.body->part.outline(), 0.001);
    }
}

TEST_CASE("A printed template reloads within a hundredth", "[import][pdf]") {
    const Project p = bodyWith();
    const Derived d = drawnBody(p);
    Drawing outline;
    outline.title = "body";
    outline.lines.push_back({"outline", d.body->part.outline(), true});
    Pdf pdf("drawing");
    pdf.page(500, 400);
    pdf.contour(d.body->part.outline(), true, {{-250, 250}, 1}, Pen{0.2, {}, {0, 0, 0}});
    const DrawingRead read = readPdf(pdf.finish(), "t.pdf");
    REQUIRE_FALSE(read.layers().empty());
    CHECK(read.layers().front() == "#000000");
    const OutlineImport in = importOutline(p, read, {});
    CHECK(in.deviation <= 0.05);
    CHECK(areaOf(in.outline) == Approx(areaOf(d.body->part.outline())).epsilon(2e-4));
}

TEST_CASE("A left-handed body is drawn as it is and kept as a right-handed one", "[import]") {
    const Project left = bodyWith({{"board.hand", "left"}});
    const Derived d = drawnBody(left);
    const Drawing drawing = bodyDrawing(d.body->part, "body");
    Tracing outline;
    outline.layer = "outline";
    const OutlineImport in = importOutline(left, readDxf(toDxf(drawing), "b.dxf"), outline);
    sameCurve(drawnBody(in.project).body->part.outline(), d.body->part.outline(), 0.001);
}

TEST_CASE("An outline that crosses itself is refused with its place in the drawing", "[import]") {
    const Project p = bodyWith();
    CHECK_THROWS_WITH(
        importOutline(p, readSvg(svg("<path d=\"M0 0L50 50L50 0L0 50Z\"/>"), "x.svg"), {}),
        Catch::Contains("crosses itself at 25.00, -25.00"));
    CHECK_THROWS_WITH(importOutline(p, readSvg(svg("<path d=\"M0 0L50 50\"/>"), "x.svg"), {}),
                      Catch::Contains("holds no closed outline"));
}

TEST_CASE("Two known points give a drawing its unit", "[import]") {
    // A body drawn at an unknown size: 37 units between two marks that are really 210 mm apart.
    const Contour shape = shapeOutline(Body::bodyShape("tarn"));
    constexpr double scale = 37.0 / 210;
    std::string d;
    for (Vec2 p : pointsOf(shape, 0.02)) {
        d += fmt::format("{}{:.6f} {:.6f}", d.empty() ? "M" : "L", (p.x + 300) * scale,
                         (200 - p.y) * scale);
    }
    const DrawingRead drawing =
        readSvg(svg("<path d=\"" + d + "Z\"/>", "viewBox=\"0 0 80 70\""), "scan.svg");
    Tracing tracing;
    tracing.unit = unitBetween({3, 3}, {40, 3}, 210);
    const OutlineImport in = importOutline(bodyWith(), drawing, tracing);
    CHECK(areaOf(in.outline) == Approx(areaOf(shape)).epsilon(1e-3));
    CHECK_THROWS_AS(unitBetween({3, 3}, {3, 3}, 210), Error);
    CHECK_THROWS_AS(unitBetween({0, 0}, {1e-6, 0}, 210), Error);
    CHECK_THROWS_AS(unitBetween({0, 0}, {1, 0}, 0), Error);
}

TEST_CASE("An outline whose pieces lie on several layers is joined when none closes alone",
          "[import]") {
    const std::string box = dxfLine(0, -100, 300, -100, "low") +
                            dxfLine(300, -100, 300, 100, "end") +
                            dxfLine(300, 100, 0, 100, "high") + dxfLine(0, 100, 0, -100, "root");
    const OutlineImport in = importOutline(bodyWith(), readDxf(dxf(box), "t.dxf"), {});
    CHECK(areaOf(in.outline) == Approx(60000));
    // A layer with a closed one of its own is not mixed up with another's ends.
    const std::string both = box + "0\nCIRCLE\n8\nround\n10\n150\n20\n0\n40\n90\n";
    const OutlineImport alone = importOutline(bodyWith(), readDxf(dxf(both), "t.dxf"), {});
    CHECK(areaOf(alone.outline) == Approx(std::numbers::pi * 8100).epsilon(1e-6));
}

TEST_CASE("A drawn headstock becomes nodes that follow it within the tolerance", "[import]") {
    // Lines, arcs and corners; the nut's end at the right, 43 mm wide.
    const Contour head = shapeOutline(shapeNodes("0 -21.5 c, -14 -21.5 s, -52 -38 s, -120 -34 s, "
                                                 "-168 -20 r8, -176 26 r12, -110 30 s, -40 33 "
                                                 "s, -14 21.5 s, 0 21.5 c"));
    std::string d;
    for (Vec2 p : pointsOf(head, 0.01)) {
        d += fmt::format("{}{:.4f} {:.4f}", d.empty() ? "M" : "L", p.x + 200, 90 - p.y);
    }
    const std::string file =
        svg("<path d=\"" + d + "Z\"/>", "width=\"220mm\" viewBox=\"0 0 220 160\"");
    for (const char* hand : {"right", "left"}) {
        INFO(hand);
        const Project before = withKey(neckWith(), "board.hand", hand);
        const OutlineImport in =
            importOutline(before, readSvg(file, "head.svg"), {}, OutlineFor::headstock);
        CHECK(in.deviation < 0.1);
        CHECK(in.project.body.nodes == before.body.nodes);
        const Derived drawn = deriveDrawing(in.project);
        REQUIRE(drawn.neck);
        // The neck's own outline lies on the drawing's, mirrored for a left-handed neck: a drawing
        // shows a head as it is.
        const double margin = 40; // from there on the neck's edge leads into it
        int looked = 0;
        for (Vec2 p : drawn.neck->part.outline().points()) {
            if (p.x < -margin) {
                CHECK(distanceTo(head, p) < 0.12);
                ++looked;
            }
        }
        CHECK(looked > 50);
    }
    CHECK_THROWS_AS(importOutline(neckWith(), readSvg(svg("<circle r=\"5\"/>"), "dot.svg"), {},
                                  OutlineFor::headstock),
                    Error);
}

TEST_CASE("A smooth outline of short segments is rounded and cut as it was drawn",
          "[import][body]") {
    const auto [segments, thickness, corners] =
        GENERATE(std::tuple{300, "1 3/4 in", false}, std::tuple{260, "44.45", false},
                 std::tuple{24, "44.5", true});
    std::string entities;
    const auto at = [&, n = segments, sharp = corners](int i) {
        const double t = 2 * std::numbers::pi * i / n;
        const double r =
            sharp ? 165 + (i % 5 == 0 ? 12 : 0)
                  : 170 + 28 * std::cos(2 * t) + 14 * std::cos(3 * t + 0.5) - 22 * std::cos(4 * t);
        return Vec2{r * 1.25 * std::cos(t), r * 0.98 * std::sin(t)};
    };
    for (int i = 0; i < segments; ++i) {
        entities += dxfLine(at(i).x, at(i).y, at((i + 1) % segments).x, at((i + 1) % segments).y);
    }
    const Project plain = bodyWith({{"body.thickness", thickness},
                                    {"body.front_edge", "round"},
                                    {"body.back_edge", "round"},
                                    {"pickup2.kind", "none"},
                                    {"cavity.outline", ""},
                                    {"cavity.controls", ""}});
    Project p = importOutline(plain, readDxf(dxf(entities), "b.dxf"), {}).project;
    const Derived d = drawnBody(p);
    // Here nothing is tried in wood first, so a load is not what is asked.
    for (const ProofReport& side : provedPiece(d, Role::body).sides) {
        for (const Finding& f : side.findings) {
            CAPTURE(f.message);
            CHECK((f.weight != Weight::stop || f.code == "overload"));
        }
    }
}

TEST_CASE("Nodes of a refitted outline are written as they can be read", "[import]") {
    for (double bulge : {1.2e-6, -4.7e-7, 7.2e-5, 0.4, -1e-9}) {
        std::vector<ShapeNode> nodes = shapeNodes("0 -90 c, 80 0 c, 0 90 c, -80 0 c");
        nodes[1].bulge = bulge;
        const std::vector<ShapeNode> again = roundedNodes(nodes);
        CHECK(again[1].bulge.value_or(0) == Approx(bulge).margin(1e-7));
        CHECK(shapeOutline(again).size() == 4);
    }
}
