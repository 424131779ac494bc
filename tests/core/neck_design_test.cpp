#include "neck_support.h"

#include "geom/region.h"
#include "geom/spline.h"
#include "job/cures.h"

#include <numbers>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

TEST_CASE("A natural spline passes its points and runs on straight", "[neck][geometry]") {
    const NaturalSpline s({0, 1, 3, 6}, {0, 2, -1, 4});
    CHECK(s.at(0) == Approx(0).margin(1e-12));
    CHECK(s.at(1) == Approx(2));
    CHECK(s.at(3) == Approx(-1));
    CHECK(s.at(6) == Approx(4));
    CHECK(s.at(8) == Approx(4 + 2 * s.slopeAt(6)));
    CHECK(s.at(-2) == Approx(-2 * s.slopeAt(0)));
    for (double x : {1.0, 3.0, 6.0}) { // no kink and no jump of curvature at the points
        const double h = 1e-4;
        const double before = (s.at(x) - 2 * s.at(x - h) + s.at(x - 2 * h)) / (h * h);
        const double after = (s.at(x + 2 * h) - 2 * s.at(x + h) + s.at(x)) / (h * h);
        CHECK(before == Approx(after).margin(2e-2));
    }
    CHECK(NaturalSpline({2, 4}, {1, 5}).at(3) == Approx(3));
    CHECK(NaturalSpline({2}, {7}).at(30) == 7);
}

TEST_CASE("Contours with hollows keep their distance all round", "[neck][geometry]") {
    using Kind = ContourPiece::Kind;
    // A square with a bite: clockwise, one hollow arc of radius 5.
    const Contour bitten{{Kind::line, {0, 0}, {0, 20}, {}},
                         {Kind::line, {0, 20}, {5, 20}, {}},
                         {Kind::arcCounter, {5, 20}, {15, 20}, {10, 20}},
                         {Kind::line, {15, 20}, {20, 20}, {}},
                         {Kind::line, {20, 20}, {20, 0}, {}},
                         {Kind::line, {20, 0}, {0, 0}, {}}};
    CHECK(areaOf(bitten) == Approx(400 - std::numbers::pi * 12.5));
    CHECK(distanceTo(bitten, {10, 18}) == Approx(3));
    CHECK(distanceTo(bitten, {10, 30}) == Approx(std::hypot(5, 10)));
    const Contour around = offsetAround(bitten, 2);
    for (const ContourPiece& p : around) {
        for (double t : {0.1, 0.5, 0.9}) {
            CHECK(distanceTo(bitten, p.at(t * p.length())) == Approx(2).margin(1e-9));
        }
    }
    CHECK_THROWS_WITH(offsetAround(bitten, 5.5), Contains("5.00 mm radius"));
    // Mirrored it is clockwise still, and as large.
    const Contour back = mirroredInY(bitten);
    CHECK(areaOf(back) == Approx(areaOf(bitten)));
    CHECK(distanceTo(back, {10, -18}) == Approx(3));
    CHECK(inside(pointsOf(back, 0.01), {2, -10}));
    CHECK_FALSE(inside(pointsOf(back, 0.01), {10, -19}));
}

TEST_CASE("Thin regions are not lost when they shrink", "[neck][geometry]") {
    // A long trapezoid of eight points, wide enough at one end only.
    const Region r(Ring{{239.9097, 50.7489},
                        {239.9097, 47.3223},
                        {264.4624, 46.9521},
                        {555.8164, 42.5587},
                        {555.7143, 43.6146},
                        {555.7097, 54.3138},
                        {555.8018, 55.5296}});
    const Region less = r.grownBy(-2.7);
    REQUIRE_FALSE(less.empty());
    CHECK(less.area() > 600);
    CHECK(less.grownBy(2.6).area() < r.area());
    CHECK((r - less).area() == Approx(r.area() - less.area()));
    CHECK((r & less).area() == Approx(less.area()));
    CHECK((r + less).area() == Approx(r.area()));
    CHECK(r.covers({300, 49}, {500, 49}));
    CHECK_FALSE(r.covers({300, 49}, {500, 70}));
}

TEST_CASE("Stations are read as a maker writes them, or refused with the reason", "[neck]") {
    const auto s = neckStations("1 20.5 C, 7 13/16 in soft-V/D, 12 22.5 0.25");
    REQUIRE(s.size() == 3);
    CHECK(s[1].thickness == Approx(13 * 25.4 / 16));
    CHECK(s[1].bass.v == 0.5);
    CHECK(s[1].treble.u == 0.5);
    CHECK(s[2].bass.u == 0.25);
    CHECK(shapeMix(shapeWord(s[1].treble)) == s[1].treble);
    CHECK_THROWS_WITH(neckStations("1 20 C"), Contains("at least two stations"));
    CHECK_THROWS_WITH(neckStations("7 20 C, 3 21 C"), Contains("in order from the nut"));
    CHECK_THROWS_WITH(neckStations("1 20 C, 12 22 X"), Contains("\"X\" is not a shape"));
    CHECK_THROWS_WITH(neckStations("1 2 C, 12 22 C"), Contains("5 to 60 mm"));
    CHECK_THROWS_WITH(neckStations("1, 12 22 C"), Contains("not a station"));
    CHECK_THROWS_WITH(pinFretPair("3"), Contains("two frets"));
    CHECK(pinFretPair("19 2") == std::array<std::optional<int>, 2>{2, 19});
}

TEST_CASE("Sections keep the entered widths and thicknesses", "[neck]") {
    for (const char* shape : {"C", "D", "V", "U", "soft-V", "soft-V/D"}) {
        const std::string stations = std::string("1 20.5 ") + shape + ", 12 22.5 " + shape;
        const HeldNeck n = drawnNeck(
            neckWith({{"neck.stations", stations.c_str()}, {"head.transition_from", "12"}}));
        const Fan fan(n.part.board());
        for (const auto& [fret, thickness] : {std::pair{1, 20.5}, std::pair{12, 22.5}}) {
            const double x = fan.line(fret).middle();
            const std::vector<Vec2> section = n.part.section(x);
            const double lowest =
                std::min_element(section.begin(), section.end(), [](Vec2 a, Vec2 b) {
                    return a.y < b.y;
                })->y;
            CHECK(-lowest + n.part.board().thickness == Approx(thickness).margin(0.02));
            const double width = std::abs(fan.edgeAt(1, x) - fan.edgeAt(-1, x));
            CHECK(section.back().x - section.front().x == Approx(width).margin(0.02));
        }
    }
}

TEST_CASE("The shapes stand in order of fullness", "[neck]") {
    double before = 0;
    for (const char* shape : {"V", "soft-V", "C", "D", "U"}) {
        const std::string stations = std::string("1 21 ") + shape + ", 12 21 " + shape;
        const double area =
            drawnNeck(neckWith({{"neck.stations", stations.c_str()}})).part.sectionArea(300);
        CHECK(area > before);
        before = area;
    }
    // A C is half an ellipse on its shoulder: pi/4 of its box.
    const HeldNeck c = drawnNeck(neckWith({{"rod.from", "none"}}));
    const NeckBack::Slice s = c.part.back().slice(200);
    const double e = c.part.design().shoulder;
    CHECK(c.part.sectionArea(200) ==
          Approx(2 * s.halfWidth() * (e + (s.spine() - e) * std::numbers::pi / 4)).epsilon(1e-6));
}

TEST_CASE("A shape is found from one place its section goes through", "[neck]") {
    for (double shape : {-1.0, -0.6, -0.25, 0.0, 0.35, 0.8, 1.0}) {
        const HeldNeck n = drawnNeck(neckWith(
            {{"neck.stations", ("1 20.5 " + std::to_string(shape) + ", 12 22.5 C").c_str()}}));
        const NeckBack::Slice s = n.part.back().slice(n.part.back().stationX(0));
        const double e = n.part.design().shoulder;
        for (double u : {0.4, 0.7, 0.9}) {
            const double p = (s.depth(s.centre() + u * s.halfWidth()) - e) / (s.spine() - e);
            CHECK(shapeThrough(u, p, n.part.design().crest) == Approx(shape).margin(1e-6));
        }
    }
    CHECK(shapeThrough(0.7, 2, 0.12) == 1); // nothing is fuller than a U
    CHECK(shapeThrough(0.7, 0, 0.12) == -1);
}

TEST_CASE("The back has no kink: normals and slopes agree with differences", "[neck]") {
    const HeldNeck n = drawnNeck(neckWith({{"neck.stations", "1 20 soft-V/C, 7 21 C, 12 23 D"},
                                           {"head.volute", "2"},
                                           {"head.transition", "60"}}));
    const NeckBack& back = n.part.back();
    const double h = 1e-4;
    for (double x : {-25.0, -10.0, 0.0, 10.0, 60.0, 200.0, 320.0, 345.0, 360.0}) {
        const NeckBack::Slice s = back.slice(x);
        for (double u : {-0.8, -0.3, 0.0, 0.5, 0.9}) {
            const double y = s.centre() + u * s.halfWidth();
            const Vec2 g = s.gradient(y);
            CHECK(g.x ==
                  Approx((back.depth(x + h, y) - back.depth(x - h, y)) / (2 * h)).margin(2e-4));
            CHECK(g.y == Approx((s.depth(y + h) - s.depth(y - h)) / (2 * h)).margin(2e-4));
            const NeckBack::Slice::Touch t = s.touch(std::asin(u));
            CHECK(t.point.z == Approx(-s.depth(y)).margin(1e-9));
            CHECK(length(t.normal) == Approx(1));
            CHECK(t.normal.z < 0);
        }
    }
    // Curvature along the spine runs on without a jump.
    for (double x = back.headFrom() - 5; x < back.heelTo() + 5; x += 1) {
        CHECK(std::abs(back.curvatureAlong(0, x + 1) - back.curvatureAlong(0, x)) < 0.02);
    }
}

TEST_CASE("A transition does not disturb the shaft", "[neck]") {
    const HeldNeck a = drawnNeck(neckWith());
    const HeldNeck b = drawnNeck(neckWith({{"neck.heel_transition", "80"},
                                           {"head.transition", "70"},
                                           {"head.transition_from", "30"},
                                           {"neck.heel_depth", "20"}}));
    for (double x = 31; x < b.part.back().heelFrom(); x += 10) {
        for (double y : {-15.0, 0.0, 12.0}) {
            CHECK(a.part.back().depth(x, y) == b.part.back().depth(x, y));
        }
    }
}

TEST_CASE("A left-handed neck is the right-handed one mirrored", "[neck]") {
    const HeldNeck r = drawnNeck(neckWith({{"neck.stations", "1 20.5 V/U, 12 22.5 C/D"}}));
    const NeckDrawn l =
        drawnNeck(neckWith({{"neck.stations", "1 20.5 V/U, 12 22.5 C/D"}, {"board.hand", "left"}}));
    CHECK(l.part.volume() == Approx(r.part.volume()));
    for (double x : {-120.0, -40.0, 5.0, 100.0, 350.0}) {
        const auto a = r.part.outline().across(x);
        const auto b = l.part.outline().across(x);
        CHECK(b[0] == Approx(-a[1]).margin(2e-3));
        CHECK(b[1] == Approx(-a[0]).margin(2e-3));
        CHECK(l.part.back().depth(x, -8) == Approx(r.part.back().depth(x, 8)));
    }
    for (std::size_t i = 0; i < r.part.tuners().size(); ++i) {
        CHECK(l.part.tuners()[i].post.y == Approx(-r.part.tuners()[i].post.y));
    }
}

TEST_CASE("Wood under the rod is the shortest way from its corners to the back", "[neck]") {
    const HeldNeck n = drawnNeck(neckWith({{"neck.stations", "1 20.5 C, 12 22.5 C"}}));
    for (const WoodUnder& w : n.woodUnder) {
        if (w.x < 40 || w.x > 300) {
            continue;
        }
        // Against a plain search over the section; the shaft hardly rises along it.
        double least = 1e9;
        const NeckBack::Slice s = n.part.back().slice(w.x);
        for (double y = -s.halfWidth(); y < s.halfWidth(); y += 0.01) {
            for (double corner : {-6.35 / 2, 6.35 / 2}) {
                least = std::min(least, std::hypot(y - corner, s.depth(y) - 9.5));
            }
        }
        CHECK(w.wood == Approx(least).margin(0.01));
    }
    const Findings thin = deriveDrawing(neckWith({{"rod.depth", "11.8"}})).findings;
    REQUIRE(findingOf(thin, "rod-wood"));
    CHECK(findingOf(thin, "rod-wood")->weight == Weight::caution);
    CHECK(
        findingOf(deriveDrawing(neckWith({{"rod.depth", "13.5"}})).findings, "rod-wood")->weight ==
        Weight::stop);
    const auto through =
        findingOf(deriveDrawing(neckWith({{"rod.depth", "16"}})).findings, "rod-breaks-through");
    REQUIRE(through);
    CHECK(through->value < 0);
}

TEST_CASE("A station beyond the last fret is brought back or taken out", "[neck][cures]") {
    const auto waysFor = [](const Project& p) {
        const Derived d = deriveDrawing(p);
        const std::optional<Finding> f = findingOf(d.findings, "station-past-frets");
        REQUIRE(f);
        return curesFor(d, *f);
    };
    // One of two is brought back: a neck keeps two.
    const Project two = neckWith({{"neck.stations", "1 20 C, 30 22 C"}});
    const std::vector<Cure> back = waysFor(two);
    REQUIRE(back.size() == 1);
    const Project moved = cured(two, back[0]);
    CHECK(moved.neck.stations[1].fret == two.board.frets);
    CHECK(moved.neck.stations[1].thickness == 22);
    CHECK(deriveDrawing(moved).neck);
    // One of three, where another stands at the last fret already, is taken out.
    const Project three = neckWith({{"neck.stations", "1 20 C, 22 22 C, 30 23 C"}});
    const std::vector<Cure> out = waysFor(three);
    REQUIRE(out.size() == 1);
    CHECK(cured(three, out[0]).neck.stations.size() == 2);
    CHECK(deriveDrawing(cured(three, out[0])).neck);
}

TEST_CASE("What cannot be made is said in a sentence, the rest still derives", "[neck]") {
    const auto codes = [](std::initializer_list<std::pair<const char*, const char*>> changes) {
        std::string all;
        for (const Finding& f : deriveDrawing(neckWith(changes)).findings) {
            all += f.code + " ";
        }
        return all;
    };
    CHECK_THAT(codes({{"head.drop", "10"}, {"head.curve", "8"}}), Contains("drop-over-curve"));
    CHECK_THAT(codes({{"neck.stations", "1 9 C, 12 22 C"}}), Contains("station-too-thin"));
    CHECK_THAT(codes({{"neck.stations", "1 20 C, 30 22 C"}}), Contains("station-past-frets"));
    CHECK_THAT(codes({{"neck_blank.width", "60"}}), Contains("blank-too-small"));
    CHECK_THAT(codes({{"neck_blank.thickness", "19"}}), Contains("blank-too-small"));
    CHECK_THAT(codes({{"neck_blank.length", "650"}}), Contains("no-room-for-pins"));
    CHECK_THAT(codes({{"neck.heel_transition", "150"},
                      {"head.transition_from", "120"},
                      {"neck.heel_length", "200"}}),
               Contains("transitions-meet"));
    CHECK_THAT(codes({{"tuners.pitch", "18"}}), Contains("tuners-collide"));
    CHECK_THAT(codes({{"tuners.places", "-42 -40, -66 -14, -90 -6, -114 0, -138 7, -162 13"}}),
               Contains("tuner-at-edge"));
    CHECK_THAT(codes({{"neck.bolt_long", "90"}}), Contains("bolts-outside-heel"));
    CHECK_THAT(codes({{"neck.bolt_depth", "20"}}), Contains("bolts-through"));
    CHECK_THAT(codes({{"neck.stations", "1 20 C, 5 24 C, 9 20 C, 12 23 C"}}), Contains("lump"));
    const Derived d = deriveDrawing(neckWith({{"head.drop", "10"}, {"head.curve", "8"}}));
    CHECK_FALSE(d.neck);
    CHECK(d.lies(Role::board)); // the board is not held up by it
    CHECK_THROWS_WITH(neckWith({{"head.nodes", "-20 -27 s, 5 0 s, -20 27 s"}}),
                      Contains("does not lie behind the nut"));
    CHECK_THROWS_WITH(neckWith({{"head.nodes", "-20 -27 q, -40 0 s, -20 27 s"}}),
                      Contains("not a node"));
    CHECK_THROWS_WITH(neckWith({{"tuners.places", "-20"}}), Contains("not a post"));
}

TEST_CASE("A board alone has no neck", "[neck]") {
    const Derived d = derive(plainWith());
    CHECK_FALSE(d.neck);
    CHECK(d.wanted() == std::vector<PartId>{Role::board});
}
