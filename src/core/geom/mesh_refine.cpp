#include "geom/mesh_refine.h"

#include <algorithm>
#include <cstdint>
#include <queue>
#include <unordered_map>

namespace wren {
namespace {

using Edge = std::pair<int, int>; ///< the smaller corner first

struct EdgeHash {
    std::size_t operator()(const Edge& e) const {
        return std::hash<std::uint64_t>()(
            (std::uint64_t(std::uint32_t(e.first)) << 32 | std::uint32_t(e.second)) *
            0x9E3779B97F4A7C15ULL);
    }
};

constexpr double shortest = 0.002; ///< edges no longer than this in plan are left, mm

class Refiner {
public:
    Refiner(Mesh& mesh, std::vector<int>& faces, int face, const PlanFunction& height,
            const PlanFunction& upright, double chord)
        : mesh_(mesh), faces_(faces), face_(face), height_(height), upright_(upright),
          chord_(chord) {
        owners_.reserve(4 * mesh_.triangles.size());
        for (std::size_t t = 0; t < mesh_.triangles.size(); ++t) {
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
            const auto [sag, e] = wanted_.top();
            wanted_.pop();
            if (!owners_.count(e)) {
                continue;
            }
            const Edge first = firstOf(e);
            split(first);
            if (first != e) {
                wanted_.emplace(sag, e);
            }
        }
    }

private:
    bool follows(std::size_t t) const { return faces_[t] == face_; }

    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }

    static Edge ordered(int a, int b) { return a < b ? Edge{a, b} : Edge{b, a}; }

    Edge edge(std::size_t t, int i) const {
        const auto& c = mesh_.triangles[t];
        return ordered(c[static_cast<std::size_t>(i)], c[static_cast<std::size_t>((i + 1) % 3)]);
    }

    /// How far the surface stands from the edge. A long one may meet it in its middle and yet not
    /// follow it.
    double sag(const Edge& e) const {
        const Vec3 a = corner(e.first);
        const Vec3 way = corner(e.second) - a;
        if (std::hypot(way.x, way.y) < shortest) {
            return 0; // a crease is followed as closely as this, not for ever
        }
        const int parts = length(way) > 2 ? 8 : 2;
        double most = 0;
        for (int i = 1; i < parts; ++i) {
            const Vec3 m = a + way * (double(i) / parts);
            const double off = std::abs(height_(m.x, m.y) - m.z);
            if (off > std::max(most, chord_)) { // the share is 1 at most, and dear to ask for
                most = std::max(most, off * upright_(m.x, m.y));
            }
        }
        return most;
    }

    void consider(const Edge& e) {
        bool followed = false;
        for (std::size_t t : owners_[e]) {
            followed = followed || follows(t);
        }
        const double s = followed ? sag(e) : 0;
        if (s > chord_) {
            wanted_.emplace(s, e); // the worst first keeps the triangles from growing thin
        }
    }

    double lengthOf(const Edge& e) const { return length(corner(e.second) - corner(e.first)); }

    /// The edge to be split before that one may be: the longest of its following triangles where
    /// that is much longer. Without it triangles without height would be split for ever.
    Edge firstOf(Edge e) const {
        constexpr double much = 1.3;
        for (bool moved = true; moved;) {
            moved = false;
            for (std::size_t t : owners_.at(e)) {
                for (int i = 0; follows(t) && i < 3; ++i) {
                    if (lengthOf(edge(t, i)) > lengthOf(e) * much) {
                        e = edge(t, i);
                        moved = true;
                    }
                }
                if (moved) {
                    break;
                }
            }
        }
        return e;
    }

    void split(Edge e) {
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
        faces_.push_back(faces_[t]);
        auto& far = owners_[ordered(b, c)];
        *std::find(far.begin(), far.end(), t) = fresh;
        owners_[ordered(a, middle)].push_back(t);
        owners_[ordered(middle, b)].push_back(fresh);
        owners_[ordered(middle, c)] = {t, fresh};
        consider(ordered(middle, c));
    }

    Mesh& mesh_;
    std::vector<int>& faces_;
    int face_;
    const PlanFunction& height_;
    const PlanFunction& upright_;
    double chord_;
    std::unordered_map<Edge, std::vector<std::size_t>, EdgeHash> owners_;
    std::priority_queue<std::pair<double, Edge>> wanted_;
};

} // namespace

void refineOnto(Mesh& mesh, std::vector<int>& faces, int face, const PlanFunction& height,
                const PlanFunction& upright, double chord) {
    Refiner(mesh, faces, face, height, upright, chord).refine();
}

void refineOnto(Mesh& mesh, const PlanFunction& height, double chord, double on) {
    const auto liesOnSurface = [&](const std::array<int, 3>& t) {
        const auto corner = [&](std::size_t i) {
            return mesh.vertices[static_cast<std::size_t>(t[i])];
        };
        for (std::size_t i : {0U, 1U, 2U}) {
            if (std::abs(corner(i).z - height(corner(i).x, corner(i).y)) > on) {
                return false;
            }
        }
        const Vec3 n = cross(corner(1) - corner(0), corner(2) - corner(0));
        return std::abs(n.z) > 0.05 * length(n);
    };
    std::vector<int> faces;
    for (const std::array<int, 3>& t : mesh.triangles) {
        faces.push_back(liesOnSurface(t) ? 0 : -1);
    }
    refineOnto(
        mesh, faces, 0, height, [](double, double) { return 1.0; }, chord);
}

} // namespace wren
