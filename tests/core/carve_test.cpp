#include "cut/carve_paths.h"
#include "geom/inset.h"
#include "panel_support.h"

#include <numbers>
#include <random>

using namespace wren;
using namespace wren::test;
using std::numbers::pi;

namespace {

/// A plank whose front is rounded or chamfered, arched and sloped as asked.
Plank carvedPlank(const EdgeProfile& front, std::vector<SlopeLine> slopes = {},
                  const EdgeProfile& back = {}) {
    Plank plank;
    plank.panel.frontFall = FaceFall(plank.panel.outline, front, std::move(slopes));
    plank.panel.backFall = FaceFall(plank.panel.outline, back, {});
    plank.lay();
    return plank;
}

SlopeLine arm(double degrees = 12, double blend = 30) {
    return {{-20, -15}, unit(Vec2{-0.6, -1}), std::tan(degrees * pi / 180), blend, 0, {}};
}

/// Within a circle about a place outside the plank.
SlopeLine hollow() {
    return {{0, 22}, {0, 1}, std::tan(14 * pi / 180), 40, 70, {0, 92}};
}

const Cut& cutOf(const PanelPlan& plan, std::size_t side, CutKind kind) {
    const Cut* cut = plan.sides[side].cutOf(kind);
    REQUIRE(cut);
    return *cut;
}

/// How far the ball's way stays off points of the surface: least and most over many of them, from
/// the path's own pieces alone.
std::pair<double, double> offSurface(const Plank& plank, const Cut& cut, bool back, double inset) {
    const Panel& panel = plank.panel;
    const Setup& setup = back ? *plank.held.back : plank.held.face;
    const FaceFall& fall = panel.fall(back);
    const double r = cut.bit.radius();
    struct Piece {
        Vec3 a, b;
    };
    std::vector<Piece> pieces;
    for (const Move& m : cut.path) {
        const int parts = chordsFor(m, 0.0003);
        Vec3 from = m.from;
        for (int i = 1; m.cuts() && i <= parts; ++i) {
            const Vec3 to = m.at(double(i) / parts);
            pieces.push_back({from, to});
            from = to;
        }
    }
    REQUIRE(pieces.size() > 100);
    std::mt19937 random(7);
    std::uniform_real_distribution<double> x(-60, 60);
    std::uniform_real_distribution<double> y(-40, 40);
    const std::vector<Vec2> outline = pointsOf(panel.outline, 0.002);
    double least = 1e9;
    double most = -1e9;
    for (int n = 0; n < 400;) {
        const Vec2 p{x(random), y(random)};
        if (!inside(outline, p) || fall.drop(p) < 1e-3 || distanceTo(panel.outline, p) < inset) {
            continue;
        }
        ++n;
        const double z = back ? panel.bottom + fall.drop(p) : panel.top - fall.drop(p);
        const Vec3 at = setup.fromInstrument.toSetup({p.x, p.y, z});
        double off = 1e9;
        for (const Piece& q : pieces) {
            const Vec3 a = q.a + Vec3{0, 0, r};
            const Vec3 way = q.b - q.a;
            const double whole = dot(way, way);
            const double t = whole > 0 ? std::clamp(dot(at - a, way) / whole, 0.0, 1.0) : 0;
            const Vec3 d = at - (a + way * t);
            off = std::min(off, std::sqrt(dot(d, d)) - r);
        }
        least = std::min(least, off);
        most = std::max(most, off);
    }
    return {least, most};
}

/// The plan carves a face so that the ball stays off the surface, and by no more than its ridge and
/// a little (`more`).
void checkTouches(const Plank& plank, bool back, double more) {
    const PanelPlan plan = plank.plan();
    REQUIRE(plan.findings.empty());
    const auto [least, most] =
        offSurface(plank, cutOf(plan, back ? 1 : 0, CutKind::carving), back, 0.02);
    CHECK(least > -0.005);
    CHECK(most < plank.cut.carveScallop + more);
}

} // namespace

TEST_CASE("Distances to an edge agree with the plain way of asking, within reach", "[carve]") {
    const Contour outline = shapeOutline(Body::bodyShape("fell"));
    const EdgeDistance edge(outline, 25);
    std::mt19937 random(3);
    std::uniform_real_distribution<double> x(-340, 150);
    std::uniform_real_distribution<double> y(-200, 200);
    for (int i = 0; i < 3000; ++i) {
        const Vec2 p{x(random), y(random)};
        const double plain = distanceTo(outline, p);
        CHECK(edge.at(p) == Approx(std::min(25.0, plain)).margin(1e-9));
        if (plain < 24.9) {
            CHECK(length(edge.foot(p) - p) == Approx(plain).margin(1e-9));
        }
    }
}

TEST_CASE("A rounding is a quarter of a circle, a chamfer a straight fall", "[carve]") {
    const EdgeProfile round = EdgeProfile::round(6);
    for (double d = 0; d < 6; d += 0.25) { // on the circle about (6, -6)
        CHECK(std::hypot(d - 6, 6 - round.drop(d)) == Approx(6));
    }
    CHECK(round.drop(6) == 0);
    CHECK(round.normal(0).x == Approx(1));
    CHECK(round.normal(6).y == Approx(1));
    const EdgeProfile chamfer = EdgeProfile::chamfer(4);
    CHECK(chamfer.drop(0) == 4);
    CHECK(chamfer.drop(3) == 1);
    CHECK(chamfer.normal(2).x == Approx(std::sqrt(0.5)));
    CHECK(chamfer.drop(5) == 0);
}

TEST_CASE("Normals are square to what the heights say, arch and slopes included", "[carve]") {
    const EdgeProfile edge = EdgeProfile::round(5).withArch(8, 30);
    constexpr double h = 1e-5;
    for (double d = 0.3; d < 29.5; d += 0.37) {
        const double fall = (edge.drop(d - h) - edge.drop(d + h)) / (2 * h);
        CHECK(edge.normal(d).x / edge.normal(d).y == Approx(fall).margin(1e-4));
        CHECK(edge.drop(edge.inTo(edge.drop(d))) == Approx(edge.drop(d)));
    }
    CHECK(edge.inTo(14) < 0); // 13 mm is all it falls
    const SlopeLine s = arm(15, 40);
    CHECK(s.drop(s.begins() - 1) == 0);
    for (double b = s.begins() + 0.01; b < 60; b += 0.7) {
        CHECK((s.drop(b + h) - s.drop(b - h)) / (2 * h) == Approx(s.gradientAt(b)).margin(1e-4));
        CHECK(s.beyondFor(s.drop(b)) == Approx(b).margin(1e-6));
    }
    const Plank plank = carvedPlank(EdgeProfile::round(5).withArch(4, 25), {arm(), hollow()});
    const FaceFall& fall = plank.panel.frontFall;
    for (Vec2 p : {Vec2{-50, -20}, Vec2{-30, -36}, Vec2{10, 30}, Vec2{55, 3}, Vec2{0, 0}}) {
        const Vec2 g{(fall.drop(p + Vec2{h, 0}) - fall.drop(p - Vec2{h, 0})) / (2 * h),
                     (fall.drop(p + Vec2{0, h}) - fall.drop(p - Vec2{0, h})) / (2 * h)};
        CHECK(fall.upright(p) == Approx(1 / std::sqrt(1 + dot(g, g))).margin(1e-5));
    }
}

TEST_CASE("Between two lines along a rounding the ridge is no higher than asked", "[carve]") {
    for (double r : {1.5, 3.0, 6.0}) {
        const double ridge = 0.02;
        const EdgeProfile edge = EdgeProfile::round(6);
        const std::vector<double> places = edge.places(ridge, r);
        REQUIRE(places.size() > 4);
        CHECK(places.front() == 6);
        CHECK(places.back() == 0);
        for (std::size_t i = 1; i < places.size(); ++i) {
            // Two balls on a circle of 6: they cross over the middle between their contacts.
            const double a = std::acos(std::clamp((6 - places[i - 1]) / 6, -1.0, 1.0));
            const double b = std::acos(std::clamp((6 - places[i]) / 6, -1.0, 1.0));
            const double half = std::abs(a - b) / 2;
            const double off = (6 + r) * std::cos(half) -
                               std::sqrt(r * r - std::pow((6 + r) * std::sin(half), 2)) - 6;
            CHECK(off < ridge * 1.02);
        }
    }
}

TEST_CASE("The ball touches edges, arch and slopes from outside and leaves its ridge",
          "[carve][long]") {
    struct Case {
        const char* name;
        EdgeProfile edge;
        std::vector<SlopeLine> slopes;
    };
    const std::vector<Case> cases{
        {"round", EdgeProfile::round(6), {}},
        {"chamfer", EdgeProfile::chamfer(4), {}},
        {"slope beside a square edge", EdgeProfile(), {arm()}},
        {"slope with a crease", EdgeProfile(), {arm(15, 1)}},
        {"hollow", EdgeProfile(), {hollow()}},
        {"round over a hollow", EdgeProfile::round(4), {hollow()}},
        {"round over a slope", EdgeProfile::round(5), {arm()}},
        {"arch", EdgeProfile().withArch(5, 30), {}},
        {"chamfer over an arch", EdgeProfile::chamfer(2.5).withArch(4, 35), {}},
        {"round over an arch and two slopes",
         EdgeProfile::round(4).withArch(3, 25),
         {arm(), {{25, 0}, {1, 0}, 0.15, 20, 0, {}}}}};
    for (const Case& c : cases) {
        INFO(c.name);
        checkTouches(carvedPlank(c.edge, c.slopes), false, 0.006);
    }
}

TEST_CASE("Over the crests from sharp corners the ball rolls without digging in", "[carve]") {
    for (const EdgeProfile& edge :
         {EdgeProfile::round(6), EdgeProfile::chamfer(4), EdgeProfile().withArch(6, 30),
          EdgeProfile::round(3).withArch(4, 25)}) {
        Plank plank;
        plank.panel.outline =
            shapeOutline(shapeNodes("-58 -38 c, 58 -30 c, 20 38 c, -40 38 r6, -58 10 c"));
        plank.panel.frontFall = FaceFall(plank.panel.outline, edge, {});
        plank.lay();
        checkTouches(plank, false, 0.02);
    }
}

TEST_CASE("The back is carved from behind as the front is from the front", "[carve]") {
    Plank plank;
    plank.panel.backFall = FaceFall(plank.panel.outline, EdgeProfile::round(6), {arm()});
    plank.lay();
    REQUIRE(plank.held.back);
    CHECK_FALSE(plank.plan().sides[0].cutOf(CutKind::carving));
    checkTouches(plank, true, 0.006);
}

TEST_CASE("Carving comes after all that wants the flat, the outline last", "[carve]") {
    Plank plank = carvedPlank(EdgeProfile::round(5), {}, EdgeProfile::round(5));
    plank.panel.holes.push_back({"screw", {20, 10}, 4, 0, -10, false, false});
    plank.panel.holes.push_back({"screw", {20, -10}, 4, -20, -12, true, false});
    plank.lay();
    const PanelPlan plan = plank.plan();
    for (const SidePlan& side : plan.sides) {
        std::vector<std::string> names;
        for (const Cut& c : side.cuts) {
            names.push_back(c.what);
        }
        const auto at = [&](const std::string& what) {
            return std::find(names.begin(), names.end(), what) - names.begin();
        };
        CHECK(at("screws") < at("rough"));
        CHECK(at("rough") < at("carving"));
        if (&side == &plan.sides[1]) {
            CHECK(at("carving") < at("outline"));
            CHECK(names.back() == "outline");
        }
    }
    CHECK(plan.carvedBy[0] == cutOf(plan, 0, CutKind::carving).bit.radius());
}

TEST_CASE("A carved plank is proved from its posted programs, tabs under the rounding", "[carve]") {
    Plank plank = carvedPlank(EdgeProfile::round(5), {arm(10, 40)}, EdgeProfile::chamfer(3));
    plank.panel.bottom = -30;
    plank.panel.frontFall =
        FaceFall(plank.panel.outline, EdgeProfile::round(5), {arm(10, 40), hollow()});
    plank.lay();
    const PanelPlan plan = plank.plan();
    REQUIRE(plan.findings.empty());
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
    CHECK(proof.sides[0].gougeMax < 0.006);
    CHECK(proof.sides[0].excessMax < plank.cut.carveScallop + 0.005);
    for (const PanelTab& tab : plan.tabs) { // edge, ball and a little more
        CHECK(tab.under > 8);
        CHECK(tab.under == Approx(carveTrench(plank.panel.frontFall, tab.at, plan.carvedBy[0])));
    }

    SECTION("too deep by 0.05") {
        PanelPlan spoilt = plan;
        for (Cut& c : spoilt.sides[0].cuts) {
            for (Move& m : c.path) {
                const double by = c.what == "carving" ? 0.05 : 0;
                m.from.z -= by;
                m.to.z -= by;
            }
        }
        CHECK(stopsOf(plank.proof(spoilt)).find("gouge") != std::string::npos);
    }
    SECTION("shifted sideways by 0.1: the steep of the edge shows it") {
        PanelPlan spoilt = plan;
        for (Cut& c : spoilt.sides[0].cuts) {
            for (Move& m : c.path) {
                const double by = c.what == "carving" ? 0.1 : 0;
                m.from.y += by;
                m.to.y += by;
                m.centre.y += by;
            }
        }
        CHECK(stopsOf(plank.proof(spoilt)).find("edge: ") != std::string::npos);
    }
    SECTION("without the last lines the edge is left standing") {
        PanelPlan spoilt = plan;
        for (Cut& c : spoilt.sides[0].cuts) {
            if (c.what == "carving") {
                c.path.resize(c.path.size() * 4 / 5);
            }
        }
        CHECK_FALSE(plank.proof(spoilt).passed());
    }
    SECTION("tabs on the bed would tie nothing") {
        PanelPlan spoilt = plank.plan();
        const PanelWork work{plank.panel, *plank.held.back, plank.cut, 0};
        std::vector<PanelTab> low = spoilt.tabs;
        for (PanelTab& t : low) {
            t.under = 0;
        }
        for (Cut& c : spoilt.sides[1].cuts) {
            if (c.what == "outline") {
                c.path = panelOutlinePath(work, low, c.bit, c.feeds, EdgeShare::whole);
            }
        }
        CHECK(stopsOf(plank.proof(spoilt)).find("part-free") != std::string::npos);
    }
}

TEST_CASE("A hollow no ball rolls in is refused with both radii", "[carve]") {
    Plank plank;
    plank.panel.outline =
        shapeOutline(shapeNodes("-60 -40 r10, 60 -40 r10, 60 40 r10, 1 40 c, 0 10 c, -1 40 c, "
                                "-60 40 r10"));
    plank.panel.frontFall = FaceFall(plank.panel.outline, EdgeProfile::round(4), {});
    plank.lay();
    const auto f = findingOf(plank.plan().findings, "no-bit");
    REQUIRE(f);
    CHECK(f->message.find("does not roll in a hollow") != std::string::npos);
}

TEST_CASE("An outside that is sawn leaves its pins on ears and a skim to the router",
          "[panel][saw]") {
    Plank plank;
    plank.panel.holes.push_back({"screw", {20, -10}, 4, -20, -12, true, false}); // has a back
    BodyBlank wood;
    wood.outside = OutsideBy::saw;
    TurnHold hold;
    hold.zFace = ZZero::bed;
    hold.by = Register::pins;
    plank.held = layPanel(plank.panel, plank.panel.box(), wood, hold, plank.machine);
    plank.held.drillPins = true;
    REQUIRE(plank.held.sawn);
    REQUIRE(plank.held.sawn->ears.size() == 2);
    const SawnOutside& sawn = *plank.held.sawn;
    CHECK(sawn.keeps({0, 42}, 2));
    CHECK_FALSE(sawn.keeps({0, 50}, 10));
    CHECK(sawn.keeps(plank.held.pins[0].at, 30));

    const PanelPlan plan = plank.plan();
    REQUIRE(plan.findings.empty());
    // A groove on the face, nothing through; the saw's step stands before the back's first cut.
    const Cut& guide = cutOf(plan, 0, CutKind::guide);
    CHECK_FALSE(plan.sides[0].cutOf(CutKind::outline));
    double low = 1e9;
    for (const Move& m : guide.path) {
        low = std::min(low, m.to.z);
    }
    CHECK(low == Approx(plank.held.face.topZ() - plank.held.face.faced - 3));
    CHECK(plan.sides[1].cuts.front().handBefore.find("sawn 3.0 mm off") != std::string::npos);
    CHECK_FALSE(plan.sharedOutline);

    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
    // Off the ears nothing stands further out than the saw left; on them the pins' wood does.
    const Setup& back = *plank.held.back;
    const auto woodAt = [&](Vec2 p) {
        const Vec2 s = back.fromInstrument.toSetup({p.x, p.y, 0}).xy();
        const int c = static_cast<int>(std::lround(proof.stock->column(s.x)));
        const int r = static_cast<int>(std::lround(proof.stock->row(s.y)));
        return proof.stock->high(c, r) - proof.stock->low(c, r);
    };
    CHECK(woodAt({0, 48}) <= 0);
    CHECK(woodAt({0, -48}) <= 0);
    for (const SawnEar& e : sawn.ears) {
        CHECK(woodAt((e.at + e.pin) * 0.5) > 15);
    }

    // Ears cut through on the way leave the part to nothing.
    PanelPlan spoilt = plank.plan();
    const PanelWork work{plank.panel, back, plank.cut, 0};
    for (Cut& c : spoilt.sides[1].cuts) {
        if (c.what == "outline") {
            c.path = panelOutlinePath(work, {}, c.bit, c.feeds, EdgeShare::whole);
        }
    }
    CHECK(stopsOf(plank.proof(spoilt)).find("part-free") != std::string::npos);
}
