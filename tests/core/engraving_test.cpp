#include "cut/panel_bits.h"
#include "design/engraving.h"
#include "design/letters.h"
#include "geom/inset.h"
#include "job/notation.h"
#include "panel_support.h"

#include <numbers>

using namespace wren;
using namespace wren::test;

namespace {

/// A plank with one stroke along X in its front and another in its back.
Plank drawnPlank(double depth = 0.6) {
    Plank plank({}, {{"pin", {35, 20}, 6, -20, -8, true, false}}); // so that it is turned over
    const Contour stroke{bulgedPiece({-20, 5}, {10, 5}, 0), bulgedPiece({10, 5}, {20, 15}, 0.4)};
    plank.panel.engraved = {{"front line", stroke, depth, false},
                            {"back line", stroke, depth, true}};
    return plank;
}

double lengthOfAll(const std::vector<Contour>& lines) {
    double sum = 0;
    for (const Contour& c : lines) {
        sum += lengthOf(c);
    }
    return sum;
}

std::array<Vec2, 2> boxOf(const std::vector<Contour>& lines) {
    std::array<Vec2, 2> box{Vec2{1e9, 1e9}, Vec2{-1e9, -1e9}};
    for (const Contour& line : lines) {
        for (Vec2 p : placesAlong(line, 0.05)) {
            box[0] = {std::min(box[0].x, p.x), std::min(box[0].y, p.y)};
            box[1] = {std::max(box[1].x, p.x), std::max(box[1].y, p.y)};
        }
    }
    return box;
}

} // namespace

TEST_CASE("Every sign stands between its foot and its height, strokes unbroken", "[engrave]") {
    for (char sign : letterSigns()) {
        INFO(sign);
        const Lettering one = lettering(std::string(1, sign), 12);
        REQUIRE_FALSE(one.lines.empty());
        const auto box = boxOf(one.lines);
        const bool hangs = sign == ',' || sign == '(' || sign == ')'; // a little over and under
        CHECK(box[0].y >= (hangs ? -2.1 : -1e-6));
        CHECK(box[1].y <= 12 + (hangs ? 1.1 : 1e-6));
        CHECK(box[0].x >= -0.7);
        CHECK(box[1].x <= one.width + 0.7);
        for (const Contour& line : one.lines) {
            for (std::size_t i = 0; i < line.size(); ++i) {
                CHECK(line[i].length() > 0.3);
                CHECK((i == 0 || length(line[i].from - line[i - 1].to) < 1e-9));
                // An arc is as far from its middle at both ends.
                CHECK((!line[i].isArc() ||
                       std::abs(line[i].radius() - length(line[i].to - line[i].centre)) < 1e-6));
            }
        }
    }
    // A round letter's quarter arcs: two thirds of the height straight or round it has in all.
    const Lettering o = lettering("O", 6);
    CHECK(lengthOfAll(o.lines) == Approx(2 * std::numbers::pi * 2 + 2 * 2).epsilon(1e-6));
}

TEST_CASE("Words are as long as their signs, small letters three quarters of a capital",
          "[engrave]") {
    const double gap = lettering("II", 6).width;
    CHECK(lettering("HH", 6).width == Approx(2 * lettering("H", 6).width + gap));
    CHECK(lettering("H", 12).width == Approx(2 * lettering("H", 6).width));
    CHECK(lettering("h", 6).width == Approx(0.75 * lettering("H", 6).width));
    CHECK(boxOf(lettering("h", 6).lines)[1].y == Approx(4.5));
    CHECK(lettering("", 6).lines.empty());
    CHECK_THROWS_WITH(lettering("caf\xC3\xA9", 6), Catch::Contains("\"\xC3\xA9\""));
}

TEST_CASE("Words are read from their own face, on a left-handed body too", "[engrave]") {
    // An L: its foot leads from its stem the way one reads.
    const auto read = [](const Changes& more, const char* face) {
        Changes all{{"body.engravings", ""}};
        all.insert(all.end(), more.begin(), more.end());
        const Project p = withKey(bodyWith(all), "body.engravings",
                                  std::string(face) + " words 60 -40 12 0 0.5: L");
        const Derived d = drawnBody(p);
        const PanelLine line = d.body->part.panel(Role::body)->engraved.at(0);
        const Vec2 top = line.way.front().from;
        const Vec2 foot = line.way.front().to;
        const Vec2 end = line.way.back().to;
        CHECK(length(d.body->part.place().at({60, -40}) - (top + end) * 0.5) < 1e-6);
        return std::pair{foot - top, end - foot};
    };
    for (const char* hand : {"right", "left"}) {
        INFO(hand);
        const auto [down, along] = read({{"board.hand", hand}}, "front");
        CHECK(along.x > 0);
        CHECK(down.y < 0); // seen from the front +Y is up
        const auto [downBack, alongBack] = read({{"board.hand", hand}}, "back");
        CHECK(alongBack.x > 0);
        CHECK(downBack.y > 0); // seen from behind it is down
    }
}

TEST_CASE("Engravings are read as they are typed", "[engrave]") {
    const std::string text = "front words 40 -60 8 12.5 0.6: Fell No. 3; back shape 0.4: 0 0 r4, "
                             "30 0 r4, 30 20 r4, 0 20 r4";
    const std::vector<Engraving> once = engravingList(text);
    REQUIRE(once.size() == 2);
    CHECK(once[0].words == "Fell No. 3");
    CHECK(once[0].turn == 12.5);
    CHECK(once[1].fromBack);
    for (const char* bad :
         {"front words 40 -60 8 0: no depth", "side words 1 2 8 0 0.5: side", "front 3: 0 0 c",
          "front words 1 2 8 0 0.5:  ", "front words 1 2 8 0 9: too deep", "back shape: 0 0 c",
          "front words 1 2 8 0 0.5: \xE2\x82\xAC"}) {
        INFO(bad);
        CHECK_THROWS_AS(engravingList(bad), Error);
    }
}

TEST_CASE("Lines are drawn with a V, at their depth, and proved from the posted text",
          "[engrave][proof]") {
    const Plank plank = drawnPlank();
    const PanelPlan plan = plank.plan();
    for (std::size_t side : {0U, 1U}) {
        const Cut* cut = plan.sides[side].cutOf(CutKind::engraving);
        REQUIRE(cut);
        CHECK(cut->bit.kind == BitKind::vee);
        // Its lowest way is the depth below the face, and it goes all along the stroke.
        double lowest = 1e9;
        double drawn = 0;
        for (const Move& m : cut->path) {
            lowest = std::min(lowest, m.to.z);
            drawn += m.cuts() && m.from.z == m.to.z ? m.length() : 0;
        }
        const Setup& setup = plan.sides[side].setup;
        CHECK(lowest == Approx(setup.topZ() - setup.faced - 0.6));
        CHECK(drawn >= lengthOf(plank.panel.engraved[0].way) - 1e-6);
    }
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());

    const auto spoiled = [&](const std::function<void(Move&)>& change) {
        PanelPlan bad = plan;
        for (Cut& c : bad.sides[0].cuts) {
            for (Move& m : c.path) {
                if (c.what == "engraving") {
                    change(m);
                }
            }
        }
        return stopsOf(plank.proof(bad));
    };
    const auto lowered = [](double by) {
        return [by](Move& m) {
            m.from.z -= by;
            m.to.z -= by;
        };
    };
    CHECK(spoiled(lowered(0.02)).find("too deep") != std::string::npos);
    CHECK(spoiled(lowered(-0.04)).find("too shallow") != std::string::npos);
    CHECK(spoiled(lowered(2)).find("gouge") != std::string::npos); // a groove too wide besides
    CHECK(spoiled([](Move& m) {
              m.from.y += 0.05;
              m.to.y += 0.05;
              m.centre.y += m.isArc() ? 0.05 : 0;
          }).find("aside") != std::string::npos);
    PanelPlan none = plan;
    none.sides[1].cuts.erase(std::find_if(none.sides[1].cuts.begin(), none.sides[1].cuts.end(),
                                          [](const Cut& c) { return c.what == "engraving"; }));
    CHECK(stopsOf(plank.proof(none)).find("not drawn") != std::string::npos);
}

TEST_CASE("On a face that is carved the depth follows the face", "[engrave][proof]") {
    Plank plank = drawnPlank(0.5);
    plank.panel.frontFall =
        FaceFall(plank.panel.outline, {},
                 {{{-25, 0}, unit(Vec2{1, 0.2}), std::tan(6 * std::numbers::pi / 180), 25, 0, {}}});
    plank.lay();
    const PanelPlan plan = plank.plan();
    const Cut* cut = plan.sides[0].cutOf(CutKind::engraving);
    REQUIRE(cut);
    CHECK(&plan.sides[0].cuts.back() == cut); // after the carving
    const Setup& setup = plan.sides[0].setup;
    int along = 0;
    for (const Move& m : cut->path) {
        const Vec3 p = setup.fromInstrument.toInstrument(m.to);
        if (m.cuts() && std::abs(p.y - 5) < 1e-6) {
            CHECK(p.z == Approx(plank.panel.faceAt(p.xy(), false) - 0.5).margin(1e-6));
            ++along;
        }
    }
    CHECK(along > 20);
    const PartProof proof = plank.proof(plan);
    INFO(stopsOf(proof));
    CHECK(proof.passed());
}

TEST_CASE("A line beside a pocket is as wide there as its V, no wider", "[engrave][proof]") {
    PanelPocket pocket;
    pocket.what = "pocket";
    pocket.cut = "pockets";
    pocket.borders = {counterClockwise(shapeOutline(boxShape({0, -10}, 50, 30, 6)))};
    pocket.floor = -8;
    const auto stops = [&](double beside) { // of its wall at Y 5
        Plank plank({pocket});
        plank.panel.engraved = {
            {"line", {bulgedPiece({-20, 5 + beside}, {20, 5 + beside}, 0)}, 0.6, false}};
        return stopsOf(plank.proof(plank.plan()));
    };
    // A V of 60 degrees, 0.6 mm deep: 0.35 mm to each side.
    CHECK(stops(0.5).empty());
    CHECK(stops(0.2).find("A wall of the pocket is cut into") != std::string::npos);
}

TEST_CASE("Without a V a small ball draws, and without either a sentence says what was wanted",
          "[engrave]") {
    const Drawer all = starterDrawer();
    const BitJudge judge = drawsLines(0.6);
    int can = 0;
    for (const Bit& b : all) {
        can += judge(b).can ? 1 : 0;
    }
    CHECK(can == 2); // the V and the tapered ball
    CHECK(finerLines(*findBit(all, "v-60"), *findBit(all, "taper-1.5")));
    CHECK_FALSE(judge(*findBit(all, "ball-6")).can);
    CHECK(judge(*findBit(all, "ball-6")).why.find("too wide a line") != std::string::npos);
    const Plank plank = drawnPlank();
    const PanelPlan plan =
        planPanel(plank.panel, plank.held, {*findBit(all, "flat-6"), *findBit(all, "drill-6")},
                  plank.machine, plank.cut);
    const std::string text = plan.findings.empty() ? "" : plan.findings.front().message;
    CHECK(text.find("engraving") != std::string::npos);
    CHECK(text.find("a V of at least 0.6 mm") != std::string::npos);
    Plank deep = drawnPlank(3.9); // no cone of the drawer is so high, the tapered ball reaches
    const PanelPlan other = deep.plan();
    REQUIRE(other.sides[0].cutOf(CutKind::engraving));
    CHECK(other.sides[0].cutOf(CutKind::engraving)->bit.name == "v-60");
}

TEST_CASE("An engraving off the body, over a pocket or over thin wood is told",
          "[engrave][judge]") {
    const auto told = [](const std::string& engravings, const char* code) {
        Project p = bodyWith();
        p.body.engravings = engravingList(engravings);
        const Derived d = deriveDrawing(p);
        return std::any_of(d.findings.begin(), d.findings.end(),
                           [&](const Finding& f) { return f.code == code; });
    };
    CHECK(told("front words 60 -130 30 0 0.5: WIDE", "engraved-off-face"));
    CHECK(told("front words -140 0 8 0 0.5: PICKUP", "engraved-off-face"));
    CHECK(told("front words 24 76 4 0 3.9: ROOF", "engraved-thin"));
    CHECK_FALSE(told("front words 70 -20 8 0 0.5: FELL", "engraved-off-face"));
    CHECK_FALSE(told("front words 70 -20 8 0 0.5: FELL", "engraved-thin"));
}
