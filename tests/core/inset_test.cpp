#include "base/error.h"
#include "design/shape.h"
#include "geom/inset.h"
#include "geom/region.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace wren;
using Kind = ContourPiece::Kind;

namespace {

double areaOfAll(const std::vector<Contour>& rings) {
    double sum = 0;
    for (const Contour& r : rings) {
        sum += signedAreaOf(r);
    }
    return sum;
}

/// How far the points along the rings are from the distance they should keep.
double worstOff(const std::vector<Contour>& borders, const std::vector<Contour>& rings, double d) {
    double worst = 0;
    for (const Contour& ring : rings) {
        for (const ContourPiece& p : ring) {
            for (double s : {0.0, 0.3, 0.7}) {
                double nearest = 1e9;
                for (const Contour& b : borders) {
                    nearest = std::min(nearest, distanceTo(b, p.at(s * p.length())));
                }
                worst = std::max(worst, std::abs(nearest - d));
            }
        }
    }
    return worst;
}

Contour box(double x0, double y0, double x1, double y1) {
    return shapeOutline(boxShape({(x0 + x1) / 2, (y0 + y1) / 2}, x1 - x0, y1 - y0, 0));
}

/// A wavy closed curve of `n` lines.
Contour wavy(int n, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> phase(0, 6.28);
    const double p1 = phase(random), p2 = phase(random), p3 = phase(random);
    Contour out;
    const auto at = [&](int i) {
        const double a = 2 * std::numbers::pi * (i % n) / n;
        const double r =
            100 + 22 * std::sin(2 * a + p1) + 15 * std::sin(3 * a + p2) + 9 * std::sin(7 * a + p3);
        return Vec2{1.4 * r * std::cos(a), r * std::sin(a)};
    };
    for (int i = 0; i < n; ++i) {
        out.push_back({Kind::line, at(i), at(i + 1), {}});
    }
    return counterClockwise(out);
}

} // namespace

TEST_CASE("A box drawn in is a smaller box with sharp corners", "[inset]") {
    const std::vector<Contour> rings = inset({counterClockwise(box(0, 0, 40, 20))}, 3);
    REQUIRE(rings.size() == 1);
    CHECK(rings[0].size() == 4);
    CHECK(signedAreaOf(rings[0]) == Approx(34 * 14));
    CHECK(inset({counterClockwise(box(0, 0, 40, 20))}, 10.5).empty());
}

TEST_CASE("A box drawn outward keeps its corners at the distance, as arcs", "[inset]") {
    const Contour b = clockwise(box(0, 0, 40, 20));
    const std::vector<Contour> rings = inset({b}, 3);
    REQUIRE(rings.size() == 1);
    CHECK(std::count_if(rings[0].begin(), rings[0].end(),
                        [](const ContourPiece& p) { return p.isArc(); }) == 4);
    CHECK(signedAreaOf(rings[0]) == Approx(-(40 * 20 + 2 * 3 * (40 + 20) + std::numbers::pi * 9)));
    CHECK(worstOff({b}, rings, 3) < 1e-9);
}

TEST_CASE("A waist narrower than twice the distance falls into two rings", "[inset]") {
    const Contour dumbbell = counterClockwise(
        shapeOutline(shapeNodes("0 0 c, 40 0 c, 40 15 c, 60 15 c, 60 0 c, 100 0 c, 100 40 c, 60 40 "
                                "c, 60 25 c, 40 25 c, 40 40 c, 0 40 c")));
    CHECK(inset({dumbbell}, 4).size() == 1);
    CHECK(inset({dumbbell}, 6).size() == 2);
    // At the opening each ring bulges until it is 6 from both of its corners: 6 - sqrt(36 - t2)
    // integrated over 5 to either side.
    const double bulge = 2 * (30 - (2.5 * std::sqrt(11.0) + 18 * std::asin(5.0 / 6)));
    CHECK(areaOfAll(inset({dumbbell}, 6)) == Approx(2 * (28 * 28 + bulge)));
}

TEST_CASE("An island takes its room from the ring round it", "[inset]") {
    const Contour outer = counterClockwise(box(0, 0, 100, 60));
    const Contour island = clockwise(circleContour({50, 30}, 20));
    const std::vector<Contour> rings = inset({outer, island}, 5);
    REQUIRE(rings.size() == 2);
    CHECK(areaOfAll(rings) == Approx(90 * 50 - std::numbers::pi * 15 * 15));
    // Grown together they leave what lies on both sides of the island.
    const std::vector<Contour> apart = inset({outer, island}, 15.5);
    CHECK(apart.size() == 2);
    CHECK(worstOff({outer, island}, apart, 15.5) < 1e-5);
}

TEST_CASE("Smooth outlines come out as arcs and never nearer than asked", "[inset]") {
    const Contour smooth = counterClockwise(
        shapeOutline(shapeNodes("-120 0 s, -90 80 s, 0 55 s, 110 95 s, 150 0 s, 110 -95 s, 0 -60 "
                                "s, -90 -80 s")));
    std::vector<Contour> ring{smooth};
    double before = signedAreaOf(smooth);
    int rings = 0;
    while (!(ring = inset(ring, 2.4)).empty()) {
        ++rings;
        const double area = areaOfAll(ring);
        CHECK(area < before);
        before = area;
        const double d = 2.4 * rings;
        INFO("ring " << rings);
        CHECK(worstOff({smooth}, ring, d) < 1e-4);
        REQUIRE(rings < 60);
    }
    CHECK(rings > 20);
}

TEST_CASE("Rings of rough outlines agree with GEOS in area", "[inset]") {
    for (unsigned seed : {1U, 2U, 3U, 4U, 5U, 6U, 7U, 8U}) {
        const Contour c = wavy(400, seed);
        std::vector<Vec2> points = pointsOf(c, 0.001);
        const Region whole(points);
        for (double d : {0.7, 3.0, 11.0, 27.0, 45.0, 60.0}) {
            INFO("seed " << seed << ", distance " << d);
            const std::vector<Contour> rings = inset({c}, d);
            double around = 0;
            for (const Contour& r : rings) {
                around += lengthOf(r);
            }
            // GEOS walks its arcs' chords, which lie so far inside them.
            const double chords = around * d * (1 - std::cos(std::numbers::pi / 4 / 24));
            const double more = whole.grownBy(-d).area() - areaOfAll(rings);
            CHECK(more > -0.01);
            CHECK(more < chords + 0.01);
        }
    }
}

TEST_CASE("An outline that crosses itself is refused with the place", "[shape]") {
    CHECK_THROWS_WITH(shapeOutline(shapeNodes("0 0 c, 40 40 c, 40 0 c, 0 40 c")),
                      "The outline crosses itself at 20.00, 20.00.");
    CHECK_THROWS_AS(shapeNodes("0 0 c, 1 1 c"), Error);
    CHECK_THROWS_AS(shapeNodes("0 0 c, 0 0 c, 5 5 c"), Error);
    CHECK_THROWS_AS(shapeNodes("0 0 q, 0 9 c, 5 5 c"), Error);
    CHECK_THROWS_WITH(shapeOutline(shapeNodes("0 0 c, 20 0 c, 40 0 c")),
                      Catch::Contains("encloses nothing"));
    CHECK_THROWS_WITH(shapeOutline(shapeNodes("0 0 r30, 40 0 c, 40 20 c, 0 20 c")),
                      Catch::Contains("no room for a rounding of 30"));
}

TEST_CASE("Nodes and their outline agree", "[shape]") {
    const std::string text = "0 0 r5, 60 0 c b0.4142136, 80 20 c, 80 60 s, 20 70 s";
    const Contour outline = shapeOutline(shapeNodes(text));
    CHECK(signedAreaOf(outline) < 0); // clockwise
    // Given back as lines and arcs it is the same curve.
    const Contour again = shapeOutline(roundedNodes(nodesOf(outline)));
    CHECK(areaOf(again) == Approx(areaOf(outline)).epsilon(1e-6));
    for (const ContourPiece& p : again) {
        CHECK(distanceTo(outline, p.at(p.length() / 2)) < 2e-4);
    }
}

TEST_CASE("A half is mirrored about the centreline with its arcs", "[shape]") {
    const std::vector<ShapeNode> half =
        shapeNodes("0 0 c, 10 30 c b-0.5, 60 30 r6, 90 20 s, 100 0 s");
    const std::vector<ShapeNode> whole = mirroredShape(half);
    CHECK(whole.size() == 8);
    const Contour c = shapeOutline(whole);
    for (const ContourPiece& p : c) {
        const Vec2 q = p.at(p.length() * 0.4);
        CHECK(distanceTo(c, {q.x, -q.y}) < 1e-6);
    }
    CHECK_THROWS_AS(mirroredShape(shapeNodes("0 -5 c, 10 30 c, 60 30 c")), Error);
}

TEST_CASE("Rounded corners touch both sides", "[shape]") {
    const Contour c =
        counterClockwise(shapeOutline(shapeNodes("0 0 r8, 50 0 r8, 50 30 r8, 0 30 r8")));
    CHECK(areaOf(c) == Approx(1500 - (4 - std::numbers::pi) * 64));
    CHECK(tightestHollow(c) == Approx(8));
    CHECK(tightestHollow(counterClockwise(box(0, 0, 9, 9))) == 0);
    // A kink of 6 degrees: a bit of 3 mm radius leaves 0.004 mm in it, one of 7.3 mm a hundredth.
    const double turn = 6 * 3.14159265358979 / 180;
    const Vec2 far = Vec2{100 * std::cos(turn), 100 * std::sin(turn)};
    const Contour kinked{bulgedPiece({-100, 0}, {0, 0}, 0), bulgedPiece({0, 0}, far, 0),
                         bulgedPiece(far, {0, -100}, 0), bulgedPiece({0, -100}, {-100, 0}, 0)};
    CHECK(tightestHollow(kinked) == Approx(0.01 / (1 / std::cos(turn / 2) - 1)).epsilon(1e-6));
    CHECK(tightestHollow(kinked, 0) == 0);
    CHECK(std::isinf(tightestHollow(clockwise(box(0, 0, 9, 9)))));
}

TEST_CASE("A ring has no pieces so short that they run any way", "[inset]") {
    // Arcs of one tangent, as refitting makes them: their offsets meet within rounding.
    std::mt19937 random(7);
    std::uniform_real_distribution<double> wide(-0.3, 0.3);
    for (int round = 0; round < 20; ++round) {
        std::vector<ShapeNode> nodes;
        for (int i = 0; i < 14; ++i) {
            const double a = 2 * 3.14159265358979 * i / 14;
            const double r = 150 * (1 + wide(random) / 4);
            nodes.push_back({{r * std::cos(a), r * std::sin(a)}, true, 0, {}});
        }
        const Contour outline = counterClockwise(shapeOutline(nodes));
        for (double d : {0.0345, 0.155, 0.36, 1.0, 3.0}) {
            for (const Contour& ring : inset({outline}, d)) {
                for (std::size_t i = 0; i < ring.size(); ++i) {
                    CHECK(ring[i].length() > 1e-5);
                    CHECK(dot(ring[i].wayIn(), ring[(i + 1) % ring.size()].wayOut()) > 0);
                }
            }
        }
    }
}
