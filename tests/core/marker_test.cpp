#include "cut/marker_cut.h"
#include "job/derive.h"

#include "support.h"

#include <numbers>

using namespace wren;
using test::findingOf;
using test::plainWith;

namespace {

Project marked(std::initializer_list<std::pair<const char*, const char*>> more = {}) {
    Project p = plainWith({{"markers.frets", "3 5 7 9 12"}});
    p.bits = starterDrawer();
    for (const auto& [key, text] : more) {
        p = withKey(p, key, text);
    }
    return p;
}

} // namespace

TEST_CASE("Fret lists read as makers write them", "[markers]") {
    CHECK(fretList("3 5 7-9, 12") == std::vector<int>{3, 5, 7, 8, 9, 12});
    CHECK(fretList("").empty());
    for (const char* bad : {"x", "0", "3-40", "2.5"}) {
        CHECK(test::sentenceOf([&] {
                  plainWith({{"markers.frets", bad}});
              }).find("fret") != std::string::npos);
    }
}

TEST_CASE("A leaf's outline closes on itself and moves in evenly", "[markers]") {
    const Markers m = marked({{"markers.shape", "leaf"}, {"markers.size", "6"}}).board.markers;
    const MarkerPlace place{5, {100, 2}, {0.6, 0.8}};
    for (double inset : {0.0, 1.0, m.tip + 0.4}) {
        const Contour c = markerOutline(m, place, inset);
        REQUIRE_FALSE(c.empty());
        for (std::size_t i = 0; i < c.size(); ++i) {
            CHECK(length(c[i].to - c[(i + 1) % c.size()].from) < 1e-9);
            CHECK(length(c[i].to - c[i].centre) == Approx(c[i].radius()));
        }
    }
    CHECK(markerOutline(m, place, 3.01).empty());
    // As long as asked, tip to tip.
    double reach = 0;
    for (const ContourPiece& piece : markerOutline(m, place)) {
        for (int i = 0; i <= 50; ++i) {
            reach = std::max(reach, dot(piece.at(piece.length() * i / 50) - place.at, place.along));
        }
    }
    CHECK(reach == Approx(m.reach / 2).margin(0.01));
}

TEST_CASE("Markers of every shape are cut as drawn, pressed or filled", "[markers][proof][long]") {
    struct Case {
        const char* shape;
        const char* size;
        const char* inlay;
    };
    for (const Case& c :
         {Case{"dot", "6", "pressed"}, Case{"dot", "7.3", "pressed"}, Case{"dot", "4", "filled"},
          Case{"leaf", "6", "pressed"}, Case{"leaf", "6", "filled"}, Case{"wrap", "5", "pressed"},
          Case{"wrap", "5", "filled"}}) {
        INFO(c.shape << " " << c.size << " " << c.inlay);
        const Derived d = derive(marked(
            {{"markers.shape", c.shape}, {"markers.size", c.size}, {"markers.inlay", c.inlay}}));
        for (const Finding& f : d.findings) {
            INFO(f.message);
            CHECK(f.weight != Weight::stop);
        }
        REQUIRE(d.boardPlan()->face().cutOf(CutKind::markers));
        CHECK((d.boardPlan()->face().cutOf(CutKind::skim) != nullptr) ==
              (std::string(c.inlay) == "filled"));
    }
}

TEST_CASE("A dot is drilled when a drill fits, else bored", "[markers]") {
    const Derived six = derive(marked());
    CHECK(six.boardPlan()->face().cutOf(CutKind::markers)->bit.name == "drill-6");
    const Derived odd = derive(marked({{"markers.size", "5.5"}}));
    CHECK(cutsFlat(odd.boardPlan()->face().cutOf(CutKind::markers)->bit.kind));
    CHECK(markerWay(odd.project.board.markers,
                    odd.boardPlan()->face().cutOf(CutKind::markers)->bit) == MarkerWay::bored);
}

TEST_CASE("Filling stands in the order as hand work, and the slots wait for the skim",
          "[markers]") {
    const Derived d = derive(marked({{"markers.inlay", "filled"}}));
    std::vector<std::string> order;
    for (const Cut& c : d.boardPlan()->face().cuts) {
        order.push_back(c.what);
    }
    const auto at = [&](const char* what) {
        return std::find(order.begin(), order.end(), what) - order.begin();
    };
    CHECK(at("radius") < at("markers"));
    CHECK(at("markers") < at("skim"));
    CHECK(at("skim") < at("slots"));
    CHECK(at("outline") == static_cast<long>(order.size()) - 1);
    CHECK(findingOf(d.findings, "filling-bleeds")->weight == Weight::caution);
    bool told = false;
    for (const PostedProgram& p : d.programs) {
        told = told || p.program.text.find("(By hand first: Seal") != std::string::npos;
    }
    CHECK(told);
}

TEST_CASE("Pockets cut too deep before they are filled are found all the same",
          "[markers][proof][spoiled]") {
    Derived d = derive(marked({{"markers.inlay", "filled"}, {"markers.size", "5"}}));
    REQUIRE(d.proofOf(Role::board)->passed);
    std::vector<RunProgram> programs = d.read(Role::board);
    for (RunProgram& p : programs) {
        if (p.kinds == std::vector<CutKind>{CutKind::markers}) {
            for (Move& m : p.path) {
                if (m.cuts()) {
                    m.to.z -= 0.1;
                    m.from.z -= 0.1;
                }
            }
        }
    }
    const ProofReport report = test::provedBoard(d, programs);
    CHECK(findingOf(report.findings, "pocket-depth")->value == Approx(0.1).margin(0.02));
}

TEST_CASE("Markers where they cannot be are stopped", "[markers]") {
    const auto stopped = [](const Project& p, const char* code) {
        const Derived d = derive(p);
        const auto f = findingOf(d.findings, code);
        INFO(code);
        REQUIRE(f);
        CHECK(f->weight == Weight::stop);
        CHECK(f->value < f->limit);
    };
    stopped(marked({{"markers.frets", "21"}, {"markers.size", "14"}}), "marker-over-slot");
    stopped(marked({{"markers.spread", "5"}}), "markers-meet");
    stopped(marked({{"markers.spread", "47"}}), "marker-off-board");
    const Derived fine = derive(marked({{"markers.shape", "leaf"}, {"markers.tip", "0.4"}}));
    const auto f = findingOf(fine.findings, "marker-too-fine");
    REQUIRE(f);
    CHECK(f->weight == Weight::stop);
}
