#include "design/head_shape.h"
#include "neck_support.h"

#include "base/files.h"
#include "exchange/dxf.h"
#include "exchange/neck_drawing.h"
#include "exchange/svg.h"
#include "job/export.h"
#include "job/part_sheet.h"

#include <set>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

TEST_CASE("A neck survives saving and loading, number by number", "[neck][project]") {
    const Project p =
        neckWith({{"neck.stations", "1 20 soft-V/C, 12 22 D"},
                  {"head.kind", "tilted"},
                  {"head.nodes", "-20 -25 s, -90 -32 c, -140 0 s, -90 32 c, -20 25 s"},
                  {"tuners.places", "-42 -18, -72 -19, -102 -20, -102 20, -72 19, -42 18"},
                  {"neck.pin_frets", "2 19"},
                  {"neck_blank.thickness", "1 1/2 in"},
                  {"neck_hold.turn", "end-for-end"},
                  {"neck_cut.rough.feed", "1500"}});
    const Project back = projectFromText(projectToText(p), "it");
    for (const Key& key : keysOf(p)) {
        INFO(key.path);
        CHECK(key.get(back) == key.get(p));
    }
    CHECK(*back.neckBlank.thickness == Approx(38.1));
    CHECK(designHash(back) == designHash(p));
    CHECK(designHash(withKey(p, "neck.heel_depth", "19")) != designHash(p));
}

TEST_CASE("Every key of the neck can be read, set to both its limits, and not beyond",
          "[neck][project]") {
    const Project p = neckWith();
    int keys = 0;
    for (const Key& key : keysOf(p)) {
        const bool ours = key.path.rfind("neck", 0) == 0 || key.path.rfind("head.", 0) == 0 ||
                          key.path.rfind("tuners.", 0) == 0 || key.path.rfind("rod.", 0) == 0;
        if (!ours) {
            continue;
        }
        ++keys;
        INFO(key.path);
        CHECK_FALSE(key.meaning.empty());
        if (key.kind == KeyKind::choice) {
            for (const std::string& word : key.choices) {
                const Project q = withKey(p, key.path, word);
                if (word != "own") { // what no start fits
                    CHECK(std::get<std::string>(key.get(q)) == word);
                }
            }
            CHECK_THROWS_WITH(withKey(p, key.path, "sideways"), Contains("is not one of"));
        } else if (key.kind != KeyKind::text && key.kind != KeyKind::place) {
            for (double v : {key.least, key.most}) {
                Project q = p;
                key.set(q, v);
                CHECK(std::get<double>(key.get(q)) == v);
                CHECK_NOTHROW(checkValue(key, v));
            }
            CHECK_THROWS_WITH(checkValue(key, key.most + 1), Contains("is outside"));
            CHECK_THROWS_WITH(checkValue(key, key.least - 1), Contains("is outside"));
        }
    }
    CHECK(keys > 100);
}

TEST_CASE("Every corner of the neck's numbers is drawn or refused, never lost", "[neck][project]") {
    // Each number alone at its limits: a neck, or a stop that names why there is none.
    const Project p = neckWith();
    for (const Key& key : keysOf(p)) {
        const bool ours = key.path.rfind("neck.", 0) == 0 || key.path.rfind("head.", 0) == 0 ||
                          key.path.rfind("tuners.", 0) == 0 || key.path.rfind("rod.", 0) == 0;
        if (!ours || key.kind == KeyKind::text || key.kind == KeyKind::choice ||
            key.kind == KeyKind::place) {
            continue;
        }
        for (double v : {key.least, key.most}) {
            INFO(key.path << " " << v);
            Project q = p;
            key.set(q, v);
            Derived d;
            REQUIRE_NOTHROW(d = deriveDrawing(q));
            CHECK((d.neck || hasStop(d.findings)));
            if (d.neck) {
                CHECK(d.neck->volume > 0);
                CHECK(std::isfinite(d.neck->volume));
            }
        }
    }
}

TEST_CASE("Headstocks to start from are simple outlines a bit can follow", "[neck]") {
    for (const char* shape : {"chisel", "keel", "paddle"}) {
        for (const char* hand : {"right", "left"}) {
            const HeldNeck n = drawnNeck(neckWith({{"head.like", shape}, {"board.hand", hand}}));
            const Contour& c = n.part.outline().contour();
            INFO(shape);
            for (std::size_t i = 0; i < c.size(); ++i) {
                CHECK(length(c[i].to - c[(i + 1) % c.size()].from) < 1e-9);
            }
            CHECK_NOTHROW(offsetAround(c, 3.2));
            // Walking outward by a little always leaves the shape.
            for (const ContourPiece& p : c) {
                const double l = p.length();
                const Vec2 way = p.wayAt(l / 2);
                const Vec2 out{-way.y, way.x};
                CHECK_FALSE(inside(n.part.outline().points(), p.at(l / 2) + out * 0.05));
                CHECK(inside(n.part.outline().points(), p.at(l / 2) - out * 0.05));
            }
            const auto exact = n.part.outline().exactAcross(-30);
            const auto drawn = n.part.outline().across(-30);
            CHECK(exact[0] == Approx(drawn[0]).margin(0.003));
            CHECK(exact[1] == Approx(drawn[1]).margin(0.003));
        }
    }
    const Project plain = neckWith();
    CHECK(headRound("spoon", plain.neck, plain.board).empty());
}

TEST_CASE("Starting shapes widen with the nut", "[neck]") {
    for (int strings = 4; strings <= 9; ++strings) {
        for (const char* shape : {"chisel", "keel", "paddle"}) {
            Project p = newProject("wide", strings, 700, 20, Hand::right);
            p = withKey(withKey(p, "neck.joint", "bolt-on"), "head.like", shape);
            INFO(strings << " " << shape);
            CHECK(std::get<std::string>(keyAt(p, "head.like").get(p)) == shape);
            const double nut = p.board.nutSpread + p.board.overhangBass + p.board.overhangTreble;
            const NeckOutline o(p.neck, p.board);
            // A 6 mm bit follows it, stock to leave included, and it is never much narrower than
            // the nut.
            CHECK_NOTHROW(offsetAround(o.contour(), 3.2));
            for (double x = -45; x < o.headStart(); x += 5) {
                const auto wood = o.across(x);
                CHECK(wood[1] - wood[0] > 0.9 * nut);
            }
        }
    }
}

TEST_CASE("Strings pull straight unless posts are put elsewhere", "[neck][tuners]") {
    for (const char* strings : {"4", "6", "7", "9"}) {
        const NeckDrawn n =
            drawnNeck(neckWith({{"board.strings", strings}, {"tuners.bass_side", "9"}}));
        CHECK(n.part.tuners().size() == std::size_t(std::stoi(strings)));
        for (const TunerPlace& t : n.part.tuners()) {
            CHECK(t.sideAngle < 1e-6);
            CHECK(t.onBassSide);
            CHECK(length(t.along) == Approx(1));
            CHECK(length(t.post - t.winds) == Approx(3));
        }
    }
    const HeldNeck rows = drawnNeck(neckWith({{"tuners.bass_side", "4"}}));
    int bass = 0;
    for (const TunerPlace& t : rows.part.tuners()) {
        bass += t.onBassSide;
    }
    CHECK(bass == 4);
    const Derived wide = deriveDrawing(
        neckWith({{"tuners.places", "-42 -30, -66 -14, -90 -6, -114 0, -138 7, -162 13"}}));
    REQUIRE(findingOf(wide.findings, "side-angle"));
    CHECK(findingOf(wide.findings, "side-angle")->value > 8);
    // A list for another number of strings is not this neck's: straight pull again.
    const HeldNeck few = drawnNeck(neckWith({{"tuners.places", "-42 -30, -66 -14"}}));
    CHECK(few.part.tuners()[0].sideAngle < 1e-6);
    // The screw lies on the row, the body round the post.
    const TunerPlace& t = rows.part.tuners()[0];
    const Tuners& numbers = rows.part.design().tuners;
    CHECK(length(tunerScrew(numbers, t) - t.post) == Approx(numbers.pilotOff));
    const std::vector<Vec2> body = tunerBody(numbers, t);
    CHECK(length(body[0] - body[1]) == Approx(numbers.bodyWidth));
    CHECK(length(body[1] - body[2]) == Approx(numbers.bodyLength));
    CHECK(length((body[0] + body[2]) * 0.5 - t.post) < 1e-9);
}

TEST_CASE("A neck is drawn with all that is cut into it", "[neck][drawing]") {
    const HeldNeck n = drawnNeck(neckWith({{"neck.pin_frets", "2 19"}, {"rod.carbon_width", "5"}}));
    const Drawing d = neckDrawing(n.part, "a neck");
    const auto has = [&](const char* layer) {
        return std::count_if(d.lines.begin(), d.lines.end(),
                             [&](const DrawnLine& l) { return l.layer == layer; });
    };
    CHECK(has("outline") == 1);
    CHECK(has("rod") == 1);
    CHECK(has("adjuster") == 1);
    CHECK(has("carbon") == 2);
    CHECK(has("tuners") == 6);
    CHECK(has("bolts") == 4);
    CHECK(has("pins") == 2);
    CHECK(has("tuner-bodies") == 6);
    const auto box = d.box();
    CHECK(box[1].x - box[0].x > 600);
    CHECK_THAT(toSvg(d), Contains("A") && Contains("<circle"));
    CHECK_THAT(toDxf(d), Contains("ARC"));
    const Drawing sections = neckSections(n.part, {20, 200, 400}, "sections");
    CHECK(std::count_if(sections.lines.begin(), sections.lines.end(),
                        [](const DrawnLine& l) { return l.layer == "section"; }) == 3);
    CHECK_THROWS_WITH(checkSections(n.part, {20, 900}), Contains("There is no neck 900.0 mm"));
    CHECK_THROWS_WITH(checkSections(n.part, {}), Contains("No section was asked for"));
    CHECK(sectionList("50, 2in,100").at(1) == Approx(50.8));
    const Derived drawn = deriveDrawing(neckWith());
    CHECK_THROWS_WITH(exportPart(drawn, *drawn.job(Role::neck), "doc", {paperNamed("a4"), {}}),
                      Contains("is not a format"));
}

TEST_CASE("The neck's sheets are pages that depend on nothing but the design", "[neck][sheet]") {
    const Derived d = derive(neckWith({{"neck_hold.register", "marks"}}));
    for (std::size_t side : {0U, 1U}) {
        const PartJob& neck = *d.job(Role::neck);
        const std::string pdf = sheetPdf(d, neck, side);
        CHECK(pdf.substr(0, 5) == "%PDF-");
        CHECK(pdf == sheetPdf(d, neck, side));
        CHECK(pdf.size() > 5000);
    }
    const PartJob& neck = *d.job(Role::neck);
    CHECK(sheetName(d, neck, 0) != sheetName(d, neck, 1));
}

TEST_CASE("A long reach is looked at, not only the flutes", "[neck][proof]") {
    // The finishing ball stands 20 mm out of its collet in a blank of 21: the nut meets the wood.
    Project p = neckWith();
    for (Bit& b : p.bits) {
        if (b.name == "ball-6") {
            b.reach = 23;
        }
    }
    Derived d = derive(p);
    REQUIRE(d.neck);
    CHECK(d.job(Role::neck)->proof);
    SidePrograms programs = d.job(Role::neck)->read;
    for (RunProgram& program : programs[1]) {
        if (program.bit.name == "ball-6") {
            program.bit.reach = 12;
        }
    }
    const PartProof proof = provedNeck(d, programs, 0.5);
    CHECK(findingOf(proof.sides[1].findings, "holder-in-wood"));
    CHECK_FALSE(proof.passed());
}

TEST_CASE("Wood turned over twice is the wood it was", "[stock]") {
    Blank b;
    b.length = 33.3;
    b.width = 21.7;
    b.thickness = 9;
    Stock s(b, -2, 0.5);
    Bit ball;
    ball.kind = BitKind::ball;
    ball.diameter = 6;
    Move m;
    m.motion = Motion::line;
    m.from = {5, 5, 3};
    m.to = {25, 15, 1};
    sweep(s, EndShape::of(ball), m, 0, s.rows());
    const Stock once = s.turnedSideForSide(b.length, b.width, -2);
    const Stock twice = once.turnedSideForSide(b.length, b.width, -2);
    const Stock ends =
        s.turnedEndForEnd(b.length, b.width, -2).turnedEndForEnd(b.length, b.width, -2);
    for (int r = 0; r < s.rows(); ++r) {
        for (int c = 0; c < s.columns(); ++c) {
            CHECK(twice.high(c, r) == Approx(s.high(c, r)).margin(1e-5));
            CHECK(ends.high(c, r) == Approx(s.high(c, r)).margin(1e-5));
        }
    }
    CHECK(twice.y(0) == Approx(s.y(0)));
    CHECK(ends.x(0) == Approx(s.x(0)));
    CHECK(once.volume() == Approx(s.volume()));
    // The groove is underneath now: the top is whole.
    for (int r = 0; r < once.rows(); ++r) {
        for (int c = 0; c < once.columns(); ++c) {
            CHECK(once.high(c, r) == Approx(7));
        }
    }
    CHECK(once.movedBy({0.1, 0.2}).x(0) == Approx(once.x(0) + 0.1));
}

TEST_CASE("The neck on the command line", "[neck][command][long]") {
    const Folder folder;
    const std::string file = (folder / "n.wren").string();
    Project p = plainWith();
    p.bits = starterDrawer();
    saveProject(p, file);
    const std::string out = (folder / "job").string();
    CHECK(test::wren("make " + file + " --part neck --out " + out)
              .err.find("its parts are: fretboard") != std::string::npos);
    CHECK(
        test::wren("set " + file + " neck.joint=bolt-on \"neck.stations=1 20 C, 12 22 D\"").code ==
        0);
    CHECK(test::wren("set " + file + " \"neck.stations=12 20 C, 1 22 D\"")
              .err.find("in order from the nut") != std::string::npos);
    const Ran made = test::wren("make " + file + " --part neck --out " + out);
    INFO(made.err);
    CHECK(made.code == 0);
    CHECK(made.out.find("neck-rough") != std::string::npos);
    CHECK(made.out.find("fretboard-radius") == std::string::npos);
    const Ran proved = test::wren("prove " + file);
    CHECK(proved.code == 0);
    CHECK(proved.out.find("neck back up: gouge") != std::string::npos);
    CHECK(proved.out.find("under the rod's slot in the simulated stock") != std::string::npos);
    CHECK(
        test::wren("export " + file + " --part neck --format stl -o " + (folder / "n.stl").string())
            .code == 0);
    CHECK(test::wren("set " + file + " rod.depth=16").err.find("breaks through") !=
          std::string::npos);
    const Ran refused = test::wren("make " + file + " --out " + out);
    CHECK(refused.code == 1);
    CHECK(refused.err.find("The neck is not posted") != std::string::npos);
    CHECK(refused.out.find("fretboard") != std::string::npos); // the board went out all the same
}
