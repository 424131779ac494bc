#include "neck_support.h"

#include "design/neck_trace.h"

#include <numbers>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

const char* const uneven = "mine: -21 0, -20 5, -16 9.5, -8 12.6, 0 13.5, 8 12.9, 16 9.4, 19.5 5, "
                           "21 0";

Project tracedNeck(const char* hand = "right") {
    return neckWith({{"board.hand", hand},
                     {"neck.traces", uneven},
                     {"neck.shoulder", "3"},
                     {"neck.stations", "1 20.5 @mine, 7 21 C, 12 22.5 @mine"}});
}

} // namespace

TEST_CASE("Traced sections are read as typed, or refused with the point", "[neck][trace]") {
    const std::vector<NeckTrace> t =
        neckTraces(std::string(uneven) + "; b-2: -4 0, -2 3, 0 4, 2 3, "
                                         "4 0");
    REQUIRE(t.size() == 2);
    CHECK(t[0].name == "mine");
    CHECK(t[0].points.size() == 9);
    CHECK(t[0].points[3].at == Vec2{-8, 12.6});
    CHECK(neckTraces("").empty());
    const auto refused = [](const char* text) {
        try {
            neckTraces(text);
        } catch (const Error& e) {
            return std::string(e.what());
        }
        return std::string("taken");
    };
    CHECK_THAT(refused("a: -4 0, 0 4, 4 0"), Contains("has 3 points; at least 5"));
    CHECK_THAT(refused("a: -4 0, -2 3, 1 4, 0 3, 4 0"),
               Contains("turns back at its point 4 (0 3) and would cross itself"));
    CHECK_THAT(refused("a: -4 0, -2 3, 0 4, 2 3, 4 1.5"), Contains("1.50 mm apart in height"));
    CHECK_THAT(refused("a: -4 0, -2 -3, 0 4, 2 3, 4 0"), Contains("Point 2 of section a (-2 -3)"));
    CHECK_THAT(refused("a: -4 0, -2 x, 0 4, 2 3, 4 0"), Contains("x"));
    CHECK_THAT(refused("a: -4 0, -2 3 1, 0 4, 2 3, 4 0"), Contains("is not a point of section a"));
    CHECK_THAT(refused("-4 0, -2 3, 0 4, 2 3, 4 0"), Contains("a name, a colon and points"));
    CHECK_THAT(refused("a b: -4 0, -2 3, 0 4, 2 3, 4 0"), Contains("cannot name a section"));
    CHECK_THAT(refused("a: -4 0, -2 3, 0 4, 2 3, 4 0; a: -4 0, -2 3, 0 4, 2 3, 4 0"),
               Contains("Two sections are called a"));
    const Derived missing =
        deriveDrawing(withKey(neckWith(), "neck.stations", "1 20.5 @gone, 12 22 C"));
    CHECK_FALSE(missing.neck);
    REQUIRE_FALSE(missing.findings.empty());
    CHECK_THAT(missing.findings.front().message, Contains("\"gone\""));
}

TEST_CASE("A station goes through the traced points, at its own width and depth", "[neck][trace]") {
    for (const char* hand : {"right", "left"}) {
        const Project p = tracedNeck(hand);
        const HeldNeck n = drawnNeck(p);
        const NeckTrace trace = p.neck.traces.front();
        const double bass = std::string(hand) == "right" ? -1 : 1;
        for (std::size_t station : {0U, 2U}) {
            const NeckBack::Slice s = n.part.back().slice(n.part.back().stationX(station));
            const double deep = s.spine();
            CHECK(deep == Approx((station == 0 ? 20.5 : 22.5) - p.board.thickness).margin(0.02));
            for (const auto& [q, unknown] : trace.points) {
                // The trace is 42 mm wide and 13.5 deep at its spine; its edge is the shoulder's.
                const double y = s.centre() - bass * q.x / 21 * s.halfWidth();
                const double wanted = 3 + (deep - 3) * q.y / 13.5;
                CHECK(s.depth(y) == Approx(wanted).margin(0.02));
            }
        }
        // Half way to a plain station it is half way to that station's shape.
        const double x = (n.part.back().stationX(0) + n.part.back().stationX(1)) / 2;
        const NeckBack::Slice s = n.part.back().slice(x);
        const double u = 16.0 / 21;
        const double half = (9.4 / 13.5 + std::sqrt(1 - u * u)) / 2;
        CHECK((s.depth(s.centre() - bass * u * s.halfWidth()) - 3) / (s.spine() - 3) ==
              Approx(half).margin(0.01));
    }
}

TEST_CASE("A traced back has no kink either", "[neck][trace]") {
    const HeldNeck n = drawnNeck(tracedNeck());
    const NeckBack& back = n.part.back();
    for (double x : {30.0, back.stationX(1), 150.0, back.stationX(2), 320.0}) {
        const NeckBack::Slice s = back.slice(x);
        for (double a : {-1.3, -0.7, 0.0, 0.6, 1.2}) {
            const NeckBack::Slice::Touch t = s.touch(a);
            const double h = 1e-4;
            const Vec3 along = back.slice(x + h).touch(a).point - back.slice(x - h).touch(a).point;
            const Vec3 across = s.touch(a + h).point - s.touch(a - h).point;
            CHECK(std::abs(dot(t.normal, along)) / length(along) < 1e-5);
            CHECK(std::abs(dot(t.normal, across)) / length(across) < 1e-5);
        }
    }
}

TEST_CASE("A picture gives a section true to size, however it lies", "[neck][trace]") {
    // Half an ellipse 42 by 14 mm at 8 pixels to the millimetre, tilted by 7 degrees.
    const double tilt = 7 * std::numbers::pi / 180;
    for (const bool upsideDown : {false, true}) {
        for (const bool bassRight : {false, true}) {
            std::vector<Vec2> laid;
            for (double a : {-90.0, -70.0, -40.0, 0.0, 30.0, 60.0, 90.0}) {
                const double r = a * std::numbers::pi / 180;
                const Vec2 mm{21 * std::sin(r), (upsideDown ? -14 : 14) * std::cos(r)};
                laid.push_back(Vec2{900, 500} +
                               Vec2{std::cos(tilt) * mm.x - std::sin(tilt) * mm.y,
                                    std::sin(tilt) * mm.x + std::cos(tilt) * mm.y} *
                                   8);
            }
            std::swap(laid[1], laid[4]); // the order they were clicked in does not matter
            const TracePlace place(laid, 1.0 / 8, bassRight);
            const std::vector<TracePoint> points = place.points();
            REQUIRE(points.size() == 7);
            CHECK(points.front().at.x == Approx(-21).margin(0.01));
            CHECK(points.back().at.x == Approx(21).margin(0.01));
            for (const auto& [p, unknown] : points) {
                CHECK(std::hypot(p.x / 21, p.y / 14) == Approx(1).margin(0.002));
                CHECK(length(place.toSection(place.toPicture(p)) - p) < 1e-9);
            }
            CHECK(points[3].at.x == Approx(0).margin(0.01));
            CHECK(
                points[4].at.x ==
                Approx(21 * std::sin((bassRight ? 40 : 30) * std::numbers::pi / 180)).margin(0.01));
            // The curve through them is that ellipse, nearly.
            for (Vec2 p : traceCurve({"e", points}, 40)) {
                CHECK(std::hypot(p.x / 21, p.y / 14) == Approx(1).margin(0.01));
            }
        }
    }
}
