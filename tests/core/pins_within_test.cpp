// Pins within the part, sticks for gluing, and a fixture board's own zero.
#include "body_support.h"

#include "hold/fixture_board.h"
#include "hold/panel_setup.h"
#include "geom/inset.h"
#include "hold/pins_within.h"
#include "part/gluing_sticks.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

/// A core with a glued-on top, and a back if wanted.
Project layered(const Changes& changes = {}) {
    Project p = bodyWith({{"body.build", "topped"}, {"body_blank.thickness", "36.5"}});
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

std::vector<Vec2> sticksIn(const Panel& panel) {
    std::vector<Vec2> out;
    for (const Hole& h : panel.holes) {
        if (h.what == "stick") {
            out.push_back(h.at);
        }
    }
    return out;
}

} // namespace

TEST_CASE("Pins within a body stand in whole wood, and fit one way only", "[pins][long]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Project p = bodyWith({{"body_hold.pins_in", "part"}, {"body_hold.turn", turn}});
        const Derived d = deriveOnly(p, Role::body);
        const PartJob& job = *d.job(Role::body);
        REQUIRE((job.placed && job.proof));
        CHECK(stopsOf(*job.proof).empty());
        CHECK(findingOf(d.findings, "pins-within"));
        REQUIRE(job.held.pins.size() == 2);
        const Vec2 a = job.held.pins[0].at, b = job.held.pins[1].at;
        const Setup& face = job.held.face;
        const Setup& back = *job.held.back;
        const auto lies = [](const Setup& s, Vec2 v) {
            return s.fromInstrument.toSetup({v.x, v.y, 0}).xy();
        };
        // Turned over, the same two pins of the bed take the same holes; turned the wrong way one
        // of them stands off by the unevenness at least.
        const bool side = std::string(turn) == "side-for-side";
        const Vec2 same = side ? lies(back, a) : lies(back, b);
        CHECK(length(lies(face, a) - same) < 1e-9);
        const Vec2 size{face.blank.length, face.blank.width};
        const Vec2 wrong = size - lies(face, a); // laid in half a turn round
        CHECK(std::min(length(wrong - lies(face, a)), length(wrong - lies(face, b))) >=
              p.bodyHold.pinUneven - 1e-9);
        // Whole wood for 5 mm round them: looked at place by place.
        const Panel plain = *d.body->part.panel(Role::body);
        for (Vec2 pin : {a, b}) {
            for (double r = 0; r <= 5 + 3; r += 0.5) {
                for (double t = 0; t < 6.28; t += 0.2) {
                    const Vec2 at = pin + Vec2{std::cos(t), std::sin(t)} * r;
                    CHECK(insideOf({pointsOf(plain.outline, 0.05)}, at));
                    for (const PanelPocket& k : plain.pockets) {
                        CHECK_FALSE(insideOf(polygonsOf(k.borders), at));
                    }
                }
            }
        }
        // The waste carries none, so the blank ends nearer to the part.
        const Derived waste = deriveDrawing(withKey(p, "body_hold.pins_in", "waste"));
        CHECK(job.held.blank.length <= waste.job(Role::body)->held.blank.length);
    }
    // A body that is a pocket all over has no wood for them; that is said, and stops it.
    const Derived drawn = deriveDrawing(bodyWith({{"body_hold.pins_in", "part"}}));
    Panel hollow = *drawn.body->part.panel(Role::body);
    PanelPocket all = hollow.pockets.front();
    all.borders = {counterClockwise(hollow.outline)};
    hollow.pockets.push_back(all);
    const TurnHold& hold = drawn.project.bodyHold;
    CHECK(pinsWithin({&hollow}, hold, hollow.box()).empty());
    Held held = drawn.job(Role::body)->held;
    held.pins.clear();
    const Findings found = judgePanelHold(hollow, held, {}, hold);
    REQUIRE(findingOf(found, "no-room-for-pins"));
    CHECK_FALSE(findingOf(found, "no-room-for-pins")->overridable);
}

TEST_CASE("All layers and the glued body share the pins within", "[pins][long]") {
    const Derived d = derive(layered({{"body_hold.pins_in", "part"}}));
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK((f.weight != Weight::stop || !f.part.ofBody()));
    }
    const std::vector<RegisterPin>& pins = d.job(Role::body)->held.pins;
    for (Role role : {Role::core, Role::top}) {
        const PartJob& layer = *d.job(role);
        REQUIRE(layer.held.pins.size() == 2);
        CHECK(layer.held.pins[0].at == pins[0].at);
        // Drilled in each layer, once.
        std::size_t drilled = 0;
        for (const Cut& cut : layer.plan().face().cuts) {
            drilled += cut.of == FeatureKind::registerPin ? 1 : 0;
        }
        CHECK(drilled == 1);
    }
    for (const SidePlan& side : d.job(Role::body)->plan().sides) { // whose holes are there
        for (const Cut& cut : side.cuts) {
            CHECK(cut.of != FeatureKind::registerPin);
        }
    }
}

TEST_CASE("Gluing sticks vanish with the pockets cut over them", "[pins][sticks][long]") {
    CHECK(sticksIn(*drawnBody(layered()).body->part.panel(Role::core)).empty());
    const Derived d = derive(layered({{"body.gluing_sticks", "yes"}}));
    for (const Finding& f : d.findings) {
        INFO(f.message);
        CHECK((f.weight != Weight::stop || !f.part.ofBody()));
    }
    const Panel& core = *d.body->part.panel(Role::core);
    const Panel& top = *d.body->part.panel(Role::top);
    const Panel& body = *d.body->part.panel(Role::body);
    const std::vector<Vec2> at = sticksIn(core);
    REQUIRE(at.size() == 2);
    CHECK(sticksIn(top) == at);
    CHECK(length(at[0] - at[1]) >= sticksApart);
    for (Vec2 p : at) {
        double deepest = 0; // of the pockets over it, below the seam
        for (const PanelPocket& k : body.pockets) {
            if (!k.fromBack && insideOf(polygonsOf(k.borders), p)) {
                deepest = std::max(deepest, core.top - k.floor);
            }
        }
        CHECK(deepest > stickDepth + 0.3 * stickSize); // a drill's point, common practice
    }
    // Nothing of them in the finished body: it is proved with its holes as designed.
    CHECK(sticksIn(*d.job(Role::body)->panel).empty());
    CHECK(stopsOf(*d.job(Role::body)->proof).empty());
    // Without pockets over them there are no such places.
    Panel bare = body;
    bare.pockets.clear();
    std::vector<Panel> layers{core, top};
    CHECK(addGluingSticks(layers, bare) == std::vector<PartId>{Role::top});
    CHECK(sticksIn(layers[0]).size() == 2); // no more than it had
    // A back that nothing is cut through from behind is located by its pins alone, and told so.
    Project backed = layered({{"body.gluing_sticks", "yes"}, {"body.back", "6"}});
    backed.body.cavity = {};
    backed.body.controls.clear();
    const std::optional<Finding> none = findingOf(deriveDrawing(backed).findings,
                                                  "no-place-for-sticks");
    REQUIRE(none);
    CHECK(none->part == Role::back);
    CHECK(none->weight == Weight::caution);
}

TEST_CASE("A fixture's zero hole is the zero, until the board is moved", "[pins][fixture]") {
    const Project found = bodyWith({{"neck_hold.zero_x", "123.4"}, {"neck_hold.zero_y", "56.7"}});
    const Derived d = deriveDrawing(found);
    const PartJob& neck = *d.job(Role::neck);
    for (std::size_t side = 0; side < 2; ++side) {
        const Vec2 zero = neck.held.side(side).zeroOnMachine;
        CHECK(zero.x == Approx(123.4 - zeroHoleInset));
        CHECK(zero.y == Approx(56.7 - zeroHoleInset));
    }
    // The hole itself, as the board is made, lies where the machine was told to look for it.
    const Panel board = fixtureBoard(Role::neckFixture, neck.held, 18);
    const auto hole = std::find_if(board.holes.begin(), board.holes.end(),
                                   [](const Hole& h) { return h.what == "zero hole"; });
    REQUIRE(hole != board.holes.end());
    const Vec3 lies = neck.held.face.fromInstrument.toSetup({hole->at.x, hole->at.y, 0});
    CHECK(neck.held.face.zeroOnMachine.x + lies.x == Approx(123.4));
    CHECK(neck.held.face.zeroOnMachine.y + lies.y == Approx(56.7));
    CHECK_FALSE(findingOf(d.findings, "fixture-moved"));
    const Derived moved = deriveDrawing(withKey(found, "neck_hold.fixture_moved", "yes"));
    const std::optional<Finding> f = findingOf(moved.findings, "fixture-moved");
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
    CHECK(f->part == Role::neck);
    CHECK_THAT(f->message, Contains("X 123.40 Y 56.70"));
    CHECK(findingOf(deriveDrawing(bodyWith({{"body_hold.fixture_moved", "yes"}})).findings,
                    "fixture-moved")
              ->part == Role::body);
    // By marks there is no board to be moved.
    CHECK_FALSE(findingOf(deriveDrawing(bodyWith({{"neck_hold.fixture_moved", "yes"},
                                                  {"neck_hold.register", "marks"}}))
                              .findings,
                          "fixture-moved"));
}

TEST_CASE("The frame is as wide as it is told to be", "[pins]") {
    const auto blankOf = [](const Changes& changes, Role role) {
        return deriveDrawing(bodyWith(changes)).job(role)->held.blank;
    };
    const Changes wider{{"body_blank.frame", "25"}, {"neck_blank.frame", "24"}};
    CHECK(blankOf(wider, Role::body).width == Approx(blankOf({}, Role::body).width + 30));
    CHECK(blankOf(wider, Role::neck).width == Approx(blankOf({}, Role::neck).width + 30));
}
