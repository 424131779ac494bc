// The instrument from the side: strings over the frets, neck angle, pocket and bridge.
#include "body_support.h"

#include "design/setup_solver.h"
#include "design/string_set.h"
#include "job/cures.h"
#include "job/setup_report.h"
#include "part/judge_edges.h"

#include <numbers>
#include <random>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using nlohmann::json;

namespace {

constexpr double degree = std::numbers::pi / 180;

SetupGeometry setupWith(const Changes& changes) {
    return setupOf(drawnBody(bodyWith(changes)));
}

std::optional<Finding> found(const Changes& changes, const std::string& code) {
    return findingOf(deriveDrawing(bodyWith(changes)).findings, code);
}

std::string refusal(const Project& p, const SetupQuestion& q) {
    try {
        solveSetup(p, q);
    } catch (const Error& e) {
        return e.what();
    }
    return {};
}

/// A saddle's height over the face by one triangle, worked apart from the product: the neck turns
/// by the angle about the place where the heel's end meets the body's face.
double byTriangle(const SetupGeometry& g, double heel) {
    const double s = std::sin(g.angle * degree);
    const double c = std::cos(g.angle * degree);
    const double along = g.bridgeFromNut - g.heelEnd;
    // The heel's bottom lies on the pocket's floor: at the heel's end the floor is so deep, square
    // to the face, and the glue plane a leaning heel's thickness over it.
    const double glue = heel / c - g.pocketInner;
    return along * s + (g.middleOverGlue + glue * c) * c;
}

} // namespace

TEST_CASE("Saddle height, neck angle and pocket are one triangle", "[setup]") {
    for (const Changes& changes : std::vector<Changes>{
             {},
             {{"neck_pocket.angle", "2.5"}},
             {{"neck_pocket.angle", "-1.5"}, {"neck_pocket.depth", "14"}},
             {{"neck_pocket.angle", "4"}, {"neck_pocket.measured_depth", "18.37"}}}) {
        const Project p = bodyWith(changes);
        const SetupGeometry g = setupOf(drawnBody(p));
        const double heel = p.body.pocket.measuredDepth.value_or(p.neck.heelDepth);
        CHECK(g.middleSaddle == Approx(byTriangle(g, heel)).margin(1e-9));
        CHECK(g.proud + g.pocketInner == Approx(heel / std::cos(g.angle * degree)));
        // Toward the mouth the floor goes down and the glue plane with it.
        const double run = g.heelEnd - g.mouth;
        CHECK(run > 20);
        CHECK(g.pocketOuter - g.pocketInner == Approx(run * std::tan(g.angle * degree)));
        CHECK(g.proud - g.proudOuter == Approx(run * std::tan(g.angle * degree)));
        // What is cut is what is said.
        const Derived d = drawnBody(p);
        const PanelPocket& pocket = pocketNamed(*d.body->part.panel(Role::body), "neck pocket");
        CHECK(pocket.floorAt(g.heelEnd) == Approx(-g.pocketInner));
        CHECK(pocket.floorAt(g.mouth) == Approx(-g.pocketOuter));
        // The middle is the middle of the outer strings, where they reach their scale.
        const std::vector<StringSide> sides = stringSides(p.neck, p.board, p.body.aims);
        CHECK(g.middleOverGlue == Approx((sides.front().atSaddle() + sides.back().atSaddle()) / 2));
    }
}

TEST_CASE("Every string lies over its frets as it was asked to", "[setup]") {
    SECTION("action, bass and treble apart") {
        const SetupGeometry g = setupWith(
            {{"body.action", "2"}, {"setup.action_treble", "1.4"}, {"setup.relief", "0.25"}});
        REQUIRE(g.strings.size() == 6);
        CHECK(g.strings.front().number == 6);
        CHECK(g.strings.back().number == 1);
        CHECK(g.strings.front().overFret12 == Approx(2));
        CHECK(g.strings.back().overFret12 == Approx(1.4));
        CHECK(g.strings[2].overFret12 == Approx(2 - 0.6 * 2 / 5));
        for (const StringSetup& s : g.strings) {
            CHECK(s.overFret1 > 0.4);
            CHECK(s.overFret1 < s.overFret12);
            CHECK(s.overNut == Approx(1.1 + 0.5)); // a crown and the air over it
        }
    }
    SECTION("relief lowers what lies under their middle") {
        const Project p = bodyWith({{"setup.relief", "0.3"}});
        const StringSide bowed(p.neck, p.board, p.body.aims, 0);
        StringAims straight = p.body.aims;
        straight.relief = 0;
        const StringSide level(p.neck, p.board, straight, 0);
        // Half way to the last fret by a parabola the whole of it.
        const double last = Fan::share(p.board.frets);
        const double fret = 12 * std::log2(1 / (1 - last / 2));
        const int n = static_cast<int>(std::lround(fret));
        CHECK(level.crown(n) - bowed.crown(n) == Approx(0.3).epsilon(0.02));
        CHECK(level.crown(p.board.frets) == Approx(bowed.crown(p.board.frets)));
        CHECK(bowed.overFret(12) == Approx(1.6));
        CHECK(bowed.overFret(p.board.frets) < level.overFret(p.board.frets));
    }
    SECTION("flat on the crowns") {
        const Project p =
            bodyWith({{"setup.school", "flat-on-frets"}, {"board.far_radius", "420"}});
        for (const StringSide& s : stringSides(p.neck, p.board, p.body.aims)) {
            for (int fret = 1; fret <= p.board.frets; ++fret) {
                // Strings keep their spread, a cone's straight lines do not.
                CHECK(s.overFret(fret) == Approx(0).margin(0.0005));
            }
        }
    }
    SECTION("on a cylinder the outer strings lie lower by their arc's height") {
        const Project p = bodyWith({{"board.radius", "250"}, {"board.far_radius", "auto"}});
        const std::vector<StringSide> sides = stringSides(p.neck, p.board, p.body.aims);
        const auto fall = [](double y) { return 250 - std::sqrt(250 * 250 - y * y); };
        const double nut = p.board.nutSpread / 2;
        const double twelfth = (nut + p.board.bridgeSpread / 2) / 2;
        const StringSide middle(p.neck, p.board, p.body.aims, 0);
        CHECK(middle.atNut() - sides[0].atNut() == Approx(fall(nut)));
        CHECK(middle.crown(12) - sides[0].crown(12) == Approx(fall(twelfth)));
        // So a straight string comes down by twice the one less the other.
        CHECK(middle.atSaddle() - sides[0].atSaddle() == Approx(2 * fall(twelfth) - fall(nut)));
    }
}

TEST_CASE("What is solved brings odd instruments' strings to the bridge", "[setup]") {
    std::mt19937 random(7);
    const auto any = [&](const std::vector<const char*>& some) {
        return some[random() % some.size()];
    };
    int served = 0;
    for (int i = 0; i < 24; ++i) {
        const Project p = bodyWith({{"board.hand", any({"left", "right"})},
                                    {"board.radius", any({"184", "300", "500"})},
                                    {"board.zero_fret", any({"yes", "no"})},
                                    {"neck.accent", any({"0", "1.5"})},
                                    {"setup.school", any({"wanted-action", "flat-on-frets"})},
                                    {"neck_pocket.depth", any({"9", "13.2", "16"})},
                                    {"neck_pocket.angle", any({"0", "1.1", "3"})},
                                    {"bridge.saddle_low", any({"8", "11", "15"})},
                                    {"bridge.saddle_high", "21"}});
        for (const char* of : {"angle", "pocket", "proud"}) {
            SetupAnswer answer;
            try {
                answer = solveSetup(p, {of, {}, {}, {}});
            } catch (const Error&) {
                continue; // out of reach, said with its numbers
            }
            INFO(i << " " << of);
            ++served;
            const SetupGeometry g = setupOf(deriveDrawing(answer.project));
            CHECK(g.middleSaddle == Approx(saddleAim(p.body)).margin(1e-6));
            if (std::string(of) != "angle") {
                CHECK(g.angle == p.body.pocket.angle);
            } else {
                CHECK(g.pocketInner == p.body.pocket.depth);
            }
        }
    }
    CHECK(served > 30);
}

TEST_CASE("Given numbers are kept, and too many of them refused", "[setup]") {
    const Project p = bodyWith({{"bridge.saddle_low", "12"}, {"bridge.saddle_high", "18"}});
    const SetupAnswer angle = solveSetup(p, {"angle", 17, {}, 3});
    const SetupGeometry g = setupOf(deriveDrawing(angle.project));
    CHECK(g.middleSaddle == Approx(17).margin(1e-6));
    CHECK(g.proud == Approx(3).margin(1e-6));
    CHECK(angle.value == Approx(g.angle).margin(1e-6));
    const SetupAnswer saddle = solveSetup(p, {"saddle", {}, 2, 2.5});
    CHECK(setupOf(deriveDrawing(saddle.project)).middleSaddle == Approx(saddle.value));
    CHECK(saddle.project.body.saddleAim == Approx(saddle.value));
    CHECK(refusal(p, {"pocket", 15, {}, 2}).find("not both") != std::string::npos);
    CHECK(refusal(p, {"angle", {}, 2, {}}).find("at once") != std::string::npos);
    CHECK(refusal(p, {"bridge", {}, {}, {}}).find("was expected") != std::string::npos);
    // What no angle serves is told with its numbers and what would do.
    const std::string steep = refusal(p, {"angle", 60, {}, {}});
    CHECK(steep.find("60.00 mm") != std::string::npos);
    CHECK(steep.find("would do") != std::string::npos);
    const std::string deep = refusal(p, {"pocket", 4, 6, {}});
    CHECK(deep.find("can be made in a body") != std::string::npos);
    CHECK(refusal(bodyWith({{"body.build", "none"}}), {"angle", {}, {}, {}}).find("no body") !=
          std::string::npos);
}

TEST_CASE("A wedge mends a pocket that is cut already", "[setup]") {
    for (const auto& [cut, aim] :
         {std::pair{0.0, 16.0}, std::pair{2.0, 9.0}, std::pair{1.0, 19.0}}) {
        INFO(cut << " " << aim);
        const Project p = bodyWith();
        const SideTriangle side(p.body, p.neck, p.board);
        const double depth = p.body.pocket.depth;
        const SideTriangle::Wedge w = side.wedgeFor(depth, cut, aim);
        // The heel lies on its floor at the thin end and on the wedge at the thick one.
        const double under =
            p.neck.heelLength * (std::tan(w.angle * degree) - std::tan(cut * degree));
        const double inner = w.atInner ? depth - w.height : depth;
        CHECK(std::abs(under) == Approx(w.height));
        CHECK((under > 0) == w.atInner);
        CHECK(side.saddleHeight(w.angle, side.proudIn(w.angle, inner)) == Approx(aim).margin(1e-6));
    }
}

TEST_CASE("What gives way follows in the same step", "[setup]") {
    const Project p = bodyWith({{"setup.gives_way", "angle"}});
    Project tall = withKey(withKey(p, "bridge.saddle_low", "14"), "bridge.saddle_high", "22");
    tall = settledAfter(p, tall);
    CHECK(tall.body.pocket.angle > 1);
    CHECK(setupOf(deriveDrawing(tall)).middleSaddle == Approx(18).margin(0.01));
    // A heel measured thinner lets the strings down; the angle makes up for it.
    const Project thin = settledAfter(tall, withKey(tall, "neck_pocket.measured_depth", "17.2"));
    CHECK(thin.body.pocket.angle > tall.body.pocket.angle);
    CHECK(setupOf(deriveDrawing(thin)).middleSaddle == Approx(18).margin(0.01));
    // Set by hand it is the maker's.
    const Project own = settledAfter(thin, withKey(thin, "neck_pocket.angle", "1"));
    CHECK(own.body.pocket.angle == 1);
    CHECK(own.body.givesWay == GivesWay::saddles);
    // Out of reach it stays, and is told.
    Project far = withKey(withKey(p, "bridge.saddle_high", "60"), "bridge.saddle_low", "40");
    far = settledAfter(p, far);
    CHECK(far.body.pocket.angle == p.body.pocket.angle);
    CHECK(findingOf(deriveDrawing(far).findings, "bridge-height"));
}

TEST_CASE("Saddles that cannot do what is asked are told", "[setup]") {
    const auto height = found(
        {{"setup.saddle_height", "auto"}, {"bridge.saddle_low", "4"}, {"bridge.saddle_high", "5"}},
        "bridge-height");
    REQUIRE(height);
    CHECK(height->feature.kind == FeatureKind::bridge);
    // The middle within reach, an outer string on a round board not.
    const SetupGeometry g = setupWith({{"board.radius", "184"}});
    const std::string low = fmt::format("{:.2f}", g.middleSaddle - 0.01);
    const std::string high = fmt::format("{:.2f}", g.middleSaddle + 0.3);
    const auto one = found({{"board.radius", "184"},
                            {"bridge.saddle_low", low.c_str()},
                            {"bridge.saddle_high", high.c_str()}},
                           "saddle-height");
    REQUIRE(one);
    CHECK(one->message.find("String ") == 0);
    CHECK(found({{"bridge.travel", "1"}}, "saddle-way"));
    CHECK_FALSE(found({{"bridge.travel", "8"}}, "saddle-way"));
    const auto held = found({{"bridge.anchor_height", "30"}}, "saddle-break");
    REQUIRE(held);
    CHECK(held->message.find("lift out of it") != std::string::npos);
    const auto flat =
        found({{"bridge.anchor_height", "9"}, {"bridge.holes_behind", "60"}}, "saddle-break");
    REQUIRE(flat);
    CHECK(flat->message.find("bends only") != std::string::npos);
    const auto turned = found({{"bridge.saddle_low", "19"}}, "saddle-range");
    REQUIRE(turned);
    CHECK_FALSE(found({{"bridge.saddle_low", "19"}}, "bridge-height"));
    CHECK_FALSE(found({{"bridge.anchor_height", "0"}}, "saddle-break"));
}

TEST_CASE("A cure brings the strings within the bridge's reach, whatever was wanted", "[setup]") {
    for (const char* gives : {"saddles", "angle", "pocket"}) {
        for (const char* wanted : {"auto", "30"}) {
            INFO(gives << " " << wanted);
            const Project p = bodyWith({{"setup.saddle_height", wanted},
                                        {"bridge.saddle_high", "19"},
                                        {"bridge.saddle_low", "16"},
                                        {"setup.gives_way", gives}});
            const Derived d = drawnBody(p);
            const auto f = findingOf(d.findings, "bridge-height");
            REQUIRE(f);
            const std::vector<Cure> cures = curesFor(d, *f);
            REQUIRE_FALSE(cures.empty());
            for (const Cure& cure : cures) {
                const Derived mended = deriveDrawing(settledAfter(p, cured(p, cure)));
                CHECK_FALSE(findingOf(mended.findings, "bridge-height"));
            }
        }
    }
    // A refusal offers what serves the height that was asked for, not another.
    const Project p = bodyWith();
    const std::string said = refusal(p, {"pocket", 26, {}, {}});
    const std::size_t at = said.find("a neck angle of ");
    REQUIRE(at != std::string::npos);
    const double angle = std::stod(said.substr(at + 16));
    const SideTriangle side(p.body, p.neck, p.board);
    CHECK(side.saddleHeight(angle, side.proudIn(angle, p.body.pocket.depth)) ==
          Approx(26).margin(0.15)); // told to a tenth of a degree
}

TEST_CASE("An edit stands while nothing can be drawn of it", "[setup]") {
    Project p = bodyWith({{"setup.gives_way", "angle"}});
    p.body.recesses.emplace_back();
    p.body.recesses.back().depth = 3;
    p.body.recesses.back().nodes.resize(2);
    p.body.recesses.back().nodes.back().at = {10, 0};
    Project edited = p;
    edited.body.bridge.saddleHigh = 22;
    Project after;
    REQUIRE_NOTHROW(after = settledAfter(p, edited));
    CHECK(after == edited);
}

TEST_CASE("Jacks and strap buttons meet an edge that has room for them", "[setup]") {
    const Project p = withKey(bodyWith(), "body.straps.1.at", "-150mm, 20mm");
    const Derived d = drawnBody(p);
    const auto off = findingOf(d.findings, "off-edge");
    REQUIRE(off);
    CHECK(off->feature == FeatureId{FeatureKind::strap, 1});
    const std::vector<Cure> cures = curesFor(d, *off);
    REQUIRE(cures.size() == 1);
    const Derived mended = deriveDrawing(cured(p, cures[0]));
    CHECK_FALSE(findingOf(mended.findings, "off-edge"));
    CHECK_FALSE(found({}, "thin-edge"));
    CHECK(found({{"body.thickness", "30"},
                 {"body.front_edge", "round"},
                 {"body.front_edge_size", "8"},
                 {"body.back_edge", "round"},
                 {"body.back_edge_size", "8"}},
                "thin-edge"));
    // Over a washer of 18.7 mm an edge of radius R stands R - sqrt(R^2 - 9.35^2) hollow.
    const auto dish = found({}, "washer-dish");
    REQUIRE(dish);
    const double radius = std::stod(dish->message.substr(dish->message.find("sits, ") + 6));
    CHECK(dish->value == Approx(radius - std::sqrt(radius * radius - 9.35 * 9.35)).epsilon(0.02));
    // A shape to start from brings them along.
    for (const char* shape : {"fell", "tarn", "scree"}) {
        INFO(shape);
        CHECK_FALSE(found({{"body.like", shape}}, "off-edge"));
    }
}

TEST_CASE("Where strings bend, by triangles", "[setup]") {
    const Changes changes{{"bridge.holes_behind", "20"}, {"bridge.anchor_height", "1.5"}};
    const Project p = bodyWith(changes);
    const Derived d = drawnBody(p);
    const SetupGeometry g = setupOf(d);
    const std::vector<StringSide> sides = stringSides(p.neck, p.board, p.body.aims);
    for (std::size_t i = 0; i < sides.size(); ++i) {
        const StringSetup& s = g.strings[i];
        const double back = 20 + 2 - s.compensation;
        const double down = std::atan((s.saddle - 1.5) / back) / degree;
        const double up = std::atan(sides[i].rise()) / degree; // no neck angle here
        CHECK(s.breakAtSaddle == Approx(down + up).margin(1e-6));
        CHECK(s.downforce == Approx(2 * std::sin(s.breakAtSaddle * degree / 2)));
        const TunerPlace& tuner = d.neck->part.tuners()[i];
        const double post = d.neck->part.face(tuner.winds.x) + tuner.postHeight;
        CHECK(
            s.breakAtNut ==
            Approx(std::atan((sides[i].atNut() - post) / length(tuner.winds - tuner.nut)) / degree -
                   up)
                .margin(1e-6));
    }
}

TEST_CASE("Saddles stand forward on the scale or behind it, never both", "[setup]") {
    const Derived behind = drawnBody(bodyWith({{"bridge.compensation", "2.5"}}));
    const Derived forward =
        drawnBody(bodyWith({{"bridge.compensation", "2.5"}, {"bridge.stands", "forward"}}));
    const auto hole = [](const Derived& d) {
        for (const Hole& h : d.body->part.holes()) {
            if (h.what == "string") {
                return h.at.x - d.body->part.place().bridge;
            }
        }
        return 0.0;
    };
    CHECK(hole(behind) == Approx(16 + 2.5));
    CHECK(hole(forward) == Approx(16 + 5)); // half of the saddles' travel, no compensation
    for (const StringSetup& s : setupOf(forward).strings) {
        CHECK(s.ahead >= -1e-9); // from the scale only back
    }
    CHECK(setupOf(forward).strings.back().ahead == Approx(0).margin(1e-9));
}

TEST_CASE("A string's own numbers say how far its saddle moves back", "[setup]") {
    // By hand: a plain 0.43 mm string, G3, 648 mm, 2 mm over fret 12. It weighs 7.85 x 0.1452 =
    // 1.140 g/m, so T = 0.001140 x (2 x 0.648 x 195.998)^2 = 73.55 N; E A = 200,000 x 0.14522 =
    // 29,044 N; moved back 29,044 x 4 / (73.55 x 648) = 2.438 mm.
    StringGauge plain;
    plain.thickness = 0.43;
    plain.note = "G3";
    CHECK(*tensionOf(plain, 648) == Approx(73.55).epsilon(0.001));
    CHECK(*stretchCompensation(plain, 648, 2) == Approx(2.438).epsilon(0.001));
    StringGauge wound = plain;
    wound.wound = true;
    CHECK_FALSE(tensionOf(wound, 648));
    wound.weight = 3.1;
    CHECK(tensionOf(wound, 648));
    CHECK_FALSE(stretchCompensation(wound, 648, 2));
    wound.core = 0.35;
    CHECK(*stretchCompensation(wound, 648, 2) < *stretchCompensation(plain, 648, 2));
    for (const char* bad : {"", "H2", "E", "E9", "E#", "e2", "E22", " 2"}) {
        INFO(bad);
        CHECK_THROWS_AS(noteFrequency(bad), Error);
    }
}

TEST_CASE("The command says, solves and writes back", "[setup][command]") {
    const Folder folder;
    const std::string file = (folder / "a.wren").string();
    saveProject(bodyWith({{"board.gauges", "1.17 0.91 0.66 0.43 0.33 0.25"},
                          {"board.gauges.5.note", "E4"},
                          {"board.gauges.0.note", "E2"},
                          {"board.gauges.0.wound", "yes"}}),
                file);
    const json g = json::parse(test::wren("geometry " + file + " --json").out);
    CHECK(g["school"] == "wanted-action");
    CHECK(g["strings"].size() == 6);
    CHECK(g["strings"][0]["string"] == 6);
    CHECK(g["strings"][0]["tension_n"].is_null());
    CHECK(g["strings"][5]["tension_n"].get<double>() > 50);
    CHECK(g["strings"][5]["saddle_high"].get<double>() > g["strings"][5]["saddle_low"]);
    CHECK(g["middle"]["saddle_height"].get<double>() ==
          Approx((g["strings"][0]["saddle_height"].get<double>() +
                  g["strings"][5]["saddle_height"].get<double>()) /
                 2)
              .margin(0.05)); // they stand a little behind the scale
    const std::string to = (folder / "b.wren").string();
    const Ran solved =
        test::wren("geometry " + file + " --solve angle --saddle 15mm --json --out " + to);
    CHECK(solved.code == 0);
    const json after = json::parse(test::wren("geometry " + to + " --json").out);
    CHECK(after["middle"]["saddle_height"].get<double>() == Approx(15).margin(1e-5));
    CHECK(after == json::parse(solved.out));
    CHECK(json::parse(test::wren("geometry " + file + " --json").out) == g); // it only said
    CHECK(test::wren("geometry " + file).out.find("neck angle") != std::string::npos);
    CHECK(test::wren("geometry " + file + " --saddle 12").code == 2);
    const Ran none = test::wren("geometry " + plainFile + " --json");
    CHECK(none.code == 1);
    CHECK(none.err.find("no body") != std::string::npos);
    // An edit on the command line settles too, and says so.
    CHECK(test::wren("set " + file + " setup.gives_way=angle").code == 0);
    const Ran edit = test::wren("set " + file + " bridge.saddle_low=15 bridge.saddle_high=21");
    CHECK(edit.out.find("The neck angle follows") != std::string::npos);
    const json settled = json::parse(test::wren("geometry " + file + " --json").out);
    CHECK(settled["middle"]["saddle_height"].get<double>() == Approx(18).margin(0.01));
}

TEST_CASE("A jack comes into the cavity and meets nothing there", "[setup]") {
    const auto told = [](const Changes& changes, const char* code) {
        return findingOf(drawnBody(bodyWith(changes)).findings, code);
    };
    // Where a line from the cavity's middle square out of the edge leaves the body.
    const Derived plain = drawnBody(bodyWith());
    const auto box = boxOf(plain.body->part.hollow());
    const Vec2 out = plain.body->part.place().fromBridge(
        nearestOn(plain.body->part.outline(), (box[0] + box[1]) * 0.5));
    const std::string beside = fmt::format("{:.3f}mm, {:.3f}mm", out.x, out.y);
    const Project p = withKey(bodyWith(), "body.jacks.0.at", beside);
    const Derived d = drawnBody(p);
    const EdgeSeat seat = edgeSeat(d.body->part, p.body.jacks[0]);
    CHECK(distanceTo(d.body->part.outline(), seat.at) < 1e-6);
    CHECK(inside(pointsOf(d.body->part.outline(), 0.05), seat.at + seat.inward * 5));
    CHECK(length(seat.inward) == Approx(1));
    CHECK(distanceTo(d.body->part.outline(), seat.at + seat.inward * 5) == Approx(5).margin(0.05));
    const auto lost = told({{"body.jacks.0.at", "-200mm, 120mm"}}, "jack-unreached");
    REQUIRE(lost);
    CHECK(lost->feature == FeatureId{FeatureKind::jack, 0});
    // It is offered the nearest place of the edge from which it does.
    const Project astray = withKey(bodyWith(), "body.jacks.0.at", "-200mm, 120mm");
    const std::vector<Cure> cures = curesFor(drawnBody(astray), *lost);
    REQUIRE(cures.size() == 1);
    const Project moved = cured(astray, cures[0]);
    const Derived mended = drawnBody(moved);
    CHECK_FALSE(findingOf(mended.findings, "jack-unreached"));
    CHECK_FALSE(findingOf(mended.findings, "off-edge"));
    CHECK(woodToCavity(mended.body->part, moved.body.jacks[0]));
    CHECK(length(moved.body.jacks[0].at - astray.body.jacks[0].at) > 20);
    // A cavity too far from any edge offers nothing.
    const Project deep = withKey(bodyWith({{"cavity.controls", ""}}), "cavity.outline",
                                 "34 -9 r4, 60 -9 r4, 60 9 r4, 34 9 r4");
    const Derived hidden = drawnBody(withKey(deep, "bridge.kind", "fixed"));
    const auto none = findingOf(hidden.findings, "jack-unreached");
    REQUIRE(none);
    CHECK(curesFor(hidden, *none).empty());
    CHECK_FALSE(told({{"body.jacks.0.at", beside.c_str()}}, "jack-unreached"));
    // A pot right behind the cavity's wall, where the barrel comes in.
    const Contour hollow = d.body->part.hollow();
    double wall = 0;
    while (!inside(pointsOf(hollow, 0.05), seat.at + seat.inward * wall)) {
        REQUIRE(wall < 40);
        wall += 0.1;
    }
    const auto pot = [&](double in) {
        const Vec2 at = d.body->part.place().fromBridge(seat.at + seat.inward * in);
        return withKey(p, "cavity.controls",
                       "pot " + std::to_string(at.x) + " " + std::to_string(at.y));
    };
    CHECK(findingOf(drawnBody(pot(wall + 13)).findings, "jack-meets-control"));
    const double clear = std::max(wall, 35.0) + 12.5 + 6.35 + 0.5;
    CHECK_FALSE(findingOf(drawnBody(pot(clear)).findings, "jack-meets-control"));
}

TEST_CASE("A new project's jack and buttons stand on the edge of its own body", "[setup]") {
    for (int strings : {4, 6, 7, 9}) {
        for (int frets : {12, 20, 22, 24}) {
            for (double scale : {520.0, 648.0, 864.0}) {
                for (const char* build : {"one-piece", "topped"}) {
                    INFO(strings << " strings, " << frets << " frets, " << scale << " " << build);
                    Project p = newProject("n", strings, scale, frets, Hand::right);
                    p = withKey(p, "neck.joint", "bolt-on");
                    p = withKey(p, "body.build", build);
                    const Derived d = deriveDrawing(p);
                    CHECK_FALSE(findingOf(d.findings, "off-edge"));
                }
            }
        }
    }
}
