#include "geom/mesh_refine.h"

#include "geom/mesh_splitter.h"

#include <cmath>

namespace wren {
namespace {

constexpr double shortest = 0.002; ///< edges no longer than this in plan are left, mm

/// Faces over the plan, each triangle's tag the place of its own among them, 0 for none.
class OverPlan {
public:
    OverPlan(const Mesh& mesh, const std::function<const PlanFace*(int)>& faceOf,
             const std::vector<int>& numbers, double chord)
        : mesh_(mesh), chord_(chord) {
        tags_.reserve(2 * numbers.size());
        for (int number : numbers) {
            tags_.push_back(tagOf(faceOf(number)));
        }
    }

    const std::vector<int>& tags() const { return tags_; }
    bool follows(int tag) const { return tag > 0; }

    /// A long edge may meet the face in its middle and yet not follow it.
    double sag(int tag, int from, int to) const {
        const PlanFace& face = *faces_[static_cast<std::size_t>(tag)];
        const Vec3 a = corner(from);
        const Vec3 way = corner(to) - a;
        if (std::hypot(way.x, way.y) < shortest) {
            return 0; // a crease is followed as closely as this, not for ever
        }
        const int parts = length(way) > 2 ? 8 : 2;
        double most = 0;
        for (int i = 1; i < parts; ++i) {
            const Vec3 m = a + way * (double(i) / parts);
            const double off = std::abs(face.height(m.x, m.y) - m.z);
            if (off > std::max(most, chord_)) { // the share is 1 at most, and dear to ask for
                most = std::max(most, off * face.upright(m.x, m.y));
            }
        }
        return most;
    }

    Vec3 middle(int tag, int a, int b) const {
        Vec3 m = (corner(a) + corner(b)) * 0.5;
        m.z = faces_[static_cast<std::size_t>(tag)]->height(m.x, m.y);
        return m;
    }

private:
    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }

    int tagOf(const PlanFace* face) {
        const auto known = face ? std::find(faces_.begin(), faces_.end(), face) : faces_.begin();
        if (known == faces_.end()) {
            faces_.push_back(face);
            return static_cast<int>(faces_.size()) - 1;
        }
        return static_cast<int>(known - faces_.begin());
    }

    const Mesh& mesh_;
    double chord_;
    std::vector<const PlanFace*> faces_{nullptr};
    std::vector<int> tags_;
};

} // namespace

void refineOnto(Mesh& mesh, const std::vector<int>& numbers,
                const std::function<const PlanFace*(int)>& faceOf, double chord) {
    OverPlan surface(mesh, faceOf, numbers, chord);
    MeshSplitter splitter(mesh, surface.tags(), surface, chord);
    splitter.refine();
}

} // namespace wren
