// The negative of a neck's back: its own numbers by brute force, and where the ball goes in it.
#include "neck_support.h"

#include "cut/trough_paths.h"
#include "hold/cradle.h"

using namespace wren;
using namespace wren::test;

namespace {

struct Laid {
    Derived d;
    const PartJob* job = nullptr;
    const Trough* trough = nullptr;

    explicit Laid(const Changes& changes = {})
        : d(deriveDrawing(withKeys(neckWith({{"neck_hold.make_cradle", "yes"}}), changes))),
          job(d.job(Role::neckCradle)) {
        REQUIRE(job);
        trough = job->panel->frontFall.trough();
    }
};

/// How far a ball goes below the trough's section, its middle at (y, z); less than 0: it clears it.
double below(const Trough& t, double x, Vec2 middle, double radius) {
    double nearest = 1e9;
    for (int k = -200; k <= 200; ++k) {
        const Vec3 p = t.touch(x, k / 200.0).at;
        nearest = std::min(nearest, std::hypot(p.y - middle.x, p.z - middle.y));
    }
    return radius - nearest;
}

} // namespace

TEST_CASE("The tightest ball rolls all over a trough, a larger one does not", "[cradle]") {
    for (const Changes& changes :
         {Changes{}, Changes{{"neck.stations.0.bass", "V"}, {"neck.stations.0.treble", "V"}}}) {
        const Laid laid(changes);
        const Trough& t = *laid.trough;
        REQUIRE(t.tightest() > 1);
        double worst = -1e9, larger = -1e9;
        for (double x = t.from(); x <= t.to(); x += (t.to() - t.from()) / 9) {
            for (int k = -8; k <= 8; ++k) {
                const Trough::Touch touch = t.touch(x, k / 8.0);
                const Vec2 up = unit(Vec2{touch.up.y, touch.up.z});
                const Vec2 at{touch.at.y, touch.at.z};
                const double r = t.tightest();
                worst = std::max(worst, below(t, x, at + up * (0.98 * r), 0.98 * r));
                larger = std::max(larger, below(t, x, at + up * (1.3 * r), 1.3 * r));
            }
        }
        CHECK(worst < 0.01);
        CHECK(larger > 0.01);
    }
}

TEST_CASE("A trough's slope is that of its depth", "[cradle]") {
    const Laid laid;
    const Trough& t = *laid.trough;
    constexpr double h = 1e-4;
    for (double x = t.from() + 5; x < t.to() - 5; x += 31) {
        const std::array<double, 2> rim = t.across(x, 1);
        for (double share : {0.1, 0.35, 0.5, 0.8}) {
            const Vec2 p{x, rim[0] + (rim[1] - rim[0]) * share};
            const Vec2 g = t.gradient(p);
            CHECK(
                g.x ==
                Approx((t.depth(p + Vec2{h, 0}) - t.depth(p - Vec2{h, 0})) / (2 * h)).margin(1e-4));
            CHECK(
                g.y ==
                Approx((t.depth(p + Vec2{0, h}) - t.depth(p - Vec2{0, h})) / (2 * h)).margin(1e-4));
        }
    }
    // Its width at a depth is where it is that deep.
    const double x = (t.from() + t.to()) / 2;
    for (double deep : {0.5, 3.0, 8.0}) {
        const std::array<double, 2> y = t.across(x, deep);
        CHECK(t.depth({x, y[0]}) == Approx(deep).margin(1e-6));
        CHECK(t.depth({x, y[1]}) == Approx(deep).margin(1e-6));
    }
    const std::array<double, 2> none = t.across(x, t.deepest() + 1);
    CHECK_FALSE(none[1] > none[0]);
}

TEST_CASE("Nowhere on its way does the ball dig into the cradle", "[cradle][long]") {
    const Laid laid;
    const Trough& t = *laid.trough;
    Bit ball;
    ball.kind = BitKind::ball;
    ball.diameter = 12;
    Feeds feeds;
    feeds.feed = 2000;
    feeds.plunge = 500;
    const PanelWork work{*laid.job->panel, laid.job->held.face, laid.d.project.bodyCut, 2};
    const Path path = troughFinishPath(work, t, ball, feeds);
    REQUIRE(path.size() > 100);
    double worst = -1e9;
    int asked = 0;
    for (std::size_t i = 0; i < path.size(); i += 7) {
        const Vec3 tip = laid.job->held.face.fromInstrument.toInstrument(path[i].to);
        if (!path[i].cuts() || tip.x < t.from() || tip.x > t.to()) {
            continue;
        }
        ++asked;
        // Straight down all over the ball's lower half, against the depth from the definition.
        for (double r : {0.0, 1.5, 3.0, 4.5, 5.5}) {
            for (int k = 0; k < 12; ++k) {
                const Vec2 p = tip.xy() + Vec2{std::cos(k * 0.5236), std::sin(k * 0.5236)} * r;
                const double low = tip.z + 6 - std::sqrt(36 - r * r);
                worst = std::max(worst, -t.top() - t.depth(p) - low);
            }
        }
    }
    CHECK(asked > 100);
    CHECK(worst < 0.01);
}
