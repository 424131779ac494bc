// What hangs together of cut wood, and layers laid on one another.

#include "panel_support.h"

#include "job/put_together.h"
#include "proof/tied_wood.h"

#include <random>
#include <set>

using namespace wren;
using namespace wren::test;

namespace {

constexpr double cell = 1;

/// 24 x 16 cells of 10 mm; what `wood` says stands over each.
Stock stockOf(const std::function<double(int, int)>& wood) {
    Stock s({24, 16, 10, "walnut"}, 0, cell);
    for (int r = 0; r < s.rows(); ++r) {
        for (int c = 0; c < s.columns(); ++c) {
            s.keepCell(c, r, 0, wood(c, r));
        }
    }
    return s;
}

} // namespace

TEST_CASE("Wood hangs together just where a way of holding wood leads", "[holding]") {
    std::mt19937 random(5);
    for (int round = 0; round < 20; ++round) {
        std::bernoulli_distribution solid(0.55);
        std::vector<char> holds(24 * 16);
        for (char& h : holds) {
            h = solid(random) ? 1 : 0;
        }
        const auto at = [&](int c, int r) { return holds[std::size_t(r * 24 + c)] != 0; };
        const Stock s = stockOf(
            [&](int c, int r) { return at(c, r) ? holdingWood + 0.01 : holdingWood - 0.01; });
        TiedWood tied(s);
        tied.fromRim();
        // The other way about: every cell asks its neighbours until nothing changes any more.
        std::set<std::pair<int, int>> reached;
        for (bool more = true; more;) {
            more = false;
            for (int r = 0; r < 16; ++r) {
                for (int c = 0; c < 24; ++c) {
                    const bool rim = c == 0 || r == 0 || c == 23 || r == 15;
                    const bool beside = reached.count({c - 1, r}) || reached.count({c + 1, r}) ||
                                        reached.count({c, r - 1}) || reached.count({c, r + 1});
                    if (at(c, r) && (rim || beside) && reached.insert({c, r}).second) {
                        more = true;
                    }
                }
            }
        }
        for (int r = 0; r < 16; ++r) {
            for (int c = 0; c < 24; ++c) {
                CHECK(tied.at(c, r) == (reached.count({c, r}) > 0));
            }
        }
    }
}

TEST_CASE("An island is counted once, and is no part of the rim", "[holding]") {
    // A square of 4 x 4 in the middle, a trench all round it.
    const Stock s = stockOf([](int c, int r) {
        const bool island = c >= 10 && c < 14 && r >= 6 && r < 10;
        const bool frame = c < 4 || c >= 20 || r < 3 || r >= 13;
        return island || frame ? 10.0 : -0.3;
    });
    TiedWood tied(s);
    tied.fromRim();
    CHECK(tied.at(2, 8));
    CHECK_FALSE(tied.at(11, 7));
    CHECK_FALSE(tied.at(-1, 0)); // outside of it there is none
    CHECK(tied.from(11, 7) == 16);
    CHECK(tied.from(12, 8) == 0); // seen by then
    CHECK(tied.from(100, 100) == 0);
    // From one end of the frame only: the other hangs on it.
    TiedWood some(s);
    some.fromRim([](int c, int) { return c == 0; });
    CHECK(some.at(22, 8));
    // Wood over a cell tells how far the bit went past where there is none.
    CHECK(woodOver(s, 6, 8) == Approx(-0.3));
    CHECK(woodOver(s, 11, 7) == Approx(10));
}

TEST_CASE("A loose part and a skin are told alike, whichever part it is", "[holding]") {
    Findings found;
    for (PartId part : {PartId(Role::board), PartId(Role::neck), PartId(Role::top)}) {
        sayPartFree(part, found, part.shortName());
        CHECK(found.back().code == "part-free");
        CHECK(found.back().part == part);
        CHECK(found.back().message.find("The " + part.shortName() + " comes free") == 0);
        saySkinLeft(part, found, 0.3 + throughBy, "here");
        CHECK(found.back().code == "skin-left");
        CHECK(found.back().value == Approx(0.3));
        CHECK(found.back().message.find("0.30 mm of wood are left here") != std::string::npos);
    }
}

TEST_CASE("Wood turned over, shifted and brought back face up is what it was", "[stock][layers]") {
    std::mt19937 random(9);
    std::uniform_real_distribution<double> z(0, 10);
    Stock s({23.4, 15.7, 10, "walnut"}, 0, 0.5); // no whole number of cells
    for (int r = 0; r < s.rows(); ++r) {
        for (int c = 0; c < s.columns(); ++c) {
            const double a = z(random);
            const double b = z(random);
            s.keepCell(c, r, std::min(a, b), std::max(a, b));
        }
    }
    for (TurnOver turn : {TurnOver::sideForSide, TurnOver::endForEnd}) {
        Held held;
        held.blank = {23.4, 15.7, 10, "walnut"};
        held.face.blank = held.blank;
        held.face.zZero = ZZero::bed;
        held.back = held.face;
        held.turn = turn;
        held.correction = {0.15, -0.08};
        const Stock lies = (turn == TurnOver::sideForSide ? s.turnedSideForSide(23.4, 15.7, 0)
                                                          : s.turnedEndForEnd(23.4, 15.7, 0))
                               .movedBy(held.correction);
        const Stock up = faceUp(held, lies);
        REQUIRE(up.columns() == s.columns());
        for (int r = 0; r < s.rows(); ++r) {
            CHECK(up.y(r) == Approx(s.y(r)).margin(1e-9));
            for (int c = 0; c < s.columns(); ++c) {
                CHECK(up.high(c, r) == Approx(s.high(c, r)).margin(1e-4));
                CHECK(up.low(c, r) == Approx(s.low(c, r)).margin(1e-4));
            }
        }
    }
}

TEST_CASE("Layers laid on one another hold the wood of both, whatever is cut out of them",
          "[stock][layers]") {
    // Four kinds of column in each: whole, through, hollowed from above, hollowed from below.
    const auto layer = [](int kind, double thick, Stock& s, int c, int r) {
        s.keepCell(c, r, kind == 3 ? 0.4 * thick : 0, kind == 2 ? 0.6 * thick : thick);
        if (kind == 1) {
            s.keepCell(c, r, 0, -0.3);
        }
    };
    Stock under({4, 4, 10, "walnut"}, 0, 1);
    Stock over({4, 4, 6, "walnut"}, 0, 1);
    double wood = 0;
    for (int a = 0; a < 4; ++a) {
        for (int b = 0; b < 4; ++b) {
            layer(a, 10, under, a, b);
            layer(b, 6, over, a, b);
            wood += std::max(0.0, woodOver(under, a, b)) + std::max(0.0, woodOver(over, a, b));
        }
    }
    Stock glued = under;
    glued.glueOn(over, 10, 16);
    for (int a = 0; a < 4; ++a) {
        for (int b = 0; b < 4; ++b) {
            INFO(a << " under " << b);
            const bool any = a != 1 || b != 1;
            CHECK(glued.wood(a, b) == any);
            if (b != 1) { // it ends where the upper one does
                CHECK(glued.high(a, b) == Approx(10 + (b == 2 ? 3.6 : 6)));
            }
            if (a != 1) { // and begins where the lower one does
                CHECK(glued.low(a, b) == Approx(a == 3 ? 4 : 0));
            }
            if (a == 1 && b != 1) {
                CHECK(glued.low(a, b) == Approx(10 + (b == 3 ? 2.4 : 0)));
            }
        }
    }
    // What is missing between them is shut in and is no wood: of all, so much is there as before.
    // A column through both is told by how far the bit went past, which is no wood either.
    CHECK(glued.volume() == Approx(wood).margin(1e-3));
}
