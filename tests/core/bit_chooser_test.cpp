#include "support.h"

#include "cut/bit_chooser.h"
#include "shop/starter.h"

#include <fmt/format.h>

using namespace wren;
using Catch::Matchers::Contains;

namespace {

Verdict flatUpTo(const Bit& b, double width) {
    if (!cutsFlat(b.kind)) {
        return {};
    }
    return b.diameter <= width ? Verdict{true, {}}
                               : Verdict{false, fmt::format("{:.1f} mm is too wide", b.diameter),
                                         b.diameter - width};
}
bool wider(const Bit& a, const Bit& b) {
    return a.diameter > b.diameter;
}

} // namespace

TEST_CASE("A bit is chosen for a reason, or its want is said", "[recipe]") {
    const Drawer drawer = starterDrawer();
    Findings findings;
    BitChooser chooser(drawer, findings, Role::neck);
    std::string why;
    const auto upTo = [&](double width, const CutOverrides& own = {}) {
        return chooser.choose(
            "slot", own, [=](const Bit& b) { return flatUpTo(b, width); }, wider, "a flat bit",
            why);
    };
    // The best by the cut's own measure; nothing is in the spindle yet.
    const Bit* best = upTo(4);
    REQUIRE(best);
    CHECK(best->name == "flat-3");
    CHECK(why == "flat-3: a flat bit.");
    // One in the spindle that can do it stays, though another would be better.
    chooser.mount(findBit(drawer, "flat-1.5"));
    CHECK(upTo(4)->name == "flat-1.5");
    CHECK_THAT(why, Contains("in the spindle"));
    chooser.mount(findBit(drawer, "ball-6")); // which cannot
    CHECK(upTo(4)->name == "flat-3");
    chooser.mount(nullptr);
    CHECK(upTo(4)->name == "flat-3");
    CHECK(findings.empty());
    // The maker's own is taken before all, if it can.
    CutOverrides own;
    own.bit = "flat-1.5";
    CHECK(upTo(4, own)->name == "flat-1.5");
    CHECK_THAT(why, Contains("set by hand"));
    own.bit = "flat-6";
    CHECK_FALSE(upTo(4, own));
    REQUIRE(findings.size() == 1);
    CHECK_THAT(findings[0].message, Contains("flat-6 was set by hand, but 6.0 mm is too wide") &&
                                        Contains("Wanted: a flat bit"));
    own.bit = "mislaid";
    CHECK_FALSE(upTo(4, own));
    CHECK_THAT(findings.back().message, Contains("there is no bit \"mislaid\" in the drawer"));
    // Nothing serves: what came nearest is named.
    CHECK_FALSE(upTo(0.5));
    std::string finest;
    double least = 100;
    for (const Bit& b : drawer) {
        if (cutsFlat(b.kind) && b.diameter < least) {
            finest = b.name;
            least = b.diameter;
        }
    }
    CHECK_THAT(findings.back().message,
               Contains("No bit can cut the slot: " + finest + ": ") && Contains("too wide"));
    CHECK(findings.back().weight == Weight::stop);
    const auto never = [](const Bit&) { return Verdict{}; };
    CHECK_FALSE(chooser.choose("dovetail", {}, never, wider, "a dovetail bit", why));
    CHECK_THAT(findings.back().message, Contains("the drawer holds no bit of the kind"));
    CHECK(findings.size() == 4);
}

TEST_CASE("A bit reaches as deep as its flutes beside wood, else as it stands out", "[recipe]") {
    Bit b;
    b.fluteLength = 20;
    b.reach = 35;
    CHECK(reaches(b, 20, true).can);
    CHECK_THAT(reaches(b, 20.5, true).why,
               Contains("flutes of 20.0 mm are shorter than the cut's 20.5"));
    CHECK(reaches(b, 34, false).can);
    CHECK_THAT(reaches(b, 34.5, false).why, Contains("stands only 35.0 mm out of the collet"));
}
