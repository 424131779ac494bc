#include "neck_support.h"

#include "proof/designed.h"

using namespace wren;
using namespace wren::test;

TEST_CASE("The design as wood holds the design's volume", "[neck][proof]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Project p = neckWith({{"neck_hold.turn", turn}, {"neck.nut_slot", "3"}});
        const HeldNeck n = drawnNeck(p);
        const Stock wood = designedNeck(n.part, n.held, 0.4);
        CHECK(wood.volume() == Approx(n.volume).epsilon(0.004));
        // Head and heel lie where the setup puts them.
        const auto thick = [&](Vec2 at) {
            const Vec2 q = n.held.back->fromInstrument.toSetup({at.x, at.y, 0}).xy();
            const int c = static_cast<int>(std::lround(wood.column(q.x)));
            const int r = static_cast<int>(std::lround(wood.row(q.y)));
            return double(wood.high(c, r) - wood.low(c, r));
        };
        const NeckBack& back = n.part.back();
        CHECK(thick({200, 15}) == Approx(back.depth(200, 15)).margin(0.1));
        CHECK(thick({200, 0}) == Approx(back.depth(200, 0) - p.neck.rod.depth).margin(0.1));
        CHECK(thick({-100, 0}) == Approx(p.neck.head.thickness).margin(0.1));
        CHECK(thick({n.part.outline().end() + 3, 0}) <= 0);
        CHECK(thick(n.part.tuners().front().post) <= 0);
    }
}

TEST_CASE("Simulated wood is the designed wood, but for ridges, frame and tabs", "[neck][proof]") {
    if (WREN_SANITIZED) {
        return;
    }
    const Derived d = derive(neckWith());
    REQUIRE(d.job(Role::neck)->proof);
    const Stock& cut = *d.job(Role::neck)->proof->stock;
    const Stock wanted = designedNeck(d.neck->part, d.job(Role::neck)->held, cut.cell());
    REQUIRE(wanted.columns() == cut.columns());
    REQUIRE(wanted.rows() == cut.rows());
    // What differs by more lies at upright walls, steep feet, holes' rims and under the tabs.
    CHECK(shareOff(wanted, cut, true) < 0.04);
}

TEST_CASE("A head's section reaches to its edges", "[neck]") {
    const HeldNeck n = drawnNeck(neckWith());
    for (double x : {-170.0, -120.0, -60.0}) {
        const auto wood = n.part.outline().across(x);
        const std::vector<Vec2> section = n.part.section(x);
        CHECK(section.front().x == Approx(wood[0]));
        CHECK(section.back().x == Approx(wood[1]));
    }
}
