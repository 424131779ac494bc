#include "cut/feeds.h"

#include "support.h"

#include "shop/starter.h"

using namespace wren;

namespace {

const Machine machine;

Feeds of(const char* bit, const char* wood, const CutOverrides& o = {}) {
    const Drawer drawer = starterDrawer();
    return feedsFor(*findBit(drawer, bit), woodById(wood), machine, o);
}

} // namespace

TEST_CASE("Feed is speed times flutes times chip", "[feeds]") {
    const Feeds f = of("flat-6", "walnut");
    CHECK(f.feed == Approx(f.rpm * 2 * 0.009 * 6).margin(5));
    CHECK(f.feed <= machine.maxFeed);
    CHECK(f.rpm >= machine.spindleMin);
    CHECK(f.rpm <= machine.spindleMax);
    CHECK(f.plunge < f.feed / 3);
}

TEST_CASE("Harder wood gets smaller bites", "[feeds]") {
    CHECK(of("flat-6", "poplar").feed > of("flat-6", "walnut").feed);
    CHECK(of("flat-6", "walnut").feed > of("flat-6", "hard-maple").feed);
    CHECK(of("flat-6", "hard-maple").depthPerPass > of("flat-6", "ebony").depthPerPass);
}

TEST_CASE("Larger bits turn slower", "[feeds]") {
    CHECK(of("ball-12", "walnut").rpm < of("ball-6", "walnut").rpm);
}

TEST_CASE("Slotting bits go down a quarter to a half of their diameter in every wood", "[feeds]") {
    for (const Wood& wood : woods()) {
        const Feeds f = of("slot-0.58", wood.id.c_str());
        CHECK(f.depthPerPass >= 0.25 * 0.58 - 1e-12);
        CHECK(f.depthPerPass <= 0.50 * 0.58 + 1e-12);
    }
}

TEST_CASE("Figures set by hand win and are said to be", "[feeds]") {
    CutOverrides o;
    o.feed = 321;
    o.depthPerPass = 1.25;
    const Feeds f = of("flat-6", "walnut", o);
    CHECK(f.feed == 321);
    CHECK(f.depthPerPass == 1.25);
    CHECK(f.rpm == of("flat-6", "walnut").rpm);
    CHECK(f.reason.find("Set by hand") == 0);
}

TEST_CASE("An unknown wood or kind of bit is refused with the known ones", "[feeds]") {
    CHECK(test::sentenceOf([] { woodById("driftwood"); }).find("hard-maple") != std::string::npos);
    CHECK(test::sentenceOf([] { bitKindFromName("saw"); }).find("fret-slot") != std::string::npos);
    for (BitKind k : {BitKind::flat, BitKind::ball, BitKind::fretSlot}) {
        CHECK(bitKindFromName(bitKindName(k)) == k);
    }
}
