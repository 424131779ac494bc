#include "proof/simulate.h"

#include "support.h"

#include <random>

using namespace wren;

namespace {

Blank smallBlank() {
    return {30, 20, 8, "walnut"};
}

Move move(Motion motion, Vec3 from, Vec3 to, Vec3 centre = {}) {
    Move m;
    m.motion = motion;
    m.from = from;
    m.to = to;
    m.centre = centre;
    m.feed = 500;
    return m;
}

EndShape flat(double r) {
    return {r, 0, 0, r};
}
EndShape ball(double r) {
    return {0, r, 0, r};
}

/// The height left over a point, from very many single tool positions: no geometry shared with the
/// sweep but the tool's own shape.
double denselySampled(Vec2 p, const EndShape& tool, const Move& m, double top) {
    double h = top;
    const int n = 5000;
    for (int i = 0; i <= n; ++i) {
        const Vec3 at = m.at(static_cast<double>(i) / n);
        const double d = length(p - at.xy());
        if (d <= tool.radius) {
            h = std::min(h, at.z + tool.heightAt(d));
        }
    }
    return h;
}

std::vector<Move> awkwardMoves() {
    std::vector<Move> moves{
        move(Motion::line, {5, 10, 5}, {25, 10, 5}),      // level along X
        move(Motion::line, {25, 4, 3}, {3, 4, 3}),        // and back
        move(Motion::line, {15, 2, 4}, {15, 18, 4}),      // level along Y
        move(Motion::line, {4, 3, 7}, {26, 17, 1}),       // slanting down
        move(Motion::line, {10, 10, 8}, {10, 10, 2}),     // straight down
        move(Motion::line, {10, 10, 2}, {10.4, 10.1, 7}), // steeply up
        move(Motion::arcClockwise, {20, 10, 4}, {10, 10, 4}, {15, 10, 0}),
        move(Motion::arcCounter, {20, 10, 6}, {15, 5, 3}, {15, 10, 0}), // a helix
        move(Motion::line, {-5, -5, 3}, {8, 30, 3}),                    // in from outside
    };
    std::mt19937 random(3);
    std::uniform_real_distribution<double> x(-2, 32);
    std::uniform_real_distribution<double> y(-2, 22);
    std::uniform_real_distribution<double> z(0.5, 9);
    for (int i = 0; i < 6; ++i) {
        moves.push_back(move(Motion::line, {x(random), y(random), z(random)},
                             {x(random), y(random), z(random)}));
    }
    return moves;
}

} // namespace

namespace {

std::vector<Vec3> wayOf(const Move& move) {
    std::vector<Vec3> way;
    addWay(way, move);
    return way;
}

} // namespace

TEST_CASE("The sweep leaves what very many single positions leave", "[stock][long]") {
    // Flat, ball, a slotting bit, bull-nose, drill point, tapered ball.
    const EndShape tools[] = {flat(3),      ball(3),        flat(0.29),
                              {2, 1, 0, 3}, {0, 0, 0.6, 3}, {0, 0.75, 4, 1.5}};
    for (const EndShape& tool : tools) {
        for (const Move& m : awkwardMoves()) {
            Stock stock(smallBlank(), 0, 0.9);
            sweep(stock, tool, m, 0, stock.rows());
            for (int r = 0; r < stock.rows(); ++r) {
                for (int c = 0; c < stock.columns(); c += 3) {
                    const Vec2 p{stock.x(c), stock.y(r)};
                    const double sampled = denselySampled(p, tool, m, 8);
                    const double swept = stock.high(c, r);
                    // Sampling can only miss wood the sweep takes, and only by the way between two
                    // of its positions; at the rim of a disc a hair decides.
                    const double gap = m.length() / 5000;
                    const bool rim = std::isfinite(heightLeftAt(p, flat(tool.radius + 0.003), m)) !=
                                     std::isfinite(heightLeftAt(p, flat(tool.radius - 0.003), m));
                    if (!rim) {
                        CHECK(swept == Approx(sampled).margin(0.002 + 3 * std::sqrt(gap) * 0.02));
                    }
                    // Straight moves are exact; an arc's chords run up to 0.001 mm inside it, which
                    // a ball's flank turns into a little height.
                    CHECK(swept <= sampled + (m.isArc() ? 0.005 : 1e-5));
                }
            }
        }
    }
}

TEST_CASE("Asking for one place gives what the field holds there", "[stock]") {
    const EndShape round = ball(3);
    for (const Move& m : awkwardMoves()) {
        Stock stock(smallBlank(), 0, 0.7);
        sweep(stock, round, m, 0, stock.rows());
        for (int r = 0; r < stock.rows(); r += 4) {
            for (int c = 0; c < stock.columns(); c += 5) {
                const double one = heightLeftAt({stock.x(c), stock.y(r)}, round, m);
                CHECK(stock.high(c, r) == Approx(std::min(8.0, one)).margin(1e-5));
            }
        }
    }
}

TEST_CASE("Bands of rows add up to the whole", "[stock]") {
    for (const Move& m : awkwardMoves()) {
        Stock whole(smallBlank(), 0, 0.5);
        Stock banded(smallBlank(), 0, 0.5);
        sweep(whole, ball(3), m, 0, whole.rows());
        for (int r = 0; r < banded.rows(); r += 7) {
            sweep(banded, ball(3), m, r, std::min(r + 7, banded.rows()));
        }
        bool same = true;
        for (int r = 0; r < whole.rows(); ++r) {
            for (int c = 0; c < whole.columns(); ++c) {
                same = same && whole.high(c, r) == banded.high(c, r);
            }
        }
        CHECK(same);
    }
}

TEST_CASE("A drilled disc takes its cylinder of wood", "[stock]") {
    Stock stock(smallBlank(), 0, 0.05);
    const double before = stock.volume();
    CHECK(before == Approx(30 * 20 * 8));
    sweep(stock, flat(4), move(Motion::line, {15, 10, 9}, {15, 10, 3}), 0, stock.rows());
    CHECK(before - stock.volume() == Approx(M_PI * 16 * 5).epsilon(0.002));
}

TEST_CASE("Through cuts keep how far they went below", "[stock]") {
    Stock stock(smallBlank(), 0, 0.5);
    sweep(stock, flat(2), move(Motion::line, {15, 10, 1}, {15, 10, -0.3}), 0, stock.rows());
    CHECK(stock.high(30, 20) == Approx(-0.3));
    CHECK(stock.volume() < 30 * 20 * 8.0);
    Stock again(smallBlank(), 0, 0.5);
    const std::vector<Vec3> down = wayOf(move(Motion::rapid, {15, 10, 9}, {15, 10, 0}));
    CHECK(entersWood(stock, flat(2), 0, down, 0, 40) == 0);
    CHECK(entersWood(again, flat(2), 0, down, 0, 40) == Approx(8));
    CHECK(entersWood(again, flat(2), 10, down, 0, 40) == 0);
}

TEST_CASE("A simulation can stop at any moment and goes on the same", "[simulate]") {
    const Derived d = derive(test::plainWith());
    const Simulation whole = simulate(*d.lies(Role::board), d.read(Role::board), 1.0);
    CHECK(whole.collisions.empty());
    double last = 1e9;
    const std::size_t moves = d.read(Role::board)[0].path.size();
    for (std::size_t m : {std::size_t{0}, moves / 3, moves / 2, moves}) {
        const double v =
            simulate(*d.lies(Role::board), d.read(Role::board), 1.0, {0, m, 0.5}).stock.volume();
        CHECK(v <= last);
        last = v;
    }
    const double afterTwo =
        simulate(*d.lies(Role::board), d.read(Role::board), 1.0, {1, 1u << 30, 0}).stock.volume();
    CHECK(whole.stock.volume() < afterTwo);
    CHECK(afterTwo < last);
}

TEST_CASE("A simulation that is no longer wanted stops", "[simulate]") {
    const Derived d = derive(test::plainWith());
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(simulate(*d.lies(Role::board), d.read(Role::board), 0.2, {}, stop.get_token()),
                    Cancelled);
    CHECK_THROWS_AS(derive(test::plainWith(), stop.get_token()), Cancelled);
}

TEST_CASE("Cells lowered together stand where each alone would", "[stock]") {
    // Long passes of every rounded end, level and sloping, along the rows and across them.
    const Blank blank{220, 40, 8, "walnut"};
    const std::vector<EndShape> ends{{3, 3, 0, 6}, {0, 3, 0, 3}, {0, 0.75, 11.4, 3}};
    const std::vector<std::pair<Vec3, Vec3>> passes{{{10, 18, 5}, {210, 18, 5.6}},
                                                    {{10, 15, 5.4}, {210, 21, 5}},
                                                    {{200, 30, 4}, {20, 10, 6}},
                                                    {{15, 20, 7}, {205, 20.3, 3}}};
    for (const EndShape& end : ends) {
        for (const auto& [from, to] : passes) {
            Stock stock(blank, 0, 0.2);
            const Move m = test::straight(from, to, 500);
            sweep(stock, end, m, 0, stock.rows());
            double worst = 0;
            int cut = 0;
            for (int r = 0; r < stock.rows(); ++r) {
                for (int c = 0; c < stock.columns(); ++c) {
                    const double alone =
                        std::min(8.0, heightLeftAt({stock.x(c), stock.y(r)}, end, m));
                    worst = std::max(worst, std::abs(stock.high(c, r) - alone));
                    cut += alone < 8 ? 1 : 0;
                }
            }
            INFO(end.flat << " " << end.rounding << " from " << from.x << "," << from.y);
            CHECK(cut > 2000);
            CHECK(worst < 1e-4); // a hundredth of the gouge that is allowed
        }
    }
}

namespace {

/// Moves that follow one another as a program's do: level, slanting, arcs, helices, plunges, turns
/// back on themselves.
std::vector<Move> chainOfMoves(unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> x(-1, 31);
    std::uniform_real_distribution<double> y(-1, 21);
    std::uniform_real_distribution<double> z(1, 8);
    std::uniform_real_distribution<double> little(-1, 1);
    std::vector<Move> out;
    Vec3 at{x(random), y(random), 6};
    for (int i = 0; i < 60; ++i) {
        const int kind = static_cast<int>(random() % 6);
        Move m = move(Motion::line, at, at);
        if (kind == 0) {
            m.to = {x(random), y(random), at.z};
        } else if (kind == 1) {
            m.to = at + Vec3{little(random), little(random), 0};
        } else if (kind == 2) {
            m.to = {x(random), y(random), z(random)};
        } else if (kind == 3) {
            m.to.z = z(random);
        } else { // an arc of any sweep about a place near by, level or a helix
            m.motion = kind == 4 ? Motion::arcClockwise : Motion::arcCounter;
            const Vec2 centre = at.xy() + Vec2{2 + little(random), 2 * little(random)};
            const double turn = 3 * little(random);
            const Vec2 a = at.xy() - centre;
            const Vec2 b{a.x * std::cos(turn) - a.y * std::sin(turn),
                         a.x * std::sin(turn) + a.y * std::cos(turn)};
            m.centre = {centre.x, centre.y, 0};
            m.to = {centre.x + b.x, centre.y + b.y, at.z + (i % 2 == 0 ? 0 : little(random))};
        }
        out.push_back(m);
        at = m.to;
    }
    return out;
}

} // namespace

TEST_CASE("A chain of moves leaves what each of them would leave alone", "[stock][long]") {
    const EndShape tools[] = {flat(3),      ball(3),        flat(0.29),
                              {2, 1, 0, 3}, {0, 0, 0.6, 3}, {0, 0.75, 4, 1.5}};
    for (const EndShape& tool : tools) {
        for (unsigned seed = 1; seed <= 12; ++seed) {
            Stock alone(smallBlank(), 0, 0.23);
            Stock chained(smallBlank(), 0, 0.23);
            bool first = true;
            for (const Move& m : chainOfMoves(seed)) {
                for (std::size_t i = 0; i + 1 < wayOf(m).size(); ++i) {
                    const std::vector<Vec3> way = wayOf(m);
                    sweep(alone, tool, Way(way).subspan(i, 2), 0, alone.rows());
                }
                sweep(chained, tool, wayOf(m), 0, chained.rows(), std::nullopt, !first);
                first = false;
            }
            double worst = 0;
            for (int r = 0; r < alone.rows(); ++r) {
                for (int c = 0; c < alone.columns(); ++c) {
                    worst =
                        std::max<double>(worst, std::abs(alone.high(c, r) - chained.high(c, r)));
                }
            }
            INFO("end " << tool.flat << "/" << tool.rounding << "/" << tool.slope << ", chain "
                        << seed);
            CHECK(worst < 1e-4); // what sweep() promises: parabolas along a row begin elsewhere
            CHECK(alone.volume() < 30 * 20 * 8.0 - 100);
        }
    }
}

TEST_CASE("What a chain of moves takes is booked in full, in no move twice", "[stock][load]") {
    for (const EndShape& tool : {flat(3), ball(3)}) {
        for (unsigned seed = 1; seed <= 6; ++seed) {
            const std::vector<Move> moves = chainOfMoves(seed);
            Stock stock(smallBlank(), -5, 0.25); // so low that no cut goes through
            const double before = stock.volume();
            LoadTrace trace(moves, stock.cell());
            double booked = 0;
            for (std::size_t i = 0; i < moves.size(); ++i) {
                for (int r = 0; r < stock.rows(); r += 16) { // bands tell the trace each for itself
                    sweep(stock, tool, wayOf(moves[i]), r, std::min(r + 16, stock.rows()),
                          trace.along(i), i > 0);
                }
                booked += trace.whole(i).volume;
            }
            CHECK(booked == Approx(before - stock.volume()).epsilon(0.001));
        }
    }
}

TEST_CASE("Places of a row get the heights each would get alone", "[stock]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> at(0, 12);
    for (const EndShape& tool :
         {flat(3), ball(3), EndShape{2, 1, 0, 3}, EndShape{0, 0.7, 4, 1.5}}) {
        for (int i = 0; i < 200; ++i) {
            const Swept swept({at(random), at(random), at(random)},
                              {at(random), at(random), at(random)}, tool);
            const PlacesInRow places{0, 0.3, 3, 30, at(random)};
            const std::vector<float> high(30, 100.0F);
            std::vector<double> z(30);
            swept.heights(places, high.data(), z.data());
            for (int k = 0; k < places.count; ++k) {
                const double alone = swept.height(places.x(k), places.y);
                CHECK(std::isfinite(z[std::size_t(k)]) == std::isfinite(alone));
                if (std::isfinite(alone)) {
                    CHECK(z[std::size_t(k)] == Approx(alone).margin(1e-9));
                }
            }
        }
    }
}

TEST_CASE("A tool reaches a place where its rim or its middle comes over it", "[stock][load]") {
    // Along X from 0 to 20: a flat end of 3 mm reaches the place at 11 with its rim at 8; a round
    // one counts half way to being abreast.
    const double x[] = {11, 1, 25};
    double at[3];
    Swept({0, 0, 0}, {20, 0, 0}, flat(3)).reached(x, 3, 0, at);
    CHECK(at[0] == Approx(8.0 / 20));
    CHECK(at[1] == 0); // under it from the start
    CHECK(at[2] == 1);
    Swept({0, 0, 0}, {20, 0, 0}, ball(3)).reached(x, 3, 0, at);
    CHECK(at[0] == Approx(9.5 / 20));
    Swept({0, 0, 5}, {0, 0, 2}, flat(3)).reached(x, 3, 0, at); // straight down there is one place
    CHECK(at[0] == 0);
}

TEST_CASE("Rows kept before a cut are put back as they were", "[stock]") {
    Stock stock(smallBlank(), 0, 0.5);
    sweep(stock, ball(3), move(Motion::line, {3, 3, 6}, {27, 17, 4}), 0, stock.rows());
    const Stock::Heights kept = stock.heights(10, 25);
    Stock cut = stock;
    sweep(cut, flat(2), move(Motion::line, {2, 8, 3}, {28, 9, 3}), 10, 25);
    CHECK(cut.volume() < stock.volume() - 50);
    cut.putBack(kept);
    bool same = true;
    for (int r = 0; r < stock.rows(); ++r) {
        for (int c = 0; c < stock.columns(); ++c) {
            same = same && cut.high(c, r) == stock.high(c, r);
        }
    }
    CHECK(same);
    CHECK(stock.heights(5, 5).high.empty());
}
