#include "base/error.h"
#include "design/body.h"
#include "geom/inset.h"
#include "geom/refit.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace wren;

namespace {

std::vector<Vec2> circlePoints(Vec2 centre, double r, int n, double from = 0,
                               double sweep = 2 * std::numbers::pi) {
    std::vector<Vec2> out;
    for (int i = 0; i < n; ++i) {
        const double a = from + sweep * i / n;
        out.push_back(centre + Vec2{std::cos(a), std::sin(a)} * r);
    }
    return out;
}

int arcsOf(const Contour& c) {
    return static_cast<int>(
        std::count_if(c.begin(), c.end(), [](const ContourPiece& p) { return p.isArc(); }));
}

} // namespace

TEST_CASE("A circle drawn as thirty short lines is a circle again", "[refit]") {
    for (int n : {16, 30, 100, 360}) {
        for (double r : {1.5, 10.0, 160.0}) {
            const Refitted f = refit(circlePoints({40, -7}, r, n), true, 0.05);
            INFO(n << " lines, radius " << r);
            REQUIRE(f.contour.size() == 2);
            for (const ContourPiece& p : f.contour) {
                REQUIRE(p.isArc());
                CHECK(p.radius() == Approx(r).margin(1e-9));
                CHECK(length(p.centre - Vec2{40, -7}) < 1e-9);
            }
            CHECK(areaOf(f.contour) == Approx(std::numbers::pi * r * r));
        }
    }
}

TEST_CASE("A circle whose points were rounded is still one, and says how far off it is",
          "[refit]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> off(-0.02, 0.02);
    std::vector<Vec2> points = circlePoints({0, 0}, 22, 40);
    for (Vec2& p : points) {
        p = p + Vec2{off(random), off(random)};
    }
    const Refitted f = refit(points, true, 0.05);
    REQUIRE(f.contour.size() == 2);
    CHECK(f.contour[0].radius() == Approx(22).margin(0.01));
    CHECK(f.deviation > 0.005);
    CHECK(f.deviation <= 0.05);
}

TEST_CASE("A polygon stays a polygon", "[refit]") {
    for (int n : {3, 4, 6, 12, 15}) {
        const Refitted f = refit(circlePoints({0, 0}, 30, n), true, 0.05);
        INFO(n << " corners");
        CHECK(f.contour.size() == static_cast<std::size_t>(n));
        CHECK(arcsOf(f.contour) == 0);
    }
}

TEST_CASE("A rounded box comes back as four lines and four arcs", "[refit]") {
    const Contour box = counterClockwise(shapeOutline(boxShape({0, 0}, 90, 50, 12)));
    std::vector<Vec2> points;
    for (const ContourPiece& p : box) {
        const int n = p.isArc() ? 9 : 1;
        for (int i = 0; i < n; ++i) {
            points.push_back(p.at(p.length() * i / n));
        }
    }
    const Refitted f = refit(points, true, 0.05);
    CHECK(f.contour.size() == 8);
    CHECK(arcsOf(f.contour) == 4);
    for (const ContourPiece& p : f.contour) {
        if (p.isArc()) {
            CHECK(p.radius() == Approx(12).margin(1e-6));
        }
    }
    CHECK(areaOf(f.contour) == Approx(areaOf(box)).epsilon(1e-9));
}

TEST_CASE("A smooth outline becomes few arcs of one tangent within the tolerance", "[refit]") {
    const Contour drawn = counterClockwise(shapeOutline(Body::bodyShape("scree")));
    const std::vector<Vec2> points = pointsOf(drawn, 0.002);
    for (double tolerance : {0.02, 0.05, 0.2}) {
        const Refitted f = refit(points, true, tolerance);
        INFO(points.size() << " points, tolerance " << tolerance);
        CHECK(f.deviation <= tolerance);
        CHECK(f.contour.size() < points.size() / 6);
        CHECK_FALSE(selfCrossing(f.contour));
        CHECK(std::abs(areaOf(f.contour) - areaOf(drawn)) < tolerance * lengthOf(drawn));
        for (const ContourPiece& p : f.contour) { // nor does it wander between the points
            CHECK(distanceTo(drawn, p.at(p.length() * 0.37)) < 2 * tolerance);
        }
    }
}

TEST_CASE("Open strings keep their ends", "[refit]") {
    const std::vector<Vec2> arc = circlePoints({0, 0}, 50, 20, 0.3, 1.2);
    const Refitted f = refit(arc, false, 0.05);
    REQUIRE(f.contour.size() == 1);
    CHECK(f.contour[0].isArc());
    CHECK(f.contour[0].from == arc.front());
    CHECK(f.contour[0].to == arc.back());
    const Refitted line = refit({{0, 0}, {1, 1}, {5, 5}, {9, 9}}, false, 0.05);
    CHECK(line.contour.size() == 1);
}

TEST_CASE("A smooth outline drawn as short segments comes back smooth all round", "[refit]") {
    const int segments = GENERATE(120, 200, 260, 277, 300, 400);
    std::vector<Vec2> points;
    for (int i = 0; i < segments; ++i) {
        const double t = 2 * 3.14159265358979 * i / segments;
        const double r =
            170 + 28 * std::cos(2 * t) + 14 * std::cos(3 * t + 0.5) - 22 * std::cos(4 * t);
        // As drawings have them: to a ten-thousandth.
        points.push_back({std::round(1e4 * r * 1.25 * std::cos(t)) / 1e4,
                          std::round(1e4 * r * 0.98 * std::sin(t)) / 1e4});
    }
    const Refitted r = refit(points, true, 0.05);
    CHECK(r.deviation <= 0.0501);
    CHECK(r.contour.size() < std::size_t(segments) * 3 / 4);
    for (std::size_t i = 0; i < r.contour.size(); ++i) {
        const Vec2 in = r.contour[i].wayIn();
        const Vec2 out = r.contour[(i + 1) % r.contour.size()].wayOut();
        CAPTURE(i, r.contour[i].to.x, r.contour[i].to.y);
        CHECK(std::abs(cross(in, out)) < 0.0011); // the sine of a sixteenth of a degree
    }
}
