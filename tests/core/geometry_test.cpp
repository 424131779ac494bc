#include "cut/move.h"
#include "geom/contour.h"
#include "geom/frames.h"

#include "support.h"

#include <numbers>
#include <random>

using namespace wren;

namespace {

void checkSame(Vec3 a, Vec3 b) {
    CHECK(a.x == Approx(b.x).margin(1e-12));
    CHECK(a.y == Approx(b.y).margin(1e-12));
    CHECK(a.z == Approx(b.z).margin(1e-12));
}

double determinant(const std::array<double, 16>& m) {
    return m[0] * (m[5] * m[10] - m[6] * m[9]) - m[1] * (m[4] * m[10] - m[6] * m[8]) +
           m[2] * (m[4] * m[9] - m[5] * m[8]);
}

} // namespace

TEST_CASE("Face up, the instrument is only shifted", "[frames]") {
    const auto t = SetupFromInstrument::faceUp({20, 37.5, 0});
    checkSame(t.toSetup({100, -10, 6}), {120, 27.5, 6});
    checkSame(t.toInstrument({120, 27.5, 6}), {100, -10, 6});
}

TEST_CASE("Both ways of turning over put the face down and keep the axes right-handed",
          "[frames]") {
    const Vec3 origin{20, 37.5, 38};
    const auto x = SetupFromInstrument::turnedAboutX(origin);
    const auto y = SetupFromInstrument::turnedAboutY(origin);
    checkSame(x.toSetup({100, -10, 6}), {120, 47.5, 32}); // side for side: bass comes to the back
    checkSame(y.toSetup({100, -10, 6}), {-80, 27.5, 32}); // end for end: the bridge goes left
    for (const auto& t : {SetupFromInstrument::faceUp(origin), x, y}) {
        CHECK(determinant(t.matrix()) == Approx(1));
        for (Vec3 p : {Vec3{0, 0, 0}, Vec3{12.5, -3, 4}, Vec3{-150, 22, -19}}) {
            checkSame(t.toInstrument(t.toSetup(p)), p);
        }
    }
}

TEST_CASE("The matrix says the same as the functions", "[frames]") {
    const auto t = SetupFromInstrument::turnedAboutX({7, 8, 9});
    const auto m = t.matrix();
    const Vec3 p{1, 2, 3};
    checkSame(t.toSetup(p), {m[0] * p.x + m[1] * p.y + m[2] * p.z + m[3],
                             m[4] * p.x + m[5] * p.y + m[6] * p.z + m[7],
                             m[8] * p.x + m[9] * p.y + m[10] * p.z + m[11]});
    CHECK(m[12] == 0);
    CHECK(m[15] == 1);
}

TEST_CASE("A cutter's contour stands off a convex outline by its radius everywhere", "[contour]") {
    const std::vector<Vec2> corners{{0, 21}, {450, 28}, {450, -28}, {0, -21}};
    Contour outline;
    for (std::size_t i = 0; i < 4; ++i) {
        outline.push_back({ContourPiece::Kind::line, corners[i], corners[(i + 1) % 4], {}});
    }
    const double r = 3;
    const Contour contour = offsetOutward(outline, r);
    REQUIRE(contour.size() == 8);
    double around = 0;
    for (std::size_t i = 0; i < 4; ++i) {
        around += length(corners[(i + 1) % 4] - corners[i]);
    }
    CHECK(lengthOf(contour) == Approx(around + 2 * std::numbers::pi * r));
    for (std::size_t i = 0; i < contour.size(); ++i) {
        const ContourPiece& piece = contour[i];
        CHECK(length(piece.to - contour[(i + 1) % 8].from) < 1e-12);
        for (int k = 0; k <= 10; ++k) {
            const Vec2 p = piece.at(piece.length() * k / 10);
            double d = 1e9;
            for (std::size_t j = 0; j < 4; ++j) {
                d = std::min(d, distanceToSegment(p, corners[j], corners[(j + 1) % 4]));
            }
            CHECK(d == Approx(r).margin(1e-9));
        }
    }
}

TEST_CASE("Arcs know their sweep, length, points and directions", "[move]") {
    Move m;
    m.motion = Motion::arcClockwise;
    m.from = {10, 0, 0};
    m.to = {0, -10, -2};
    m.centre = {0, 0, 0};
    CHECK(m.sweep() == Approx(std::numbers::pi / 2));
    CHECK(m.length() == Approx(std::hypot(10 * std::numbers::pi / 2, 2)));
    checkSame(m.at(0.5), {10 / std::sqrt(2.0), -10 / std::sqrt(2.0), -1});
    CHECK(m.startDirection().y < 0);
    CHECK(m.endDirection().x < 0);
    m.motion = Motion::arcCounter;
    CHECK(m.sweep() == Approx(3 * std::numbers::pi / 2));
    m.to = m.from;
    CHECK(m.sweep() == Approx(2 * std::numbers::pi)); // start and end on one spot: a full circle
}

TEST_CASE("Arcs turn in all three planes", "[move]") {
    Move m;
    m.motion = Motion::arcCounter;
    m.plane = ArcPlane::yz;
    m.from = {5, 10, 0};
    m.to = {5, 0, 10};
    m.centre = {0, 0, 0};
    CHECK(m.sweep() == Approx(std::numbers::pi / 2));
    checkSame(m.at(0.5), {5, 10 / std::sqrt(2.0), 10 / std::sqrt(2.0)});
    m.plane = ArcPlane::zx;
    m.from = {0, 5, 10};
    m.to = {10, 5, 0};
    checkSame(m.at(0.5), {10 / std::sqrt(2.0), 5, 10 / std::sqrt(2.0)});
}

TEST_CASE("Chords stay within their tolerance", "[move]") {
    Move m;
    m.motion = Motion::arcClockwise;
    m.from = {3, 0, 0};
    m.to = {-3, 0, 0};
    m.centre = {0, 0, 0};
    for (double tolerance : {0.1, 0.01, 0.001}) {
        const int n = chordsFor(m, tolerance);
        const double sagitta = 3 * (1 - std::cos(m.sweep() / n / 2));
        CHECK(sagitta <= tolerance * 1.0001);
        CHECK(3 * (1 - std::cos(m.sweep() / (n - 1) / 2)) >
              tolerance * 0.98); // and not needlessly many
    }
}

TEST_CASE("The nearest place of a contour is nearer than any other", "[contour]") {
    // Arcs under and over half a turn, both ways round, and a whole circle.
    std::mt19937 random(5);
    std::uniform_real_distribution<double> any(-6, 6);
    std::uniform_real_distribution<double> turn(0.05, 6.2);
    for (int i = 0; i < 300; ++i) {
        const Vec2 centre{any(random), any(random)};
        const Vec2 from = centre + Vec2{any(random), any(random)};
        const double sweep = (i % 2 == 0 ? 1 : -1) * turn(random);
        const Vec2 a = from - centre;
        const Vec2 to =
            i % 10 == 0 ? from : centre + a * std::cos(sweep) + leftOf(a) * std::sin(sweep);
        const ContourPiece arc{sweep > 0 ? ContourPiece::Kind::arcCounter
                                         : ContourPiece::Kind::arcClockwise,
                               from, to, centre};
        const Vec2 p{any(random), any(random)};
        const Vec2 nearest = nearestOn({arc}, p);
        double sampled = 1e9;
        const double whole = i % 10 == 0 ? 2 * M_PI : std::abs(sweep);
        for (int k = 0; k <= 4000; ++k) {
            const double t = (sweep > 0 ? 1 : -1) * whole * k / 4000;
            sampled =
                std::min(sampled, length(p - (centre + a * std::cos(t) + leftOf(a) * std::sin(t))));
        }
        INFO("arc " << i << " of " << sweep);
        CHECK(length(nearest - p) <= sampled + 1e-9);
        CHECK(length(nearest - p) >= sampled - 0.01);
    }
}
