// Which side of an outline is nearest: held against plain geometry, and against distances measured
// one by one.

#include "geom/voronoi.h"

#include "body_support.h"
#include "geom/edge_distance.h"
#include "geom/inset.h"

#include <numeric>
#include <random>

using namespace wren;

namespace {

Contour polygon(const std::vector<Vec2>& corners) {
    Contour out;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        out.push_back(
            {ContourPiece::Kind::line, corners[i], corners[(i + 1) % corners.size()], {}});
    }
    return out;
}

double lengthOf(const VoronoiCells::Border& border) {
    double l = 0;
    for (std::size_t i = 1; i < border.size(); ++i) {
        l += length(border[i] - border[i - 1]);
    }
    return l;
}

double lengthOf(const VoronoiCells& cells) {
    return std::accumulate(cells.borders().begin(), cells.borders().end(), 0.0,
                           [](double sum, const auto& b) { return sum + lengthOf(b); });
}

bool onBorder(const VoronoiCells& cells, Vec2 p, double within) {
    return std::any_of(cells.borders().begin(), cells.borders().end(), [&](const auto& border) {
        for (std::size_t i = 1; i < border.size(); ++i) {
            if (distanceToSegment(p, border[i - 1], border[i]) < within) {
                return true;
            }
        }
        return false;
    });
}

/// Every place's distance is that of its cell, and wherever the cell changes a border lies.
void checkParted(const Contour& outline, double reach) {
    const VoronoiCells cells(outline, reach);
    const EdgeDistance distance(outline, reach);
    const std::vector<Vec2> round = pointsOf(outline, 0.001);
    std::mt19937 random(7);
    std::uniform_real_distribution<double> share(0, 1);
    Vec2 low{1e9, 1e9};
    Vec2 high{-1e9, -1e9};
    for (Vec2 p : round) {
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    int seen = 0;
    int changes = 0;
    while (seen < 20000) {
        const Vec2 p{low.x + (high.x - low.x) * share(random),
                     low.y + (high.y - low.y) * share(random)};
        const double d = distance.at(p);
        if (!inside(round, p) || d > reach - 0.5) {
            continue;
        }
        ++seen;
        const std::size_t cell = cells.cellAt(p);
        REQUIRE(cells.distance(cell, p) == Approx(d).margin(1e-5));
        const double turn = share(random) * 6.28;
        const Vec2 q = p + Vec2{std::cos(turn), std::sin(turn)} * 0.2;
        if (inside(round, q) && cells.cellAt(q) != cell) {
            INFO(p.x << ", " << p.y);
            REQUIRE(onBorder(cells, p, 0.21));
            ++changes;
        }
    }
    CHECK(changes > 20);
}

} // namespace

TEST_CASE("A rectangle is parted along its diagonals and its middle line", "[voronoi]") {
    const Contour box = polygon({{0, 0}, {100, 0}, {100, 40}, {0, 40}});
    const VoronoiCells whole(box, 60);
    CHECK(whole.crested());
    CHECK(whole.borders().size() == 5);
    CHECK(lengthOf(whole) == Approx(4 * 20 * std::sqrt(2.0) + 60));
    CHECK(onBorder(whole, {50, 20}, 1e-6));
    const VoronoiCells rim(box, 5); // four diagonals, no further in than that
    CHECK(rim.borders().size() == 4);
    CHECK(lengthOf(rim) == Approx(4 * 5 * std::sqrt(2.0)).margin(1e-4));
    checkParted(box, 60);
}

TEST_CASE("A line and a point are parted by a parabola", "[voronoi]") {
    // An inward corner at the origin against the side below it: the places as far from both.
    const Contour step =
        polygon({{-80, -30}, {80, -30}, {80, 60}, {20, 60}, {0, 0}, {-20, 60}, {-80, 60}});
    const VoronoiCells cells(step, 40);
    int on = 0;
    for (const VoronoiCells::Border& border : cells.borders()) {
        for (Vec2 p : border) {
            if (std::abs(p.x) < 10 && p.y < -10) { // its vertex, halfway down to the side
                CHECK(p.y == Approx(p.x * p.x / 60 - 15).margin(1e-6));
                ++on;
            }
        }
    }
    CHECK(on > 30);
    checkParted(step, 40);
}

TEST_CASE("Outlines without corners are parted where an edge is wider than they bend",
          "[voronoi]") {
    const Contour ring = circleContour({10, 20}, 50);
    CHECK_FALSE(VoronoiCells(ring, 20).crested());
    const auto shape = [](const char* like) {
        const Derived d =
            test::drawnBody(test::bodyWith({{"body.outline", test::hornedOutline(like)}}));
        return counterClockwise(d.body->part.panel(Role::body)->outline);
    };
    for (const char* like : {"two", "one", "alike"}) {
        INFO(like);
        const Contour outline = shape(like);
        CHECK_FALSE(VoronoiCells(outline, 3.5).crested()); // its corners are round by 4 mm
        CHECK(VoronoiCells(outline, 6).crested());
        for (double reach : {20.0, 60.0, 150.0}) {
            checkParted(outline, reach);
        }
    }
}

TEST_CASE("A place is found again by its way along a cell and its distance", "[voronoi]") {
    Contour outline = circleContour({0, 0}, 60);
    const VoronoiCells round(counterClockwise(outline), 20);
    const VoronoiCells box(polygon({{0, 0}, {100, 0}, {100, 40}, {0, 40}}), 20);
    for (const VoronoiCells* cells : {&round, &box}) {
        for (Vec2 p : {Vec2{15, 12}, Vec2{20, 3}}) {
            const std::size_t cell = cells->cellAt(p);
            const Vec2 back = cells->placeAt(cell, cells->shares(cell, p));
            CHECK(length(back - p) < 1e-9);
            // On along the outline the inside lies on the left.
            const Vec2 on = cells->placeAt(cell, cells->shares(cell, p) + Vec2{0.1, 0});
            const Vec2 in = cells->placeAt(cell, cells->shares(cell, p) + Vec2{0, 0.1});
            CHECK(cross(on - p, in - p) > 0);
        }
    }
    CHECK(round.tipOf(0) == std::nullopt);
    const VoronoiCells deep(counterClockwise(outline), 40);
    REQUIRE(deep.tipOf(0));
    CHECK(length(*deep.tipOf(0)) < 1e-9);
}
