#include "neck_support.h"

#include "base/files.h"
#include "cut/contact.h"
#include "cut/neck_finish.h"
#include "job/posting.h"
#include "job/report.h"

#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

const Derived& ordinary() {
    static const Derived d = derive(neckWith({{"neck.pin_frets", "2 19"}}));
    return d;
}

std::string stopsOf(const Derived& d) {
    std::string all;
    for (const Finding& f : d.findings) {
        if (f.weight == Weight::stop) {
            all += f.message + "\n";
        }
    }
    return all;
}

} // namespace

TEST_CASE("A neck is proved from both sides in one piece of wood", "[neck][proof]") {
    const Derived& d = ordinary();
    INFO(stopsOf(d));
    REQUIRE(d.neck);
    REQUIRE(d.job(Role::neck)->proof);
    CHECK(d.job(Role::neck)->proof->passed());
    for (const ProofReport& side : d.job(Role::neck)->proof->sides) {
        CHECK(side.gougeMax <= gougeAllowed);
        CHECK(side.excessMax <= d.project.neckCut.scallop + excessBeyondScallop);
        CHECK(side.wallMax <= wallAllowed);
    }
    // Straight down there is a little more wood than the shortest way from the corners.
    double least = 1e9;
    for (const WoodUnder& w : d.neck->woodUnder) {
        least = std::min(least, w.wood);
    }
    CHECK(d.job(Role::neck)->proof->rodWoodLeast >= least - 0.05);
    CHECK(d.job(Role::neck)->proof->rodWoodLeast < least + 1.5);
}

namespace {

void checkProved(const std::vector<Changes>& necks) {
    checkAllProved([] { return neckWith(); }, necks,
                   [](Project& p) {
                       for (Bit& b : p.bits) { // a drawer for thick blanks
                           if (p.neck.head.kind == HeadKind::tilted) {
                               b.fluteLength = std::max(b.fluteLength, 40.0);
                               b.reach = std::max(b.reach, 60.0);
                           }
                       }
                   });
}

} // namespace

TEST_CASE("Necks of odd shapes are proved too", "[neck][proof]") {
    checkProved(
        {{{"board.hand", "left"}, {"neck.stations", "1 20.5 V, 12 22.5 U"}},
         {{"head.kind", "tilted"}, {"head.angle", "4"}, {"neck_blank.thickness", "34"}},
         {{"head.like", "paddle"},
          {"tuners.bass_side", "3"},
          {"tuners.places", "-42 -18, -72 -19, -102 -19, -102 19, -72 19, -42 18"},
          {"head.volute", "1.5"},
          {"neck.heel_shape", "tapered"}},
         {{"neck.traces", "t: -21 0, -20 5, -16 9.5, -8 12.6, 0 13.5, 8 12.9, 16 9.4, 19.5 5, "
                          "21 0"},
          {"neck.stations", "1 20.5 @t, 5 20.8 C, 12 22.5 @t"}},
         {{"neck_cut.finish_way", "across"},
          {"head.kind", "tilted"},
          {"head.angle", "3"},
          {"neck_blank.thickness", "34"}},
         {{"neck_cut.finish_way", "across"}, {"neck.heel_shape", "square"}},
         {{"neck_cut.finish_way", "split"}},
         {{"neck_cut.finish_way", "split"},
          {"board.hand", "left"},
          {"neck.stations", "1 20.5 V/U, 12 22.5 U/V"},
          {"neck.heel_shape", "tapered"},
          {"head.kind", "tilted"},
          {"head.angle", "3"},
          {"neck_blank.thickness", "34"}},
         {{"board.strings", "7"},
          {"board.hand", "left"},
          {"head.like", "paddle"},
          {"tuners.bass_side", "4"},
          {"tuners.body_length", "14"},
          {"tuners.body_width", "12"},
          {"neck_blank.thickness", "27"},
          {"tuners.pitch", "30"},
          {"board.nut_spread", "46"},
          {"board.bridge_spread", "66"}},
         {{"neck.joint", "through"},
          {"machine.like", "Long router"},
          {"neck.heel_past", "330"},
          {"neck.heel_length", "400"},
          {"neck.heel_depth", "38"}, // a tight bend down to it
          {"neck.heel_shape", "square"}},
         {{"rod.run", "follows"},
          {"neck.nut_slot", "3"},
          {"head.plate", "1.5"},
          {"head.plate_screws", "2"}}});
}

TEST_CASE("Necks turned and held in other ways are proved too", "[neck][proof]") {
    checkProved({{{"neck_hold.turn", "end-for-end"}, {"neck_hold.register", "marks"}},
                 {{"rod.carbon_width", "6.2"},
                  {"rod.adjuster", "head"},
                  {"neck.heel_shape", "square"},
                  {"neck.heel_past", "6"},
                  {"neck.joint", "set"}},
                 {{"neck_hold.witness_x", "0.3"},
                  {"neck_hold.witness_y", "-0.2"},
                  {"machine.units", "inch"}}});
}

TEST_CASE("A ball and a bull-nose touch plane, cylinder and sphere where they should",
          "[neck][contact]") {
    const auto endOf = [](BitKind kind, double diameter, double corner) {
        Bit b;
        b.kind = kind;
        b.diameter = diameter;
        b.corner = corner;
        return EndShape::of(b);
    };
    const EndShape ball = endOf(BitKind::ball, 6, 0);
    const EndShape bull = endOf(BitKind::bullNose, 12, 3);
    const EndShape flat = endOf(BitKind::flat, 6, 0);
    // A plane tilted by a about Y, through the origin: the ball's middle stands r along the normal.
    for (double a : {0.1, 0.5, 1.2}) {
        const Vec3 n{std::sin(a), 0, std::cos(a)};
        const Vec3 tip = tipTouching({}, n, ball);
        CHECK(tip.x == Approx(3 * n.x));
        CHECK(tip.z == Approx(3 * n.z - 3));
        // The bull-nose's torus: its core circle of radius 3 stands over the same offset.
        const Vec3 nose = tipTouching({}, n, bull);
        CHECK(nose.x == Approx(3 * n.x + 3));
        CHECK(nose.z == Approx(3 * n.z - 3));
        const Vec3 edge = tipTouching({}, n, flat);
        CHECK(edge.x == Approx(3));
        CHECK(edge.z == Approx(0).margin(1e-12));
    }
    // A sphere of radius 20 about the origin: the ball's middle lies on one of 23.
    const Vec3 n{0.36, 0.48, 0.8};
    const Vec3 tip = tipTouching(n * 20, n, ball);
    CHECK(length(tip + Vec3{0, 0, 3}) == Approx(23));
    // A cylinder along X of radius 10: at 60 degrees the bull-nose's middle is 13 sin 60 + 3 off.
    const double s60 = std::sqrt(3) / 2;
    const Vec3 onCylinder = tipTouching({7, 10 * s60, 5}, {0, s60, 0.5}, bull);
    CHECK(onCylinder.x == Approx(7));
    CHECK(onCylinder.y == Approx(13 * s60 + 3));
    CHECK(onCylinder.z == Approx(13 * 0.5 - 3));
}

TEST_CASE("Finishing lines leave ridges no higher than asked", "[neck]") {
    const NeckPart& part = ordinary().neck->part;
    const Bit& ball = *findBit(ordinary().project.bits, "ball-6");
    for (const FinishStretch& s : finishLines(part, ball, 0.02)) {
        if (s.plane) {
            const double step = s.lines[1] - s.lines[0];
            CHECK(3 - std::sqrt(9 - step * step / 4) <= 0.02);
            continue;
        }
        const NeckBack::Slice slice = part.back().slice((s.from + s.to) / 2);
        for (std::size_t i = 1; i < s.lines.size(); ++i) {
            const auto a = slice.touch(s.lines[i - 1]);
            const auto b = slice.touch(s.lines[i]);
            // On a round of radius R two balls of radius r leave this between them, exactly.
            const double half = std::acos(std::clamp(dot(a.normal, b.normal), -1.0, 1.0)) / 2;
            const double s2 = length(b.point - a.point) / 2;
            if (half < 1e-4) { // level: the plain formula
                CHECK(3 - std::sqrt(9 - s2 * s2) <= 0.02);
                continue;
            }
            const double big = s2 / std::sin(half);
            const double apart = (big + 3) * std::sin(half);
            CHECK((big + 3) * std::cos(half) - big - std::sqrt(9 - apart * apart) <= 0.02);
        }
    }
}

TEST_CASE("A bit rolls only in hollows wider than its rounding and its level end", "[neck]") {
    Bit ball;
    ball.kind = BitKind::ball;
    ball.diameter = 6;
    CHECK(rollsIn(ball, 3.2));
    CHECK_FALSE(rollsIn(ball, 3.1)); // 3 mm fill all of it
    Bit bull;
    bull.kind = BitKind::bullNose;
    bull.diameter = 12;
    bull.corner = 3;
    // Its level 3 mm dig 3^2 / 2R into a hollow: 0.1 mm at a radius of 45, 0.001 at 4500.
    CHECK_FALSE(rollsIn(bull, 45));
    CHECK(rollsIn(bull, 4500));
    CHECK(rollsIn(bull, std::numeric_limits<double>::infinity()));
}

TEST_CASE("Level passes hold one height on the steep flanks, lines along do the rest", "[neck]") {
    const NeckPart& part = ordinary().neck->part;
    const Bit& ball = *findBit(ordinary().project.bits, "ball-6");
    const EndShape end = EndShape::of(ball);
    const NeckBack::Slice slice = part.back().slice(200);
    for (const FinishStretch& s : finishLines(part, ball, 0.02, FinishWay::split)) {
        if (s.plane || s.hollow || s.from > 200 || s.to < 200) {
            continue;
        }
        REQUIRE(s.levels.size() > 5);
        CHECK(std::is_sorted(s.levels.begin(), s.levels.end()));
        for (int side : {-1, 1}) {
            double before = -side * 1e9; // Y of the contact below, further out
            int met = 0;
            for (double level : s.levels) {
                const auto c = contactAtLevel(slice, side, level, end);
                if (!c) {
                    continue;
                }
                ++met;
                CHECK(tipTouching(c->point, c->normal, end).z == Approx(level).margin(1e-6));
                CHECK(c->point.z == Approx(slice.depth(c->point.y)).margin(1e-3));
                CHECK(side * c->point.y > 0);
                CHECK(std::acos(c->normal.z) > 44 * std::numbers::pi / 180);
                if (met > 1) {
                    CHECK(side * c->point.y < side * before);
                }
                before = c->point.y;
            }
            CHECK(met > 5);
        }
    }
    // No slope is left between the two.
    for (double lean = 0; lean < 90; lean += 0.5) {
        const double a = lean * std::numbers::pi / 180;
        const BackContact c{{}, {std::sin(a), 0, std::cos(a)}};
        CHECK((shallowEnough(c) || steepEnough(c)));
    }
    CHECK_FALSE(contactAtLevel(slice, 1, slice.spine() + 1, end));
}

TEST_CASE("A broad share and the rest cover the back between them", "[neck]") {
    const NeckPart& part = ordinary().neck->part;
    const Bit& bull = *findBit(ordinary().project.bits, "bull-12-3");
    const Bit& ball = *findBit(ordinary().project.bits, "ball-6");
    for (const FinishWay way : {FinishWay::along, FinishWay::across, FinishWay::split}) {
        const double keep = bull.radius() + 1;
        std::vector<FinishStretch> both =
            finishLines(part, bull, 0.02, way, {FinishShare::Of::broad, keep});
        for (const FinishStretch& s : both) {
            CHECK_FALSE(s.hollow);
            // Clear of the transitions by the bit's own radius, where they hollow out of the shaft.
            if (!s.plane && s.from < part.back().heelFrom()) {
                CHECK(s.from - bull.radius() >= part.back().headTo() - 1e-9);
                CHECK(s.to + bull.radius() <= part.back().heelFrom() + 1e-9);
            }
        }
        const auto rest = finishLines(part, ball, 0.02, way, {FinishShare::Of::rest, keep});
        CHECK(rest.size() == 2);
        both.insert(both.end(), rest.begin(), rest.end());
        std::sort(both.begin(), both.end(),
                  [](const FinishStretch& a, const FinishStretch& b) { return a.from < b.from; });
        CHECK(both.front().from <= part.outline().tip());
        CHECK(both.back().to >= part.outline().end());
        for (std::size_t i = 1; i < both.size(); ++i) {
            CHECK(both[i].from < both[i - 1].to);
        }
    }
}

TEST_CASE("A fault in a posted neck program is found and named", "[neck][proof]") {
    const Derived& d = ordinary();
    const auto prove =
        [&](const std::function<void(std::array<std::vector<RunProgram>, 2>&)>& spoil) {
            auto programs = d.job(Role::neck)->read;
            spoil(programs);
            return provedNeck(d, programs, 0.4);
        };
    const auto codes = [](const PartProof& p) {
        std::string all;
        for (const ProofReport& side : p.sides) {
            for (const Finding& f : side.findings) {
                all += f.code + " ";
            }
        }
        return all;
    };
    const auto shift = [](RunProgram& p, Vec3 by) {
        for (Move& m : p.path) {
            m.from = m.from + by;
            m.to = m.to + by;
            m.centre = m.centre + by;
        }
    };
    CHECK_THAT(codes(prove([&](auto& p) {
                   shift(p[1].back(), {0, 0, -0.05});
               })),
               Contains("gouge"));
    CHECK_THAT(codes(prove([&](auto& p) {
                   shift(p[1].back(), {0, 0, 0.06});
               })),
               Contains("wood-left"));
    CHECK_THAT(codes(prove([&](auto& p) { shift(p[0].front(), {0, 0.05, 0}); })), Contains("wall"));
    CHECK_THAT(codes(prove([&](auto& p) { p[1].pop_back(); })), Contains("wood-left"));
    // Side two from a zero 0.3 mm too far back: the outline no longer meets the design.
    CHECK_THAT(codes(prove([&](auto& p) {
                   for (RunProgram& one : p[1]) {
                       shift(one, {0, 0.3, 0});
                   }
               })),
               Contains("wall"));
    // Without the outline's lift over the tabs nothing holds the neck.
    CHECK_THAT(codes(prove([&](auto& p) {
                   for (Move& m : p[1][0].path) {
                       const bool low = m.cuts() && m.from.z < 8.6 && m.to.z < 8.6;
                       if (low) {
                           m.from.z = std::min(m.from.z, -0.3);
                           m.to.z = std::min(m.to.z, -0.3);
                       }
                   }
               })),
               Contains("part-free"));
}

TEST_CASE("A block turned over lands its holes where they were", "[neck][stock]") {
    // Asymmetric, and no whole number of cells long or wide.
    Blank b;
    b.length = 61.3;
    b.width = 40.7;
    b.thickness = 12;
    const std::vector<Vec2> holes{{10.1, 8.3}, {50.2, 30.9}, {22.2, 33.3}};
    Bit drill;
    drill.kind = BitKind::flat;
    drill.diameter = 3;
    const auto drilled = [&](Stock stock, const std::vector<Vec2>& at, double to) {
        for (Vec2 p : at) {
            Move m;
            m.motion = Motion::line;
            m.from = {p.x, p.y, 15};
            m.to = {p.x, p.y, to};
            sweep(stock, EndShape::of(drill), m, 0, stock.rows());
        }
        return stock;
    };
    const auto middleOf = [](const Stock& s, Vec2 near, auto open) {
        Vec2 sum;
        double n = 0;
        for (int r = 0; r < s.rows(); ++r) {
            for (int c = 0; c < s.columns(); ++c) {
                const Vec2 p{s.x(c), s.y(r)};
                if (length(p - near) < 2.5 && open(c, r)) {
                    sum = sum + p;
                    n += 1;
                }
            }
        }
        REQUIRE(n > 0);
        return sum * (1 / n);
    };
    const Stock face = drilled(Stock(b, 0, 0.05), holes, 5);
    const Stock sides = face.turnedSideForSide(b.length, b.width, 0);
    const Stock ends = face.turnedEndForEnd(b.length, b.width, 0);
    for (Vec2 h : holes) {
        const auto below = [](const Stock& s) {
            return [&s](int c, int r) { return s.low(c, r) > 6; };
        };
        const Vec2 a = middleOf(sides, {h.x, b.width - h.y}, below(sides));
        CHECK(a.x == Approx(h.x).margin(0.02));
        CHECK(a.y == Approx(b.width - h.y).margin(0.02));
        const Vec2 e = middleOf(ends, {b.length - h.x, h.y}, below(ends));
        CHECK(e.x == Approx(b.length - h.x).margin(0.02));
        CHECK(e.y == Approx(h.y).margin(0.02));
    }
    // Drilled on from the other side they go through, and the wood is what it should be.
    std::vector<Vec2> turned;
    for (Vec2 h : holes) {
        turned.push_back({h.x, b.width - h.y});
    }
    const Stock both = drilled(sides, turned, 4);
    const double hole = 3.14159265 * 2.25;
    CHECK(face.volume() - both.volume() == Approx(3 * hole * 5).epsilon(0.01));
    CHECK(sides.volume() == Approx(face.volume()));
    for (Vec2 h : turned) {
        CHECK_FALSE(both.wood(int(std::lround(both.column(h.x))), int(std::lround(both.row(h.y)))));
    }
}

TEST_CASE("Pins fit one way only; the correction is half of what the notches show", "[neck]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Project p = neckWith({{"neck_hold.turn", turn}});
        const Held s = drawnNeck(p).held;
        REQUIRE(s.pins.size() == 2);
        const bool side = p.neckHold.turn == TurnOver::sideForSide;
        for (const RegisterPin& pin : s.pins) {
            const auto hits = [&](Vec2 at) {
                return std::any_of(s.pins.begin(), s.pins.end(),
                                   [&](const RegisterPin& q) { return length(q.at - at) < 1; });
            };
            const Vec2 here = s.face.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
            const auto instrument = [&](Vec2 setup) {
                return s.face.fromInstrument.toInstrument({setup.x, setup.y, 0}).xy();
            };
            const Vec2 sideways = instrument({here.x, s.blank.width - here.y});
            const Vec2 endways = instrument({s.blank.length - here.x, here.y});
            CHECK(hits(side ? sideways : endways));
            CHECK_FALSE(hits(side ? endways : sideways));
        }
    }
    const Held plain = drawnNeck(neckWith()).held;
    const Held moved =
        drawnNeck(neckWith({{"neck_hold.witness_x", "0.4"}, {"neck_hold.witness_y", "-0.1"}})).held;
    const Vec3 shift =
        moved.back->fromInstrument.toSetup({}) - plain.back->fromInstrument.toSetup({});
    CHECK(shift.x == Approx(-0.2));
    CHECK(shift.y == Approx(0.05));
    CHECK(moved.face.fromInstrument.toSetup({}) == plain.face.fromInstrument.toSetup({}));
}

TEST_CASE("A drawer without the bits says which are wanted, and where", "[neck][long]") {
    Project p = neckWith();
    std::erase_if(p.bits, [](const Bit& b) { return b.kind == BitKind::ball; });
    const Derived d = derive(p);
    const auto f = findingOf(d.findings, "no-bit");
    REQUIRE(f);
    CHECK(f->part == Role::neck);
    CHECK(postingRight(d, Role::neck) == PostingRight::refused);
    CHECK(postingRight(d, Role::board) == PostingRight::free);
    CHECK(postingRight(d) == PostingRight::refused);
    Project thick = neckWith({{"neck_blank.thickness", "60"}});
    std::erase_if(thick.bits, [](const Bit& b) { return b.name == "long-6"; });
    const Derived shortBits = derive(thick);
    CHECK_THAT(stopsOf(shortBits), Contains("stands only") && Contains("are wanted"));
    const Derived wide = derive(neckWith({{"rod.width", "2"}, {"neck_cut.slots.bit", "flat-6"}}));
    CHECK_THAT(stopsOf(wide), Contains("flat-6 was set by hand, but"));
}

TEST_CASE("The report tells of both parts", "[neck][posting][long]") {
    const Folder folder;
    const Derived& d = ordinary();
    INFO(stopsOf(d));
    CHECK(post(d, folder.str()) == PostingRight::free);
    const auto report = nlohmann::json::parse(readFile(folder / "report.json"));
    CHECK(report["parts"].size() == 2);
    CHECK(report["setups"].size() == 3);
    CHECK(report["proof"].size() == 3);
    CHECK(report["proof"][2]["wood_under_rod_mm"] > 3);
    CHECK(report["setups"][2]["pins_mm"].size() == 2);
    CHECK(report["models"].size() == 4);
    CHECK(std::count_if(report["sheets"].begin(), report["sheets"].end(),
                        [](const nlohmann::json& sheet) {
                            return sheet.get<std::string>().rfind("bench-", 0) != 0 &&
                                   sheet.get<std::string>().rfind("00-", 0) != 0;
                        }) == 3);
    int order = 0;
    for (const auto& p : report["programs"]) {
        CHECK(p["order"] == ++order);
        CHECK(std::filesystem::exists(folder / "programs" / p["file"].get<std::string>()));
    }
    // Only the neck asked for: the board's programs of the earlier posting go stale.
    post(d, folder.str(), {}, {Role::neck});
    const auto neck = nlohmann::json::parse(readFile(folder / "report.json"));
    for (const auto& p : neck["programs"]) {
        CHECK(p["part"] == "neck");
    }
    CHECK_FALSE(std::filesystem::exists(folder / "programs" / d.programs[0].program.file));
}

TEST_CASE("Recomputing the neck can be stopped", "[neck]") {
    std::stop_source stop;
    stop.request_stop();
    Derived d = deriveDrawing(neckWith());
    CHECK_THROWS_AS(derivePrograms(d, stop.get_token()), Cancelled);
    derivePrograms(d);
    CHECK_THROWS_AS(deriveProof(d, stop.get_token()), Cancelled);
}
