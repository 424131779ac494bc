// Level passes on a round back, against closed forms of ball on cylinder.

#include "cut/finish_lines.h"
#include "job/derive.h"
#include "shop/starter.h"

#include "support.h"

#include <numbers>

using namespace wren;

namespace {

constexpr double bow = 20;     ///< radius of the back, mm
constexpr double shoulder = 3; ///< height of its axis over the glue plane

/// A neck of one width and thickness whose sections are half circles.
NeckPart roundNeck() {
    Project p = test::plainWith({{"board.nut_spread", "34"},
                                 {"board.bridge_spread", "34"},
                                 {"neck.joint", "bolt-on"},
                                 {"neck.thickness_over", "neck"},
                                 {"neck.stations", "1 23 C, 12 23 C"},
                                 {"neck.shoulder", "3"}});
    return {p.neck, p.board};
}

} // namespace

TEST_CASE("A ball's contact at a level is that on a cylinder", "[outside][neck][finish]") {
    const NeckPart part = roundNeck();
    const NeckBack::Slice slice = part.back().slice(180);
    REQUIRE(slice.halfWidth() == Approx(bow).margin(1e-6));
    REQUIRE(slice.spine() == Approx(bow + shoulder).margin(1e-6));
    for (const char* name : {"ball-3", "ball-6", "ball-12"}) {
        const std::vector<Bit> drawer = starterDrawer();
        const Bit* bit = findBit(drawer, name);
        if (!bit) {
            continue;
        }
        const EndShape end = EndShape::of(*bit);
        const double r = bit->radius();
        for (int side : {-1, 1}) {
            for (double level : {0.5, 2.0, 4.0, 6.5}) {
                // The ball's centre stands bow + r from the axis, level + r over the glue plane.
                const double up = level + r - shoulder;
                if (up <= 0 || up > (bow + r) * std::cos(50 * std::numbers::pi / 180)) {
                    continue; // below the foot, or no longer steep
                }
                const double out = std::sqrt((bow + r) * (bow + r) - up * up);
                const auto c = contactAtLevel(slice, side, level, end);
                INFO(name << " " << side << " " << level);
                REQUIRE(c);
                CHECK(c->point.y == Approx(side * out * bow / (bow + r)).margin(1e-4));
                CHECK(c->point.z == Approx(shoulder + up * bow / (bow + r)).margin(1e-4));
                CHECK(c->normal.z == Approx(up / (bow + r)).margin(1e-5));
                const Vec3 tip = tipTouching(c->point, c->normal, end);
                CHECK(tip.y == Approx(side * out).margin(1e-4));
                CHECK(tip.z == Approx(level).margin(1e-5));
            }
        }
    }
}

TEST_CASE("Level passes leave no higher ridge on a cylinder than was asked",
          "[outside][neck][finish]") {
    const NeckPart part = roundNeck();
    const NeckBack::Slice slice = part.back().slice(180);
    const std::vector<Bit> drawer = starterDrawer();
    const Bit& ball = *findBit(drawer, "ball-6");
    const EndShape end = EndShape::of(ball);
    const double r = ball.radius();
    for (double scallop : {0.01, 0.02, 0.05}) {
        for (const FinishStretch& s : finishLines(part, ball, scallop, FinishWay::split)) {
            if (s.levels.empty() || s.from > 180 || s.to < 180) {
                continue;
            }
            double worst = 0;
            // From the foot's own pass on: the angle about the axis of each contact.
            double before = 0;
            for (double level : s.levels) {
                if (const auto c = contactAtLevel(slice, 1, level, end)) {
                    const double angle = std::asin(c->normal.z);
                    // Two circles of radius r about points bow + r from the axis meet there.
                    const double half = (angle - before) / 2;
                    const double side = (bow + r) * std::sin(half);
                    const double ridge =
                        (bow + r) * std::cos(half) - std::sqrt(r * r - side * side) - bow;
                    worst = std::max(worst, ridge);
                    before = angle;
                }
            }
            INFO(scallop);
            CHECK(worst <= scallop);
            CHECK(worst > 0.7 * scallop); // nor many more passes than are needed
        }
    }
}

TEST_CASE("Where level passes end, lines along begin", "[outside][neck][finish]") {
    const NeckPart part = roundNeck();
    const NeckBack::Slice slice = part.back().slice(180);
    const std::vector<Bit> drawer = starterDrawer();
    const EndShape end = EndShape::of(*findBit(drawer, "ball-6"));
    for (const FinishStretch& s :
         finishLines(part, *findBit(drawer, "ball-6"), 0.02, FinishWay::split)) {
        if (s.levels.empty() || s.from > 180 || s.to < 180) {
            continue;
        }
        double highest = 0; // slope of the last level pass, from the vertical
        for (double level : s.levels) {
            if (const auto c = contactAtLevel(slice, 1, level, end)) {
                highest = std::max(highest, std::asin(c->normal.z));
            }
        }
        double lowest = std::numbers::pi / 2; // of the first line along
        for (double line : s.lines) {
            const BackContact c = contactAt(slice, line);
            if (line > 0 && line != s.lines.back() && shallowEnough(c)) {
                lowest = std::min(lowest, std::asin(c.normal.z));
            }
        }
        // They overlap: no stripe of the back lies between the two.
        CHECK(lowest < highest);
        CHECK(highest - lowest < 15 * std::numbers::pi / 180);
    }
}
