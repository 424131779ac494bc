#include "exchange/face_triangles.h"

#include "base/error.h"
#include "geom/mesh_splitter.h"

#include <cmath>
#include <map>
#include <tuple>

#include <BRepMesh_IncrementalMesh.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <IMeshTools_Parameters.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Pnt2d.hxx>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

gp_Pnt pointOf(const Vec3& v) {
    return {v.x, v.y, v.z};
}

/// One face's triangles, in its own frame, and where their corners lie in its parameters.
class FaceMesh {
public:
    explicit FaceMesh(const TopoDS_Face& face) : reversed_(face.Orientation() == TopAbs_REVERSED) {
        TopLoc_Location at;
        const Handle(Poly_Triangulation) laid = BRep_Tool::Triangulation(face, at);
        if (laid.IsNull()) {
            throw Error("A face of the solid could not be laid out in triangles.");
        }
        place_ = at.Transformation();
        surface_.Load(BRep_Tool::Surface(face, at));
        for (int i = 1; i <= laid->NbNodes(); ++i) {
            const gp_Pnt p = laid->Node(i);
            mesh_.vertices.push_back({p.X(), p.Y(), p.Z()});
            if (laid->HasUVNodes()) {
                places_.push_back({laid->UVNode(i).X(), laid->UVNode(i).Y()});
            }
        }
        for (int i = 1; i <= laid->NbTriangles(); ++i) {
            int a = 0;
            int b = 0;
            int c = 0;
            laid->Triangle(i).Get(a, b, c);
            mesh_.triangles.push_back({a - 1, b - 1, c - 1});
        }
    }

    /// Until they follow the surface. The library's own way to it takes ten times as long.
    void refine(double chord) {
        if (surface_.GetType() == GeomAbs_Plane || !placesHold(chord)) {
            return;
        }
        // Of a triangle whose edges stay that far off, the middle may stay a third further.
        MeshSplitter splitter(mesh_, std::vector<int>(mesh_.triangles.size(), 0), *this,
                              chord * 3 / 4);
        splitter.refine();
    }

    // What the splitter asks for.
    bool follows(int) const { return true; }
    double sag(int, int a, int b) const {
        const Vec3 from = corner(a);
        const Vec3 way = corner(b) - from;
        const double square = dot(way, way);
        if (square < shortEdge * shortEdge) {
            return 0;
        }
        const int parts = square > longEdge * longEdge ? 4 : 2;
        double most = 0;
        for (int i = 1; i < parts; ++i) {
            const Vec3 off = between(a, b, double(i) / parts) - from;
            most = std::max(most, length(off - way * (dot(off, way) / square)));
        }
        return most;
    }
    Vec3 middle(int, int a, int b) {
        places_.push_back((place(a) + place(b)) * 0.5);
        return on(places_.back());
    }

    const Mesh& mesh() const { return mesh_; }
    gp_Pnt placed(const Vec3& corner) const { return pointOf(corner).Transformed(place_); }
    bool reversed() const { return reversed_; }

private:
    static constexpr double longEdge = 2; ///< mm; one may meet the surface in its middle by chance
    /// mm; where a surface's lines run together, an edge's middle in them may lie beside it for
    /// ever.
    static constexpr double shortEdge = 0.04;

    /// Whether the corners' places in the parameters are theirs; no splitting ends where they are
    /// not.
    bool placesHold(double within) const {
        for (std::size_t i = 0; i < places_.size(); ++i) {
            if (length(on(places_[i]) - mesh_.vertices[i]) > within) {
                return false;
            }
        }
        return !places_.empty();
    }
    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }
    Vec2 place(int i) const { return places_[static_cast<std::size_t>(i)]; }
    Vec3 on(Vec2 p) const {
        const gp_Pnt q = surface_.Value(p.x, p.y);
        return {q.X(), q.Y(), q.Z()};
    }
    Vec3 between(int a, int b, double share) const {
        return on(place(a) * (1 - share) + place(b) * share);
    }

    bool reversed_;
    GeomAdaptor_Surface surface_;
    gp_Trsf place_;
    Mesh mesh_;
    std::vector<Vec2> places_;
};

/// Joins faces: corners on shared edges are the same points.
class Joiner {
public:
    void add(const FaceMesh& face) {
        std::vector<int> index;
        index.reserve(face.mesh().vertices.size());
        for (const Vec3& v : face.mesh().vertices) {
            index.push_back(vertex(face.placed(v)));
        }
        for (const std::array<int, 3>& t : face.mesh().triangles) {
            const auto of = [&](std::size_t i) { return index[static_cast<std::size_t>(t[i])]; };
            if (of(0) != of(1) && of(1) != of(2) && of(2) != of(0)) {
                mesh_.triangles.push_back(
                    {of(0), face.reversed() ? of(2) : of(1), face.reversed() ? of(1) : of(2)});
            }
        }
    }
    Mesh take() { return std::move(mesh_); }

private:
    int vertex(const gp_Pnt& p) {
        constexpr double grain = 1e-5; // mm; far below any edge, far above rounding
        const std::tuple key{std::llround(p.X() / grain), std::llround(p.Y() / grain),
                             std::llround(p.Z() / grain)};
        const auto [it, isNew] = known_.try_emplace(key, static_cast<int>(mesh_.vertices.size()));
        if (isNew) {
            mesh_.vertices.push_back({p.X(), p.Y(), p.Z()});
        }
        return it->second;
    }

    Mesh mesh_;
    std::map<std::tuple<long long, long long, long long>, int> known_;
};

} // namespace

Mesh trianglesOf(const TopoDS_Solid& solid, double chord, double angle) {
    IMeshTools_Parameters how;
    how.Deflection = chord;
    how.Angle = angle;
    how.InParallel = true;
    how.ControlSurfaceDeflection = false;
    // Within faces refine() lays corners; the library's own there cost most of its time.
    how.DeflectionInterior = 1e3;
    how.AngleInterior = 3;
    const BRepMesh_IncrementalMesh laid(solid, how); // kept on the faces themselves
    std::vector<FaceMesh> faces;
    for (TopExp_Explorer f(solid, TopAbs_FACE); f.More(); f.Next()) {
        faces.emplace_back(TopoDS::Face(f.Current()));
    }
    tbb::parallel_for(std::size_t{0}, faces.size(), [&](std::size_t i) { faces[i].refine(chord); });
    Joiner joiner;
    for (const FaceMesh& face : faces) {
        joiner.add(face);
    }
    return joiner.take();
}

} // namespace wren
