#include "body_support.h"
#include "exchange/body_drawing.h"
#include "job/cures.h"
#include "part/body_shapes.h"
#include "part/panel_field.h"

#include <numbers>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

TEST_CASE("A body lies under its neck as the pocket says", "[body]") {
    const Derived d = drawnBody(bodyWith());
    const BodyPlace& place = d.body->part.place();
    const NeckOutline& neck = d.neck->part.outline();
    CHECK(place.neckEnd == Approx(neck.end()));
    CHECK(place.faceUnder == Approx(d.project.neck.heelDepth - 16));
    CHECK(place.bridge == Approx(d.project.board.scaleLength));
    // The heel's bottom lies on the pocket's floor.
    const Vec3 under = place.toBody({neck.end() - 20, 5, -d.project.neck.heelDepth});
    const PanelPocket& pocket = pocketNamed(*d.body->part.panel(Role::body), "neck pocket");
    CHECK(under.z == Approx(pocket.floorAt(under.x)));
}

TEST_CASE("A neck angle tilts the floor and raises the strings at the bridge", "[body]") {
    const Derived flat = drawnBody(bodyWith());
    const Derived tilted = drawnBody(bodyWith({{"neck_pocket.angle", "2"}}));
    const BodyPlace& place = tilted.body->part.place();
    const double slope = std::tan(2 * std::numbers::pi / 180);
    const PanelPocket& pocket = pocketNamed(*tilted.body->part.panel(Role::body), "neck pocket");
    CHECK(pocket.slope == Approx(slope));
    // The heel's whole underside lies in the floor's plane.
    for (double back : {5.0, 30.0, 60.0}) {
        const Vec3 p = place.toBody({place.neckEnd - back, 0, -tilted.project.neck.heelDepth});
        CHECK(p.z == Approx(pocket.floorAt(p.x)).margin(1e-9));
        const Vec3 again = place.toInstrument(p);
        CHECK(again.x == Approx(place.neckEnd - back));
        CHECK(again.z == Approx(-tilted.project.neck.heelDepth));
    }
    const double reach = tilted.project.board.scaleLength - place.neckEnd;
    CHECK(tilted.body->part.saddleHeight() - flat.body->part.saddleHeight() ==
          Approx(reach * std::sin(2 * std::numbers::pi / 180)).margin(0.1));
    CHECK(place.bridge < tilted.project.board.scaleLength); // along the body it is a little shorter
}

TEST_CASE("Pickups are centred between the strings' own lines", "[body]") {
    const Derived plain = drawnBody(bodyWith());
    for (const PickupPlace& p : plain.body->part.pickups()) {
        CHECK(p.middle.y == Approx(0).margin(1e-9));
        CHECK(p.angle == Approx(0).margin(1e-9));
    }
    const Derived fanned = drawnBody(bodyWith(
        {{"board.treble_scale", "600"}, {"board.square_fret", "7"}, {"pickup1.kind", "none"}}));
    REQUIRE(fanned.body->part.pickups().size() == 1);
    const PickupPlace& p = fanned.body->part.pickups().front();
    CHECK(p.angle < -0.05); // the treble end is nearer the nut
    // Seven strings more than six want a longer unit.
    const Derived seven =
        deriveDrawing(bodyWith({{"board.strings", "7"}, {"board.bridge_spread", "63"}}));
    REQUIRE(seven.body);
    CHECK(seven.body->part.pickups()[0].across > plain.body->part.pickups()[0].across + 5);
}

TEST_CASE("A left-handed body is the mirror of a right-handed one", "[body]") {
    const Derived right = drawnBody(bodyWith());
    const Derived left = drawnBody(bodyWith({{"board.hand", "left"}}));
    CHECK(left.body->part.volume() == Approx(right.body->part.volume()).epsilon(1e-5));
    const Contour& a = right.body->part.outline();
    const Contour& b = left.body->part.outline();
    for (const ContourPiece& p : a) {
        CHECK(distanceTo(b, {p.from.x, -p.from.y}) < 1e-6);
    }
    for (std::size_t i = 0; i < right.body->part.panel(Role::body)->holes.size(); ++i) {
        const Vec2 h = right.body->part.panel(Role::body)->holes[i].at;
        const auto& all = left.body->part.panel(Role::body)->holes;
        CHECK(std::any_of(all.begin(), all.end(), [&](const Hole& o) {
            return length(o.at - Vec2{h.x, -h.y}) < 1e-6;
        }));
    }
}

TEST_CASE("The lid is cut from the ledge's own curve, with room and magnets to match", "[body]") {
    const Derived d = drawnBody(bodyWith({{"cavity.clearance", "0.25"}, {"cavity.relief", "1"}}));
    const Panel& body = *d.body->part.panel(Role::body);
    const Panel& lid = *d.body->part.panel(Role::lid);
    const PanelPocket& ledge = pocketNamed(body, "ledge");
    for (const ContourPiece& p : lid.outline) {
        CHECK(distanceTo(ledge.borders.front(), p.at(p.length() / 2)) == Approx(0.25).margin(1e-4));
    }
    CHECK(lid.thickness() == Approx(ledge.floor - body.bottom));
    int magnets = 0;
    for (const PanelPocket& m : lid.pockets) {
        magnets += m.what == "magnet" ? 1 : 0;
    }
    CHECK(magnets == 4);
    CHECK(pocketNamed(lid, "relief").depth() == Approx(1));
    // Hole, ledge and lid fall out as three templates.
    const Drawing three = cavityTemplates(d.body->part, "t");
    CHECK(three.layers() == std::vector<std::string>{"hole", "ledge", "lid"});
}

TEST_CASE("Corners of the neck's pocket make room for the heel's", "[body]") {
    const Changes square{{"neck.heel_shape", "square"}};
    const Derived rounded = drawnBody(bodyWith(square));
    const Derived boned =
        drawnBody(bodyWith({{"neck.heel_shape", "square"}, {"neck_pocket.relief", "dogbone"}}));
    const auto tightest = [](const Derived& d) {
        return tightestHollow(
            pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders[0]);
    };
    CHECK(tightest(rounded) == Approx(3.2).margin(1e-3));
    CHECK(tightest(boned) == Approx(3.3).margin(1e-3));
    // Only the dogbones let the heel's sharp corner in.
    const auto holds = [](const Derived& d) {
        const Contour& heel = d.body->part.heel();
        Vec2 corner{0, 0};
        for (const ContourPiece& p : heel) {
            corner = p.from.x + p.from.y > corner.x + corner.y ? p.from : corner;
        }
        return insideOf(
            polygonsOf(pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders),
            corner);
    };
    CHECK_FALSE(holds(rounded));
    CHECK(holds(boned));
}

TEST_CASE("A pocket that only takes the round of a heel ends on its arcs", "[body]") {
    Project p = bodyWith({{"neck.heel_corner", "20"}, {"neck_pocket.angle", "0"}});
    const Derived whole = drawnBody(p);
    const double mouth = mouthAt(whole.body->part.outline(), whole.body->part.place().neckEnd);
    const double later = whole.body->part.place().neckEnd - 2 - mouth;
    for (ShapeNode& n : p.body.nodes) {
        n.at.x += later; // the mouth is left 2 mm before the heel's end
    }
    const Derived d = deriveDrawing(p);
    REQUIRE(d.body);
    int arcs = 0;
    const auto checkArcs = [&](const Contour& ring) {
        for (const ContourPiece& piece : ring) {
            if (piece.isArc()) {
                ++arcs;
                CHECK(length(piece.from - piece.centre) ==
                      Approx(length(piece.to - piece.centre)).margin(1e-6));
            }
        }
    };
    checkArcs(d.body->part.heel());
    checkArcs(pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders[0]);
    CHECK(arcs >= 4);
}

TEST_CASE("A body that would reach over the head is told", "[body]") {
    Project p = bodyWith();
    for (ShapeNode& n : p.body.nodes) {
        n.at.x -= n.at.x < -150 ? 500 : 0;
    }
    const Derived d = deriveDrawing(p);
    CHECK_FALSE(d.body);
    const std::optional<Finding> f = findingOf(d.findings, "body-cannot-be-drawn");
    REQUIRE(f);
    CHECK_THAT(f->message, Contains("over the head"));
}

TEST_CASE("The measured heel rules the pocket", "[body]") {
    const Derived d = drawnBody(
        bodyWith({{"neck_pocket.measured_width", "57"}, {"neck_pocket.measured_depth", "17.9"}}));
    const PanelPocket& pocket = pocketNamed(*d.body->part.panel(Role::body), "neck pocket");
    double wide = 0;
    for (const ContourPiece& p : pocket.borders[0]) {
        if (std::abs(p.from.x - d.body->part.place().neckEnd) < 12) {
            wide = std::max(wide, 2 * std::abs(p.from.y));
        }
    }
    CHECK(wide == Approx(57 + 2 * 0.08).margin(0.3));
    CHECK(d.body->part.place().faceUnder == Approx(1.9));
}

TEST_CASE("Features that cannot be are told with their place", "[body][judge]") {
    const auto said = [](const Changes& changes, const std::string& code) {
        const Derived d = deriveDrawing(bodyWith(changes));
        return findingOf(d.findings, code);
    };
    SECTION("outside the body") {
        const auto f = said({{"cavity.outline", "40 120 r12, 110 120 r12, 110 190 r12, 40 190 r12"},
                             {"cavity.controls", "auto"}},
                            "outside-body");
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
        CHECK(f->message.find("from the bridge line") != std::string::npos);
    }
    SECTION("through the face") {
        const auto f = said({{"pickup2.depth", "42"},
                             {"cavity.outline", "-60 -20 r12, -30 -20 r12, "
                                                "-30 40 r12, -60 40 r12"},
                             {"cavity.controls", "auto"}},
                            "cuts-through");
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
    }
    SECTION("the same wood twice") {
        const auto f = said({{"pickup1.from_bridge", "60"}}, "same-wood");
        REQUIRE(f);
        CHECK(f->message.find("pickup 1") != std::string::npos);
        CHECK(f->message.find("pickup 2") != std::string::npos);
    }
    SECTION("a thin roof") {
        const auto f = said({{"cavity.wood", "1.5"}}, "thin-floor");
        REQUIRE(f);
        CHECK(f->weight == Weight::caution);
        CHECK(f->value == Approx(1.5));
    }
    SECTION("a bridge out of reach") {
        const auto f =
            said({{"bridge.saddle_low", "20"}, {"bridge.saddle_high", "26"}}, "bridge-height");
        REQUIRE(f);
        CHECK(f->message.find("neck angle of") != std::string::npos);
    }
    SECTION("a pot outside its cavity") {
        REQUIRE(said({{"cavity.controls", "pot 12 20"}}, "control-outside"));
    }
    SECTION("a chamber opened from the front") {
        const auto f = said({{"body.build", "topped"},
                             {"body.chambers", "-70 -40 r10, 0 -40 r10, 0 20 r10, -70 20 r10"}},
                            "into-chamber");
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
    }
    SECTION("no neck to fit") {
        Project p = bodyWith();
        p.neck.joint = NeckJoint::none;
        CHECK(findingOf(deriveDrawing(p).findings, "no-neck"));
    }
    SECTION("a half that crosses the centreline") {
        CHECK(said({{"body.mirror", "yes"}}, "body-cannot-be-drawn"));
    }
}

TEST_CASE("Texts of a body that cannot be read change nothing", "[body][keys]") {
    const Project p = bodyWith();
    for (const auto& [key, text] : Changes{{"body.outline", "0 0 s, 4 4"},
                                           {"cavity.outline", "0 0 c, 9 9 c, 9 0 c, 0 9 c"},
                                           {"cavity.controls", "knob 3 4"},
                                           {"body.channels", "1 2 3 4 5"},
                                           {"body.straps", "1"},
                                           {"body.wood", "basalt"},
                                           {"body.thickness", "300"}}) {
        INFO(key);
        CHECK_THROWS_AS(withKey(p, key, text), Error);
    }
    // And a file gives them back.
    const Project again = projectFromText(projectToText(p), "test");
    CHECK(again == p);
}

TEST_CASE("Volume by cells and by areas agree", "[body]") {
    Project p = bodyWith({{"pickup1.kind", "none"},
                          {"pickup2.kind", "none"},
                          {"cavity.outline", "auto"},
                          {"cavity.controls", "auto"},
                          {"bridge.kind", "fixed"},
                          {"bridge.screws", "0"},
                          {"neck.bolts", "0"}});
    const Derived d = drawnBody(p);
    const double plank = areaOf(d.body->part.outline()) * d.body->part.thickness();
    const PanelField field = PanelField::over(*d.body->part.panel(Role::body), 0.25);
    double pocket = 0;
    for (std::size_t i = 0; i < field.front.size(); ++i) {
        pocket += field.in(i) && field.frontBy[i] >= 0 ? 0.0625 * 16 : 0;
    }
    CHECK(d.body->part.volume() == Approx(plank - pocket).epsilon(2e-4));
}

TEST_CASE("What a top has too much is surfaced off once it is glued", "[body]") {
    const Derived d =
        drawnBody(bodyWith({{"body.build", "topped"}, {"body_blank.top_thickness", "3/8 in"}}));
    CHECK(d.job(Role::top)->held.face.faced == 0);
    CHECK(d.job(Role::body)->held.face.faced == Approx(9.525 - 8));
}

TEST_CASE("A neck that has not changed is taken over as it was drawn", "[body]") {
    const Project p = bodyWith();
    const Derived before = deriveDrawing(p);
    const Project moved = withKey(p, "pickup1.from_bridge", "150");
    const Derived fresh = deriveDrawing(moved);
    const Derived taken = deriveDrawing(moved, &before);
    REQUIRE(taken.neck);
    CHECK(taken.neck->volume == fresh.neck->volume);
    CHECK(taken.job(Role::neck)->placed == fresh.job(Role::neck)->placed);
    REQUIRE(taken.findings.size() == fresh.findings.size());
    for (std::size_t i = 0; i < fresh.findings.size(); ++i) {
        CHECK(taken.findings[i].message == fresh.findings[i].message);
    }
    // Another neck is drawn anew.
    const Project other = withKey(p, "neck.heel_depth", "20");
    CHECK(deriveDrawing(other, &before).neck->volume == Approx(deriveDrawing(other).neck->volume));
    CHECK(deriveDrawing(other, &before).neck->volume != before.neck->volume);
}

TEST_CASE("A pickup that comes up from behind through the neck's pocket is told while it is drawn",
          "[body]") {
    for (const char* mount : {"front", "back"}) {
        const Derived d = deriveDrawing(
            bodyWith({{"body.pickups.0.from_bridge", "175"}, {"body.pickups.0.mount", mount}}));
        const auto it = std::find_if(d.findings.begin(), d.findings.end(), [](const Finding& f) {
            return f.code == "same-wood" && f.feature.kind == FeatureKind::pickup;
        });
        INFO(mount);
        REQUIRE(it != d.findings.end());
        CHECK(it->message.find("the neck pocket and pickup 1 claim the same wood") !=
              std::string::npos);
    }
}

TEST_CASE("Fits make room for the finish on both of their faces", "[body]") {
    const auto widthOf = [](const Changes& changes) {
        const Derived d = drawnBody(bodyWith(changes));
        const auto box =
            boxOf(pocketNamed(*d.body->part.panel(Role::body), "neck pocket").borders.front());
        return box[1].y - box[0].y;
    };
    CHECK(widthOf({{"finish.film", "0.12"}}) - widthOf({}) == Approx(4 * 0.12).margin(1e-3));
    const Project p = bodyWith({{"finish.film", "0.1"}, {"cavity.clearance", "0.2"}});
    const Derived d = drawnBody(p);
    const auto f = findingOf(d.findings, "tight-lid");
    REQUIRE(f);
    CHECK(f->limit == Approx(0.3));
    const std::vector<Cure> cures = curesFor(d, *f);
    REQUIRE(cures.size() == 1);
    CHECK_FALSE(findingOf(drawnBody(cured(p, cures[0])).findings, "tight-lid"));
}
