// Level arcs of tool travel, swept as what they are.

#include "proof/swept_arc.h"

#include "proof/stock.h"
#include "support.h"

#include <catch2/catch.hpp>

#include <numbers>
#include <random>

using namespace wren;

namespace {

constexpr double pi = std::numbers::pi;

EndShape flat(double radius) {
    return {radius, 0, 0, radius};
}
EndShape ball(double radius) {
    return {0, radius, 0, radius};
}
/// Flat, ball, bull-nose, drill point, tapered ball.
const EndShape ends[] = {flat(3), ball(3), {2, 1, 0, 3}, {0, 0, 0.6, 3}, {0, 0.75, 4, 1.5}};

Move arcOf(Vec2 centre, double radius, double from, double turn, double z) {
    Move m;
    m.motion = turn < 0 ? Motion::arcClockwise : Motion::arcCounter;
    m.centre = {centre.x, centre.y, 0};
    const auto at = [&](double a) {
        return Vec3{centre.x + radius * std::cos(a), centre.y + radius * std::sin(a), z};
    };
    m.from = at(from);
    m.to = std::abs(turn) < 2 * pi ? at(from + turn) : m.from;
    m.feed = 1000;
    return m;
}

/// Arcs of any size and sweep over a small blank: tighter than the tool, whole circles among them.
std::vector<Move> someArcs(unsigned seed, int count) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> x(0, 30), y(0, 20), radius(0.3, 25), angle(-pi, pi),
        turn(0.05, 2 * pi), z(1, 7);
    std::vector<Move> out;
    for (int i = 0; i < count; ++i) {
        const double sweep = i % 5 == 4 ? 2 * pi : turn(random);
        out.push_back(arcOf({x(random), y(random)}, radius(random), angle(random),
                            i % 2 == 0 ? sweep : -sweep, z(random)));
    }
    return out;
}

Stock blank(double cell) {
    return Stock({30, 20, 8, "maple"}, 0, cell);
}

/// The fraction of the move at which the tool's disc first covers a place; 2 where it never does.
double firstCovered(const Move& m, double radius, Vec2 p) {
    constexpr int n = 20000;
    for (int i = 0; i <= n; ++i) {
        if (length(m.at(double(i) / n).xy() - p) <= radius) {
            return double(i) / n;
        }
    }
    return 2;
}

} // namespace

TEST_CASE("The quick angle is the library's", "[stock]") {
    double worst = 0;
    for (int i = 0; i < 20000; ++i) {
        const double a = -pi + 2 * pi * (i + 0.5) / 20000;
        const double r = i % 3 == 0 ? 1e-4 : i % 3 == 1 ? 1 : 3e5;
        worst = std::max(worst, std::abs(quickAngle(r * std::sin(a), r * std::cos(a)) -
                                         std::atan2(r * std::sin(a), r * std::cos(a))));
    }
    CHECK(worst < 5e-8);
    CHECK(quickAngle(0, 1) == 0);
    CHECK(quickAngle(1, 0) == Approx(pi / 2));
    CHECK(quickAngle(0, -1) == Approx(pi));
    CHECK(quickAngle(-1, 0) == Approx(-pi / 2));
}

TEST_CASE("A level arc leaves what very many places of the tool along it leave", "[stock]") {
    for (const EndShape& tool : ends) {
        for (const Move& m : someArcs(3, 10)) {
            Stock stock = blank(0.9);
            sweep(stock, tool, m, 0, stock.rows());
            for (int r = 0; r < stock.rows(); ++r) {
                for (int c = 0; c < stock.columns(); c += 2) {
                    const Vec2 p{stock.x(c), stock.y(r)};
                    // How near the axis comes, from the circle itself.
                    const Vec2 out = p - m.centre.xy();
                    double nearest = std::min(length(p - m.from.xy()), length(p - m.to.xy()));
                    const double turned = std::atan2(cross(m.from.xy() - m.centre.xy(), out),
                                                     dot(m.from.xy() - m.centre.xy(), out));
                    const double along = m.motion == Motion::arcCounter ? turned : -turned;
                    if ((along < 0 ? along + 2 * pi : along) <= m.sweep()) {
                        nearest = std::min(nearest, std::abs(length(out) - m.radius()));
                    }
                    if (std::abs(nearest - tool.radius) < 1e-6) {
                        continue; // on the rim a hair decides
                    }
                    const double wanted = nearest < tool.radius
                                              ? std::min(8.0, m.from.z + tool.heightAt(nearest))
                                              : 8.0;
                    INFO("end " << tool.flat << "/" << tool.rounding << "/" << tool.slope
                                << ", radius " << m.radius() << ", turn " << m.sweep());
                    CHECK(stock.high(c, r) == Approx(wanted).margin(2e-5));
                    CHECK(heightLeftAt(p, tool, m) ==
                          (nearest < tool.radius ? Approx(m.from.z + tool.heightAt(nearest))
                                                 : Approx(Swept::infinity)));
                }
            }
        }
    }
}

TEST_CASE("An arc and its own chords leave the same wood within their distance", "[stock]") {
    for (const EndShape& tool : ends) {
        for (const Move& m : someArcs(8, 12)) {
            Stock round = blank(0.31);
            Stock chords = blank(0.31);
            sweep(round, tool, m, 0, round.rows());
            std::vector<Vec3> way;
            addWay(way, m);
            sweep(chords, tool, Way(way), 0, chords.rows());
            long apart = 0;
            for (int r = 0; r < round.rows(); ++r) {
                for (int c = 0; c < round.columns(); ++c) {
                    apart += std::abs(round.high(c, r) - chords.high(c, r)) > 0.02 ? 1 : 0;
                }
            }
            // Cells whose centres lie within a micron of the rim may fall to either side; a steep
            // flank turns the micron into more.
            CHECK(apart <= round.rows() * round.columns() / 2000);
        }
    }
}

TEST_CASE("Arcs in bands of rows add up to the whole, and what they take is booked in full",
          "[stock][load]") {
    for (const EndShape& tool : ends) {
        const std::vector<Move> arcs = someArcs(21, 14);
        Stock whole({30, 20, 8, "maple"}, -5, 0.25); // so low that none goes through
        Stock banded = whole;
        LoadTrace once(arcs, whole.cell());
        LoadTrace inBands(arcs, whole.cell());
        double booked = 0;
        const double before = whole.volume();
        for (std::size_t i = 0; i < arcs.size(); ++i) {
            sweep(whole, tool, arcs[i], 0, whole.rows(), once.along(i));
            for (int r = 0; r < banded.rows(); r += 11) {
                sweep(banded, tool, arcs[i], r, std::min(r + 11, banded.rows()), inBands.along(i));
            }
            CHECK(inBands.whole(i).volume == Approx(once.whole(i).volume).margin(1e-3));
            CHECK(inBands.whole(i).footprint == Approx(once.whole(i).footprint));
            booked += once.whole(i).volume;
        }
        CHECK(booked == Approx(before - whole.volume()).epsilon(0.001));
        bool same = true;
        for (int r = 0; r < whole.rows(); ++r) {
            for (int c = 0; c < whole.columns(); ++c) {
                same = same && whole.high(c, r) == banded.high(c, r);
            }
        }
        CHECK(same);
    }
}

TEST_CASE("A flat end reaches a place along an arc when its rim comes over it", "[stock][load]") {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> off(-2.99, 2.99), share(-0.1, 1.1);
    for (double radius : {0.8, 4.0, 30.0}) {
        for (double turn : {0.4, -0.4, 1.7, -1.7}) {
            const Move m = arcOf({3, -2}, radius, 0.7, turn, 2);
            const std::vector<SweptArc> pieces = arcPiecesOf(m, flat(3));
            REQUIRE(pieces.size() == 1);
            for (int i = 0; i < 40; ++i) {
                const double a = 0.7 + turn * share(random);
                const double rho = std::max(0.01, radius + off(random));
                const Vec2 p = Vec2{3, -2} + Vec2{std::cos(a), std::sin(a)} * rho;
                const double wanted = firstCovered(m, 3, p);
                if (wanted > 1) {
                    continue;
                }
                double at = 0;
                pieces[0].reached(&p.x, 1, p.y, &at);
                INFO("radius " << radius << ", turn " << turn << ", place " << p.x << " " << p.y);
                CHECK(std::clamp(at, 0.0, 1.0) == Approx(wanted).margin(2e-4));
            }
        }
    }
}

TEST_CASE("What a whole circle takes is spread evenly along it", "[stock][load]") {
    // Into full wood: but for the first bite under the tool, every stretch takes as much.
    const Move m = arcOf({15, 10}, 6, 0.3, 2 * pi, 5);
    for (const EndShape& tool : {flat(2), ball(2)}) {
        Stock stock = blank(0.1);
        Move plunge;
        plunge.motion = Motion::line;
        plunge.from = {m.from.x, m.from.y, 9};
        plunge.to = m.from;
        plunge.feed = 300;
        sweep(stock, tool, plunge, 0, stock.rows());
        LoadTrace trace({m}, stock.cell());
        sweep(stock, tool, m, 0, stock.rows(), trace.along(0), true);
        const std::size_t n = trace.binsOf(0);
        REQUIRE(n > 20);
        double least = 1e9;
        double most = 0;
        // Stretches of a few bins, those before it meets its own start again.
        const std::size_t wide = n / 12;
        for (std::size_t from = 0; from + wide <= n * 3 / 4; from += wide) {
            double sum = 0;
            for (std::size_t k = from; k < from + wide; ++k) {
                sum += trace.bin(0, k).volume;
            }
            least = std::min(least, sum);
            most = std::max(most, sum);
        }
        CHECK(least > 0);
        CHECK(most / least < (tool.plainFlat() ? 1.05 : 1.3));
        double all = 0;
        for (std::size_t k = 0; k < n; ++k) {
            all += trace.bin(0, k).volume;
        }
        CHECK(all == Approx(trace.whole(0).volume));
    }
}

TEST_CASE("Only level arcs seen from above are swept as arcs", "[stock]") {
    Move m = arcOf({5, 5}, 4, 0, 1, 3);
    CHECK(isLevelArc(m));
    CHECK(arcPiecesOf(m, flat(1)).size() == 1);
    CHECK(arcPiecesOf(arcOf({5, 5}, 4, 0, 6, 3), flat(1)).size() > 2); // none past half a turn
    m.to.z -= 0.1;
    CHECK_FALSE(isLevelArc(m));
    CHECK(arcPiecesOf(m, flat(1)).empty());
    m.to.z += 0.1;
    m.plane = ArcPlane::zx;
    CHECK_FALSE(isLevelArc(m));
    m.plane = ArcPlane::xy;
    m.motion = Motion::line;
    CHECK_FALSE(isLevelArc(m));
}

TEST_CASE("Every end stands at its own depth on the arc and clears beside it", "[stock]") {
    for (const EndShape& tool : ends) {
        const Move m = arcOf({0, 0}, 20, -0.5, 1, 4);
        const SweptArc piece = arcPiecesOf(m, tool).front();
        for (double off : {0.0, 0.4, 0.9}) { // of the tool's radius, to either side
            for (int side : {-1, 1}) {
                const double d = off * tool.radius;
                const double rho = 20 + side * d;
                CHECK(piece.height({rho, 0}) == Approx(4 + tool.heightAt(d)));
                CHECK(piece.height({-rho, 0}) == Swept::infinity); // across the circle
            }
        }
        CHECK(piece.height({20 + 1.01 * tool.radius, 0}) == Swept::infinity);
        CHECK(piece.yMax() >= 20 * std::sin(0.5) + tool.radius - 1e-9);
        CHECK(piece.yMin() <= -20 * std::sin(0.5) - tool.radius + 1e-9);
        // On a row through its middle the piece covers both its halves' width, in one stretch.
        const auto spans = piece.spans(0);
        CHECK(spans[0].first > spans[0].second); // nothing on the other side of the hollow
        CHECK(spans[1].first == Approx(20 - tool.radius));
        CHECK(spans[1].second == Approx(20 + tool.radius));
    }
}
