#include "design/picture_place.h"

#include "body_support.h"

#include <random>

using namespace wren;

TEST_CASE("Two places on the centreline say how a picture shows a plan", "[trace]") {
    // The bridge line at 800, 300; 250 mm toward the nut, 500 pixels to the left: 2 pixels a mm.
    const PicturePlace place({800, 300}, {300, 300}, -250, true);
    CHECK(place.pixelsPerMm() == Approx(2));
    CHECK(length(place.toPlan({800, 300})) < 1e-12);
    CHECK(length(place.toPlan({300, 300}) - Vec2{-250, 0}) < 1e-9);
    CHECK(length(place.toPlan({900, 300}) - Vec2{50, 0}) < 1e-9);
    // Bass below: further down the picture is -Y.
    CHECK(length(place.toPlan({800, 340}) - Vec2{0, -20}) < 1e-9);
    const PicturePlace other({800, 300}, {300, 300}, -250, false);
    CHECK(length(other.toPlan({800, 340}) - Vec2{0, 20}) < 1e-9);
    // A headstock's zero is the nut, its other place lies the other way.
    const PicturePlace head({300, 300}, {500, 300}, 100, true);
    CHECK(length(head.toPlan({100, 280}) - Vec2{-100, 10}) < 1e-9);
}

TEST_CASE("A picture taken askew, or from the other end, gives the same plan", "[trace]") {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> any(-1, 1);
    for (int round = 0; round < 50; ++round) {
        const double turn = 3.1 * any(random);
        const double scale = 1.5 + any(random);
        const Vec2 shift{700 + 100 * any(random), 500 + 100 * any(random)};
        // A camera: turned, scaled, and y down.
        const auto photo = [&](Vec2 p) {
            return shift + Vec2{std::cos(turn) * p.x - std::sin(turn) * p.y,
                                -(std::sin(turn) * p.x + std::cos(turn) * p.y)} *
                               scale;
        };
        const PicturePlace place(photo({0, 0}), photo({-310, 0}), -310, true);
        for (int i = 0; i < 5; ++i) {
            const Vec2 p{300 * any(random), 200 * any(random)};
            CHECK(length(place.toPlan(photo(p)) - p) < 1e-9);
            CHECK(length(place.toPicture(p) - photo(p)) < 1e-9);
        }
    }
}
