#include "geom/inset.h"
#include "panel_support.h"

using namespace wren;
using namespace wren::test;

namespace {

PanelPocket cutOut(std::vector<ShapeNode> nodes, bool fromBack = false) {
    PanelPocket p;
    p.what = "cut-out";
    p.cut = "cut-outs";
    p.borders = {counterClockwise(shapeOutline(nodes))};
    p.mouth = fromBack ? -20 : 0;
    p.floor = fromBack ? 0 : -20;
    p.fromBack = fromBack;
    p.through = true;
    return p;
}

double cutLength(const PanelPlan& plan) {
    double sum = 0;
    for (const SidePlan& side : plan.sides) {
        for (const Cut& c : side.cuts) {
            for (const Move& m : c.path) {
                sum += c.what == "cut-outs" && m.cuts() ? m.length() : 0;
            }
        }
    }
    return sum;
}

} // namespace

TEST_CASE("What a cut-out leaves over stays on tabs", "[panel][plug]") {
    for (bool fromBack : {false, true}) {
        INFO(fromBack);
        Plank plank({cutOut(boxShape({0, 0}, 70, 40, 8), fromBack)});
        const PanelPlan plan = plank.plan();
        REQUIRE(plan.plugs.size() == 1);
        CHECK(plan.plugs[0].tabs.size() == 2);
        for (const PanelTab& t : plan.plugs[0].tabs) { // on the wall, where it is straight
            CHECK(distanceTo(plank.panel.pockets[0].borders[0], t.at) < 1e-6);
            CHECK(
                (std::abs(std::abs(t.at.y) - 20) < 1e-6 || std::abs(std::abs(t.at.x) - 35) < 1e-6));
        }
        const PartProof proof = plank.proof(plan);
        INFO(stopsOf(proof));
        CHECK(proof.passed());
        // The plug is still there, whole, in the middle.
        const Stock& wood = *proof.stock;
        const Setup& last = plank.held.last();
        const Vec2 middle = last.fromInstrument.toSetup({0, 0, 0}).xy();
        const int c = static_cast<int>(std::lround(wood.column(middle.x)));
        const int r = static_cast<int>(std::lround(wood.row(middle.y)));
        CHECK(wood.high(c, r) - wood.low(c, r) == Approx(20).margin(1e-3));
        // Clearing it whole is several times the way.
        Plank whole = plank;
        whole.cut.plugTabs = 0;
        const PanelPlan cleared = whole.plan();
        CHECK(cleared.plugs.empty());
        CHECK(cutLength(cleared) > 2 * cutLength(plan));
        CHECK(whole.proof(cleared).passed());
    }
}

TEST_CASE("A cut-out too small for a plug is cleared", "[panel][plug]") {
    const Plank plank({cutOut(boxShape({0, 0}, 40, 22, 6))});
    const PanelPlan plan = plank.plan();
    CHECK(plan.plugs.empty());
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
}

TEST_CASE("A plug that nothing ties any more is found", "[panel][plug][proof]") {
    const Plank plank({cutOut(boxShape({0, 0}, 70, 40, 8))});
    PanelPlan plan = plank.plan();
    SECTION("tabs cut away") {
        for (Cut& c : plan.sides[0].cuts) {
            double lowest = 1e9;
            for (const Move& m : c.path) {
                lowest = std::min(lowest, m.to.z);
            }
            for (Move& m : c.path) {
                if (c.what == "cut-outs" && m.cuts() && m.to.z < 4) {
                    m.to.z = lowest;
                    m.from.z = std::min(m.from.z, m.from.z < 4 ? lowest : m.from.z);
                }
            }
        }
        CHECK(stopsOf(plank.proof(plan)).find("piece-loose") != std::string::npos);
    }
    SECTION("a trench that is not through") {
        for (Cut& c : plan.sides[0].cuts) {
            for (Move& m : c.path) {
                if (c.what == "cut-outs" && m.cuts()) {
                    m.to.z = std::max(m.to.z, 0.4);
                    m.from.z = std::max(m.from.z, 0.4);
                }
            }
        }
        CHECK(stopsOf(plank.proof(plan)).find("wood-left") != std::string::npos);
    }
}

TEST_CASE("A plug's tabs stand on what carving leaves of the far face", "[panel][plug]") {
    Plank plank({cutOut(boxShape({0, 0}, 70, 40, 8), true)});
    plank.panel.frontFall = FaceFall(plank.panel.outline, EdgeProfile().withArch(4, 35), {});
    plank.lay();
    const PanelPlan plan = plank.plan();
    REQUIRE(plan.plugs.size() == 1);
    for (const PanelTab& t : plan.plugs[0].tabs) {
        CHECK(t.under >= plank.panel.frontFall.drop(t.at));
    }
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
}

TEST_CASE("A cut-out deeper than any flutes is cut half from each face", "[panel][plug]") {
    Plank plank;
    plank.panel.bottom = -45; // more than the 42 mm of the longest bit's flutes
    PanelPocket handle = cutOut(boxShape({0, 0}, 50, 26, 6), true);
    handle.mouth = -45;
    plank.panel.pockets = {handle};
    plank.lay();
    const PanelPlan plan = plank.plan();
    CHECK(plan.findings.empty());
    REQUIRE(plan.halved.count(0) == 1);
    for (std::size_t side : {0U, 1U}) {
        const Cut* cut = plan.sides[side].cutOf(CutKind::pocket);
        REQUIRE(cut);
        double lowest = 1e9;
        for (const Move& m : cut->path) {
            lowest = std::min(lowest, m.to.z);
        }
        const Setup& setup = plan.sides[side].setup;
        const double deep = setup.topZ() - setup.faced - lowest;
        CHECK(deep == Approx(22.5 + (side == 1 ? plank.cut.through : 0)));
    }
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
    // One half left out is found.
    PanelPlan front = plan;
    front.sides[1].cuts.erase(front.sides[1].cuts.begin());
    CHECK(stopsOf(plank.proof(front)).find("cut-out") != std::string::npos);
}
