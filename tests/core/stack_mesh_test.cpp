// Triangles laid over pieces of a plan and stacked to a part.

#include "exchange/solid_check.h"
#include "geom/inset.h"
#include "geom/plan_cells.h"
#include "geom/stack_mesh.h"
#include "part/definition.h"
#include "part/panel_mesh.h"

#include "body_support.h"
#include "mesh_support.h"

#include <map>
#include <numbers>
#include <random>

using namespace wren;
using test::openEdges;
using test::volumeOf;

namespace {

constexpr double pi = std::numbers::pi;

std::vector<Vec2> square(double x, double y, double size) {
    return {{x, y}, {x + size, y}, {x + size, y + size}, {x, y + size}};
}

std::vector<Vec2> roundOf(Vec2 centre, double radius, int n) {
    std::vector<Vec2> out;
    for (int i = 0; i < n; ++i) {
        out.push_back(centre + Vec2{std::cos(2 * pi * i / n), std::sin(2 * pi * i / n)} * radius);
    }
    return out;
}

double areaOf(const PlanCells& plan, const PlanCell& cell) {
    double sum = 0;
    for (const auto& t : cell.triangles) {
        const auto at = [&](std::size_t i) { return plan.corners[std::size_t(t[i])]; };
        sum += cross(at(1) - at(0), at(2) - at(0)) / 2;
    }
    return sum;
}

/// A block with level faces at whole heights, by what lies over a place.
struct Levels {
    std::vector<std::vector<Vec2>> lines;
    std::function<std::vector<std::pair<double, double>>(Vec2)> wood;
    std::map<double, PlanFace> faces;

    Mesh mesh() {
        PlanStack stack;
        stack.lines = lines;
        stack.over = [this](Vec2 p) {
            std::vector<StackSpan> spans;
            for (const auto& [low, high] : wood(p)) {
                spans.push_back({number(low), number(high)});
            }
            return spans;
        };
        stack.face = [this](int n) -> const PlanFace& { return faces.at(double(n)); };
        return meshOf(stack, 0.01);
    }

private:
    int number(double z) {
        faces[z] = {[z](double, double) { return z; }, {}};
        return int(z);
    }
};

bool within(Vec2 p, double x, double y, double size) {
    return p.x > x && p.x < x + size && p.y > y && p.y < y + size;
}

} // namespace

TEST_CASE("Lines that cross, touch and run along one another cut the plane into its pieces",
          "[mesh]") {
    // A square, one overlapping its corner, one inside along an edge, and the first once more.
    const PlanCells plan = cellsBetween({square(0, 0, 10), square(6, 6, 8), square(0, 2, 3),
                                         square(0, 0, 10), roundOf({5, 5}, 1, 40)});
    std::vector<double> areas;
    double all = 0;
    for (const PlanCell& cell : plan.cells) {
        areas.push_back(areaOf(plan, cell));
        all += areas.back();
        for (const auto& t : cell.triangles) {
            const auto at = [&](std::size_t i) { return plan.corners[std::size_t(t[i])]; };
            CHECK(cross(at(1) - at(0), at(2) - at(0)) > 0);
        }
    }
    CHECK(plan.cells.size() == 5);
    CHECK(all == Approx(100 + 64 - 16));
    std::sort(areas.begin(), areas.end());
    CHECK(areas[0] == Approx(20 * std::sin(pi / 20)).margin(1e-2)); // the round one, 40 corners
    CHECK(areas[1] == Approx(9));
    CHECK(areas[2] == Approx(16));
    CHECK(areas[3] == Approx(48));
    CHECK(cellsBetween({}).cells.empty());
    CHECK(cellsBetween({{{0, 0}, {1, 1}}}).cells.empty()); // no line that closes anything in
}

TEST_CASE("A place told of a piece lies inside it", "[mesh]") {
    const PlanCells plan = cellsBetween({roundOf({0, 0}, 20, 200), roundOf({0, 0}, 19.9, 200),
                                         roundOf({3, 2}, 6, 90), square(-30, -1, 45)});
    for (const PlanCell& cell : plan.cells) {
        bool inside = false;
        for (const auto& t : cell.triangles) {
            const auto left = [&](std::size_t a, std::size_t b) {
                const Vec2 from = plan.corners[std::size_t(t[a])];
                return cross(plan.corners[std::size_t(t[b])] - from, cell.within - from) > 0;
            };
            inside = inside || (left(0, 1) && left(1, 2) && left(2, 0));
        }
        CHECK(inside);
    }
}

TEST_CASE("Lines closer than the grain close up and leave no slivers", "[mesh]") {
    std::vector<Vec2> nearly = square(0, 0, 10);
    for (Vec2& p : nearly) {
        p = p + Vec2{2e-5, -3e-5};
    }
    const PlanCells plan = cellsBetween({square(0, 0, 10), nearly});
    REQUIRE(plan.cells.size() == 1);
    CHECK(areaOf(plan, plan.cells[0]) == Approx(100).margin(0.01));
}

TEST_CASE("A stack of wood is closed and as large as what it is stacked from", "[mesh]") {
    Levels block;
    block.lines = {square(0, 0, 20), square(3, 3, 6), square(5, 5, 10), square(12, 12, 4),
                   square(1, 14, 4)};
    // A pocket from the front down to 7, one from the back up to 4, a through hole where a third
    // stands, a hollow shut in between 4 and 6.
    block.wood = [](Vec2 p) -> std::vector<std::pair<double, double>> {
        if (!within(p, 0, 0, 20) || within(p, 12, 12, 4)) {
            return {};
        }
        const double high = within(p, 3, 3, 6) ? 7 : 10;
        const double low = within(p, 5, 5, 10) ? 4 : 0;
        if (within(p, 1, 14, 4)) {
            return {{low, 4}, {6, high}};
        }
        return {{low, high}};
    };
    const Mesh mesh = block.mesh();
    CHECK(openEdges(mesh) == 0);
    // The back's pocket lies over a quarter of the front's and of the hole.
    const double front = 36 * 3.0;
    const double back = 100 * 4.0;
    const double hole = 16 * 10.0 - 9 * 4.0;
    CHECK(volumeOf(mesh) == Approx(4000 - front - back - hole - 16 * 2.0).margin(1e-6));
}

TEST_CASE("Pieces that meet at one corner only stay closed", "[mesh]") {
    Levels block;
    block.lines = {square(0, 0, 10), square(10, 10, 10), square(10, 0, 10)};
    block.wood = [](Vec2 p) -> std::vector<std::pair<double, double>> {
        if (within(p, 0, 0, 10)) {
            return {{0, 5}};
        }
        if (within(p, 10, 10, 10)) {
            return {{2, 9}};
        }
        return {};
    };
    const Mesh mesh = block.mesh();
    CHECK(openEdges(mesh) == 0);
    CHECK(volumeOf(mesh) == Approx(500 + 700));
}

TEST_CASE("Random blocks of pockets are closed and weigh what their cells do", "[mesh]") {
    std::mt19937 random(17);
    std::uniform_int_distribution<int> at(0, 14), size(2, 6), height(1, 9);
    for (int round = 0; round < 12; ++round) {
        struct Cut {
            int x, y, size, z;
            bool back;
        };
        std::vector<Cut> cuts;
        Levels block;
        block.lines = {square(0, 0, 20)};
        for (int i = 0; i < 7; ++i) {
            cuts.push_back({at(random), at(random), size(random), height(random), i % 3 == 0});
            block.lines.push_back(square(cuts.back().x, cuts.back().y, cuts.back().size));
        }
        block.wood = [&](Vec2 p) -> std::vector<std::pair<double, double>> {
            double low = 0;
            double high = 10;
            for (const Cut& c : cuts) {
                if (within(p, c.x, c.y, c.size)) {
                    (c.back ? low : high) =
                        c.back ? std::max<double>(low, c.z) : std::min<double>(high, c.z);
                }
            }
            if (!within(p, 0, 0, 20) || low >= high) {
                return {};
            }
            return {{low, high}};
        };
        double weight = 0; // everything lies on whole millimetres
        for (int x = 0; x < 20; ++x) {
            for (int y = 0; y < 20; ++y) {
                for (const auto& [low, high] : block.wood({x + 0.5, y + 0.5})) {
                    weight += high - low;
                }
            }
        }
        const Mesh mesh = block.mesh();
        INFO("round " << round);
        CHECK(openEdges(mesh) == 0);
        CHECK(volumeOf(mesh) == Approx(weight).margin(1e-6));
    }
}

TEST_CASE("A dome over a plate is followed within the chord", "[mesh]") {
    constexpr double radius = 60;
    const PlanFace dome{
        [](double x, double y) { return std::sqrt(radius * radius - x * x - y * y); },
        [](double x, double y) { return std::sqrt(radius * radius - x * x - y * y) / radius; }};
    const PlanFace under{[](double, double) { return 0.0; }, {}};
    PlanStack stack;
    stack.lines = {roundOf({0, 0}, 40, 160)};
    stack.over = [](Vec2) { return std::vector<StackSpan>{{0, 1}}; };
    stack.face = [&](int n) -> const PlanFace& { return n == 0 ? under : dome; };
    double before = 1e9;
    for (double chord : {0.2, 0.05, 0.01}) {
        const Mesh mesh = meshOf(stack, chord);
        CHECK(openEdges(mesh) == 0);
        double worst = 0;
        for (const auto& t : mesh.triangles) {
            const auto at = [&](std::size_t i) { return mesh.vertices[std::size_t(t[i])]; };
            const Vec3 middle = (at(0) + at(1) + at(2)) * (1.0 / 3);
            const Vec3 n = cross(at(1) - at(0), at(2) - at(0));
            if (n.z > 0.05 * length(n)) { // of the dome, not of its wall or floor
                worst = std::max(worst, std::abs(length(middle) - radius));
            }
        }
        // Edges are held to the chord; the middle of three bulges a little more.
        CHECK(worst < 2 * chord);
        CHECK(worst < before);
        before = worst;
    }
    // Of a cylinder and the cap of a sphere, in the same 160 corners but for what lies outside
    // them.
    const double foot = std::sqrt(radius * radius - 40 * 40.0);
    const double cap = radius - foot;
    const double whole = pi * 40 * 40 * foot + pi * cap * cap * (3 * radius - cap) / 3;
    CHECK(volumeOf(meshOf(stack, 0.01)) == Approx(whole).epsilon(0.002));
}

TEST_CASE("Refining keeps a closed mesh closed and leaves other faces alone", "[mesh]") {
    // A cube of two triangles a side; only its top follows.
    Levels cube;
    cube.lines = {square(0, 0, 10)};
    cube.wood = [](Vec2) { return std::vector<std::pair<double, double>>{{0, 10}}; };
    Mesh mesh = cube.mesh();
    REQUIRE(mesh.triangles.size() == 12);
    std::vector<int> numbers;
    for (const auto& t : mesh.triangles) {
        numbers.push_back(std::all_of(
            t.begin(), t.end(), [&](int i) { return mesh.vertices[std::size_t(i)].z > 9.9; }));
    }
    const PlanFace bump{
        [](double x, double y) { return 10 + 2 * std::sin(pi * x / 10) * std::sin(pi * y / 10); },
        [](double, double) { return 1.0; }};
    refineOnto(
        mesh, numbers, [&](int n) { return n == 1 ? &bump : nullptr; }, 0.02);
    CHECK(openEdges(mesh) == 0);
    CHECK(mesh.triangles.size() > 100);
    CHECK(volumeOf(mesh) == Approx(1000 + 2 * (20 / pi) * (20 / pi)).epsilon(0.001));
    for (const Vec3& v : mesh.vertices) { // nothing was put into the sides or the floor
        const bool onTop = std::abs(v.z - bump.height(v.x, v.y)) < 1e-9;
        CHECK((onTop || v.z == 0));
    }
}

TEST_CASE("Carved bodies of all builds come out closed, on their definition and as heavy",
          "[mesh][models][long]") {
    const auto check = [](const std::string& name, const Project& project) {
        INFO(name);
        const Derived d = test::drawnBody(project);
        const Panel* whole = d.body->part.panel(Role::body);
        REQUIRE(whole);
        const Mesh mesh = panelMesh(*whole);
        CHECK(openEdges(mesh) == 0);
        CHECK_FALSE(worstStray(mesh, definitionOf(*whole), 0.02));
        // The body's own volume is summed over cells of 0.25 mm.
        CHECK(volumeOf(mesh) == Approx(d.body->part.volume()).epsilon(0.002));
    };
    check("topped, rounded",
          test::bodyWith({{"body.build", "topped"}, {"body.front_edge", "round"}}));
    check("arched", test::bodyWith({{"body.arch", "6"}, {"body.arch_width", "70"}}));
    check("chamfers and slopes",
          test::bodyWith({{"body.front_edge", "chamfer"},
                          {"body.back_edge", "chamfer"},
                          {"body.front_slopes", "20 -128 116 -40 14 40"},
                          {"body.back_slopes", "-140 -112 -10 -128 14 60 20"}}));
}
