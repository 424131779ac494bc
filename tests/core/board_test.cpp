#include "design/scale.h"
#include "exchange/fret_csv.h"
#include "hold/setup.h"

#include "support.h"

using namespace wren;
using test::findingOf;
using test::plainWith;

TEST_CASE("The board takes its width from nut and last fret", "[board]") {
    const Fretboard b = plainWith().board;
    const BoardPart part(b);
    const double last = fretFromNut(b.scaleLength, b.frets);
    CHECK(part.edge(1, 0) - part.edge(-1, 0) == Approx(43));
    CHECK(part.edge(1, last) - part.edge(-1, last) == Approx(56.5));
    CHECK(part.length() == Approx(last + b.pastLastFret));
    CHECK(part.widest() > 56.5);
    double area = 0; // shoelace, negative for clockwise
    for (const ContourPiece& side : part.outline()) {
        area += cross(side.from, side.to) / 2;
    }
    CHECK(area == Approx(-part.areaOfFace()));
}

TEST_CASE("Slot floors run a constant depth below the face, along its normal", "[board]") {
    const BoardPart part(plainWith({{"board.radius", "184"}}).board);
    const double r = 184;
    for (double y : {0.0, 5.0, 14.0, 27.0}) {
        // The floor's point straight in along the normal from (y, face).
        const double nx = y / r;
        const double nz = part.face().normalAt(100, y).z;
        const double fy = y - 2 * nx;
        CHECK(part.floor(100, fy) == Approx(part.face(100, y) - 2 * nz).margin(1e-9));
    }
}

TEST_CASE("The nearest slot is the nearest slot", "[board]") {
    const BoardPart part(plainWith().board);
    const auto& s = part.slots();
    for (double x = -5; x < part.length() + 5; x += 1.7) {
        std::size_t best = 0;
        for (std::size_t i = 1; i < s.size(); ++i) {
            best = std::abs(s[i].middle() - x) < std::abs(s[best].middle() - x) ? i : best;
        }
        CHECK(part.nearestSlot({x, 3}) == static_cast<int>(best));
    }
}

TEST_CASE("Volume agrees with a plain sum of columns", "[board]") {
    for (const char* frets : {"1", "22"}) {
        const BoardPart part(plainWith({{"board.frets", frets}}).board);
        double sum = 0;
        const double step = 0.05;
        for (double x = step / 2; x < part.length(); x += step) {
            const int slot = part.nearestSlot({x, 0});
            const bool inSlot =
                std::abs(part.slots()[static_cast<std::size_t>(slot)].offset({x, 0})) <= 0.29;
            const double w = part.edge(1, x);
            for (int i = 0; i < 200; ++i) {
                const double y = -w + 2 * w * (i + 0.5) / 200;
                sum += (inSlot ? part.floor(x, y) : part.face(x, y)) * step * 2 * w / 200;
            }
        }
        CHECK(part.volume() == Approx(sum).epsilon(2e-3));
    }
}

TEST_CASE("Boards that cannot be made are stopped, with both numbers", "[board]") {
    const auto stopOf = [](const Project& p, const char* code) {
        const auto f = findingOf(judgeFretboard(p.board), code);
        INFO(code);
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
        CHECK(f->message.back() == '.');
        return *f;
    };
    const Finding deep = stopOf(plainWith({{"board.slot_depth", "7"}}), "slot-through-board");
    CHECK(deep.value == Approx(7));
    CHECK(deep.limit == Approx(6));
    CHECK_FALSE(deep.overridable);
    stopOf(plainWith({{"board.radius", "100"}, {"board.last_fret_width", "190"}}),
           "radius-too-small");
    stopOf(plainWith({{"board.overhang", "11"}, {"board.nut_width", "20"}}), "no-room-for-strings");
    stopOf(plainWith({{"board.nut_spread", "100"},
                      {"board.bridge_spread", "5"},
                      {"board.past_last_fret", "400"}}),
           "board-tapers-away");
    CHECK(judgeFretboard(plainWith().board).empty());
}

TEST_CASE("Thin wood under the slots is a caution, then a stop", "[board]") {
    const Project thin = plainWith({{"board.thickness", "4.8"}, {"board.radius", "184"}});
    const auto f = findingOf(judgeFretboard(thin.board), "thin-under-slot");
    REQUIRE(f);
    CHECK(f->weight == Weight::caution);
    CHECK(f->overridable);
    const Project paper = plainWith({{"board.thickness", "4.4"}, {"board.radius", "184"}});
    CHECK(findingOf(judgeFretboard(paper.board), "thin-under-slot")->weight == Weight::stop);
}

TEST_CASE("The fret table is measured from the nut to a hundredth", "[board]") {
    const Fretboard b = plainWith().board;
    const std::string csv = fretTableCsv(b);
    CHECK(csv.find("fret,from_nut_mm,bass_edge_mm,treble_edge_mm,angle_deg,") == 0);
    CHECK(csv.find("\r\n12,310.00,") != std::string::npos);
    CHECK(std::count(csv.begin(), csv.end(), '\n') == 23);
    CHECK(fretTableCsv(b, LengthUnit::inch).find("\r\n12,12.205,") != std::string::npos);
    CHECK(fretTableText(b).find("310.00") != std::string::npos);
}

TEST_CASE("The board lies in the middle of its blank, zero at the crossing less half the blank",
          "[setup]") {
    const Project p = plainWith();
    const BoardPart part(p.board);
    const Setup s = layBoard(part, p.blank, p.machine, ZZero::bed);
    CHECK(s.zeroOnMachine.x == Approx(450 - 250));
    CHECK(s.zeroOnMachine.y == Approx(300 - 38.5));
    const Vec3 nut = s.fromInstrument.toSetup({0, 0, 0});
    CHECK(nut.x == Approx((500 - part.length()) / 2));
    CHECK(nut.y == Approx(38.5));
    CHECK(nut.z == 0);
    const Setup t = layBoard(part, p.blank, p.machine, ZZero::top);
    CHECK(t.fromInstrument.toSetup({0, 0, 0}).z == Approx(-6.8));
    CHECK(t.topZ() == Approx(0));
}

TEST_CASE("A blank too small in any direction is stopped for good", "[setup]") {
    for (const char* key : {"blank.length", "blank.width", "blank.thickness"}) {
        const Project p = plainWith({{key, key == std::string("blank.length")  ? "450"
                                           : key == std::string("blank.width") ? "50"
                                                                               : "5.5"}});
        const Findings f = judgeBlank(BoardPart(p.board), p.blank);
        REQUIRE(f.size() == 1);
        CHECK(f[0].code == "blank-too-small");
        CHECK_FALSE(f[0].overridable);
        CHECK(f[0].value < f[0].limit);
    }
}
