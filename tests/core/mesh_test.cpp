// Splitting a mesh until it follows a surface.
#include "geom/mesh_splitter.h"

#include "support.h"

using namespace wren;

namespace {

/// Over a plane of places a bow along X: what a splitter asks of a surface.
struct Bow {
    Mesh& mesh;
    std::vector<Vec2> places;

    static Vec3 on(Vec2 p) { return {p.x, p.y, 0.4 * (1 - (p.x - 1) * (p.x - 1))}; }
    bool follows(int) const { return true; }
    double sag(int, int a, int b) const {
        const Vec2 middle = (places[std::size_t(a)] + places[std::size_t(b)]) * 0.5;
        const Vec3 chord = (mesh.vertices[std::size_t(a)] + mesh.vertices[std::size_t(b)]) * 0.5;
        return length(on(middle) - chord);
    }
    Vec3 middle(int, int a, int b) {
        places.push_back((places[std::size_t(a)] + places[std::size_t(b)]) * 0.5);
        return on(places.back());
    }
};

} // namespace

TEST_CASE("A triangle lying flat on a border's edge does not split for ever", "[mesh]") {
    Mesh mesh;
    Bow bow{mesh, {{0, 0}, {2, 0}, {1, 0}, {1, 1}}};
    for (Vec2 p : bow.places) {
        mesh.vertices.push_back(Bow::on(p));
    }
    // The last one's long edge is the border and bulges 0.4 mm; its other corner lies on it.
    mesh.triangles = {{0, 2, 3}, {2, 1, 3}, {1, 2, 0}};
    MeshSplitter splitter(mesh, std::vector<int>(3, 0), bow, 0.01);
    splitter.refine();
    CHECK(mesh.triangles.size() < 20000);
}
