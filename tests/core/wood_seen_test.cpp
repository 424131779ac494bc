// What is seen in a blank: seams, knots and nails kept clear of edges and walls, and photographs
// placed by two known points.
#include "body_support.h"

#include "hold/wood_seen.h"
#include "job/judge_wood.h"
#include "job/store.h"

#include <complex>
#include <random>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Findings seen(const char* part, WoodMarkKind kind, Vec2 from, Vec2 to, double width = 0,
              Project p = loadProject(plainFile)) {
    p.woodMarks = {{part, kind, from, to, width, {}}};
    return judgeWoodMarks(deriveDrawing(p));
}

/// A place of the board, in its blank.
Vec2 inBlank(const Derived& d, Vec2 board) {
    return d.lies(Role::board)->fromInstrument.toSetup({board.x, board.y, 0}).xy();
}

} // namespace

TEST_CASE("A photograph is turned and sized by two places of it", "[wood-seen]") {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> share(0, 100), mm(-200, 700);
    for (int n = 0; n < 300; ++n) {
        WoodPhoto photo;
        photo.aOn = {share(random), share(random)};
        photo.bOn = {share(random), share(random)};
        photo.a = {mm(random), mm(random)};
        photo.b = {mm(random), mm(random)};
        if (!PhotoPlace::holds(photo)) {
            continue;
        }
        const double wide = 3000, high = 2000;
        const PhotoPlace place(photo, wide, high);
        // The same with complex numbers, the picture's rows counted upward.
        using C = std::complex<double>;
        const auto on = [&](Vec2 s) { return C(s.x / 100 * wide, -s.y / 100 * high); };
        const C a(photo.a.x, photo.a.y), b(photo.b.x, photo.b.y);
        const C turn = (b - a) / (on(photo.bOn) - on(photo.aOn));
        for (int k = 0; k < 4; ++k) {
            const Vec2 pixel{share(random) * 30, share(random) * 20};
            const C there = a + turn * (C(pixel.x, -pixel.y) - on(photo.aOn));
            const Vec2 mine = place.onBlank(pixel);
            CHECK(mine.x == Approx(there.real()).margin(1e-6));
            CHECK(mine.y == Approx(there.imag()).margin(1e-6));
        }
    }
    WoodPhoto point;
    point.b = point.a;
    CHECK_FALSE(PhotoPlace::holds(point));
}

TEST_CASE("A knot is kept from edges, a seam from running along one", "[wood-seen]") {
    const Derived d = deriveDrawing(loadProject(plainFile));
    const double end = d.board->xHigh();
    const Fretboard& b = d.project.board;
    const double edge = b.nutSpread / 2 + b.overhangTreble; // at the nut
    using K = WoodMarkKind;
    const auto at = [&](double x, double y) { return inBlank(d, {x, y}); };
    const Findings knot = seen("fretboard", K::knot, at(5, edge), at(5, edge), 8);
    REQUIRE(knot.size() == 1);
    CHECK(knot[0].weight == Weight::caution);
    CHECK(knot[0].code == "wood-mark");
    CHECK_THAT(knot[0].message, Contains("knot 1") && Contains("edge") && Contains("3 mm"));
    CHECK(seen("fretboard", K::knot, at(200, 0), at(200, 0), 8).empty()); // well inside
    // As near as is told: its rim, not its middle.
    CHECK(seen("fretboard", K::knot, at(0.5 + 5, 0), at(0.5 + 5, 0), 1).empty() !=
          seen("fretboard", K::knot, at(0.5 + 3, 0), at(0.5 + 3, 0), 6).empty());
    // Across the board from edge to edge a seam is no trouble, along its edge it is.
    CHECK(seen("fretboard", K::seam, at(150, -60), at(150, 60)).empty());
    CHECK(seen("fretboard", K::seam, at(0, 0), at(end, 0)).empty());
    CHECK(seen("fretboard", K::seam, at(0, 0), at(end, 0), 190).empty()); // a line has no width
    CHECK(seen("fretboard", K::seam, at(0, edge), at(end / 2, edge + 2)).size() == 1);
    const Findings nail = seen("fretboard", K::nail, at(100, 3), at(100, 3), 1.5);
    REQUIRE(nail.size() == 1);
    CHECK_THAT(nail[0].message, Contains("iron"));
    CHECK(seen("fretboard", K::nail, at(-40, 0), at(-40, 0), 1.5).empty()); // in the waste
    const Findings none = seen("body lid", K::knot, {1, 1}, {1, 1}, 3);
    REQUIRE(none.size() == 1);
    CHECK(none[0].weight == Weight::note);
    CHECK(none[0].code == "wood-seen-for-nothing");
}

TEST_CASE("A knot in a pocket's wall is named with the pocket", "[wood-seen]") {
    Project p = bodyWith();
    const Derived d = drawnBody(p);
    const PartJob& body = *d.job(Role::body);
    const Vec2 wall = pocketNamed(*body.panel, "neck pocket").borders.front().front().from;
    const Vec2 at = body.held.face.fromInstrument.toSetup({wall.x, wall.y, 0}).xy();
    const Findings f = seen("body", WoodMarkKind::knot, at, at, 4, p);
    REQUIRE_FALSE(f.empty());
    CHECK_THAT(f.back().message, Contains("wall of the neck pocket"));
}

TEST_CASE("What is seen in the wood changes no program, and is kept with the design",
          "[wood-seen]") {
    Project p = loadProject(plainFile);
    const std::string before = designHash(p);
    WoodPhoto photo;
    photo.file = "maple 4.png";
    photo.mirrored = true;
    p.woodPhotos = {photo};
    p.woodMarks = {{"fretboard", WoodMarkKind::nail, {10, 20}, {11, 20}, 1.5, {}}};
    CHECK(designHash(p) == before);
    const Folder folder;
    const std::string file = (folder / "p.wren").string();
    saveProject(p, file);
    const Project again = loadProject(file);
    CHECK(again.woodPhotos == p.woodPhotos);
    CHECK(again.woodMarks == p.woodMarks);
}
