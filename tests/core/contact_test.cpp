#include "cut/contact.h"
#include "cut/drop_cutter.h"

#include "support.h"

#include <random>

using namespace wren;

namespace {

EndShape ball(double r) {
    return {0, r, 0, r};
}
EndShape flat(double r) {
    return {r, 0, 0, r};
}

/// Height of the tip of a tool at y, found by trying every place under it.
double bySampling(const ArchedFace& face, double y, double r, bool ball) {
    double tip = -1e9;
    for (int i = -4000; i <= 4000; ++i) {
        const double d = r * i / 4000;
        const double under = ball ? r - std::sqrt(r * r - d * d) : 0;
        tip = std::max(tip, face.heightAt(0, y + d) - under);
    }
    return tip;
}

} // namespace

TEST_CASE("Ball and flat touch the cylinder and do not enter it", "[contact]") {
    for (double radius : {184.0, 300.0, 2000.0}) {
        const ArchedFace face{6, radius, 0};
        for (double r : {0.29, 3.0, 6.0}) {
            for (double y : {-26.0, -3.0, 0.0, 0.2, 11.0, 28.0}) {
                CHECK(tipOver(face, 0, y, ball(r)) ==
                      Approx(bySampling(face, y, r, true)).margin(1e-6));
                CHECK(tipOver(face, 0, y, flat(r)) ==
                      Approx(bySampling(face, y, r, false)).margin(1e-6));
            }
        }
    }
}

TEST_CASE("A ball asked to touch at a place touches there", "[contact]") {
    const ArchedFace face{6, 250, 0};
    const double r = 6;
    const Vec3 contact = face.onLine(0.08, 10);
    const Vec3 centre = tipOnLine(face, 0.08, 10, ball(r)) + Vec3{0, 0, r};
    CHECK(length(centre - contact) == Approx(r).margin(1e-9));
}

TEST_CASE("The ridge between two passes is as high as asked", "[contact]") {
    for (double h : {0.005, 0.015, 0.05}) {
        const ArchedFace face{6, 250, 0};
        const double r = 3;
        const double s = ballStepover(face.radius, h, r);
        // Two balls touching s apart about the crown: where they meet above the face.
        const double c = s / 2 / face.radius;
        const Vec3 tip = tipOnLine(face, c, 0, ball(r));
        const double ridge = tip.z + r - std::sqrt(r * r - tip.y * tip.y) - face.top;
        CHECK(ridge == Approx(h).epsilon(0.01));
        CHECK(ridgeBetween(face, 0, -c, c, ball(r)) == Approx(ridge).margin(1e-6));
    }
}

TEST_CASE("A ball dropped on one triangle meets facet, edge and corner", "[drop]") {
    Mesh mesh;
    mesh.vertices = {{0, 0, 0}, {10, 0, 0}, {0, 10, 0}};
    mesh.triangles = {{0, 1, 2}};
    const BallDropCutter drop(mesh, 2);
    CHECK(drop.tipHeight(2, 2) == Approx(0).margin(1e-12));      // facet
    CHECK(drop.tipHeight(5, -1) == Approx(std::sqrt(3.0) - 2));  // edge
    CHECK(drop.tipHeight(-1, -1) == Approx(std::sqrt(2.0) - 2)); // corner
    CHECK(drop.tipHeight(-3, 0) == BallDropCutter::nothing);     // beside
    CHECK(drop.tipHeight(1000, 1000) == BallDropCutter::nothing);
}

TEST_CASE("A steep facet and a slanting edge are met where they are", "[drop]") {
    Mesh mesh; // a roof: two facets at 45 degrees, ridge along X at z = 10
    mesh.vertices = {{-50, -10, 0}, {50, -10, 0}, {-50, 0, 10},
                     {50, 0, 10},   {-50, 10, 0}, {50, 10, 0}};
    mesh.triangles = {{0, 1, 3}, {0, 3, 2}, {2, 3, 5}, {2, 5, 4}};
    const BallDropCutter drop(mesh, 3);
    CHECK(drop.tipHeight(0, 0) == Approx(10));
    CHECK(drop.tipHeight(4, -6) == Approx(4 + 3 * std::sqrt(2.0) - 3));
    Mesh wire; // an edge rising 1 in 2
    wire.vertices = {{0, 0, 0}, {20, 0, 10}, {20, 1e-9, 10}};
    wire.triangles = {{0, 1, 2}};
    CHECK(BallDropCutter(wire, 3).tipHeight(10, 0) ==
          Approx(5 + 3 * std::sqrt(1.25) - 3).margin(1e-6));
}

TEST_CASE("On a fine mesh of the cylinder the drop agrees with the closed form", "[drop]") {
    const ArchedFace face{6, 250, 0};
    const Mesh mesh = meshOfHeights(-20, 20, 10, -34, 34, 680,
                                    [&](double, double y) { return face.heightAt(0, y); });
    const BallDropCutter drop(mesh, 6);
    for (double y = -24; y <= 24; y += 1.37) {
        // Facets 0.1 mm wide sag 0.000005 mm below the cylinder they stand for.
        CHECK(drop.tipHeight(0.3, y) == Approx(tipOver(face, 0, y, ball(6))).margin(1e-5));
    }
}

TEST_CASE("The grid forgets no triangle", "[drop]") {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> at(0, 30);
    Mesh mesh;
    for (int i = 0; i < 300; ++i) { // loose triangles of every size and slant
        const Vec3 p{at(random), at(random), at(random) / 3};
        const double size = i % 10 == 0 ? 8 : 1;
        for (int k = 0; k < 3; ++k) {
            mesh.vertices.push_back({p.x + size * at(random) / 30, p.y + size * at(random) / 30,
                                     p.z + at(random) / 10});
        }
        mesh.triangles.push_back({3 * i, 3 * i + 1, 3 * i + 2});
    }
    const BallDropCutter all(mesh, 2.5);
    for (int q = 0; q < 100; ++q) {
        const double x = at(random);
        const double y = at(random);
        double highest = BallDropCutter::nothing;
        for (const auto& t : mesh.triangles) {
            Mesh one{mesh.vertices, {t}};
            highest = std::max(highest, BallDropCutter(one, 2.5).tipHeight(x, y));
        }
        CHECK(all.tipHeight(x, y) == highest);
    }
}
