// Woods the maker adds: chosen like any other, weighed and cut by their own figures.
#include "body_support.h"

#include "job/cut_list.h"
#include "job/list_keys.h"
#include "job/own_woods.h"
#include "job/weights.h"

using namespace wren;
using namespace wren::test;
using Catch::Matchers::Contains;

namespace {

Project withLocust() {
    return withAdded(plainWith(), "woods",
                     {{"name", "black-locust"}, {"density", "0.77"}, {"cuts_like", "ebony"}});
}

} // namespace

TEST_CASE("A wood of one's own is chosen, weighed and cut by its own figures", "[woods]") {
    const Project p = withKey(withLocust(), "blank.wood", "black-locust");
    CHECK(woodOf(p, "black-locust").density() == Approx(0.77));
    CHECK(woodOf(p, "black-locust").name == "Black locust");
    CHECK(woodOf(p, "walnut").name == "Black walnut");
    const Derived d = deriveDrawing(p);
    for (const PieceMass& piece : massesOf(d)) {
        if (piece.part == Role::board) {
            CHECK(piece.mass == Approx(piece.volume / 1000 * 0.77));
        }
    }
    CHECK_THAT(cutListCsv(d), Contains("Black locust"));
    // Its programs are those of the wood it is cut like, and not those of another.
    const auto minutes = [](const Project& of) {
        const Derived made = deriveOnly(of, Role::board);
        double sum = 0;
        for (const Cut& c : made.job(Role::board)->plan().face().cuts) {
            sum += c.feeds.feed;
        }
        return sum;
    };
    CHECK(minutes(p) == minutes(withKey(p, "blank.wood", "ebony")));
    CHECK(minutes(p) < minutes(withKey(p, "blank.wood", "basswood")));
    const Project soft = withKey(p, "woods.0.cuts_like", "basswood");
    CHECK(minutes(soft) == minutes(withKey(p, "blank.wood", "basswood")));
}

TEST_CASE("Its name goes with it, and it stays while it is used", "[woods]") {
    Project p = withKey(withLocust(), "blank.wood", "black-locust");
    p = withAdded(p, "sawing.boards", {{"wood", "black-locust"}});
    p = withKey(p, "woods.0.name", "robinia");
    CHECK(p.blank.wood == "robinia");
    CHECK(p.sawing.boards[0].wood == "robinia");
    CHECK_THAT(sentenceOf([&] { withRemoved(p, "woods.0"); }), Contains("robinia is used"));
    CHECK(sentenceOf([&] { withKey(p, "blank.wood", "black-locust"); }).find("robinia") !=
          std::string::npos); // what can be chosen names it
    CHECK_THAT(sentenceOf([&] { withKey(p, "woods.0.name", "walnut"); }), Contains("already"));
    CHECK_THAT(sentenceOf([&] { withKey(p, "woods.0.name", "Black Locust"); }),
               Contains("hyphens"));
    Project free = withKey(p, "blank.wood", "walnut");
    free = withRemoved(free, "sawing.boards.0");
    CHECK(withRemoved(free, "woods.0").woods.empty());
    // Two new ones share a name until they get their own; what is made of it stays with the other.
    Project twins = withAdded(withAdded(plainWith(), "woods", {}), "woods", {});
    twins = withKey(twins, "blank.wood", "own-wood");
    twins = withKey(twins, "woods.1.name", "other");
    CHECK(twins.blank.wood == "own-wood");
}

TEST_CASE("Files keep a maker's own woods", "[woods][files]") {
    const Project p = withKey(withLocust(), "blank.wood", "black-locust");
    const std::string text = projectToText(p);
    const Project back = projectFromText(text, "own.wren");
    CHECK(back == p);
    CHECK(projectToText(back) == text);
    CHECK(designHash(back) == designHash(p));
    CHECK(designHash(withKey(p, "woods.0.cuts_like", "walnut")) != designHash(p));
    std::string gone = text;
    gone.replace(gone.find("black-locust", gone.find("woods")), 12, "black-lotust");
    CHECK_THAT(sentenceOf([&] { projectFromText(gone, "own.wren"); }),
               Contains("blank.wood") && Contains("black-lotust"));
    std::string clash = text;
    clash.replace(clash.find("black-locust", clash.find("woods")), 12, "walnut");
    CHECK_THAT(sentenceOf([&] { projectFromText(clash, "own.wren"); }),
               Contains("own.wren: woods.0.name"));
}
