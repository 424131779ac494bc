// Pages for work by hand, the list of pieces to saw, the print of the whole instrument, and designs
// kept under names.
#include "body_support.h"

#include "base/files.h"
#include "design/markers.h"
#include "exchange/template_pdf.h"
#include "geom/region.h"
#include "job/cut_list.h"
#include "job/export.h"
#include "job/feature_edits.h"
#include "job/hand_sheet.h"
#include "job/posting.h"
#include "job/store.h"
#include "job/wants.h"
#include "job/whole_print.h"
#include "part/setup_geometry.h"

#include <nlohmann/json.hpp>

#include <random>

using namespace wren;
using namespace wren::test;

namespace {

const HandSheet::Table& tableOf(const HandSheet& sheet, const std::string& heading) {
    for (const HandSheet::Table& t : sheet.tables) {
        if (t.heading == heading) {
            return t;
        }
    }
    FAIL("no table " << heading);
    return sheet.tables.front();
}

std::string refusedWith(const std::function<void()>& what) {
    try {
        what();
    } catch (const Error& e) {
        return e.what();
    }
    return "";
}

} // namespace

TEST_CASE("Every sheet is for this instrument's numbers", "[hand]") {
    const Derived d = drawnBody(bodyWith({{"markers.side_frets", "3 5 7"}}));
    std::set<std::string> names;
    for (const HandSheet& sheet : handSheets(d, LengthUnit::mm)) {
        INFO(sheet.name);
        names.insert(sheet.name);
        REQUIRE_FALSE(sheet.tables.empty());
        for (const HandSheet::Table& t : sheet.tables) {
            for (const auto& row : t.rows) {
                CHECK(row.size() == t.columns.size());
            }
        }
        const std::string pdf = handSheetPdf(d, sheet, paperNamed("a4"));
        CHECK(pdf.substr(0, 5) == "%PDF-");
        CHECK(pdf == handSheetPdf(d, sheet, paperNamed("a4")));
        CHECK(handSheetText(sheet).find(sheet.tables.front().heading) != std::string::npos);
    }
    CHECK(names == std::set<std::string>{"facets", "nut", "frets", "dots", "sawing", "sled", "bush",
                                         "ferrules", "jack"});
    CHECK(refusedWith([&] {
              handSheet(d, "cake", LengthUnit::mm);
          }).find("\"cake\" is not a sheet; one of facets") == 0);
    const Derived bare = deriveDrawing(newProject("bare", 6, 648, 22, Hand::right));
    for (const char* none : {"facets", "ferrules", "jack", "bush"}) {
        CHECK_FALSE(refusedWith([&] { handSheet(bare, none, LengthUnit::mm); }).empty());
    }
    CHECK(handSheets(bare, LengthUnit::mm).size() == 4); // nut, frets, sawing, sled
}

TEST_CASE("Facets are asked for at any places of the shaft", "[hand]") {
    const Derived d = drawnBody(bodyWith());
    const HandSheet sheet = handSheet(d, "facets", LengthUnit::mm, {200, 100});
    const HandSheet::Table& first = tableOf(sheet, "First facet, 45 degrees");
    REQUIRE(first.rows.size() == 4);
    CHECK(first.rows[0][0] == "100.0");
    CHECK(first.rows[0][1] == "bass");
    CHECK(first.rows[1][1] == "treble");
    // A section that is the same on both sides is marked the same on both.
    CHECK(first.rows[0][2] == first.rows[1][2]);
    CHECK(refusedWith([&] {
              handSheet(d, "facets", LengthUnit::mm, {-100, 200});
          }).find("turns into head") != std::string::npos);
    CHECK(refusedWith([&] { handSheet(d, "facets", LengthUnit::mm, {100}); }).find("two places") !=
          std::string::npos);
    // A neck that is thicker between two places than straight: told where the flat goes in.
    const Derived full = drawnBody(bodyWith({{"neck.stations", "1 20 C, 6 25 C, 12 21 C"}}));
    CHECK(handSheet(full, "facets", LengthUnit::mm, {40, 300})
              .cautions.front()
              .find("ask for a place there too") != std::string::npos);
    std::vector<double> close;
    for (double x = 40; x <= 300; x += 20) {
        close.push_back(x);
    }
    CHECK(handSheet(full, "facets", LengthUnit::mm, close).cautions.size() == 1);
}

TEST_CASE("A page in inches says inches throughout", "[hand]") {
    const Derived d = drawnBody(bodyWith());
    const std::string text = handSheetText(handSheet(d, "sawing", LengthUnit::inch));
    CHECK(text.find(" mm") == std::string::npos);
    const HandSheet sheet = handSheet(d, "frets", LengthUnit::inch);
    CHECK(std::stod(sheet.tables[0].rows[11][1]) ==
          Approx(d.frets[11].fromNut / 25.4).margin(6e-4));
}

TEST_CASE("A left-handed instrument's sheets name its own sides", "[hand]") {
    const HandSheet right = handSheet(drawnBody(bodyWith()), "ferrules", LengthUnit::mm);
    const HandSheet left =
        handSheet(drawnBody(bodyWith({{"board.hand", "left"}})), "ferrules", LengthUnit::mm);
    CHECK(right.tables[0].rows.front()[2].find("bass") != std::string::npos);
    CHECK(left.tables[0].rows.front()[2].find("treble") != std::string::npos);
}

TEST_CASE("The nut's slots stand by both rules", "[hand]") {
    const Project p = withKey(bodyWith(), "board.gauges", "1.3 1.0 0.8 0.6 0.4 0.3");
    const Derived d = drawnBody(p);
    const HandSheet sheet = handSheet(d, "nut", LengthUnit::mm);
    const HandSheet::Table& slots = tableOf(sheet, "From the nut's bass end");
    REQUIRE(slots.rows.size() == 6);
    const auto at = [&](std::size_t row, std::size_t column) {
        return std::stod(slots.rows[row][column]);
    };
    double gap = 0;
    for (std::size_t i = 1; i < 6; ++i) {
        CHECK(at(i, 2) - at(i - 1, 2) == Approx(p.board.nutSpread / 5).margin(0.011));
        const double edges = at(i, 3) - at(i - 1, 3) -
                             (p.board.gauges[i].thickness + p.board.gauges[i - 1].thickness) / 2;
        gap = i == 1 ? edges : gap;
        CHECK(edges == Approx(gap).margin(0.021)); // two figures rounded to a hundredth
    }
    CHECK(at(0, 2) == Approx(p.board.overhangBass).margin(0.006));
    CHECK(slots.rows[0][0] == "6");
}

TEST_CASE("Sawn pieces lie within the shop's boards, a kerf apart", "[hand]") {
    std::mt19937 random(7);
    const auto any = [&](double low, double high) {
        return std::uniform_real_distribution(low, high)(random);
    };
    int laid = 0, bought = 0;
    for (int round = 0; round < 30; ++round) {
        Project p = bodyWith({{"body.build", "topped"}, {"body.bookmatch", "yes"}});
        p.neckBlank.strips = 1 + round % 3;
        p.sawing.kerf = any(0, 6);
        for (int i = 0; i < 6; ++i) {
            const char* wood = std::array{"white-ash", "hard-maple", "cherry"}.at(i % 3);
            p.sawing.boards.push_back({wood, any(400, 2400), any(60, 420), any(8, 70)});
        }
        const Derived d = deriveDrawing(p);
        const CutList list = cutList(d);
        REQUIRE(list.pieces.size() >= 5);
        std::vector<Region> sawn(p.sawing.boards.size());
        std::vector<double> shares(p.sawing.boards.size(), 0);
        for (const SawnPiece& s : list.pieces) {
            if (!s.board) {
                ++bought;
                continue;
            }
            ++laid;
            const RoughBoard& b = p.sawing.boards[*s.board];
            CHECK(b.wood == s.wood);
            CHECK(b.thickness >= s.thickness);
            CHECK(s.x >= 0);
            CHECK(s.y >= 0);
            CHECK(s.x + s.length <= b.length + 1e-6);
            CHECK(s.y + s.width <= b.width + 1e-6);
            // With the saw's cut beside it no piece meets another (polygons by GEOS).
            const double k = p.sawing.kerf - 1e-6;
            const Region own(Ring{{s.x, s.y},
                                  {s.x + s.length + k, s.y},
                                  {s.x + s.length + k, s.y + s.width + k},
                                  {s.x, s.y + s.width + k}});
            CHECK((sawn[*s.board] & own).area() < 1e-3);
            sawn[*s.board] = sawn[*s.board].empty() ? own : sawn[*s.board] + own;
            shares[*s.board] += s.length * s.width / (b.length * b.width);
        }
        for (std::size_t b = 0; b < shares.size(); ++b) {
            CHECK(list.yields[b] == Approx(shares[b]));
            CHECK(list.yields[b] <= 1);
        }
        CHECK(list.yield <= 1);
    }
    CHECK(laid > 20);
    CHECK(bought > 20);
}

TEST_CASE("Small pieces come out of what large ones leave", "[hand]") {
    Project p = bodyWith();
    p.blank.wood = p.bodyWoods.body;
    p.sawing.boards = {{p.bodyWoods.body, 1500, 420, 60}, {p.bodyWoods.body, 1500, 420, 60}};
    const CutList list = cutList(deriveDrawing(p));
    std::set<std::size_t> used;
    for (const SawnPiece& s : list.pieces) {
        if (s.wood == p.bodyWoods.body) {
            REQUIRE(s.board);
            used.insert(*s.board);
        }
    }
    CHECK(used.size() == 1); // body and fretboard out of one board
    // A bookmatched top is sawn thick and opened.
    Project matched = bodyWith({{"body.build", "topped"}, {"body.bookmatch", "yes"}});
    matched.sawing.kerf = 2;
    matched.sawing.planing = 4;
    const Derived drawn = deriveDrawing(matched);
    for (const SawnPiece& s : cutList(drawn).pieces) {
        if (s.leaves == 2) {
            const Blank& top = drawn.job(Role::top)->held.blank;
            CHECK(s.thickness == Approx(2 * (top.thickness + 4) + 2));
            CHECK(s.width == Approx(top.width / 2 + matched.sawing.wider));
        }
    }
    CHECK(cutListCsv(drawn).find("resawn into 2 leaves") != std::string::npos);
}

TEST_CASE("The whole instrument is drawn at full size, plan over side", "[hand]") {
    for (const char* angle : {"0", "2.5"}) {
        const Project p = bodyWith({{"neck_pocket.angle", angle}});
        const Derived d = drawnBody(p);
        const Drawing whole = wholeDrawing(d);
        const auto box = whole.box();
        const BodyPlace& place = d.body->part.place();
        const double tip = place.toBody({d.neck->part.outline().tip(), 0, 0}).x;
        CHECK(box[0].x == Approx(tip - 5).margin(0.1)); // a centreline reaches 5 mm further
        const auto body = boxOf(d.body->part.outline());
        CHECK(box[1].x == Approx(body[1].x + 5).margin(0.01));
        CHECK(box[1].y >= body[1].y - 0.01); // holes drilled into the edge stand out a little
        CHECK(box[1].y < body[1].y + 10);
        // The bridge line of the side view reaches from the back to the strings.
        double low = 1e9, high = -1e9;
        for (const DrawnLine& line : whole.lines) {
            for (const ContourPiece& piece : line.pieces) {
                if (line.layer == "bridge-line" && piece.from.x == piece.to.x &&
                    piece.from.y < body[0].y) {
                    low = std::min({low, piece.from.y, piece.to.y});
                    high = std::max({high, piece.from.y, piece.to.y});
                }
            }
        }
        const SetupGeometry setup = setupGeometry(d.body->part, d.neck->part);
        CHECK(high - low == Approx(d.body->part.thickness() + setup.middleSaddle));
        for (const char* format : {"dxf", "svg", "pdf"}) {
            CHECK(exportWhole(d, format, paperNamed("a3")).size() > 10000);
        }
    }
    const Derived d = drawnBody(bodyWith());
    CHECK(refusedWith([&] { exportWhole(d, "step", paperNamed("a4")); }).find("is a drawing") !=
          std::string::npos);
}

TEST_CASE("A design is kept under a name, compared, frozen and taken again", "[variants]") {
    const Project plain = bodyWith();
    Project p = withVariant(plain, "light");
    REQUIRE(p.variants.size() == 1);
    p = withKey(p, "body.thickness", "40");
    p = withVariant(p, "thin");
    CHECK(variantOf(p, "light").body.thickness == plain.body.thickness);
    CHECK(variantOf(p, "thin").variants.empty());
    // Through the file, with what others wrote into it.
    std::string text = projectToText(p);
    const auto doc = nlohmann::json::parse(text);
    REQUIRE(doc["variants"].size() == 2);
    auto more = doc;
    more["variants"][0]["mood"] = "bright";
    Project back = projectFromText(more.dump(), "x");
    CHECK(nlohmann::json::parse(projectToText(back))["variants"][0]["mood"] == "bright");
    back.variants[0].unknown.clear();
    CHECK(back == p);
    // Nothing of it in the hash or in what is made.
    CHECK(designHash(p) == designHash(withKey(plain, "body.thickness", "40")));
    Project boards = p;
    boards.sawing.boards.emplace_back();
    boards.sawing.kerf = 5;
    boards.sled.bearing = 12;
    CHECK(designHash(boards) == designHash(p));
    p = withFrozen(p, "light", true);
    CHECK(refusedWith([&] { withVariant(p, "light"); }).find("is frozen") != std::string::npos);
    CHECK(refusedWith([&] { withoutVariant(p, "light"); }).find("is frozen") != std::string::npos);
    const Project taken = takenVariant(p, "light");
    CHECK(taken.body.thickness == plain.body.thickness);
    CHECK(taken.variants == p.variants);
    CHECK(withoutVariant(withFrozen(p, "light", false), "light").variants.size() == 1);
    CHECK(refusedWith([&] { takenVariant(p, "heavy"); }) ==
          "No variant is called \"heavy\"; light, thin was expected.");
    CHECK_FALSE(refusedWith([&] { withVariant(p, ""); }).empty());
    for (std::size_t i = 0; i + 2 < mostVariants; ++i) {
        p = withVariant(p, "more " + std::to_string(i));
    }
    CHECK_FALSE(refusedWith([&] { withVariant(p, "one too many"); }).empty());
}

TEST_CASE("Variants that are damaged are refused with their place", "[variants]") {
    const auto doc = nlohmann::json::parse(projectToText(withVariant(bodyWith(), "a")));
    const auto said = [&](const std::function<void(nlohmann::json&)>& spoil) {
        auto bad = doc;
        spoil(bad["variants"]);
        return refusedWith([&] { projectFromText(bad.dump(), "x"); });
    };
    CHECK(said([](auto& v) { v = 3; }).find("variants must be a list") != std::string::npos);
    CHECK(said([](auto& v) { v[0].erase("design"); }).find("variants.0") != std::string::npos);
    CHECK(said([](auto& v) { v[0]["frozen"] = 1; }).find("variants.0") != std::string::npos);
    CHECK(said([](auto& v) { v.push_back(v[0]); }).find("variants.1 has the name of another") !=
          std::string::npos);
    CHECK(said([](auto& v) {
              v[0]["design"]["body"]["thickness"] = "thick";
          }).find("variants.0: body.thickness") != std::string::npos);
    CHECK(said([](auto& v) { v[0]["name"] = std::string(61, 'a'); }).find("1 to 60 characters") !=
          std::string::npos);
    CHECK(said([](auto& v) { v[0]["name"] = ""; }).find("variants.0") != std::string::npos);
    CHECK(said([](auto& v) { v[0]["design"] = 3; }).find("variants.0") != std::string::npos);
    // A variant in a variant is not read, however deep.
    auto nested = doc;
    nested["variants"][0]["design"]["variants"] = doc["variants"];
    CHECK(projectFromText(nested.dump(), "x").variants[0].design->variants.empty());
}

TEST_CASE("The demo's instruments are proved without a stop or a caution", "[demo]") {
    for (const char* name : {"whinchat", "ring-ouzel"}) {
        const Derived d = derive(loadProject(std::string(WREN_SOURCE) + "/demo/" + name + ".wren"));
        CHECK(d.proved());
        for (const Finding& f : d.findings) {
            INFO(name << ": " << f.message);
            CHECK(f.weight == Weight::note);
        }
    }
}

TEST_CASE("A sled reaches over every blank, its ends on the rails", "[hand]") {
    const Project p = bodyWith({{"sled.bit_to_end", "80"}, {"sled.bearing", "25"}});
    const Derived d = drawnBody(p);
    const HandSheet sheet = handSheet(d, "sled", LengthUnit::mm);
    const HandSheet::Table& table = tableOf(sheet, "Over each blank");
    const std::vector<WoodPiece> wood = woodList(d);
    REQUIRE(table.rows.size() == wood.size());
    for (std::size_t i = 0; i < wood.size(); ++i) {
        INFO(wood[i].piece);
        CHECK(table.rows[i][0] == wood[i].piece);
        // Widest part, and on each side from the bit's edge to the sled's end and the rail's width;
        // common practice, no source.
        CHECK(std::stod(table.rows[i][4]) == Approx(wood[i].width + 2 * (80 + 25)).margin(0.051));
    }
    // The drawn carriage is as long as the widest blank asks for.
    const auto box = sheet.drawing.box();
    double widest = 0;
    for (const WoodPiece& w : wood) {
        widest = std::max(widest, w.width);
    }
    CHECK(box[1].x - box[0].x == Approx(widest + 210).margin(0.01));
}

TEST_CASE("A guide bush runs beside the cut, a bearing on it", "[hand]") {
    const auto rows = [](const Changes& changes) {
        const HandSheet sheet = handSheet(drawnBody(bodyWith(changes)), "bush", LengthUnit::mm);
        return tableOf(sheet, "Each template").rows;
    };
    const auto bearing = rows({});
    REQUIRE(bearing.size() >= 4);
    for (const auto& row : bearing) {
        CHECK(row[1] == "on the line");
    }
    const auto bush = rows({{"templates.bush", "16"}, {"templates.bit", "8"}});
    REQUIRE(bush.size() == bearing.size());
    CHECK(bush[0][0] == "outline");
    CHECK(bush[0][1] == "4.00 in"); // (16 - 8) / 2; round a body the template is smaller
    for (std::size_t i = 1; i < bush.size(); ++i) {
        CHECK(bush[i][1] == "4.00 out");           // and an opening larger
        CHECK(std::stod(bush[i][4]) == Approx(4)); // the bit rounds corners by its radius
    }
    const Project p = bodyWith();
    const auto pocket = std::find_if(bearing.begin(), bearing.end(),
                                     [](const auto& row) { return row[0] == "neck pocket"; });
    REQUIRE(pocket != bearing.end());
    CHECK(std::stod((*pocket)[2]) == Approx(p.body.pocket.depth).margin(0.051));
    CHECK(std::stod((*pocket)[3]) ==
          Approx(p.body.pocket.depth + p.templates.thickness).margin(0.051));
}

TEST_CASE("String holes stand under their strings, drawn to be laid on", "[hand]") {
    const Derived d = drawnBody(bodyWith());
    const HandSheet sheet = handSheet(d, "ferrules", LengthUnit::mm);
    CHECK(sheet.toLayOn);
    const HandSheet::Table& table = sheet.tables.front();
    std::vector<Hole> holes;
    for (const Hole& h : d.body->part.holes()) {
        if (h.feature.kind == FeatureKind::string) {
            holes.push_back(h);
        }
    }
    REQUIRE(table.rows.size() == holes.size());
    std::sort(holes.begin(), holes.end(),
              [](const Hole& a, const Hole& b) { return a.at.y < b.at.y; });
    for (std::size_t i = 0; i < holes.size(); ++i) {
        CHECK(std::stod(table.rows[i][1]) ==
              Approx(holes[i].at.x - d.body->part.place().bridge).margin(0.006));
        CHECK(std::stod(table.rows[i][2]) == Approx(std::abs(holes[i].at.y)).margin(0.006));
        if (i > 0) {
            CHECK(std::stod(table.rows[i][3]) ==
                  Approx(holes[i].at.y - holes[i - 1].at.y).margin(0.006));
        }
    }
    // Every one is a whole circle of the drill's size at its place.
    int circles = 0;
    for (const DrawnLine& line : sheet.drawing.lines) {
        WholeCircle circle;
        if (line.layer == "holes" && isWholeCircle(line, circle)) {
            ++circles;
            CHECK(2 * circle.radius == Approx(holes.front().diameter));
        }
    }
    CHECK(circles == static_cast<int>(holes.size()));
}

TEST_CASE("Blind slots take their tangs short", "[hand]") {
    const auto fret12 = [](const Changes& changes) {
        const HandSheet sheet = handSheet(drawnBody(bodyWith(changes)), "frets", LengthUnit::mm);
        const auto& row = tableOf(sheet, "Fret by fret").rows.at(11);
        return std::pair(std::stod(row[2]), std::stod(row[3]));
    };
    const auto through = fret12({});
    CHECK(through.first == through.second);
    const auto blind = fret12({{"board.blind_margin", "2"}});
    CHECK(blind.first == through.first); // the wire still reaches both edges
    CHECK(blind.second < through.second - 3.5);
    CHECK(blind.second > through.second - 4.5);
}

TEST_CASE("Dots are told and drawn where they are drilled", "[hand]") {
    const Derived d = drawnBody(
        bodyWith({{"markers.side_frets", "3 5 7 9 12"}, {"markers.frets", "3 5 7 9 12"}}));
    const HandSheet sheet = handSheet(d, "dots", LengthUnit::mm);
    const HandSheet::Table& side = tableOf(sheet, "In the bass edge");
    const std::vector<SideDot> dots = sideDots(d.project.board);
    REQUIRE(side.rows.size() == dots.size());
    for (std::size_t i = 0; i < dots.size(); ++i) {
        CHECK(side.rows[i][0] == std::to_string(dots[i].fret));
        CHECK(std::stod(side.rows[i][1]) == Approx(dots[i].fromNut).margin(0.006));
        CHECK(std::stod(side.rows[i][2]) == Approx(dots[i].fromUnderside).margin(0.006));
    }
    const HandSheet::Table& face = tableOf(sheet, "In the face");
    const std::vector<MarkerPlace> places = markerPlaces(d.project.board);
    REQUIRE(face.rows.size() == places.size());
    int off = 0;
    for (std::size_t i = 0; i < places.size(); ++i) {
        CHECK(std::stod(face.rows[i][1]) == Approx(places[i].at.x).margin(0.006));
        off += face.rows[i][2] == "on it" ? 0 : 1;
    }
    CHECK(off == 2); // the pair at the octave
}
