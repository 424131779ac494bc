// Bits of every kind: their ends in closed form, what they may cut, and how they are driven.

#include "cut/feeds.h"
#include "shop/starter.h"

#include "support.h"

#include <numbers>
#include <set>

using namespace wren;

namespace {

Bit bitOf(BitKind kind, double diameter) {
    Bit b;
    b.name = "x";
    b.kind = kind;
    b.diameter = diameter;
    return b;
}

} // namespace

TEST_CASE("A ball, a bull-nose and a flat end have their textbook outlines", "[bits]") {
    const EndShape ball = EndShape::of(bitOf(BitKind::ball, 6));
    for (double d : {0.0, 1.0, 2.5, 2.999}) {
        CHECK(ball.heightAt(d) == Approx(3 - std::sqrt(9 - d * d)));
    }
    CHECK(bitOf(BitKind::ball, 6).tipHeight() == Approx(3));
    Bit bull = bitOf(BitKind::bullNose, 12);
    bull.corner = 3;
    const EndShape nose = EndShape::of(bull);
    CHECK(nose.heightAt(3) == 0);
    CHECK(nose.heightAt(4.5) == Approx(3 - std::sqrt(9 - 2.25)));
    CHECK(bull.tipHeight() == Approx(3));
    for (BitKind kind : {BitKind::flat, BitKind::downCut, BitKind::compression, BitKind::fretSlot,
                         BitKind::surfacing}) {
        CHECK(EndShape::of(bitOf(kind, 6)).plainFlat());
        CHECK(bitOf(kind, 6).tipHeight() == 0);
    }
}

TEST_CASE("Cones rise by their half angle: V, drill point and taper", "[bits]") {
    Bit vee = bitOf(BitKind::vee, 6);
    vee.angle = 60;
    CHECK(vee.tipHeight() == Approx(3 / std::tan(30 * std::numbers::pi / 180)));
    vee.tip = 1; // a flat of that diameter
    CHECK(vee.tipHeight() == Approx(2.5 / std::tan(30 * std::numbers::pi / 180)));
    // A 118 degree point of 3.2 mm: the 1.25 mm a through hole has to add with its 0.3 (common
    // practice, no source).
    Bit drill = bitOf(BitKind::drill, 3.2);
    drill.angle = 118;
    CHECK(drill.tipHeight() == Approx(1.6 / std::tan(59 * std::numbers::pi / 180)));
    CHECK(drill.tipHeight() + 0.3 == Approx(1.25).margin(0.02));
    // A tapered ball: the ball meets the cone smoothly, with one slope and one height.
    Bit taper = bitOf(BitKind::taperedBall, 6);
    taper.tip = 1.5;
    taper.angle = 10;
    const EndShape end = EndShape::of(taper);
    const double meet = 0.75 * std::cos(5 * std::numbers::pi / 180);
    CHECK(end.heightAt(meet - 1e-7) == Approx(end.heightAt(meet + 1e-7)).margin(1e-5));
    CHECK(end.slopeAt(meet + 1e-7) == Approx(1 / std::tan(5 * std::numbers::pi / 180)));
    CHECK(end.heightAt(0.3) == Approx(0.75 - std::sqrt(0.75 * 0.75 - 0.09)));
    CHECK(end.heightAt(3) - end.heightAt(2) == Approx(1 / std::tan(5 * std::numbers::pi / 180)));
}

TEST_CASE("Every outline rises outward and its slope is its own derivative", "[bits]") {
    for (const Bit& bit : starterDrawer()) {
        INFO(bit.name);
        const EndShape end = EndShape::of(bit);
        double last = 0;
        for (int i = 1; i < 200; ++i) {
            const double d = end.radius * i / 200;
            const double h = end.heightAt(d);
            CHECK(h >= last - 1e-12);
            last = h;
            const double e = 1e-6;
            const double by = (end.heightAt(d + e) - end.heightAt(d - e)) / (2 * e);
            const bool atCorner = std::abs(d - end.flat) < 0.02 * end.radius;
            if (!atCorner && by < 20) {
                CHECK(end.slopeAt(d) == Approx(by).epsilon(0.01).margin(1e-4));
            }
        }
    }
}

TEST_CASE("Kinds have names, and names kinds", "[bits]") {
    std::set<std::string> names;
    for (const std::string& name : bitKindNames()) {
        CHECK(bitKindName(bitKindFromName(name)) == name);
        CHECK(names.insert(name).second);
    }
    CHECK(names.size() == 10);
    CHECK(test::sentenceOf([] { bitKindFromName("spoon"); }).find("one of flat, down-cut") !=
          std::string::npos);
    CHECK(cutsFlat(BitKind::compression));
    CHECK_FALSE(cutsFlat(BitKind::ball));
    Bit bit = bitOf(BitKind::flat, 6);
    bit.fluteLength = 20;
    CHECK(bit.reachOrUsual() == 40);
    bit.reach = 31;
    CHECK(bit.reachOrUsual() == 31);
    bit.shank = 8;
    CHECK(bit.colletOrShank() == 8);
    bit.collet = 6.35;
    CHECK(bit.colletOrShank() == 6.35);
}

TEST_CASE("Feeds mind the bit's own limits, the machine's, and stock that melts", "[feeds]") {
    const Machine machine;
    const Wood& maple = woodById("hard-maple");
    Bit bit = bitOf(BitKind::flat, 6);
    bit.fluteLength = 22;
    const Feeds plain = feedsFor(bit, maple, machine);
    CHECK(plain.rpm <= machine.spindleMax);
    CHECK(plain.feed <= machine.maxFeed);
    bit.maxRpm = 12000;
    bit.maxFeed = 700;
    const Feeds limited = feedsFor(bit, maple, machine);
    CHECK(limited.rpm == 12000);
    CHECK(limited.feed <= 700);
    // Acrylic: fewer turns and a bigger chip than in wood, or it melts (common practice, no
    // source).
    bit.maxRpm = bit.maxFeed = 0;
    const Feeds acrylic = feedsFor(bit, woodById("acrylic"), machine);
    CHECK(acrylic.rpm < plain.rpm);
    CHECK(acrylic.feed / acrylic.rpm / bit.flutes > 1.2 * plain.feed / plain.rpm / bit.flutes);
    CHECK(acrylic.reason.find("melts") != std::string::npos);
    // Harder wood, smaller bites.
    CHECK(feedsFor(bit, woodById("ebony"), machine).depthPerPass <
          feedsFor(bit, woodById("poplar"), machine).depthPerPass);
    CutOverrides own;
    own.feed = 333;
    const Feeds set = feedsFor(bit, maple, machine, own);
    CHECK(set.feed == 333);
    CHECK(set.rpm == plain.rpm);
    CHECK(set.reason.rfind("Set by hand.", 0) == 0);
}
