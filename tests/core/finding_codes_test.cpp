// Every finding can be brought about: those no other test asks for, and that none is left out.

#include "panel_support.h"

#include "base/files.h"
#include "geom/inset.h"
#include "hold/scarfed_blank.h"
#include "part/body_shapes.h"

#include <filesystem>
#include <map>
#include <set>

using namespace wren;
using namespace wren::test;

namespace {

/// Codes of what is found in a design, its programs too when `planned`.
std::set<std::string> codesIn(const Project& p, bool planned = false) {
    Derived d = deriveDrawing(p);
    if (planned) {
        derivePrograms(d);
    }
    std::set<std::string> out;
    for (const Finding& f : d.findings) {
        out.insert(f.code);
    }
    return out;
}

Project boardWith(const Changes& changes) {
    Project p = loadProject(plainFile);
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

Project neckOf(const Changes& changes) {
    Project p = neckWith();
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

struct Case {
    const char* code;
    Project project;
    bool planned = false;
};

/// All source files under a folder, as one text each.
std::vector<std::string> textsUnder(const std::string& folder) {
    std::vector<std::string> out;
    for (const auto& entry : std::filesystem::recursive_directory_iterator(folder)) {
        if (entry.path().extension() == ".cpp") {
            out.push_back(readFile(entry.path()));
        }
    }
    return out;
}

/// The codes a source gives its findings: the text that stands next to a weight.
std::set<std::string> codesSaid(const std::string& source) {
    const std::string weight = "Weight::";
    std::set<std::string> out;
    for (std::size_t at = source.find(weight); at != std::string::npos;
         at = source.find(weight, at + 1)) {
        const std::size_t word =
            source.find_first_not_of("abcdefghijklmnopqrstuvwxyz", at + weight.size());
        const std::size_t open = source.find_first_not_of(", \n", word);
        if (open == word || open == std::string::npos || source[open] != '"') {
            continue;
        }
        out.insert(source.substr(open + 1, source.find('"', open + 1) - open - 1));
    }
    return out;
}

} // namespace

TEST_CASE("Findings that no other test brings about", "[findings][long]") {
    Project turnsIn = bodyWith({{"body.outline", hornedOutline("two")}});
    for (ShapeNode& n : turnsIn.body.nodes) {
        n.smooth = false;
        n.round = 0;
    }
    const std::vector<Case> cases{
        {"frets-close", boardWith({{"board.frets", "36"}, {"board.scale", "400"}})},
        {"thin-past-last-fret", boardWith({{"board.past_last_fret", "2.2"}})},
        {"marker-without-fret", boardWith({{"markers.frets", "30"}})},
        {"tab-at-fret", boardWith({{"cut.tab_places", "b36.5 t36.5"}}), true},
        {"rod-runs-out", neckOf({{"rod.length", "560"}})},
        {"rod-strip", neckOf({{"rod.from", "back"}})},
        {"rod-cap", neckOf({{"rod.cap", "2"}})},
        {"thin-head", neckOf({{"head.thickness", "8"}, {"head.transition_from", "-40"}})},
        {"sharp-turn", neckOf({{"head.transition", "15"}, {"neck.heel_transition", "10"}})},
        {"string-tree", neckOf({{"head.drop", "2"}})},
        {"face-plate", neckOf({{"head.plate", "2"}})},
        {"bolt-meets-rod", neckOf({{"neck.bolts", "2"}})},
        {"weak-head", neckOf({{"head.thickness", "8"}})},
        {"tight-lid", bodyWith({{"finish.film", "0.1"}})},
        {"goes-through", neckOf({{"neck.joint", "through"}})},
        {"carved-nut", neckOf({{"neck.fret_face", "carved"}, {"board.nut_shelf", "3"}})},
        {"string-on-post", neckOf({{"tuners.places", "-42 0, -66 0, -90 0, -114 0, -138 0, -162 0"},
                                   {"tuners.post", "10"}})},
        {"slot-bit-too-wide", neckOf({{"cut.slots.bit", "flat-1.5"}}), true},
        {"no-pins", neckOf({{"neck_hold.make_fixture", "yes"}, {"neck_hold.register", "marks"}})},
        {"registration", neckOf({})},
        {"back-zero", neckOf({})},
        {"low-strings", bodyWith({{"neck_pocket.depth", "25"}, {"body.thickness", "50"}})},
        {"shallow-cavity", bodyWith({{"cavity.controls", "lever 26 88"}})},
        {"no-core", bodyWith({{"body.build", "topped"}, {"body.top", "25"}, {"body.back", "20"}})},
        {"no-frame", bodyWith({{"body_blank.width", "330"}})},
        {"outline-turns-in", turnsIn},
    };
    for (const Case& c : cases) {
        INFO(c.code);
        CHECK(codesIn(c.project, c.planned).count(c.code) == 1);
        // A sound design does not have it, notes apart that tell of what was chosen.
        if (std::string(c.code) != "registration" && std::string(c.code) != "back-zero" &&
            std::string(c.code) != "string-tree") {
            CHECK(codesIn(bodyWith(), true).count(c.code) == 0);
        }
    }
}

TEST_CASE("A scarf's plank that does not reach the head's piece asks for a block", "[findings]") {
    const Project p = neckOf({{"head.kind", "tilted"}, {"head.stock", "scarf"}});
    const HeldNeck n = drawnNeck(p);
    REQUIRE(n.held.scarf);
    Scarf scarf = *n.held.scarf;
    Findings found;
    judgeScarf(found, n.part, scarf);
    CHECK(found.back().code != "scarf-short");
    scarf.shortBy = 0.8;
    judgeScarf(found, n.part, scarf);
    CHECK(found.back().code == "scarf-short");
    CHECK(found.back().value == Approx(0.8));
}

TEST_CASE("A path that cannot be followed stops its part, not the program", "[findings]") {
    // Borders that cross one another enclose nothing that could be cleared.
    PanelPocket p = pocketOf("pocket", shapeOutline(boxShape({0, 0}, 40, 30, 4)), -5, 0);
    p.borders.push_back(clockwise(shapeOutline(boxShape({20, 0}, 40, 20, 4))));
    const Plank plank({p});
    const PanelPlan plan = plank.plan();
    REQUIRE_FALSE(plan.findings.empty());
    CHECK(plan.findings.front().code == "cannot-follow");
}

TEST_CASE("No finding is without a test that asks for it", "[findings]") {
    std::set<std::string> codes;
    for (const std::string& text : textsUnder(WREN_SOURCE "/src/core")) {
        codes.merge(codesSaid(text));
    }
    CHECK(codes.size() > 80);
    std::string tests;
    for (const char* folder : {"/tests/core", "/tests/app", "/tests/outside"}) {
        for (const std::string& text : textsUnder(std::string(WREN_SOURCE) + folder)) {
            tests += text;
        }
    }
    for (const std::string& code : codes) {
        INFO(code);
        CHECK(tests.find(code) != std::string::npos);
    }
}
