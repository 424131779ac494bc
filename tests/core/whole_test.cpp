// Where one part's numbers reach into another's: strings, neck, body, bridge and pickups.
#include "body_support.h"

#include "job/cures.h"
#include "job/features.h"
#include "job/weights.h"

#include <numbers>

using namespace wren;
using namespace wren::test;

namespace {

const Changes bridgeInRecess{
    {"pickup1.kind", "none"},
    {"pickup2.kind", "none"},
    {"body.recesses", "front 3: -20 -45 r4, 30 -45 r4, 30 45 r4, -20 45 r4"}};

std::optional<Finding> found(const Changes& changes, const std::string& code) {
    return findingOf(deriveDrawing(bodyWith(changes)).findings, code);
}

} // namespace

TEST_CASE("Under a neck angle the saddles stand where the strings reach the scale", "[whole]") {
    for (const char* angle : {"0", "1", "2.5", "4"}) {
        INFO(angle);
        const Derived d = drawnBody(bodyWith({{"neck_pocket.angle", angle}}));
        const BodyPlace& place = d.body->part.place();
        const double scale = d.project.board.scaleLength;
        // The strings' place over the bridge line, carried back into the neck's own frame.
        const double height = d.body->part.stringHeight(place.bridge);
        CHECK(place.toInstrument({place.bridge, 0, height}).x == Approx(scale).margin(1e-9));
        // By hand: along the body, less what their height over the turning edge leans back.
        const double turn = d.project.body.pocket.angle * std::numbers::pi / 180;
        const Fretboard& b = d.project.board;
        // The outer strings lie lower than the board's middle by their arc's height.
        const auto fall = [&](double x, double y) {
            const double r = faceOf(b).radiusAt(x);
            return r - std::sqrt(r * r - y * y);
        };
        const double half = b.nutSpread / 2;
        const double crown = b.thickness + b.wire.crownHeight;
        const double nut = crown + 0.5 - fall(0, half);
        const double twelfth =
            crown + d.project.body.aims.action - fall(scale / 2, (half + b.bridgeSpread / 2) / 2);
        const double over = 2 * twelfth - nut + place.faceUnder;
        CHECK(place.bridge == Approx(place.neckEnd + (scale - place.neckEnd) * std::cos(turn) -
                                     over * std::sin(turn)));
    }
    // At 2.5 degrees and ordinary heights that is half a millimetre.
    const Derived d = drawnBody(bodyWith({{"neck_pocket.angle", "2.5"}}));
    const BodyPlace& place = d.body->part.place();
    const double level =
        place.neckEnd + (d.project.board.scaleLength - place.neckEnd) * std::cos(place.angle);
    CHECK(level - place.bridge == Approx(0.5).margin(0.15));
    // A string's hole keeps its way behind its saddle.
    for (const Hole& h : d.body->part.holes()) {
        if (h.what == "string") {
            CHECK(h.at.x - place.bridge == Approx(2 + 16).margin(1e-6));
        }
    }
}

TEST_CASE("On a zero fret the strings lie on its crown", "[whole]") {
    const Derived nut = drawnBody(bodyWith());
    const Derived zero = drawnBody(bodyWith({{"board.zero_fret", "yes"}}));
    // Half a millimetre lower at the nut is as much higher at twice the way to fret 12.
    CHECK(zero.body->part.saddleHeight() - nut.body->part.saddleHeight() ==
          Approx(0.5).margin(1e-6));
    const Fretboard& b = zero.project.board;
    CHECK(stringHeightAtNut(zero.project.neck, b) == Approx(b.thickness + b.wire.crownHeight));
    const Derived strip = drawnBody(bodyWith({{"neck.accent", "1"}}));
    CHECK(strip.body->part.saddleHeight() - nut.body->part.saddleHeight() == Approx(1));
}

TEST_CASE("Every piece weighs its own wood", "[whole]") {
    const auto pieces = [](const Changes& changes) {
        Changes all{{"body.build", "topped"}, {"body.top", "8"}, {"body.back", "4"}};
        all.insert(all.end(), changes.begin(), changes.end());
        Derived d = deriveDrawing(bodyWith(all));
        d.weighed = weigh(d);
        CHECK(bodyVolume(massesOf(d)) == Approx(d.body->part.volume()));
        return massesOf(d);
    };
    const auto of = [](const std::vector<PieceMass>& all, PartId part) {
        const auto it = std::find_if(all.begin(), all.end(),
                                     [&](const PieceMass& m) { return m.part == part; });
        REQUIRE(it != all.end());
        return *it;
    };
    const std::vector<PieceMass> usual = pieces({});
    for (PartId part : {PartId(Role::board), PartId(Role::neck), PartId(Role::core),
                        PartId(Role::top), PartId(Role::back), PartId(Role::lid)}) {
        const PieceMass one = of(usual, part);
        CHECK(one.mass == Approx(one.volume / 1000 * woodById(one.wood).density()));
    }
    // Twice as thick a top is twice the wood, less what pockets take of it.
    CHECK(of(pieces({{"body.top", "16"}}), Role::top).volume ==
          Approx(2 * of(usual, Role::top).volume).epsilon(0.02));
    const std::vector<PieceMass> heavy = pieces({{"body.top_wood", "ebony"}});
    const double more = of(usual, Role::top).volume / 1000 *
                        (woodById("ebony").density() - woodById("cherry").density());
    CHECK(massOf(heavy) - massOf(usual) == Approx(more));
    CHECK(bodyMass(heavy) - bodyMass(usual) == Approx(more));
    CHECK(of(heavy, Role::core).mass == of(usual, Role::core).mass);
}

TEST_CASE("A bridge in a recess is fixed in its floor and stands as much lower", "[whole]") {
    const Derived flat = drawnBody(bodyWith());
    const Derived sunk = drawnBody(bodyWith(bridgeInRecess));
    CHECK(sunk.body->part.bridgeStandsOn() == Approx(-3));
    CHECK(sunk.body->part.saddleHeight() - flat.body->part.saddleHeight() == Approx(3));
    for (const Hole& h : sunk.body->part.panel(Role::body)->holes) {
        INFO(h.what);
        if (h.what == "bridge screw") {
            CHECK(h.mouth == Approx(-3));
            CHECK(h.floor == Approx(-3 - 16)); // as deep into its wood as before
        } else if (h.what == "string") {
            CHECK(h.mouth == Approx(-3));
        }
    }
    CHECK(stopsOf(provedPiece(sunk, Role::body)) == "");

    Changes posts = bridgeInRecess;
    posts.insert(posts.end(), {{"bridge.kind", "posts"}});
    const Derived stud = drawnBody(bodyWith(posts));
    CHECK(stud.body->part.bridgeStandsOn() == Approx(-3));
    CHECK(stopsOf(provedPiece(stud, Role::body)) == "");
    posts.push_back({"bridge.post_size", "12.7"}); // too wide to bore: cleared like a pocket
    const Derived wide = drawnBody(bodyWith(posts));
    CHECK(pocketNamed(*wide.body->part.panel(Role::body), "post").mouth == Approx(-3));
    CHECK(stopsOf(provedPiece(wide, Role::body)) == "");

    // One that holds only a part of it carries nothing, and one whose wall a screw meets is told.
    Changes narrow{{"body.recesses", "front 3: -20 -15 r4, 30 -15 r4, 30 15 r4, -20 15 r4"}};
    CHECK(deriveDrawing(bodyWith(narrow)).body->part.bridgeStandsOn() == 0);
    narrow[0].second = "front 3: -20 -30 r4, 30 -30 r4, 30 30 r4, -20 30 r4";
    CHECK(found(narrow, "same-wood"));
}

TEST_CASE("A hole in a pickup's or a recess's floor is drilled from there", "[whole]") {
    const Derived d = drawnBody(withAdded(bodyWith(bridgeInRecess), "body.holes",
                                          {{"at", "25, 36"}, {"diameter", "4"}, {"depth", "10"}}));
    const auto& holes = d.body->part.panel(Role::body)->holes;
    const auto h = std::find_if(holes.begin(), holes.end(),
                                [](const Hole& one) { return one.what == "hole"; });
    REQUIRE(h != holes.end());
    CHECK(h->mouth == Approx(-3));
    CHECK(h->floor == Approx(-10)); // below the finished face, as it was asked for
    CHECK(stopsOf(provedPiece(d, Role::body)) == "");
    // One no deeper than the recess has no wood to go into.
    const Derived air = deriveDrawing(withKey(d.project, "body.holes.0.depth", "2"));
    CHECK(findingOf(air.findings, "same-wood"));
}

TEST_CASE("A fretboard that would lie in the body is told with the pocket that lifts it out",
          "[whole]") {
    const double heel = bodyWith().neck.heelDepth;
    const std::string depth = std::to_string(heel);
    const char* flush = depth.c_str();
    CHECK_FALSE(found({{"neck_pocket.depth", flush}}, "board-in-the-body"));
    const auto f =
        found({{"neck_pocket.depth", flush}, {"neck_pocket.angle", "2.5"}}, "board-in-the-body");
    REQUIRE(f);
    const Derived d =
        deriveDrawing(bodyWith({{"neck_pocket.depth", flush}, {"neck_pocket.angle", "2.5"}}));
    // From the pocket's inner end to the body's edge, times the slope. This outline crosses the
    // centreline 256 mm before the bridge line.
    const BodyPlace& place = d.body->part.place();
    CHECK(f->value ==
          Approx((place.neckEnd - (place.bridge - 256)) * std::tan(place.angle)).margin(0.05));
    const std::vector<Cure> cures = curesFor(d, *f);
    REQUIRE(cures.size() == 1);
    CHECK_FALSE(findingOf(deriveDrawing(cured(d.project, cures[0])).findings, f->code));
}

TEST_CASE("A pickup that cannot come to the strings is told with what would do", "[whole]") {
    const auto usual = deriveDrawing(bodyWith());
    CHECK_FALSE(findingOf(usual.findings, "pickup-too-high"));
    CHECK_FALSE(findingOf(usual.findings, "pickup-too-low"));
    // Pressed at the last fret a string passes lower than an open one.
    const BodyPart& part = usual.body->part;
    for (const PickupPlace& p : part.pickups()) {
        CHECK(part.pressedHeight(p.middle.x) < part.stringHeight(p.middle.x));
    }
    CHECK(part.pressedHeight(part.place().bridge) ==
          Approx(part.stringHeight(part.place().bridge)));

    const auto high = found({{"pickup1.depth", "8"}}, "pickup-too-high");
    REQUIRE(high);
    CHECK(pathOf(high->feature) == "body.pickups.0");
    CHECK(high->value == Approx(18 - 8));
    const Derived d = deriveDrawing(bodyWith({{"pickup1.depth", "8"}}));
    const std::vector<Cure> cures = curesFor(d, *high);
    REQUIRE(cures.size() == 1);
    CHECK_FALSE(findingOf(deriveDrawing(cured(d.project, cures[0])).findings, high->code));
    CHECK(found({{"pickup1.depth", "5"}}, "pickup-too-high")->weight == Weight::stop);

    // No pocket is offered that goes through the body.
    const Derived tall = deriveDrawing(withKey(bodyWith(), "body.pickups.0.height", "60"));
    const auto over = findingOf(tall.findings, "pickup-too-high");
    REQUIRE(over);
    CHECK(over->message.find("too thin") != std::string::npos);
    CHECK(curesFor(tall, *over).empty());

    Project flat = withKey(bodyWith(), "body.pickups.1.height", "4");
    const auto low = findingOf(deriveDrawing(flat).findings, "pickup-too-low");
    REQUIRE(low);
    CHECK(pathOf(low->feature) == "body.pickups.1");
    flat = withKey(flat, "body.pickups.1.mount", "ring"); // that stands on the face
    CHECK_FALSE(findingOf(deriveDrawing(flat).findings, "pickup-too-low"));
}
