// What the layers of a body share, and what is written of them.

#include "body_support.h"
#include "cut/panel_order.h"
#include "exchange/body_drawing.h"
#include "geom/crossing.h"
#include "job/part_sheet.h"
#include "job/report.h"
#include "part/panel_field.h"

#include <numbers>
#include <numeric>
#include <random>
#include <set>

#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;

TEST_CASE("All layers of a body share one zero and one pair of pins", "[body][layers]") {
    for (const char* turn : {"side-for-side", "end-for-end"}) {
        const Derived d = drawnBody(bodyWith({{"body.build", "topped"}, {"body_hold.turn", turn}}));
        const Held& core = d.job(Role::core)->held;
        for (Role role : {Role::top, Role::body}) {
            const Held& s = d.job(role)->held;
            CHECK(s.blank.length == core.blank.length);
            CHECK(s.blank.width == core.blank.width);
            REQUIRE(s.pins.size() == 2);
            for (std::size_t i = 0; i < 2; ++i) {
                const auto lies = [&](const Held& of) {
                    return of.face.fromInstrument.toSetup({of.pins[i].at.x, of.pins[i].at.y, 0});
                };
                CHECK(length(lies(s).xy() - lies(core).xy()) < 1e-9);
            }
        }
        CHECK(core.drillPins);
        CHECK_FALSE(d.job(Role::body)->held.drillPins); // they are there already
        // Turned over, each pin stands where one stood; end for end of itself it does not fit.
        const Held& s = d.job(Role::body)->held;
        REQUIRE(s.back);
        for (const RegisterPin& pin : s.pins) {
            const Vec2 there = s.back->fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).xy();
            CHECK(std::any_of(s.pins.begin(), s.pins.end(), [&](const RegisterPin& p) {
                return length(s.face.fromInstrument.toSetup({p.at.x, p.at.y, 0}).xy() - there) <
                       1e-9;
            }));
            const Vec2 wrong{s.blank.length - there.x, s.blank.width - there.y};
            CHECK(std::none_of(s.pins.begin(), s.pins.end(), [&](const RegisterPin& p) {
                return length(s.face.fromInstrument.toSetup({p.at.x, p.at.y, 0}).xy() - wrong) < 1;
            }));
        }
    }
}

TEST_CASE("Sheets, report and drilling list tell of every piece", "[body][layers][long]") {
    const Derived d = derive(bodyWith({{"body.build", "topped"}}));
    std::set<std::string> names;
    for (const PartJob* job : d.pieces()) {
        for (std::size_t side = 0; side < job->held.sides(); ++side) {
            names.insert(sheetName(d, *job, side));
            CHECK(sheetPdf(d, *job, side).rfind("%PDF", 0) == 0);
        }
    }
    CHECK(names == std::set<std::string>{"04-body-core-face-up.pdf", "05-body-top-face-up.pdf",
                                         "06-body-face-up.pdf", "07-body-back-up.pdf",
                                         "08-body-lid-inner-face-up.pdf"});
    const auto doc = nlohmann::json::parse(reportJson(d));
    int setups = 0;
    for (const auto& s : doc["setups"]) {
        setups += s["part"].get<std::string>().rfind("body", 0) == 0 ? 1 : 0;
    }
    CHECK(setups == 5);
    int fits = 0;
    for (const auto& p : doc["proof"]) {
        fits += p.contains("fit") ? 1 : 0;
    }
    CHECK(fits == 2);
    const std::string csv = drillingCsv(d.body->part);
    const auto lines = std::count(csv.begin(), csv.end(), '\n');
    std::size_t holes = d.body->part.benchHoles().size();
    for (const Panel& p : d.body->part.panels()) {
        holes += p.holes.size();
    }
    CHECK(static_cast<std::size_t>(lines) == holes + 1);
    CHECK(csv.find("body,ferrule,") != std::string::npos);
    CHECK(csv.find(",edge,hand") != std::string::npos);
}

TEST_CASE("Cells are filled just where a pocket is", "[body][layers]") {
    const Contour outer = shapeOutline(shapeNodes("0 0 s, 30 -12 s, 62 4 c, 50 41 s, 8 30 r6"));
    const Contour island = circleContour({30, 14}, 13);
    const auto polygons = polygonsOf({outer, island});
    const CellGrid grid{{-7.03, -20.07}, 0.31, 260, 230};
    std::vector<char> filled(260 * 230, 0);
    fillCells(grid, polygons, [&](std::size_t i) { ++filled[i]; });
    long wrong = 0;
    for (std::size_t i = 0; i < filled.size(); ++i) {
        const Vec2 p = grid.first + Vec2{double(i % 260), double(i / 260)} * grid.cell;
        wrong += filled[i] != (insideOf(polygons, p) ? 1 : 0);
    }
    CHECK(wrong == 0);
}

TEST_CASE("Strokes measure and meet as dense points along them do", "[inset][stroke]") {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> place(-20, 20);
    std::uniform_real_distribution<double> bulge(-2.5, 2.5);
    for (int i = 0; i < 200; ++i) {
        const ContourPiece a = bulgedPiece({place(random), place(random)},
                                           {place(random), place(random)}, bulge(random));
        const Stroke s(a);
        const Vec2 p{place(random), place(random)};
        double nearest = 1e9;
        for (int k = 0; k <= 4000; ++k) {
            const Vec2 q = s.at(k / 4000.0);
            nearest = std::min(nearest, length(q - p));
            if (k % 400 == 200) {
                CHECK(s.fractionOf(q) == Approx(k / 4000.0).margin(1e-6));
                CHECK(q.x >= s.low().x - 1e-9);
                CHECK(q.x <= s.high().x + 1e-9);
                CHECK(q.y >= s.low().y - 1e-9);
                CHECK(q.y <= s.high().y + 1e-9);
            }
        }
        CHECK(s.distanceTo(p) == Approx(nearest).margin(0.05));
        const Stroke other(bulgedPiece({place(random), place(random)},
                                       {place(random), place(random)}, bulge(random)));
        const Meetings m = crossings(s, other);
        for (int k = 0; k < m.count; ++k) {
            CHECK(s.distanceTo(m.at[std::size_t(k)]) < 1e-6);
            CHECK(other.distanceTo(m.at[std::size_t(k)]) < 1e-6);
        }
    }
}

TEST_CASE("Cuts of one bit stand together, after what must come first", "[panel][order]") {
    const Drawer drawer = starterDrawer();
    const Bit* six = findBit(drawer, "flat-6");
    const Bit* three = findBit(drawer, "flat-3");
    const Bit* longSix = findBit(drawer, "long-6");
    const auto task = [](const char* what, const Bit* bit, std::vector<std::size_t> after) {
        OpenTask t;
        t.what = what;
        t.bit = bit;
        t.after = std::move(after);
        t.judge = [](const Bit& b) { return Verdict{b.kind == BitKind::flat, {}}; };
        return t;
    };
    std::vector<OpenTask> tasks{task("a", six, {}), task("b", three, {0}), task("c", six, {}),
                                task("d", three, {}), task("out", six, {0, 1, 2, 3})};
    CHECK(runningOrder(tasks) == std::vector<std::size_t>{0, 2, 1, 3, 4});
    // A longer bit of the same width takes over what a shorter one was wanted for; one of another
    // width does not.
    tasks[2].bit = longSix;
    shareBits(tasks);
    CHECK(tasks[0].bit == tasks[2].bit);
    CHECK(tasks[1].bit == three);
}

TEST_CASE("The neck sits on its pocket's floor as both programs left them", "[body][fit][long]") {
    for (const char* angle : {"0", "2"}) {
        INFO("neck angle " << angle);
        const Derived d = derive(bodyWith({{"neck_pocket.angle", angle}}));
        REQUIRE(d.body);
        REQUIRE(d.body->neckSeat);
        const Seat& seat = *d.body->neckSeat;
        CHECK(seat.places > 2000);
        // What either proof found left on its part stands in the way, what it found too deep does
        // not; nothing else lies between the two.
        const ProofReport& heel = d.job(Role::neck)->proof->sides[1];
        const ProofReport& floor = d.job(Role::body)->proof->sides[0];
        CHECK(seat.least > -(heel.excessMax + floor.excessMax) - 0.001);
        CHECK(seat.least < 0);
        CHECK(seat.most < heel.gougeMax + floor.gougeMax + 0.001);
    }
    // A pocket that is cut deeper than designed lets the neck down by as much.
    Derived d = derive(bodyWith());
    const PartJob& job = *d.job(Role::body);
    Derived drawn = deriveDrawing(bodyWith());
    const PartProof deep = provedPiece(drawn, Role::body, [](PanelPlan& plan) {
        for (Cut& c : plan.sides[0].cuts) {
            for (Move& m : c.path) {
                m.from.z -= 0.1;
                m.to.z -= 0.1;
            }
        }
    });
    const auto seat =
        seatOf(d.body->part, pocketNamed(*d.body->part.panel(Role::body), "neck pocket"),
               d.neck->part.back().heelTo() + 1,
               {*d.job(Role::neck)->proof->stock,
                d.job(Role::neck)->neckPlan().sides[1].setup.fromInstrument},
               {*deep.stock, job.held.back->fromInstrument});
    REQUIRE(seat);
    CHECK(seat->least == Approx(d.body->neckSeat->least + 0.1).margin(0.002));
}

TEST_CASE("Bits are changed as seldom as what waits for what allows", "[panel][order]") {
    const Drawer drawer = starterDrawer();
    std::mt19937 random(5);
    long plainWorse = 0;
    for (int round = 0; round < 300; ++round) {
        const std::size_t n = 2 + random() % 6;
        std::vector<OpenTask> tasks(n);
        for (std::size_t i = 0; i < n; ++i) {
            tasks[i].what = std::string(1, static_cast<char>('a' + random() % 3));
            tasks[i].bit = &drawer[random() % 3];
            for (std::size_t k = 0; k < i; ++k) {
                if (random() % 4 == 0) {
                    tasks[i].after.push_back(k);
                }
            }
        }
        const auto changes = [&](const std::vector<std::size_t>& order) {
            long sum = 0;
            for (std::size_t i = 1; i < n; ++i) {
                sum += tasks[order[i]].bit != tasks[order[i - 1]].bit ? 1 : 0;
            }
            return sum;
        };
        const auto allowed = [&](const std::vector<std::size_t>& order) {
            std::vector<bool> done(n, false);
            for (std::size_t i : order) {
                for (std::size_t k : tasks[i].after) {
                    if (!done[k]) {
                        return false;
                    }
                }
                done[i] = true;
            }
            return true;
        };
        const std::vector<std::size_t> order = runningOrder(tasks);
        REQUIRE(order.size() == n);
        CHECK(allowed(order));
        // Every order there is.
        std::vector<std::size_t> all(n);
        std::iota(all.begin(), all.end(), std::size_t(0));
        long fewest = 1000;
        do {
            fewest = allowed(all) ? std::min(fewest, changes(all)) : fewest;
        } while (std::next_permutation(all.begin(), all.end()));
        CHECK(changes(order) == fewest);
        std::vector<std::size_t> plain(n);
        std::iota(plain.begin(), plain.end(), std::size_t(0));
        plainWorse += changes(plain) > fewest ? 1 : 0;
    }
    CHECK(plainWorse > 50); // or there was nothing to gain
}
