#include "neck_support.h"

#include "cut/neck_outline_cut.h"
#include "cut/neck_recipe.h"
#include "cut/settings.h"
#include "post/motion.h"

#include <numbers>
#include <set>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

const Cut& holesIn(const SidePlan& side, FeatureKind of) {
    const auto it = std::find_if(side.cuts.begin(), side.cuts.end(), [of](const Cut& c) {
        return c.kind == CutKind::holes && c.of == of;
    });
    REQUIRE(it != side.cuts.end());
    return *it;
}

struct Bench {
    Project project;
    HeldNeck neck;
    Feeds feeds{18000, 2000, 500, 3, ""};

    explicit Bench(std::initializer_list<std::pair<const char*, const char*>> changes = {})
        : project(neckWith(changes)), neck(drawnNeck(project)) {}

    NeckWork on(const Setup& setup) const {
        return {neck.part, setup, project.neckCut, project.machine.spoilDepth};
    }
    Bit bit(const char* name) const { return *findBit(project.bits, name); }
};

double lowestOf(const Path& path) {
    double z = 1e9;
    for (const Move& m : path) {
        z = std::min({z, m.from.z, m.to.z});
    }
    return z;
}

/// Every path begins and ends above the blank and goes across there only.
void checkManners(const Path& path, const Setup& setup) {
    REQUIRE_FALSE(path.empty());
    CHECK(path.back().to.z == Approx(setup.topZ() + clearanceHeight));
    for (const Move& m : path) {
        if (!m.cuts() && length(m.to.xy() - m.from.xy()) > 1e-9) {
            CHECK(std::min(m.from.z, m.to.z) == Approx(setup.topZ() + clearanceHeight));
        }
        if (m.cuts()) {
            CHECK(m.feed > 0);
        }
    }
    for (std::size_t i = 1; i < path.size(); ++i) {
        CHECK(length(path[i].from - path[i - 1].to) < 1e-9);
    }
}

double signedArea(const Contour& contour) {
    double twice = 0;
    const auto points = pointsOf(contour, 0.01);
    for (std::size_t i = 0, j = points.size() - 1; i < points.size(); j = i++) {
        twice += cross(points[j], points[i]);
    }
    return twice / 2;
}

} // namespace

TEST_CASE("A contour stays clockwise whichever way the neck lies", "[neck][cut]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Bench b({{"neck_hold.turn", turn}});
        const Contour& drawn = b.neck.part.outline().contour();
        for (const Setup* s : {&b.neck.held.face, &*b.neck.held.back}) {
            const Contour there = laid(drawn, *s);
            CHECK(signedArea(there) < 0);
            CHECK(areaOf(there) == Approx(areaOf(drawn)));
            CHECK(lengthOf(there) == Approx(lengthOf(drawn)));
            for (const ContourPiece& p : there) {
                const Vec2 m = p.at(p.length() / 2);
                const Vec3 back = s->fromInstrument.toInstrument({m.x, m.y, 0});
                CHECK(distanceTo(drawn, back.xy()) < 1e-6);
            }
        }
    }
}

TEST_CASE("Drilling goes in pecks and stops where it should", "[neck][cut]") {
    const Bench b;
    const Setup& setup = *b.neck.held.back;
    std::vector<Hole> bolts;
    for (const Hole& h : b.neck.part.holes()) {
        if (h.what == "bolt") {
            bolts.push_back(h);
        }
    }
    REQUIRE(bolts.size() == 4);
    const Bit drill = b.bit("drill-3.2");
    const Path path = drillPath(b.on(setup), bolts, drill, b.feeds);
    checkManners(path, setup);
    const double mouth = setup.bottomZ() + b.project.neck.heelDepth;
    CHECK(lowestOf(path) == Approx(mouth - b.project.neck.boltDepth));
    int bottoms = 0;
    double reached = 1e9;
    for (const Move& m : path) {
        if (m.from.xy() == m.to.xy() && m.cuts() && m.to.z < mouth - 0.01) {
            const double from = std::min(m.from.z, mouth);
            CHECK(from - m.to.z <= b.project.neckCut.peck + 0.5 + 1e-9);
            reached = m.to.z;
            if (m.to.z < mouth - b.project.neck.boltDepth + 1e-9) {
                ++bottoms;
                CHECK(m.dwell > 0);
            }
        }
        if (!m.cuts() && m.to.z < mouth - 0.01) { // a rapid back down stops over the wood
            CHECK(m.to.z >= reached + 0.4);
        }
    }
    CHECK(bottoms == 4);
}

TEST_CASE("A hole that goes through never goes deeper than the spoil board takes", "[neck][cut]") {
    Bench b;
    const Setup& setup = b.neck.held.face;
    const Bit drill = b.bit("drill-6");
    const std::vector<Hole> pin{
        {"register", {0, 0}, 6, 0, -b.neck.held.blank.thickness, false, true}};
    const double bed = setup.bottomZ();
    CHECK(lowestOf(drillPath(b.on(setup), pin, drill, b.feeds)) ==
          Approx(std::max(bed - 2, bed - 0.3 - drill.tipHeight())));
    b.project.machine.spoilDepth = 5;
    CHECK(lowestOf(drillPath(b.on(setup), pin, drill, b.feeds)) ==
          Approx(bed - 0.3 - drill.tipHeight()));
    // A 118 degree point of 6 mm stands 1.8 mm below its full width.
    CHECK(drill.tipHeight() == Approx(3 / std::tan(59 * std::numbers::pi / 180)));
}

TEST_CASE("Boring goes round the hole's middle and ends with a level turn", "[neck][cut]") {
    const Bench b;
    const Setup& setup = *b.neck.held.back;
    std::vector<Hole> tuners;
    for (const Hole& h : b.neck.part.holes()) {
        if (h.what == "tuner") {
            tuners.push_back(h);
        }
    }
    REQUIRE(tuners.size() == 6);
    const Bit flat = b.bit("flat-6");
    const Path path = borePath(b.on(setup), tuners, flat, b.feeds);
    checkManners(path, setup);
    int arcs = 0;
    for (const Move& m : path) {
        if (m.isArc()) {
            ++arcs;
            CHECK(m.radius() == Approx((9.5 - 6) / 2));
            CHECK(std::abs(m.from.z - m.to.z) <= 1.5 + 1e-9);
            const bool known = std::any_of(tuners.begin(), tuners.end(), [&](const Hole& h) {
                return length(setup.fromInstrument.toSetup({h.at.x, h.at.y, 0}).xy() -
                              m.centre.xy()) < 1e-6;
            });
            CHECK(known);
        }
    }
    CHECK(arcs >= 6 * 2 * 6);
    // Through the head: past its face by 0.3 mm.
    const double face = setup.fromInstrument.toSetup({0, 0, -b.project.neck.head.drop}).z;
    CHECK(lowestOf(path) == Approx(face - b.project.neckCut.through));
}

TEST_CASE("Slots are cut to their floor and not beyond their sides", "[neck][cut]") {
    const Bench b({{"rod.carbon_width", "6.2"}, {"neck.nut_slot", "3"}});
    const Setup& setup = b.neck.held.face;
    for (const NeckPocket& pocket : b.neck.part.pockets()) {
        const Bit bit = pocket.kind == NeckPocketKind::nut ? b.bit("flat-3") : b.bit("flat-6");
        const Path path = pocketPath(b.on(setup), {pocket}, bit, b.feeds);
        INFO(wordOf(pocket.kind));
        checkManners(path, setup);
        CHECK(lowestOf(path) == Approx(setup.topZ() + pocket.floor));
        Vec2 low{1e9, 1e9};
        Vec2 high{-1e9, -1e9};
        double steepest = 0;
        double before = setup.topZ();
        for (const Move& m : path) {
            if (!m.cuts()) {
                continue;
            }
            const Vec3 at = setup.fromInstrument.toInstrument(m.to);
            low = {std::min(low.x, at.x), std::min(low.y, at.y)};
            high = {std::max(high.x, at.x), std::max(high.y, at.y)};
            if (m.to.z < before - 1e-9) {
                steepest = std::max(steepest, before - m.to.z);
                before = m.to.z;
            }
        }
        CHECK(low.x - bit.radius() == Approx(pocket.box[0].x));
        CHECK(high.x + bit.radius() == Approx(pocket.box[1].x));
        CHECK(low.y - bit.radius() == Approx(pocket.box[0].y));
        CHECK(high.y + bit.radius() == Approx(pocket.box[1].y));
        CHECK(steepest <= b.feeds.depthPerPass + 1e-9);
    }
}

TEST_CASE("The hollow is touched, never cut into", "[neck][cut]") {
    for (const char* curve : {"9", "22", "60"}) {
        const Bench b({{"head.curve", curve}});
        const Setup& setup = b.neck.held.face;
        const Bit ball = b.bit("ball-6");
        const Path path = hollowPath(b.on(setup), ball, b.feeds);
        checkManners(path, setup);
        const NeckPart& part = b.neck.part;
        double nearest = 1e9;
        for (const Move& m : path) {
            if (!m.cuts() || m.from.z != m.to.z) {
                continue;
            }
            const Vec3 tip = setup.fromInstrument.toInstrument(m.to);
            double gap = 1e9;
            for (double dx = -2.999; dx <= 2.999; dx += 0.01) {
                const double x = std::min(tip.x + dx, part.outline().headStart());
                const double d = std::abs(x - tip.x);
                gap = std::min(gap, tip.z + 3 - std::sqrt(9 - d * d) - part.face(x));
            }
            CHECK(gap > -0.003);
            nearest = std::min(nearest, gap);
        }
        CHECK(nearest < 0.003);
    }
}

TEST_CASE("The head's face is level where it is plain", "[neck][cut]") {
    const Bench b;
    const Setup& setup = b.neck.held.face;
    const Path path = headFacePath(b.on(setup), b.bit("flat-6"), b.feeds);
    checkManners(path, setup);
    CHECK(lowestOf(path) == Approx(setup.topZ() - b.project.neck.head.drop));
    // Nothing comes nearer to the nut than its stock to leave allows.
    for (const Move& m : path) {
        if (m.cuts()) {
            const Vec3 tip = setup.fromInstrument.toInstrument(m.to);
            const double edge = std::min(tip.x + 3, b.neck.part.outline().headStart());
            CHECK(tip.z >= b.neck.part.face(edge) - 1e-6);
            CHECK(tip.x + 3 <= b.neck.part.outline().headStart() + 1e-6);
        }
    }
}

TEST_CASE("Tabs stand on the outline, on straight edges and at both ends", "[neck][cut]") {
    for (const char* shape : {"chisel", "keel", "paddle"}) {
        const Bench b({{"head.like", shape}});
        const std::vector<NeckTab> tabs = neckTabs(b.neck.part, b.project.neckCut);
        REQUIRE(tabs.size() == 6);
        const NeckOutline& o = b.neck.part.outline();
        for (const NeckTab& t : tabs) {
            CHECK(distanceTo(o.contour(), t.at) < 0.02);
            CHECK(length(t.along) == Approx(1));
            CHECK(t.under(t.at, 3));
            CHECK(t.under(t.at + t.along * (t.half + 2.9), 3));
            CHECK_FALSE(t.under(t.at + t.along * (t.half + 3.1), 3));
        }
        CHECK(std::any_of(tabs.begin(), tabs.end(),
                          [&](const NeckTab& t) { return t.at.x > o.end() - 1; }));
        CHECK(std::any_of(tabs.begin(), tabs.end(),
                          [&](const NeckTab& t) { return t.at.x < o.tip() + 1; }));
    }
}

TEST_CASE("The outline keeps its distance, and its height over the tabs", "[neck][cut]") {
    const Bench b;
    const Setup& setup = *b.neck.held.back;
    const std::vector<NeckTab> tabs = neckTabs(b.neck.part, b.project.neckCut);
    const Bit flat = b.bit("flat-6");
    const Path path = neckOutlinePath(b.on(setup), tabs, flat, b.feeds);
    checkManners(path, setup);
    const Contour line = laid(b.neck.part.outline().contour(), setup);
    double nearest = 1e9;
    double widest = 0;
    double cutLength = 0;
    for (const Move& m : path) {
        if (!m.cuts()) {
            continue;
        }
        cutLength += m.length();
        for (double t : {0.25, 0.5, 1.0}) {
            const Vec3 p = m.at(t);
            const double d = distanceTo(line, p.xy());
            nearest = std::min(nearest, d);
            widest = std::max(widest, d);
            const Vec2 there = setup.fromInstrument.toInstrument(p).xy();
            const bool tabbed = std::any_of(tabs.begin(), tabs.end(), [&](const NeckTab& tab) {
                return std::abs(dot(there - tab.at, tab.along)) < tab.half &&
                       std::abs(cross(tab.along, there - tab.at)) < 4;
            });
            if (tabbed) {
                CHECK(p.z >= setup.bottomZ() + b.project.neckCut.tabHeight - 1e-9);
            }
        }
    }
    CHECK(nearest == Approx(3).margin(1e-4));
    CHECK(widest == Approx(3.2).margin(1e-2));
    CHECK(lowestOf(path) == Approx(setup.bottomZ() - 0.3));
    CHECK(cutLength > 2 * lengthOf(line));
}

TEST_CASE("Roughing leaves its stock and stays out of the frame", "[neck][cut]") {
    const Bench b;
    const Setup& setup = *b.neck.held.back;
    const Bit flat = b.bit("flat-6");
    constexpr double trench = 7.2;
    const Path path = roughPath(b.on(setup), {}, flat, b.feeds, trench);
    checkManners(path, setup);
    const Contour line = laid(b.neck.part.outline().contour(), setup);
    const auto inside2 = pointsOf(line, 0.05);
    double closest = 1e9;
    for (const Move& m : path) {
        if (!m.cuts()) {
            continue;
        }
        const Vec3 p = m.at(0.5);
        if (!inside(inside2, p.xy())) {
            CHECK(distanceTo(line, p.xy()) <= trench - 3 + 0.1);
        }
        // The disc's rim and middle stand over the surface by the stock to leave at least.
        const Vec3 tip = setup.fromInstrument.toInstrument(p);
        for (int k = 0; k <= 8; ++k) {
            const double a = k * std::numbers::pi / 4;
            const double r = k == 8 ? 0 : 2.99;
            const Vec2 q{tip.x + r * std::cos(a), tip.y + r * std::sin(a)};
            if (inside(b.neck.part.outline().points(), q)) {
                closest = std::min(closest, -tip.z - b.neck.part.back().depth(q.x, q.y));
            }
        }
    }
    CHECK(closest > 0.2);
    CHECK(closest < 1.5);
    CHECK(lowestOf(path) == Approx(setup.bottomZ() + roughFloor(b.neck.part, b.project.neckCut)));
}

TEST_CASE("Roughing has a level on each level place of the back", "[neck][cut]") {
    const Bench b({{"neck_blank.thickness", "31.3"}});
    const Setup& setup = *b.neck.held.back;
    const Path path = roughPath(b.on(setup), {}, b.bit("flat-6"), b.feeds, 8);
    std::set<long> levels; // of moves that stay level, in 1/1000 mm over the glue plane
    for (const Move& m : path) {
        if (m.cuts() && m.from.z == m.to.z) {
            levels.insert(std::lround((m.to.z - setup.bottomZ()) * 1000));
        }
    }
    const Neck& n = b.project.neck;
    const double stockToLeave = b.project.neckCut.stockToLeave;
    CHECK(levels.count(std::lround((n.head.drop + n.head.thickness + stockToLeave) * 1000)) == 1);
    CHECK(levels.count(std::lround((n.heelDepth + stockToLeave) * 1000)) == 1);
    long above = std::lround(setup.blank.thickness * 1000);
    for (auto z = levels.rbegin(); z != levels.rend(); ++z) {
        CHECK(above - *z <= std::lround(b.feeds.depthPerPass * 1000));
        above = *z;
    }
}

TEST_CASE("Conventional roughing turns the loops round", "[neck][cut]") {
    const Bench climb;
    const Bench other({{"neck_cut.climb", "no"}});
    const auto turn = [](const Bench& b) { // twice the area the level moves go round, by sign
        double twice = 0;
        for (const Move& m :
             roughPath(b.on(*b.neck.held.back), {}, b.bit("flat-6"), b.feeds, 7.2)) {
            if (m.cuts() && m.from.z == m.to.z) {
                twice += cross(m.from.xy(), m.to.xy());
            }
        }
        return twice;
    };
    CHECK(turn(climb) * turn(other) < 0);
}

TEST_CASE("The notch is cut half way through from both sides at one place", "[neck][cut]") {
    const Bench b;
    REQUIRE(b.neck.held.notch);
    std::vector<Vec2> ends;
    for (const Setup* s : {&b.neck.held.face, &*b.neck.held.back}) {
        const Path path = notchPath(b.on(*s), *b.neck.held.notch, b.bit("flat-6"), b.feeds);
        checkManners(path, *s);
        CHECK(lowestOf(path) == Approx(s->bottomZ() + b.neck.held.blank.thickness / 2));
        Vec2 deepest{0, -1e9};
        for (const Move& m : path) {
            const Vec3 at = s->fromInstrument.toInstrument(m.to);
            if (m.cuts() && at.y > deepest.y) {
                deepest = at.xy();
            }
        }
        ends.push_back(deepest);
    }
    CHECK(length(ends[0] - ends[1]) < 1e-9);
}

TEST_CASE("The recipe keeps a bit that can go on, and gives a reason for each", "[neck][recipe]") {
    const Bench b({{"neck.pin_frets", "2 19"}});
    const NeckPlan plan =
        planNeck(b.neck.part, b.neck.held, b.project.bits, b.project.machine, b.project.neckCut);
    CHECK_FALSE(hasStop(plan.findings));
    for (const SidePlan& side : plan.sides) {
        for (const Cut& c : side.cuts) {
            INFO(c.what);
            CHECK_THAT(c.why, Contains(c.bit.name + ":"));
            CHECK(c.why.back() == '.');
            CHECK(timeOf(c.path, b.project.machine).seconds > 0);
        }
    }
    const SidePlan& back = plan.sides[1];
    for (CutKind kind : {CutKind::rough, CutKind::notch, CutKind::holes, CutKind::outline}) {
        REQUIRE(back.cutOf(kind));
        CHECK(back.cutOf(kind)->bit.name == back.cuts.front().bit.name);
    }
    CHECK(back.cutOf(CutKind::holes)->of == FeatureKind::tuner);
    CHECK_THAT(back.cutOf(CutKind::holes)->why, Contains("in the spindle") || Contains("bores"));
    CHECK(back.cuts.back().what == "finish"); // nothing is left to cut once it is smooth
    CHECK_THAT(holesIn(plan.sides[0], FeatureKind::gluePin).why, Contains("collet of 1.5 mm"));
    // A bit set by hand is taken, with its reason.
    const Bench own({{"neck_cut.finish.bit", "ball-6"}, {"neck_cut.finish.feed", "1234"}});
    const NeckPlan second = planNeck(own.neck.part, own.neck.held, own.project.bits,
                                     own.project.machine, own.project.neckCut);
    CHECK_THAT(second.sides[1].cutOf(CutKind::finish)->why, Contains("set by hand"));
    CHECK(second.sides[1].cutOf(CutKind::finish)->feeds.feed == 1234);
    const Bench wide({{"neck_cut.finish.bit", "ball-12"}});
    const NeckPlan third = planNeck(wide.neck.part, wide.neck.held, wide.project.bits,
                                    wide.project.machine, wide.project.neckCut);
    REQUIRE(findingOf(third.findings, "no-bit"));
    CHECK_THAT(findingOf(third.findings, "no-bit")->message, Contains("below the glue plane"));
}

TEST_CASE("A wide finishing bit is taken where it saves more than its trench and change cost",
          "[neck][recipe]") {
    // With a roughing bit of 6 mm a bull-nose of 12 mm wants a wider trench, which costs more than
    // it saves; a roughing bit of 12 mm cuts that trench anyway.
    Bench b;
    const auto back = [&b] {
        return planNeck(b.neck.part, b.neck.held, b.project.bits, b.project.machine,
                        b.project.neckCut)
            .sides[1];
    };
    const auto minutes = [&b](const SidePlan& side) {
        double sum = 0;
        for (const Cut& c : side.cuts) {
            if (c.what == "rough" || c.what == "finish" || c.what == "rest") {
                sum += timeOf(c.path, b.project.machine).seconds / 60;
            }
        }
        return sum;
    };
    CHECK(back().cutOf(CutKind::finish)->bit.name == "ball-6");
    CHECK_FALSE(back().cutOf(CutKind::rest));
    Bit wide = b.bit("flat-6");
    wide.name = "flat-12";
    wide.diameter = wide.shank = 12;
    wide.fluteLength = 32;
    b.project.bits.push_back(wide);
    const SidePlan two = back();
    REQUIRE(two.cutOf(CutKind::rest));
    CHECK(two.cutOf(CutKind::rough)->bit.name == "flat-12");
    CHECK(two.cutOf(CutKind::finish)->bit.kind == BitKind::bullNose);
    CHECK(two.cutOf(CutKind::rest)->bit.name == "ball-6");
    CHECK(two.cuts.back().what == "rest");
    CHECK_THAT(two.cutOf(CutKind::finish)->why, Contains("minutes instead of"));
    b.project.neckCut.finish.bit = "ball-6";
    const SidePlan one = back();
    CHECK_FALSE(one.cutOf(CutKind::rest)); // the maker's own bit does it all
    CHECK(minutes(two) + 1.5 < minutes(one));
}
