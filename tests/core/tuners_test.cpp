// What is told of tuners, at the numbers where it begins to be told.

#include "job/cures.h"
#include "neck_support.h"

#include "design/judge_tuners.h"
#include "design/tuner_places.h"
#include "geom/inset.h"

#include <cmath>

using namespace wren;

namespace {

/// A neck with its posts where they are wanted, x behind the nut and y over the centreline.
Neck neckWithPosts(const std::vector<Vec2>& posts) {
    Neck neck = test::neckWith({}).neck;
    neck.tuners.places.clear();
    for (Vec2 p : posts) {
        neck.tuners.places.push_back({p});
    }
    return neck;
}

Findings told(const Neck& neck) {
    const Fretboard board = test::neckWith({}).board;
    Findings out;
    judgeTuners(out, neck, board, NeckOutline(neck, board));
    return out;
}

int count(const Findings& findings, const std::string& code) {
    int n = 0;
    for (const Finding& f : findings) {
        n += f.code == code;
    }
    return n;
}

/// Posts along the head's middle, far enough apart, but for what a test puts elsewhere.
std::vector<Vec2> row() {
    const Project p = test::neckWith();
    const NeckOutline outline(p.neck, p.board);
    std::vector<Vec2> posts;
    for (int i = 0; i < 6; ++i) {
        const double x = -36.0 - 25 * i;
        const std::array<double, 2> wood = outline.across(x);
        posts.push_back({x, (wood[0] + wood[1]) / 2});
    }
    return posts;
}

} // namespace

TEST_CASE("A tuner's hole wants 3 mm of wood to the head's edge, and none is a stop",
          "[neck][tuners]") {
    // 3 mm: common practice, no source.
    const Neck neck = neckWithPosts(row());
    const Fretboard board = test::neckWith({}).board;
    const NeckOutline outline(neck, board);
    for (const auto& [wood, weight] : {std::pair{3.05, std::optional<Weight>()},
                                       {2.95, std::optional(Weight::caution)},
                                       {-0.05, std::optional(Weight::stop)}}) {
        // Inward from the edge, along the way off it, until the hole leaves that much.
        std::vector<Vec2> posts = row();
        const double wanted = wood + neck.tuners.bushing / 2;
        double low = posts[2].y;
        double high = outline.across(posts[2].x)[1];
        for (int i = 0; i < 60; ++i) {
            const double y = (low + high) / 2;
            (distanceTo(outline.contour(), {posts[2].x, y}) > wanted ? low : high) = y;
        }
        posts[2].y = (low + high) / 2;
        const Findings found = told(neckWithPosts(posts));
        const auto f = test::findingOf(found, "tuner-at-edge");
        INFO(wood);
        CHECK(count(found, "tuner-at-edge") == (weight ? 1 : 0));
        if (weight) {
            REQUIRE(f);
            CHECK(f->weight == *weight);
            CHECK(f->value == Approx(wood).margin(0.01));
            CHECK(f->limit == 3);
            CHECK(f->atX == posts[2].x);
            CHECK_THAT(f->message, Catch::Contains("string 4's"));
            CHECK((f->message.find("past the head's edge") != std::string::npos) == (wood < 0));
        }
    }
    // A post that stands in the air beside the head.
    std::vector<Vec2> posts = row();
    posts[2].y = outline.across(posts[2].x)[1] + 2;
    const auto beside = test::findingOf(told(neckWithPosts(posts)), "tuner-at-edge");
    REQUIRE(beside);
    CHECK(beside->weight == Weight::stop);
    CHECK(beside->value ==
          Approx(-distanceTo(outline.contour(), posts[2]) - neck.tuners.bushing / 2));
}

TEST_CASE("Two tuners collide when their bodies would share room, and not before",
          "[neck][tuners]") {
    const auto withBodies = [](const std::vector<Vec2>& posts) {
        Neck neck = neckWithPosts(posts);
        neck.tuners.bodyLength = 18; // the posts of a row stand 25 apart
        neck.tuners.bodyWidth = 12;
        return neck;
    };
    CHECK(count(told(withBodies(row())), "tuners-collide") == 0);
    std::vector<Vec2> posts = row();
    posts[3] = posts[2] + Vec2{-10, 0}; // nearer than any side of a body is long
    const Findings found = told(withBodies(posts));
    REQUIRE(count(found, "tuners-collide") == 1);
    const auto f = test::findingOf(found, "tuners-collide");
    CHECK(f->weight == Weight::stop);
    CHECK(f->value == Approx(10));
    CHECK_THAT(f->message, Catch::Contains("strings 3 and 4"));
}

TEST_CASE("A string that passes another's post is told with what room it has", "[neck][tuners]") {
    const Fretboard board = test::neckWith().board;
    const Neck straight = neckWithPosts(row());
    const std::vector<TunerPlace> before =
        tunerPlaces(straight, board, NeckOutline(straight, board));
    // The second post from the bass beside the way of the fifth string from there, string 2 as
    // makers count, so that its side stands `room` from it.
    for (const auto& [room, is] : {std::pair{0.45, true}, {0.55, false}, {-1.0, true}}) {
        const Vec2 way = unit(before[4].winds - before[4].nut);
        const Vec2 beside{-way.y, way.x};
        std::vector<Vec2> posts = row();
        posts[1] = before[4].nut + (before[4].winds - before[4].nut) * 0.5 +
                   beside * (room + straight.tuners.post / 2);
        const Neck neck = neckWithPosts(posts);
        const std::vector<TunerPlace> places = tunerPlaces(neck, board, NeckOutline(neck, board));
        REQUIRE(length(places[4].winds - before[4].winds) < 1e-9); // it runs as it did
        bool toldIt = false;
        for (const Finding& f : told(neck)) {
            if (f.code == "string-on-post" && f.message.find("String 2 passes") == 0 &&
                f.message.find("string 5's post") != std::string::npos) {
                toldIt = true;
                CHECK(f.weight == Weight::caution);
                CHECK(f.value == Approx(room).margin(1e-6));
                CHECK(f.limit == 0.5); // mm; common practice, no source
                CHECK(f.atX == posts[1].x);
            }
        }
        INFO(room);
        CHECK(toldIt == is);
    }
}

TEST_CASE("A shallow break over the nut is one note for all its strings", "[neck][tuners]") {
    Neck neck = neckWithPosts(row());
    const Fretboard board = test::neckWith({}).board;
    const std::vector<TunerPlace> places = tunerPlaces(neck, board, NeckOutline(neck, board));
    double least = 90;
    std::string strings;
    for (const TunerPlace& p : places) {
        least = std::min(least, p.breakAngle);
        if (p.breakAngle < 5) { // degrees; common practice, no source
            strings += (strings.empty() ? "" : ", ") + std::to_string(6 - p.string);
        }
    }
    REQUIRE_FALSE(strings.empty());
    const Findings found = told(neck);
    REQUIRE(count(found, "string-tree") == 1);
    const auto f = test::findingOf(found, "string-tree");
    CHECK(f->weight == Weight::note);
    CHECK(f->value == Approx(least));
    CHECK_THAT(f->message, Catch::StartsWith("Strings " + strings + " break over"));
    // Lower posts cure it.
    neck.tuners.postHeight = -20;
    CHECK(count(told(neck), "string-tree") == 0);
}

TEST_CASE("Holes bored square to the bed lean in a tilted head by its tilt", "[neck][tuners]") {
    Neck neck = test::neckWith({{"head.kind", "tilted"}, {"head.angle", "12"}}).neck;
    const auto f = test::findingOf(told(neck), "tuner-bore-leans");
    REQUIRE(f);
    CHECK(f->value == 12);
    // A round hole cut slantwise opens as an ellipse, longer by the cosine.
    char oval[32];
    std::snprintf(oval, sizeof oval, "%.2f mm long",
                  neck.tuners.bushing / std::cos(12 * M_PI / 180));
    CHECK_THAT(f->message, Catch::Contains(oval));
    neck.tuners.bore = TunerBore::byHand;
    CHECK(count(told(neck), "tuner-bore-leans") == 0);
    CHECK(count(told(neck), "tuners-by-hand") == 1);
}

TEST_CASE("Staggered posts bend every string enough over the nut", "[neck][tuners]") {
    for (const char* hand : {"right", "left"}) {
        for (const char* onBass : {"6", "3"}) {
            const Project p = test::neckWith({{"board.hand", hand},
                                              {"head.drop", "11"},
                                              {"tuners.bass_side", onBass},
                                              {"tuners.post_height", "12"}});
            const Derived d = deriveDrawing(p);
            const auto f = test::findingOf(d.findings, "string-tree");
            REQUIRE(f);
            const std::vector<Cure> cures = curesFor(d, *f);
            REQUIRE(cures.size() == 1);
            const Derived mended = deriveDrawing(cured(p, cures[0]));
            CHECK_FALSE(test::findingOf(mended.findings, "string-tree"));
            REQUIRE(mended.neck);
            for (std::size_t i = 0; i < 6; ++i) {
                const TunerPlace& was = d.neck->part.tuners()[i];
                const TunerPlace& is = mended.neck->part.tuners()[i];
                CHECK(length(was.post - is.post) < 1e-3); // they stand where they stood
                CHECK(is.breakAngle >= 5 - 1e-9);
                CHECK(is.postHeight <= was.postHeight);
                // No lower than they must be.
                CHECK((is.postHeight == was.postHeight || is.breakAngle < 5.2));
            }
        }
    }
    // Where a post would be too low to wind on nothing is offered.
    const Derived flat = deriveDrawing(test::neckWith({{"head.drop", "2"}}));
    const auto f = test::findingOf(flat.findings, "string-tree");
    REQUIRE(f);
    CHECK(curesFor(flat, *f).empty());
}
