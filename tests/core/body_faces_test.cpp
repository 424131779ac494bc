#include "body_support.h"
#include "exchange/body_drawing.h"
#include "job/hand_steps.h"
#include "job/notation.h"
#include "job/wants.h"
#include "part/panel_field.h"

#include <map>
#include <numbers>
#include <random>
#include <sstream>

#include <fmt/format.h>

using namespace wren;
using namespace wren::test;

namespace {

const std::string armAndRibs[] = {"40 -60 116 20 12 40", "-20 -60 116 -10 10 60"};

Project contoured(const Changes& more = {}) {
    Changes all{{"body.front_edge", "round"},
                {"body.front_edge_size", "3.5"},
                {"body.back_edge", "round"},
                {"body.back_edge_size", "3.5"},
                {"body.front_slopes", armAndRibs[0].c_str()}};
    all.insert(all.end(), more.begin(), more.end());
    return bodyWith(all);
}

std::vector<std::string> linesOf(const std::string& text) {
    std::istringstream in(text);
    std::vector<std::string> out;
    for (std::string line; std::getline(in, line);) {
        out.push_back(line);
    }
    return out;
}

} // namespace

TEST_CASE("An arm's contour falls away from the bridge and leaves the rest level",
          "[body][faces]") {
    const Derived d = drawnBody(contoured());
    const BodyPart& part = d.body->part;
    const auto at = [&](double x, double y) { return part.place().at({x, y}); };
    CHECK(part.fallAt(at(0, 0)) == 0);
    CHECK(part.fallAt(at(-100, 60)) == 0);
    // Beyond the line from 40 -60 to 116 20, off its rounding: a plane of 12 degrees.
    const Vec2 along = unit(Vec2{76, 80});
    const Vec2 out{along.y, -along.x};
    const Vec2 p = Vec2{78, -20} + out * 14;
    CHECK(part.fallAt(at(p.x, p.y)) == Approx(14 * std::tan(12 * std::numbers::pi / 180)));
    // A left-handed body falls at the mirrored place.
    const Derived left = drawnBody(contoured({{"board.hand", "left"}}));
    const BodyPart& other = left.body->part;
    CHECK(other.fallAt(other.place().at({p.x, p.y})) == Approx(part.fallAt(at(p.x, p.y))));
    CHECK(other.place().at({p.x, p.y}).y == Approx(-at(p.x, p.y).y));
}

TEST_CASE("The wood over a cavity is measured from the carved face", "[body][faces]") {
    const Derived flat = drawnBody(bodyWith());
    CHECK(flat.body->part.cavityFloor() == Approx(-6));
    // An arch reaches over the cavity: its lowest place counts.
    const Derived arched = drawnBody(bodyWith({{"body.arch", "8"}, {"body.arch_width", "80"}}));
    const BodyPart& part = arched.body->part;
    double most = 0;
    for (Vec2 p : pointsOf(part.hollow(), 0.1)) {
        most = std::max(most, part.fallAt(p));
    }
    CHECK(most > 2);
    CHECK(part.cavityFloor() == Approx(-6 - most).margin(0.05));
    const Panel& body = *part.panel(Role::body);
    const PanelField f = PanelField::over(body, 1.5);
    for (std::size_t i = 0; i < f.front.size(); ++i) {
        if (f.in(i) && f.frontBy[i] < 0 && f.backBy[i] >= 0 &&
            featureName(body, f.backBy[i]) == "cavity") {
            CHECK(f.front[i] - f.back[i] > 6 - 0.05);
        }
    }
}

TEST_CASE("A contour that opens a chamber, or meets the other, is told", "[body][faces][judge]") {
    const auto stopOf = [](const Changes& changes, const char* code) {
        return findingOf(deriveDrawing(contoured(changes)).findings, code);
    };
    const Changes chamber{{"body.build", "topped"},
                          {"body.chambers", "60 -60 r8, 96 -60 r8, 96 -20 r8, 60 -20 r8"}};
    Changes deep = chamber;
    deep.push_back({"body.front_slopes", "20 -70 116 40 25 20"});
    const auto into = stopOf(deep, "into-chamber");
    REQUIRE(into);
    CHECK(into->weight == Weight::stop);
    CHECK(into->message.find("contour opens into chamber 1") != std::string::npos);
    const auto thin = stopOf({{"body.thickness", "22"},
                              {"cavity.outline", ""},
                              {"cavity.controls", ""},
                              {"body.front_slopes", "40 -60 116 20 20 20"},
                              {"body.back_slopes", "40 -60 116 20 20 20"}},
                             "cuts-through");
    REQUIRE(thin);
    CHECK(thin->message.find("the front face and the back meet") != std::string::npos);
}

TEST_CASE("Recesses and cut-outs are pockets of their face", "[body][faces]") {
    const Derived d = drawnBody(bodyWith(
        {{"body.recesses", "front 2.5: 60 -20 r4, 90 -20 r4, 90 20 r4, 60 20 r4; back through: "
                           "-90 -104 r5, -60 -104 r5, -60 -84 r5, -90 -84 r5"}}));
    const Panel& body = *d.body->part.panel(Role::body);
    const PanelPocket& recess = pocketNamed(body, "recess");
    CHECK(recess.floor == -2.5);
    CHECK_FALSE(recess.fromBack);
    const PanelPocket& out = pocketNamed(body, "cut-out");
    CHECK(out.through);
    CHECK(out.fromBack);
    CHECK(out.floor == 0);
    for (const char* bad : {"side 3: 0 0 c, 9 0 c, 9 9 c", "front 3 0 0 c, 9 0 c, 9 9 c",
                            "front deep: 0 0 c, 9 0 c, 9 9 c", "front 3: 0 0 c"}) {
        CHECK_THROWS_AS(withKey(d.project, "body.recesses", bad), Error);
    }
}

TEST_CASE("Scrambled lists of a body are read or refused, never worse", "[body][faces][fuzz]") {
    const std::vector<std::pair<std::string, std::function<void(const std::string&)>>> lists{
        {armAndRibs[0] + "; -150 -96 0 -110 14 60 22",
         [](const std::string& t) { slopeList(t, false); }},
        {"front 3: 0 0 r4, 30 0 r4, 30 20 r4, 0 20 r4; inlay 2: 0 0 c, 9 0 c, 9 9 c",
         [](const std::string& t) { recessList(t); }},
        {"-60 20 40 80 8 10; 0 0 9 9 3 4", [](const std::string& t) { channelList(t); }},
        {"-130 0 15 -40 0 15 6", [](const std::string& t) { wireList(t); }}};
    std::mt19937 random(11);
    const std::string letters = "0123456789.-; :,rscbfontbackthrough";
    int read = 0;
    for (const auto& [good, parse] : lists) {
        parse(good);
        for (int round = 0; round < 500; ++round) {
            std::string text = good;
            for (int k = 0; k < 2; ++k) {
                text[random() % text.size()] = letters[random() % letters.size()];
            }
            try {
                parse(text);
                ++read;
            } catch (const Error& e) {
                CHECK(std::string(e.what()).size() > 20); // a sentence
            }
        }
    }
    CHECK(read > 60);
}

TEST_CASE("A wire's hole stands on the bench list with its angle and length", "[body][faces]") {
    const Derived d = drawnBody(bodyWith({{"body.wires", "-46 20 15 -8 80 30 6"}}));
    const auto& holes = d.body->part.benchHoles();
    const auto it = std::find_if(holes.begin(), holes.end(),
                                 [](const BenchHole& h) { return h.what == "wire"; });
    REQUIRE(it != holes.end());
    const double plan = std::hypot(38.0, 60.0);
    CHECK(it->how.find(fmt::format("{:.0f} mm long", std::hypot(plan, 15))) != std::string::npos);
    CHECK(it->how.find(
              fmt::format("{:.1f} degrees down", std::atan2(15, plan) * 180 / std::numbers::pi)) !=
          std::string::npos);
    CHECK_THROWS_AS(wireList("1 2 3"), Error);
    CHECK_THROWS_AS(wireList("1 2 3 1 2 3 5"), Error);         // goes nowhere
    CHECK_THROWS_AS(slopeList("0 0 10 0 50 10", true), Error); // too steep
}

TEST_CASE("Single saddles follow a fan, a string each", "[body][faces]") {
    const Derived d = drawnBody(bodyWith({{"board.scale", "660"},
                                          {"board.treble_scale", "630"},
                                          {"board.square_fret", "7"},
                                          {"bridge.kind", "singles"},
                                          {"bridge.screws", "2"},
                                          {"pickup1.kind", "none"},
                                          {"pickup2.kind", "none"}}));
    std::vector<Vec2> screws;
    for (const Hole& h : d.body->part.holes()) {
        if (h.what == "bridge screw") {
            screws.push_back(h.at);
        }
    }
    REQUIRE(screws.size() == 12);
    CHECK(screws[1].x - screws[0].x == Approx(18));
    CHECK(screws[1].y == screws[0].y);
    // From the bass to the treble string the saddles stand as far apart as the scales end.
    const Fan fan(d.project.board);
    CHECK(screws[10].x - screws[0].x ==
          Approx(fan.trebleString(1).x - fan.bassString(1).x).margin(1e-6));
    CHECK(std::abs(screws[10].x - screws[0].x) > 10);
}

TEST_CASE("A starting shape's mouth is as wide as the heel wants", "[body][faces]") {
    const Project wide = newProject("wide", 7, 673.1, 24, Hand::left);
    const double mouth = bodyMouth(wide.board);
    CHECK(mouth > 66);
    const auto& nodes = wide.body.nodes;
    CHECK(nodes.back().at.y - nodes.front().at.y == Approx(mouth));
    for (const char* name : {"fell", "tarn", "scree"}) {
        CHECK(Body::bodyShape(name, 60) == Body::bodyShape(name));
        shapeOutline(Body::bodyShape(name, 90));
    }
    // A mouth much wider than any neck is drawn as it is.
    const Derived d = drawnBody(
        bodyWith({{"body.like", "fell"},
                  {"body.outline", "-262 -44 r4, -270 -58 s, -306 -96 s, -300 -130 s, -222 "
                                   "-142 s, -132 -114 s, -62 -124 s, 14 -157 s, 82 -138 s, "
                                   "112 -66 s, 116 4 s, 108 82 s, 68 148 s, 0 162 s, -72 "
                                   "128 s, -136 107 s, -204 122 s, -262 124 s, -276 98 s, "
                                   "-246 66 s, -238 44 r4"}}));
    CHECK_FALSE(d.body->part.heel().empty());
}

TEST_CASE("A neck that ends before the body is told, not drawn at a guess",
          "[body][faces][judge]") {
    const Derived d = deriveDrawing(
        bodyWith({{"body.outline", "-60 -100 r20, 100 -100 r20, 100 100 r20, -60 100 r20"}}));
    const auto f = findingOf(d.findings, "neck-misses-body");
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
}

TEST_CASE("A body with a back is glued from three pieces and proved whole", "[body][faces]") {
    const Project p =
        bodyWith({{"body.build", "topped"},
                  {"body.back", "6"},
                  {"body.bookmatch", "yes"},
                  {"body.chambers", "-60 -100 r8, 20 -110 r8, 20 -70 r8, -60 -70 r8"}});
    const Derived d = derive(p);
    REQUIRE(d.body);
    const BodyPart& part = d.body->part;
    REQUIRE(part.panel(Role::back));
    CHECK(part.panel(Role::back)->top == part.panel(Role::core)->bottom);
    CHECK(part.panel(Role::back)->thickness() == Approx(6));
    CHECK(part.panel(Role::body)->layers == std::vector<PartId>{Role::core, Role::top, Role::back});
    const PartJob& whole = *d.job(Role::body);
    REQUIRE(whole.start);
    REQUIRE(whole.proof);
    INFO(stopsOf(*whole.proof));
    CHECK(whole.proof->passed());
    // The step at the bench stands before the body's first program, and in its header.
    const auto first = std::find_if(d.programs.begin(), d.programs.end(), [](const auto& program) {
        return program.program.part == Role::body;
    });
    REQUIRE(first != d.programs.end());
    CHECK(first->program.handBefore.find("core, top, back glued up") == 0);
    CHECK(first->program.text.find("By hand first: core, top, back glued up") != std::string::npos);
    const std::vector<WoodPiece> wood = woodList(d);
    CHECK(std::count_if(wood.begin(), wood.end(), [](const WoodPiece& w) {
              return w.piece == "body top" && w.strips == 2;
          }) == 1);
    CHECK(std::none_of(wood.begin(), wood.end(),
                       [](const WoodPiece& w) { return w.piece == "body"; }));
}

TEST_CASE("Lists of hardware and wood hold what the design asks for", "[body][faces][lists]") {
    const Derived d = drawnBody(bodyWith());
    std::map<std::string, int> counts;
    for (const Wanted& w : hardwareList(d)) {
        counts[w.what] += w.count;
    }
    CHECK(counts["tuner"] == 6);
    CHECK(counts["fret wire"] == 22);
    CHECK(counts["string ferrule"] == 6);
    CHECK(counts["pot and knob"] == 2);
    CHECK(counts["magnet"] == 8); // ledge and lid
    CHECK(counts["pickup 1"] == 1);
    CHECK(counts["neck bolt"] == 4);
    const std::vector<std::string> lines = linesOf(hardwareCsv(d));
    CHECK(lines.front() == "what,count,size,measure_before");
    CHECK(lines.size() == hardwareList(d).size() + 1);
    for (const std::string& line : lines) { // RFC 4180: commas only stand between quotes
        bool inside = false;
        int fields = 1;
        for (char c : line) {
            inside = c == '"' ? !inside : inside;
            fields += c == ',' && !inside ? 1 : 0;
        }
        CHECK(fields == 4);
        CHECK_FALSE(inside);
    }
    const std::vector<std::string> wood = linesOf(woodCsv(d));
    REQUIRE(wood.size() == 5); // board, neck, body, lid
    CHECK(wood[3].rfind("body,White ash,", 0) == 0);
}

TEST_CASE("An inlay's pocket and plug come from one curve and go together", "[body][faces][long]") {
    // A star's arm: corners both ways, all of them too sharp for a bit.
    const Project p =
        bodyWith({{"body.recesses",
                   "inlay 2: 60 -20 c, 74 -26 c, 88 -20 c, 84 -4 c, 92 12 c, 74 20 c, 58 12 "
                   "c, 66 -4 c"}});
    const Derived d = derive(p);
    REQUIRE(d.body);
    const BodyPart& part = d.body->part;
    const Panel* plug = part.panel(PartId(Role::inlay, 1));
    REQUIRE(plug);
    CHECK(plug->thickness() == Approx(2.4));
    const PanelPocket& pocket = pocketNamed(*part.panel(Role::body), "inlay");
    // Neither the pocket's bit nor the plug's meets a corner tighter than asked.
    CHECK(tightestHollow(pocket.borders.front()) >= 1.6 - 1e-6);
    CHECK(tightestHollow(plug->outline) >= 1.6 - 1e-6);
    for (const ContourPiece& piece : plug->outline) {
        CHECK(distanceTo(pocket.borders.front(), piece.at(piece.length() / 2)) ==
              Approx(0.05).margin(1e-4));
    }
    REQUIRE(d.body->inlayFits.size() == 1);
    const Fit& fit = d.body->inlayFits.front();
    REQUIRE(fit.places.size() > 10);
    CHECK(fit.least > 0.045);
    CHECK(fit.most < 0.055);
    const PartJob& job = *d.job(PartId(Role::inlay, 1));
    INFO(stopsOf(*job.proof));
    CHECK(job.proof->passed());
    for (const PanelTab& tab : job.panelPlan().tabs) {
        CHECK(tab.height == Approx(1.2)); // half a thin part
    }
    CHECK_THROWS_AS(recessList("inlay through: 0 0 c, 20 0 c, 20 20 c"), Error);
    const Derived narrow = deriveDrawing(
        bodyWith({{"body.recesses", "inlay 2: 60 -20 c, 62 -20 c, 62 20 c, 60 20 c"}}));
    CHECK(findingOf(narrow.findings, "body-cannot-be-drawn"));
}
