// What a cut is, and what it is called.

#include "body_support.h"

#include "cut/cut_kind.h"

#include <set>

using namespace wren;
using namespace wren::test;

TEST_CASE("Every kind of cut has a word of its own, fit for a file's name", "[cut]") {
    std::set<std::string> words;
    for (int i = 0; i <= static_cast<int>(CutKind::outline); ++i) {
        const std::string word = wordOf(static_cast<CutKind>(i));
        INFO(word);
        CHECK_FALSE(word.empty());
        CHECK(std::all_of(word.begin(), word.end(), [](char c) { return c >= 'a' && c <= 'z'; }));
        CHECK(words.insert(word).second);
    }
    CHECK(CutName(CutKind::slots).what == "slots");
    CHECK_FALSE(CutName(CutKind::pocket, FeatureKind::pickup, "pickups") ==
                CutName(CutKind::pocket, FeatureKind::cavity, "cavity"));
}

TEST_CASE("Programs know what their cuts are, in the order they are named", "[cut][posting]") {
    Derived d = deriveDrawing(bodyWith({{"markers.frets", "5 12"}}));
    derivePrograms(d);
    std::set<CutKind> seen;
    REQUIRE(d.programs.size() > 10);
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const Program& p = d.programs[i].program;
        INFO(p.file);
        REQUIRE(p.kinds.size() == p.what.size());
        for (std::size_t k = 0; k < p.kinds.size(); ++k) {
            const bool own = p.kinds[k] == CutKind::pocket || p.kinds[k] == CutKind::holes;
            CHECK((own || p.what[k] == wordOf(p.kinds[k])));
            // The posted text says the same words, before each cut.
            CHECK(p.text.find("(" + p.what[k] + ")") != std::string::npos);
            seen.insert(p.kinds[k]);
        }
        // What is read back from it knows them too.
        const ProgramPlace place = d.placeOf(i);
        CHECK(place.job->read[place.side][place.index].kinds == p.kinds);
    }
    for (CutKind kind :
         {CutKind::radius, CutKind::slots, CutKind::markers, CutKind::outline, CutKind::rough,
          CutKind::finish, CutKind::rod, CutKind::pocket, CutKind::holes, CutKind::notch}) {
        INFO(wordOf(kind));
        CHECK(seen.count(kind) == 1);
    }
}

TEST_CASE("A neck's holes and slots find the cuts that make them", "[cut][neck]") {
    Derived d = deriveDrawing(neckWith({{"neck.pin_frets", "2 19"}}));
    derivePrograms(d);
    const NeckPlan& plan = d.job(Role::neck)->neckPlan();
    for (const Hole& h : d.neck->part.holes()) {
        INFO(h.what);
        CHECK(h.feature);
        const auto makes = [&](const SidePlan& side) {
            return std::any_of(side.cuts.begin(), side.cuts.end(), [&](const Cut& c) {
                return c.kind == CutKind::holes && c.of == h.feature.kind;
            });
        };
        CHECK(makes(plan.sides[h.fromBack ? 1 : 0]) == !h.byHand);
    }
    for (const NeckPocket& p : d.neck->part.pockets()) {
        INFO(wordOf(p.kind));
        CHECK(cutOfPocket(plan.sides[p.fromBack ? 1 : 0], p.kind));
        CHECK_FALSE(cutOfPocket(plan.sides[p.fromBack ? 0 : 1], p.kind));
    }
}
