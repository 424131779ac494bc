// Scallops, feeds, times and woods, against handbook formulas, closed forms and a worked case.

#include "cut/contact.h"
#include "cut/feeds.h"
#include "cut/plain_time.h"
#include "post/motion.h"
#include "shop/starter.h"

#include "support.h"

#include <numbers>

using namespace wren;
using test::straight;

TEST_CASE("Stepover for a scallop on a flat is the handbook's", "[outside][scallop]") {
    // Ball of radius r, step s on a plane: h = r - sqrt(r^2 - (s/2)^2), the chord's segment height
    // (Machinery's Handbook), so s = 2 sqrt(2 r h - h^2).
    const double plane = 1e9;
    for (double r : {1.5, 3.0, 6.0}) {
        for (double h : {0.005, 0.015, 0.03}) {
            // The two-circle form leaves out h^2: too long by h / 4r of itself.
            CHECK(ballStepover(plane, h, r) ==
                  Approx(2 * std::sqrt(2 * r * h - h * h)).epsilon(h / (3 * r)));
        }
    }
}

TEST_CASE("Speeds and feeds obey the handbook's two formulas", "[outside][feeds]") {
    // Machinery's Handbook: V = pi D N, f = N z f_z.
    Machine fast;
    fast.maxFeed = 1e6;
    fast.spindleMin = 1;
    fast.spindleMax = 1e6;
    for (const Bit& bit : test::plainWith().bits) {
        const Feeds f = feedsFor(bit, woodById("cherry"), fast);
        const double surface = std::numbers::pi * bit.diameter * f.rpm / 60000; // m/s
        CHECK(surface == Approx(9.5).epsilon(0.05));
        const double chip = f.feed / (f.rpm * bit.flutes);
        CHECK(chip / bit.diameter ==
              Approx(bit.kind == BitKind::fretSlot ? 0.015 : 0.009).epsilon(0.05));
    }
}

TEST_CASE("Feeds fall where the trade works", "[outside][feeds]") {
    // Common practice, no source: a 6 mm two-flute bit in hardwood at 1 to 3 m/min, 10,000 to
    // 24,000 rpm; slotting bits 0.15 to 0.3 mm a pass.
    const Drawer drawer = starterDrawer();
    const Feeds flat = feedsFor(*findBit(drawer, "flat-6"), woodById("hard-maple"), Machine{});
    CHECK(flat.feed >= 1000);
    CHECK(flat.feed <= 3000);
    CHECK(flat.rpm >= 10000);
    CHECK(flat.rpm <= 24000);
    const Feeds slot = feedsFor(*findBit(drawer, "slot-0.58"), woodById("hard-maple"), Machine{});
    CHECK(slot.depthPerPass >= 0.15);
    CHECK(slot.depthPerPass <= 0.30);
}

TEST_CASE("Woods weigh what the Wood Handbook says", "[outside][wood]") {
    // Specific gravity at 12 % moisture, Wood Handbook FPL-GTR-282, table 5-3.
    CHECK(woodById("hard-maple").specificGravity == 0.63);
    CHECK(woodById("white-ash").specificGravity == 0.60);
    CHECK(woodById("walnut").specificGravity == 0.55);
    CHECK(woodById("cherry").specificGravity == 0.50);
    CHECK(woodById("poplar").specificGravity == 0.42);
    // Chapter 4: density at a moisture content M is 1000 G (1 + M/100) kg/m3, G at that M.
    CHECK(woodById("hard-maple").density() == Approx(0.63 * 1.12));
    CHECK(woodById("acrylic").density() == Approx(1.18)); // no wood: as it is sold
    for (const Wood& w : woods()) {
        INFO(w.name);
        CHECK(std::string(w.source).size() > 5);
    }
}

TEST_CASE("The worked fretboard case adds up to its minutes", "[outside][time]") {
    // Common practice, no source: 4257 in of cutting, 31.6 minutes without acceleration; that is
    // 3291 in of finishing at 150 in/min (49.4 square inches, 0.015 in across) and 966 in of
    // roughing at 100 in/min.
    const double in = 25.4;
    const double finishing = 49.4 / 0.015;
    CHECK(finishing == Approx(3291).epsilon(0.001));
    Path path;
    Vec3 at{};
    const auto zigzag = [&](double inches, double feed) {
        while (inches > 0) {
            const double step = std::min(18.0, inches);
            const Vec3 to{at.x + (at.x > 0 ? -step : step) * in, 0, 0};
            path.push_back(straight(at, to, feed * in));
            at = to;
            inches -= step;
        }
    };
    zigzag(966, 100);
    zigzag(finishing, 150);
    Machine machine;
    machine.maxFeed = 200 * in;
    const MotionTime t = timeOf(path, machine);
    CHECK(t.cutLength / in == Approx(4257).epsilon(0.001));
    CHECK(t.secondsPlain / 60 == Approx(31.6).margin(0.05));
    CHECK(t.seconds > t.secondsPlain);
}

TEST_CASE("Area over stepover is the length of finishing", "[outside][time]") {
    // The same rule on our own board: the passes' length is the area divided by their distance,
    // plus the margins.
    const Derived d = derive(test::plainWith({{"cut.radius.bit", "ball-12"}}));
    const double step = d.boardPlan()->face().cuts[0].stepover;
    const double area = d.board->areaOfFace();
    double level = 0;
    const ArchedFace face{6, 300, 0};
    const EndShape end = EndShape::of(d.boardPlan()->face().cuts[0].bit);
    for (const Move& m : d.boardPlan()->face().cuts[0].path) {
        const Vec3 a = d.lies(Role::board)->fromInstrument.toInstrument(m.from);
        if (m.cuts() && m.from.y == m.to.y && std::abs(a.z - tipOver(face, a.x, a.y, end)) < 1e-9) {
            level += m.length();
        }
    }
    CHECK(level == Approx(area / step).epsilon(0.08));
}

TEST_CASE("Motion takes the closed form's time", "[outside][time]") {
    // Constant acceleration: a move of length l at v and a takes l/v + v/a when l >= v^2/a, and
    // 2 sqrt(l/a) when it never reaches v (any mechanics text).
    Machine machine;
    machine.acceleration = {400, 400, 400};
    const double v = 50;
    const double a = 400;
    for (double l : {0.5, 3.0, 6.25, 20.0, 500.0}) {
        const double expected = l >= v * v / a ? l / v + v / a : 2 * std::sqrt(l / a);
        CHECK(timeOf({straight({0, 0, 0}, {l, 0, 0}, v * 60)}, machine).seconds ==
              Approx(expected));
    }
    // At 45 degrees both axes help: sqrt(2) times the acceleration along the way.
    const double l = 100;
    const double a45 = a * std::sqrt(2.0);
    CHECK(
        timeOf({straight({0, 0, 0}, {l / std::sqrt(2.0), l / std::sqrt(2.0), 0}, v * 60)}, machine)
            .seconds == Approx(l / v + v / a45));
    // A right-angled corner taken at v_c, where |v_c (u2 - u1)| = v_c sqrt(2) is the corner speed.
    machine.cornerSpeed = 10;
    const double vc = 10 / std::sqrt(2.0);
    const double leg = 100;
    const double oneLeg =
        (v - 0) / a + (v - vc) / a + (leg - v * v / (2 * a) - (v * v - vc * vc) / (2 * a)) / v;
    CHECK(timeOf({straight({0, 0, 0}, {leg, 0, 0}, v * 60),
                  straight({leg, 0, 0}, {leg, leg, 0}, v * 60)},
                 machine)
              .seconds == Approx(2 * oneLeg));
    // A full stop at a reversal.
    const double there = 2 * (leg / v + v / a);
    machine.cornerSpeed = 1e-9;
    CHECK(
        timeOf({straight({0, 0, 0}, {leg, 0, 0}, v * 60), straight({leg, 0, 0}, {0, 0, 0}, v * 60)},
               machine)
            .seconds == Approx(there));
    // On an arc the speed obeys v^2 / r <= a.
    Move arc;
    arc.motion = Motion::arcCounter;
    arc.from = {2, 0, 0};
    arc.to = {-2, 0, 0};
    arc.feed = 100000;
    machine.maxFeed = 100000;
    CHECK(planSpeeds({arc}, machine).front().top <= std::sqrt(400 * 2.0) + 1e-9);
}

TEST_CASE("The start lies at the crossing less half the blank", "[outside][setup]") {
    // Common practice, no source: home to the stored crossing, back by half the blank's length and
    // half its width. A 20 x 3 in blank on a crossing at 450, 300.
    const Derived d = derive(test::plainWith({{"blank.length", "20 in"}, {"blank.width", "3 in"}}));
    CHECK(d.lies(Role::board)->zeroOnMachine.x == Approx(450 - 254));
    CHECK(d.lies(Role::board)->zeroOnMachine.y == Approx(300 - 38.1));
}
