// Laps round a contour over tabs of different heights.

#include "cut/contour_pass.h"
#include "cut/neck_outline_cut.h"

#include "neck_support.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// A square of 100 mm, clockwise from its lower left corner.
Contour square() {
    using Kind = ContourPiece::Kind;
    return {{Kind::line, {0, 0}, {0, 100}, {}},
            {Kind::line, {0, 100}, {100, 100}, {}},
            {Kind::line, {100, 100}, {100, 0}, {}},
            {Kind::line, {100, 0}, {0, 0}, {}}};
}

/// The tip's height where the last lap passes a place `s` along the square.
double heightAt(const Path& path, Vec2 place) {
    double z = 1e9;
    for (const Move& m : path) {
        const Vec2 way = m.to.xy() - m.from.xy();
        const double l = length(way);
        if (!m.cuts() || l < 1e-9) {
            continue;
        }
        const double t = dot(place - m.from.xy(), way) / (l * l);
        if (t >= 0 && t <= 1 && length(m.from.xy() + way * t - place) < 1e-6) {
            z = m.from.z + (m.to.z - m.from.z) * t; // the last one that passes
        }
    }
    return z;
}

} // namespace

TEST_CASE("Each tab lifts the laps to its own height, at 45 degrees", "[contourPass]") {
    const ContourPass contourPass(square(), {{40, 60, -2}, {140, 160, 3}, {340, 360, -9}});
    CHECK(contourPass.whole() == Approx(400));
    CHECK(contourPass.overTabs(50, -8) == Approx(-2));
    CHECK(contourPass.overTabs(36, -8) == Approx(-6)); // 4 mm before it, 4 mm lower
    CHECK(contourPass.overTabs(30, -8) == Approx(-8));
    CHECK(contourPass.overTabs(150, -8) == Approx(3));
    CHECK(contourPass.overTabs(350, -8) == Approx(-8)); // lower than the pass
    const ContourPasses job{contourPass, std::nullopt, 0, -8, 10, 2, 40};
    const Path path = contourPath(job, Feeds{1000, 12000, 300, 2.0, ""});
    CHECK(heightAt(path, {0, 50}) == Approx(-2));
    CHECK(heightAt(path, {0, 36}) == Approx(-6));
    CHECK(heightAt(path, {50, 100}) == Approx(3));
    CHECK(heightAt(path, {50, 0}) == Approx(-8));
    // No pass bites deeper than the one before by more than a pass.
    double deepest = 0;
    for (const Move& m : path) {
        if (m.cuts()) {
            CHECK(m.to.z >= deepest - 2.0 - 1e-9);
            deepest = std::min(deepest, m.to.z);
        }
    }
}

TEST_CASE("A tab over the contour's own start counts on both its sides", "[contourPass]") {
    const ContourPass contourPass(square(), {{-10, 10, -1}});
    CHECK(contourPass.overTabs(5, -6) == Approx(-1));
    CHECK(contourPass.overTabs(395, -6) == Approx(-1));
    CHECK(contourPass.overTabs(387, -6) == Approx(-4));
    CHECK(contourPass.overTabs(13, -6) == Approx(-4));
}

TEST_CASE("What a bit must do for the outline, alone or shared", "[neck][parting]") {
    const Project p = neckWith();
    const HeldNeck n = drawnNeck(p);
    const OutlineReach whole = outlineReach(n.part, *n.held.back, p.neckCut, false);
    const OutlineReach shared = outlineReach(n.part, *n.held.back, p.neckCut, true);
    CHECK(whole.deep == Approx(n.held.blank.thickness + p.neckCut.through));
    CHECK(whole.deep - shared.deep == Approx(p.neckCut.through + p.neck.shoulder - partingOverlap));
    CHECK(whole.wall - shared.wall == Approx(p.neckCut.through + p.neck.shoulder - partingOverlap));
    Bit bit;
    bit.kind = BitKind::flat;
    bit.fluteLength = whole.wall;
    bit.reach = whole.deep + 1;
    CHECK(cutsOutline(bit, whole).can);
    bit.fluteLength -= 0.1;
    CHECK_THAT(cutsOutline(bit, whole).why, Contains("shorter than the wall it cuts"));
    CHECK(cutsOutline(bit, shared).can);
    bit.reach = shared.deep;
    CHECK_THAT(cutsOutline(bit, shared).why, Contains("out of the collet"));
    bit.kind = BitKind::ball;
    CHECK_FALSE(cutsOutline(bit, shared).can);
    // A bit set by hand decides alone whether the outline is shared.
    NeckCut own = p.neckCut;
    Drawer drawer{bit, bit};
    drawer[0].name = "long";
    drawer[0].kind = drawer[1].kind = BitKind::flat;
    drawer[0].fluteLength = whole.wall;
    drawer[0].reach = drawer[1].reach = whole.deep + 1;
    drawer[1].name = "short";
    drawer[1].fluteLength = shared.wall;
    CHECK_FALSE(outlineIsShared(n.part, *n.held.back, own, drawer));
    own.outline.bit = "short";
    CHECK(outlineIsShared(n.part, *n.held.back, own, drawer));
}
