#include "post/motion.h"

#include "support.h"

using namespace wren;

namespace {

Path lines(const std::vector<Vec3>& points, double feed) {
    Path path;
    for (std::size_t i = 1; i < points.size(); ++i) {
        path.push_back(test::straight(points[i - 1], points[i], feed));
    }
    return path;
}

} // namespace

TEST_CASE("No axis is driven beyond its acceleration, no corner beyond its speed", "[motion]") {
    Machine machine;
    machine.acceleration = {400, 300, 100};
    machine.cornerSpeed = 6;
    const Path path = lines(
        {{0, 0, 0}, {40, 3, 0}, {41, 3, -1}, {41, 30, -1}, {20, 31, 0}, {20.01, 31, 0}, {0, 0, 5}},
        2400);
    const auto speeds = planSpeeds(path, machine);
    CHECK(speeds.front().entry == 0);
    CHECK(speeds.back().exit == Approx(0).margin(1e-12));
    for (std::size_t i = 0; i < path.size(); ++i) {
        const Vec3 u = path[i].startDirection();
        const double a = speeds[i].acceleration;
        CHECK(std::abs(a * u.x) <= 400 * 1.0001);
        CHECK(std::abs(a * u.y) <= 300 * 1.0001);
        CHECK(std::abs(a * u.z) <= 100 * 1.0001);
        CHECK(speeds[i].top <= 40.0001);
        // Both ramps fit into the length.
        const double ramps = (2 * speeds[i].top * speeds[i].top -
                              speeds[i].entry * speeds[i].entry - speeds[i].exit * speeds[i].exit) /
                             (2 * a);
        CHECK(ramps <= speeds[i].length + 1e-9);
        if (i > 0) {
            CHECK(speeds[i].entry == Approx(speeds[i - 1].exit));
            const Vec3 change = path[i].startDirection() - path[i - 1].endDirection();
            CHECK(length(change) * speeds[i].entry <= 6 * 1.0001);
        }
    }
}

TEST_CASE("The way travelled grows from nothing to the move's length", "[motion]") {
    const auto speeds = planSpeeds(lines({{0, 0, 0}, {100, 0, 0}, {100, 0.5, 0}}, 3000), Machine{});
    for (const SpeedProfile& s : speeds) {
        double last = 0;
        for (int i = 0; i <= 50; ++i) {
            const double d = s.distanceAt(s.seconds() * i / 50);
            CHECK(d >= last - 1e-12);
            last = d;
        }
        CHECK(last == Approx(s.length));
        CHECK(s.distanceAt(-1) == 0);
    }
}

TEST_CASE("Plain time ignores acceleration, real time never beats it", "[motion]") {
    const Machine machine;
    const Path path = lines({{0, 0, 0}, {50, 0, 0}, {50, 50, 0}, {0, 50, 0}}, 1500);
    const MotionTime t = timeOf(path, machine);
    CHECK(t.secondsPlain == Approx(150.0 / 25));
    CHECK(t.seconds > t.secondsPlain);
    CHECK(t.cutLength == Approx(150));
    CHECK(t.rapidLength == 0);
    REQUIRE(t.ends.size() == 3);
    CHECK(t.ends.back() == Approx(t.seconds));
}

TEST_CASE("A straight line cut into pieces takes as long as in one", "[motion]") {
    std::vector<Vec3> many;
    for (int i = 0; i <= 200; ++i) {
        many.push_back({i * 0.5, 0, 0});
    }
    const Machine machine;
    CHECK(timeOf(lines(many, 2000), machine).seconds ==
          Approx(timeOf(lines({{0, 0, 0}, {100, 0, 0}}, 2000), machine).seconds));
}

TEST_CASE("Waiting means standing first", "[motion]") {
    Path path = lines({{0, 0, 0}, {50, 0, 0}, {100, 0, 0}}, 2000);
    const double through = timeOf(path, Machine{}).seconds;
    path[0].dwell = 2;
    const MotionTime t = timeOf(path, Machine{});
    CHECK(t.seconds > through + 2);
    CHECK(planSpeeds(path, Machine{})[1].entry == 0);
}
