// A part's models lie on its design's surface all over, and what does not is not written.

#include "body_support.h"
#include "mesh_support.h"
#include "neck_support.h"

#include "exchange/board_solid.h"
#include "exchange/neck_solid.h"
#include "exchange/panel_solid.h"
#include "exchange/solid_check.h"
#include "job/models.h"
#include "part/panel_mesh.h"

using namespace wren;

namespace {

Project fresh(std::initializer_list<std::pair<const char*, const char*>> sets) {
    Project p = newProject("model", 6, 648, 22, Hand::right);
    for (const auto& [key, value] : sets) {
        p = withKey(p, key, value);
    }
    return p;
}

} // namespace

TEST_CASE("A mesh with one corner off the design is found, and how far off", "[models]") {
    const BoardPart board(test::plainWith().board);
    Mesh mesh = BoardSolid(board).mesh();
    const Definition wood = definitionOf(board);
    CHECK_FALSE(worstStray(mesh, wood));
    Vec3& corner = mesh.vertices[mesh.vertices.size() / 2];
    corner.z += 2.5; // a spike, as a library's triangulation once had
    const std::optional<Stray> off = worstStray(mesh, wood);
    REQUIRE(off);
    CHECK(off->by > 1);
    CHECK(std::abs(off->at.x - corner.x) < 30);
}

TEST_CASE("Necks of every kind come as solids on their design's surface", "[models]") {
    const auto [name, project] = GENERATE(
        std::pair{"volute", fresh({{"neck.joint", "bolt-on"}, {"head.volute", "4"}})},
        std::pair{"narrow V",
                  fresh({{"neck.joint", "bolt-on"}, {"neck.stations", "1 21 V, 12 23 V"}})},
        std::pair{"tapered heel", fresh({{"neck.joint", "bolt-on"},
                                         {"neck.heel_shape", "tapered"},
                                         {"neck.heel_taper", "4"}})},
        std::pair{"carved with a tapered heel", fresh({{"neck.joint", "bolt-on"},
                                                       {"neck.fret_face", "carved"},
                                                       {"neck.heel_shape", "tapered"},
                                                       {"neck.heel_taper", "4"}})},
        std::pair{"set, tilted", fresh({{"neck.joint", "set"}, {"head.kind", "tilted"}})});
    INFO(name);
    const NeckPart part(project.neck, project.board);
    const Models models = neckModels(part, "neck");
    CAPTURE(models.missing);
    CHECK(models.missing.empty());
    CHECK(models.step.size() > 1000);
    CHECK(models.stl.size() > 1000);
}

TEST_CASE("Triangles of a neck's back and of a cone's face keep within their chord", "[models]") {
    constexpr double chord = 0.01;
    // Of the surface itself to its B-spline, and of the way of measuring.
    constexpr double beside = 0.002;
    // How far the middles of triangles and of their edges stay from z = height, square to it, where
    // all corners lie on it; and how many were asked.
    const auto furthest = [&](const Mesh& mesh, auto height) {
        double most = 0;
        int asked = 0;
        for (const auto& t : mesh.triangles) {
            const auto at = [&](std::size_t i) { return mesh.vertices[std::size_t(t[i % 3])]; };
            const Vec3 n = cross(at(1) - at(0), at(2) - at(0));
            const double upright = std::abs(n.z) / length(n);
            const auto off = [&](Vec3 p) { // less where the surface is as good as upright
                constexpr double d = 1e-4;
                const double z = height(p);
                const double slope =
                    std::hypot(height(p + Vec3{d, 0, 0}) - z, height(p + Vec3{0, d, 0}) - z) / d;
                return std::abs(p.z - z) / std::hypot(1.0, slope);
            };
            if (upright < 0.2 || off(at(0)) > beside || off(at(1)) > beside ||
                off(at(2)) > beside) {
                continue;
            }
            ++asked;
            most = std::max(most, off((at(0) + at(1) + at(2)) * (1.0 / 3)));
            for (std::size_t i = 0; i < 3; ++i) {
                most = std::max(most, off((at(i) + at(i + 1)) * 0.5));
            }
        }
        CHECK(asked > 500);
        return most;
    };
    const Project p = fresh({{"neck.joint", "bolt-on"}, {"head.volute", "4"}});
    const NeckPart neck(p.neck, p.board);
    const Mesh back = NeckSolid(neck).mesh(chord);
    CHECK(test::openEdges(back) == 0);
    CHECK(furthest(back, [&](Vec3 q) { return -neck.back().depth(q.x, q.y); }) < chord + beside);
    const BoardPart board(
        test::plainWith({{"board.radius", "184"}, {"board.far_radius", "406"}}).board);
    const Mesh cone = BoardSolid(board).mesh(chord);
    CHECK(test::openEdges(cone) == 0);
    CHECK(furthest(cone, [&](Vec3 q) { return board.face(q.x, q.y); }) < chord + beside);
}

TEST_CASE("A carved body's triangles follow edges, slopes and arch together", "[models]") {
    const Derived d =
        test::drawnBody(test::bodyWith({{"body.like", "scree"},
                                        {"body.front_edge", "round"},
                                        {"body.front_edge_size", "6"},
                                        {"body.front_slopes", "20 -128 116 -40 14 40"},
                                        {"body.back_edge", "chamfer"}}));
    const Panel* whole = d.body->part.panel(Role::body);
    REQUIRE(whole);
    const Mesh mesh = panelMesh(*whole);
    CHECK_FALSE(worstStray(mesh, definitionOf(*whole), 0.02));
    CHECK(test::openEdges(mesh) == 0);
}

TEST_CASE("A solid's own faces are asked all over, and told when one is off", "[models]") {
    const Derived d = deriveDrawing(loadProject(WREN_SOURCE "/demo/whinchat.wren"));
    const Panel& lid = *d.body->part.panel(Role::lid);
    const std::vector<SurfacePlace> places = PanelSolid(lid).places();
    CHECK(places.size() > 500);
    const Definition wood = definitionOf(lid);
    CHECK_FALSE(worstStray(places, wood));
    // The way out of the wood is told everywhere, save where a corner is as near.
    const auto outward = std::count_if(places.begin(), places.end(), [&](const SurfacePlace& p) {
        return std::abs(length(p.normal) - 1) < 1e-9 && wood(p.at - p.normal * 0.01) &&
               !wood(p.at + p.normal * 0.01);
    });
    CHECK(double(outward) > 0.97 * double(places.size()));
    std::vector<SurfacePlace> moved = places;
    moved[places.size() / 2].at =
        moved[places.size() / 2].at + moved[places.size() / 2].normal * 0.3;
    const std::optional<Stray> off = worstStray(moved, wood);
    REQUIRE(off);
    CHECK(off->by > 0.2);
    CHECK(off->by < 0.7);
}

TEST_CASE("Models of several parts, made side by side, are those made one by one",
          "[models][long]") {
    const Project project = loadProject(test::plainFile);
    Project p = withKey(project, "neck.joint", "bolt-on");
    p = withKey(p, "neck_hold.make_fixture", "yes");
    const Derived d = derive(p);
    const std::vector<PartId> parts = d.wanted();
    REQUIRE(parts.size() >= 3); // the board, the neck, the fixture its pins stand in
    std::vector<std::string> titles;
    for (PartId part : parts) {
        titles.push_back("a " + part.name());
    }
    const std::vector<Models> together = partsModels(d, parts, titles);
    REQUIRE(together.size() == parts.size());
    for (std::size_t i = 0; i < parts.size(); ++i) {
        INFO(parts[i].name());
        const Models alone = partModels(d, *d.job(parts[i]), titles[i]);
        CHECK(together[i].missing == alone.missing);
        CHECK(together[i].step == alone.step);
        CHECK(together[i].stl == alone.stl);
        CHECK(together[i].step.size() > 1000);
        CHECK(together[i].step.find(titles[i]) != std::string::npos);
        CHECK(together[i].step.find("PCURVE") == std::string::npos); // readers find them
    }
    std::stop_source stop;
    stop.request_stop();
    CHECK_THROWS_AS(partsModels(d, parts, titles, {stop.get_token(), {}}), Cancelled);
}
