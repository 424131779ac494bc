// What the instrument weighs, where it balances, and what two designs differ in.
#include "body_support.h"

#include "job/balance.h"
#include "job/compare.h"
#include "job/cures.h"
#include "job/feature_edits.h"
#include "job/glue.h"
#include "job/judge_balance.h"
#include "job/list_keys.h"

#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;
using nlohmann::json;

namespace {

Balance balanceWith(const Changes& changes) {
    Derived d = drawnBody(bodyWith(changes));
    return balanceOf(d);
}

const FittingMass* fitting(const Balance& b, const std::string& what) {
    for (const FittingMass& f : b.fittings) {
        if (f.what == what) {
            return &f;
        }
    }
    return nullptr;
}

} // namespace

TEST_CASE("The centre of mass is that of all its pieces", "[balance]") {
    const Balance b = balanceWith({});
    double mass = 0;
    double moment = 0;
    for (const PieceMass& m : b.parts) {
        mass += m.mass;
        moment += m.mass * m.centre.x;
    }
    for (const FittingMass& f : b.fittings) {
        mass += f.mass;
        moment += f.mass * f.centre.x;
    }
    CHECK(b.mass == Approx(mass));
    CHECK(b.centre.x == Approx(moment / mass));
    CHECK(fitting(b, "tuners")->count == 6);
    CHECK(fitting(b, "tuners")->usual);
    CHECK(fitting(b, "tuners")->centre.x < 0); // on the head
    CHECK(fitting(b, "pickups")->count == 2);
    // Weighed by the maker, and something more.
    const Balance own = balanceWith({{"weights.tuner", "50"}});
    CHECK(fitting(own, "tuners")->mass == Approx(300));
    CHECK_FALSE(fitting(own, "tuners")->usual);
    CHECK(own.centre.x < b.centre.x);
    const Project with = withAdded(bodyWith(), "weights.others",
                                   {{"what", "battery"}, {"mass", "40"}, {"at", "100 0"}});
    Derived d = drawnBody(with);
    const Balance more = balanceOf(d);
    CHECK(more.mass == Approx(b.mass + 40));
    CHECK(fitting(more, "battery")->centre.x == Approx(d.body->part.place().bridge + 100));
    // A left-handed one is its mirror.
    const Balance left = balanceWith({{"board.hand", "left"}});
    CHECK(left.centre.x == Approx(b.centre.x).margin(0.05));
    CHECK(left.centre.y == Approx(-b.centre.y).margin(0.05));
    CHECK(left.mass == Approx(b.mass).epsilon(1e-4));
}

TEST_CASE("A head that goes down is told with what would keep it up", "[balance]") {
    // The front button behind the centre of mass.
    Project p = bodyWith();
    Derived before = drawnBody(p);
    const Balance up = balanceOf(before);
    REQUIRE(up.buttons);
    CHECK_FALSE(up.dives());
    CHECK(keepsHeadUp(up).empty());
    const double bridge = before.body->part.place().bridge;
    for (StrapButton& s : p.body.straps) {
        if (s.at.x < 0) {
            s.at.x = up.centre.x + 60 - bridge;
        }
    }
    Derived d = drawnBody(p);
    const Balance b = balanceOf(d);
    CHECK(b.dives());
    CHECK(b.behindButton() == Approx(-60).margin(2));
    const std::vector<std::string> mends = keepsHeadUp(b);
    REQUIRE(mends.size() >= 2);
    CHECK(mends[0].find("strap button") != std::string::npos);
    // The weight it names at the rear button balances it.
    const double grams = std::stod(mends[1]);
    const auto [front, rear] = *b.buttons;
    CHECK((b.mass * b.centre.x + grams * rear) / (b.mass + grams) == Approx(front).margin(1));
    p.body.straps.clear();
    Derived none = drawnBody(p);
    CHECK_FALSE(balanceOf(none).buttons);
    CHECK(balanceText(balanceOf(none)).find("Two strap buttons") != std::string::npos);
}

TEST_CASE("A lighter neck is advised of a wood that necks are made of, the maker's own too",
          "[balance][woods]") {
    Balance b = balanceWith({});
    REQUIRE(b.buttons);
    const PieceMass& neck = *std::find_if(b.parts.begin(), b.parts.end(),
                                          [](const PieceMass& m) { return m.part == Role::neck; });
    // By the moments about the button: so much less at the neck's middle brings the centre to it.
    constexpr double before = 4; // mm
    const double front = b.centre.x + before;
    (*b.buttons)[0] = front;
    const double less = b.mass * before / (front - neck.centre.x);
    const double density = (neck.mass - less) / (neck.volume / 1000);
    const auto advised = [&](double own) {
        b.ownWoods = {OwnWood{"island-wood", own, "cherry"}.wood()};
        return fmt::format("{}", fmt::join(keepsHeadUp(b), "; "));
    };
    CHECK_THAT(advised(density - 0.001), Contains("Island wood"));
    CHECK_THAT(advised(density + 0.001), !Contains("Island wood") && Contains("lighter, of"));
    (*b.buttons)[0] = b.centre.x + 60; // what would be light enough is no wood for a neck
    CHECK_THAT(advised(0.3), !Contains("lighter, of"));
}

TEST_CASE("Two designs are compared by what changed and what follows", "[balance]") {
    const Project a = bodyWith();
    const Comparison same = compare(a, a);
    CHECK(same.keys.empty());
    CHECK(same.moved.empty());
    CHECK(same.stale.empty());
    CHECK(comparisonText(same).find("the same") != std::string::npos);
    const Project b = withKey(a, "bridge.post_spread", "80"); // of a bridge that has none
    const Comparison idle = compare(a, b);
    REQUIRE(idle.keys.size() == 1);
    CHECK(idle.keys[0].key == "bridge.post_spread");
    CHECK(idle.moved.empty());
    CHECK(idle.stale.empty());
    const Comparison deeper = compare(a, withKey(a, "neck_pocket.depth", "15"));
    CHECK_FALSE(deeper.stale.empty());
    for (const std::string& file : deeper.stale) {
        CHECK(file.find("-body-") != std::string::npos); // board and neck stand
    }
    const auto height =
        std::find_if(deeper.moved.begin(), deeper.moved.end(),
                     [](const Comparison::Moved& m) { return m.what.find("strings over") == 0; });
    REQUIRE(height != deeper.moved.end());
    CHECK(height->second - height->first == Approx(1).margin(1e-6));
}

TEST_CASE("Balance and comparison by command", "[balance][command]") {
    const Folder folder;
    const std::string file = (folder / "a.wren").string();
    saveProject(bodyWith(), file);
    const json b = json::parse(test::wren("balance " + file + " --json").out);
    CHECK(b["dives"] == false);
    CHECK(b["total"]["mass_g"].get<double>() > 1500);
    CHECK(b["parts"][0].contains("centre_mm"));
    CHECK(test::wren("balance " + file).out.find("stays up") != std::string::npos);
    const std::string other = (folder / "b.wren").string();
    CHECK(test::wren("set " + file + " body.wood=hard-maple --out " + other).code == 0);
    const json c = json::parse(test::wren("compare " + file + " " + other + " --json").out);
    CHECK(c["changed"].size() == 1);
    CHECK(c["changed"][0]["second"] == "hard-maple");
    CHECK(c["moved"][0]["what"] == "weight");
    CHECK(test::wren("compare " + file + " /nowhere.wren").code == 1);
}

TEST_CASE("Every joint says its glue", "[balance]") {
    Project p = bodyWith({{"body.build", "topped"},
                          {"body.back", "4"},
                          {"neck.joint", "set"},
                          {"markers.inlay", "filled"},
                          {"markers.depth", "2"},
                          {"markers.frets", "3 5 7"},
                          {"markers.size", "6"},
                          {"glue.rate", "200"},
                          {"glue.epoxy_layer", "1.5"}});
    const Derived d = drawnBody(p);
    std::map<std::string, GlueJoint> joints;
    for (const GlueJoint& j : glueList(d)) {
        joints[j.what] = j;
    }
    const double outline = areaOf(d.body->part.outline());
    CHECK(joints.at("back on the core").area == Approx(outline));
    CHECK(joints.at("top on the core").area <= outline);
    CHECK(joints.at("top on the core").adhesive ==
          Approx(joints.at("top on the core").area * 1e-6 * 200));
    const GlueJoint& board = joints.at("fretboard on the neck");
    CHECK(board.area < d.board->areaOfFace());
    // The rod's slot, and what its adjuster is wider over its length.
    const TrussRod& rod = p.neck.rod;
    CHECK(d.board->areaOfFace() - board.area ==
          Approx(rod.width * rod.length + (rod.adjusterWidth - rod.width) * rod.adjusterLength)
              .epsilon(0.01));
    CHECK(joints.at("neck in the body").area > 56 * 60);
    // Three dots 6 mm across and 2 mm deep, at 1.15 g/cm3.
    const GlueJoint& epoxy = joints.at("filled markers");
    CHECK(epoxy.volume == Approx(3 * 3.14159265 * 9 * 2).epsilon(0.001));
    CHECK(epoxy.adhesive == Approx(epoxy.volume / 1000 * 1.15));
    CHECK(epoxy.caution.find("2 pours of 1.5 mm") != std::string::npos);
    const Folder folder;
    const std::string file = (folder / "a.wren").string();
    saveProject(p, file);
    const Ran said = test::wren("list " + file + " --of glue");
    CHECK(said.out.find("joint,area_cm2,volume_cm3,adhesive_g,mind\n") == 0);
    CHECK(said.out.find("neck in the body,") != std::string::npos);
}

TEST_CASE("An instrument whose head goes down is told, with what keeps it up", "[balance]") {
    // Its front strap button stands where the neck begins, and a heavy neck pulls before it.
    const Project p = bodyWith({{"body.straps.1.at", "-120mm, -110mm"},
                                {"neck_blank.wood", "ebony"},
                                {"blank.wood", "ebony"},
                                {"body.wood", "paulownia"}});
    const auto judged = [](const Project& of) {
        Derived d = drawnBody(settledOnEdge(of));
        const Balance b = balanceOf(d);
        const Findings found = judgeBalance(d);
        CHECK(b.dives() == findingOf(found, "head-dives").has_value());
        return std::pair(std::move(d), found);
    };
    const auto [d, found] = judged(p);
    const auto dives = findingOf(found, "head-dives");
    REQUIRE(dives);
    CHECK(dives->value < 0);
    CHECK(dives->feature == FeatureId{FeatureKind::strap, 1});
    CHECK_THAT(dives->message, Catch::Matchers::Contains("strap button"));
    const std::vector<Cure> cures = curesFor(d, *dives);
    REQUIRE(cures.size() == 1);
    const Project moved = cured(d.project, cures[0]);
    CHECK_FALSE(findingOf(judged(moved).second, "head-dives"));
    CHECK_FALSE(findingOf(deriveDrawing(moved).findings, "off-edge"));
    // Before it is weighed nothing is said; and of an ordinary one neither this nor its weight.
    CHECK(judgeBalance(drawnBody(p)).empty());
    CHECK(judged(bodyWith()).second.empty());
    const auto heavy = findingOf(
        judged(bodyWith({{"body.wood", "ebony"}, {"neck_blank.wood", "ebony"}})).second, "heavy");
    REQUIRE(heavy);
    CHECK(heavy->value > heavy->limit);
}
