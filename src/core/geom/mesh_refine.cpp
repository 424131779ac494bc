#include "geom/mesh_refine.h"

#include <map>
#include <queue>

namespace wren {
namespace {

using Edge = std::pair<int, int>; ///< the smaller corner first

class Refiner {
public:
    Refiner(Mesh& mesh, const std::function<double(double, double)>& height, double chord,
            double on)
        : mesh_(mesh), height_(height), chord_(chord), on_(on) {
        for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
            follows_.push_back(liesOnSurface(mesh_.triangles[t]));
            for (int i = 0; i < 3; ++i) {
                owners_[edge(t, i)].push_back(t);
            }
        }
    }

    void refine() {
        for (const auto& [e, owners] : owners_) {
            consider(e);
        }
        while (!wanted_.empty()) {
            const Edge e = wanted_.top().second;
            wanted_.pop();
            if (owners_.count(e)) {
                split(e);
            }
        }
    }

private:
    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }

    static Edge ordered(int a, int b) { return a < b ? Edge{a, b} : Edge{b, a}; }

    Edge edge(std::size_t t, int i) const {
        const auto& c = mesh_.triangles[t];
        return ordered(c[static_cast<std::size_t>(i)], c[static_cast<std::size_t>((i + 1) % 3)]);
    }

    bool liesOnSurface(const std::array<int, 3>& t) const {
        for (int i : t) {
            const Vec3& p = corner(i);
            if (std::abs(p.z - height_(p.x, p.y)) > on_) {
                return false;
            }
        }
        const Vec3 n = cross(corner(t[1]) - corner(t[0]), corner(t[2]) - corner(t[0]));
        return std::abs(n.z) > 0.05 * length(n);
    }

    /// How far the surface stands from the middle of the edge.
    double sag(const Edge& e) const {
        const Vec3 m = (corner(e.first) + corner(e.second)) * 0.5;
        return std::abs(height_(m.x, m.y) - m.z);
    }

    void consider(const Edge& e) {
        bool followed = false;
        for (std::size_t t : owners_[e]) {
            followed = followed || follows_[t];
        }
        const double s = followed ? sag(e) : 0;
        if (s > chord_) {
            wanted_.emplace(s, e); // the worst first keeps the triangles from growing thin
        }
    }

    void split(const Edge& e) {
        const std::vector<std::size_t> owners = owners_[e];
        owners_.erase(e);
        Vec3 m = (corner(e.first) + corner(e.second)) * 0.5;
        m.z = height_(m.x, m.y);
        const int middle = static_cast<int>(mesh_.vertices.size());
        mesh_.vertices.push_back(m);
        for (std::size_t t : owners) {
            halve(t, e, middle);
        }
        consider(ordered(e.first, middle));
        consider(ordered(e.second, middle));
    }

    /// (a, b, c) with a-b split becomes (a, m, c) and (m, b, c).
    void halve(std::size_t t, const Edge& e, int middle) {
        auto corners = mesh_.triangles[t];
        std::size_t i = 0;
        while (ordered(corners[i], corners[(i + 1) % 3]) != e) {
            ++i;
        }
        const int a = corners[i];
        const int b = corners[(i + 1) % 3];
        const int c = corners[(i + 2) % 3];
        const std::size_t fresh = mesh_.triangles.size();
        mesh_.triangles[t] = {a, middle, c};
        mesh_.triangles.push_back({middle, b, c});
        follows_.push_back(follows_[t]);
        auto& far = owners_[ordered(b, c)];
        *std::find(far.begin(), far.end(), t) = fresh;
        owners_[ordered(a, middle)].push_back(t);
        owners_[ordered(middle, b)].push_back(fresh);
        owners_[ordered(middle, c)] = {t, fresh};
        consider(ordered(middle, c));
    }

    Mesh& mesh_;
    const std::function<double(double, double)>& height_;
    double chord_;
    double on_;
    std::vector<bool> follows_;
    std::map<Edge, std::vector<std::size_t>> owners_;
    std::priority_queue<std::pair<double, Edge>> wanted_;
};

} // namespace

void refineOnto(Mesh& mesh, const std::function<double(double, double)>& height, double chord,
                double on) {
    Refiner(mesh, height, chord, on).refine();
}

} // namespace wren
