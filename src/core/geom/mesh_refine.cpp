#include "geom/mesh_refine.h"

#include <algorithm>
#include <queue>
#include <tuple>
#include <utility>

namespace wren {
namespace {

constexpr double shortest = 0.002; ///< edges no longer than this in plan are left, mm

class Refiner {
public:
    Refiner(Mesh& mesh, const std::vector<int>& numbers,
            const std::function<const PlanFace*(int)>& faceOf, double chord)
        : mesh_(mesh), chord_(chord) {
        faces_.reserve(2 * numbers.size());
        for (int number : numbers) {
            faces_.push_back(faceOf(number));
        }
        listEdges();
    }

    void refine() {
        const int listed = static_cast<int>(edges_.size());
        for (int e = 0; e < listed; ++e) {
            consider(e);
        }
        while (!wanted_.empty()) {
            const auto [sag, e] = wanted_.top();
            wanted_.pop();
            if (edge(e).first < 0) {
                continue;
            }
            const int first = firstOf(e);
            split(first);
            if (first != e) {
                wanted_.emplace(sag, e);
            }
        }
    }

private:
    /// Between two corners, with the sides of triangles that lie on it: a list, each naming the
    /// next. A side is its triangle's number times three and which of its three it is.
    struct Edge {
        int a = 0;
        int b = 0;
        int first = -1; ///< -1 once it is split
    };

    Edge& edge(int e) { return edges_[static_cast<std::size_t>(e)]; }
    int& next(int side) { return next_[static_cast<std::size_t>(side)]; }
    int& edgeOf(int side) { return edgeOf_[static_cast<std::size_t>(side)]; }
    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }
    const PlanFace* faceOf(int side) const { return faces_[static_cast<std::size_t>(side / 3)]; }
    int cornerOf(int side) const {
        return mesh_
            .triangles[static_cast<std::size_t>(side / 3)][static_cast<std::size_t>(side % 3)];
    }
    static int turned(int side) { return side % 3 == 2 ? side - 2 : side + 1; }

    void listEdges() {
        struct Side {
            int low, high, side;
        };
        std::vector<Side> sides;
        const int n = 3 * static_cast<int>(mesh_.triangles.size());
        sides.reserve(static_cast<std::size_t>(n));
        for (int s = 0; s < n; ++s) {
            const auto [low, high] = std::minmax({cornerOf(s), cornerOf(turned(s))});
            sides.push_back({low, high, s});
        }
        std::sort(sides.begin(), sides.end(), [](const Side& p, const Side& q) {
            return std::tie(p.low, p.high, p.side) < std::tie(q.low, q.high, q.side);
        });
        next_.assign(static_cast<std::size_t>(n), -1);
        edgeOf_.assign(static_cast<std::size_t>(n), -1);
        for (const Side& s : sides) {
            if (edges_.empty() || edges_.back().a != s.low || edges_.back().b != s.high) {
                edges_.push_back({s.low, s.high});
            }
            addSide(static_cast<int>(edges_.size()) - 1, s.side);
        }
    }

    void addSide(int e, int side) {
        next(side) = edge(e).first;
        edge(e).first = side;
        edgeOf(side) = e;
    }

    /// Of a triangle that has become another's half.
    void renameSide(int from, int to) {
        const int e = edgeOf(from);
        edgeOf(to) = e;
        next(to) = next(from);
        int* link = &edge(e).first;
        while (*link != from) {
            link = &next(*link);
        }
        *link = to;
    }

    int newEdge(int a, int b) {
        edges_.push_back({a, b});
        return static_cast<int>(edges_.size()) - 1;
    }

    /// How far the surface stands from the edge. A long one may meet it in its middle and yet not
    /// follow it.
    double sag(const Edge& e, const PlanFace& face) const {
        const Vec3 a = corner(e.a);
        const Vec3 way = corner(e.b) - a;
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

    /// Of the first of its triangles that follows one.
    const PlanFace* followedBy(int e) {
        for (int s = edge(e).first; s >= 0; s = next(s)) {
            if (faceOf(s)) {
                return faceOf(s);
            }
        }
        return nullptr;
    }

    void consider(int e) {
        const PlanFace* face = followedBy(e);
        const double s = face ? sag(edge(e), *face) : 0;
        if (s > chord_) {
            wanted_.emplace(s, e); // the worst first keeps the triangles from growing thin
        }
    }

    double lengthOf(int e) { return length(corner(edge(e).b) - corner(edge(e).a)); }

    /// The edge to be split before that one may be: the longest of its following triangles where
    /// that is much longer. Without it triangles without height would be split for ever.
    int firstOf(int e) {
        for (int longer = e; longer >= 0; longer = muchLongerBy(e)) {
            e = longer;
        }
        return e;
    }
    int muchLongerBy(int e) {
        constexpr double much = 1.3;
        int best = -1;
        double most = lengthOf(e) * much;
        for (int s = edge(e).first; s >= 0; s = next(s)) {
            for (int t = turned(s); faceOf(s) && t != s; t = turned(t)) {
                if (const double l = lengthOf(edgeOf(t)); l > most) {
                    most = l;
                    best = edgeOf(t);
                }
            }
        }
        return best;
    }

    void split(int e) {
        const Edge whole = edge(e);
        const PlanFace* face = followedBy(e);
        edge(e).first = -1;
        Vec3 m = (corner(whole.a) + corner(whole.b)) * 0.5;
        m.z = face->height(m.x, m.y);
        const int middle = static_cast<int>(mesh_.vertices.size());
        mesh_.vertices.push_back(m);
        const int fromA = newEdge(whole.a, middle);
        const int toB = newEdge(middle, whole.b);
        for (int s = whole.first; s >= 0;) {
            const int following = next(s);
            const bool forth = cornerOf(s) == whole.a;
            halve(s, middle, forth ? fromA : toB, forth ? toB : fromA);
            s = following;
        }
        consider(fromA);
        consider(toB);
    }

    /// (p, q, c) with its side p-q split becomes (p, m, c) and, new, (m, q, c).
    void halve(int side, int middle, int near, int far) {
        const int t = side / 3;
        const int toC = turned(side);
        const int q = cornerOf(toC);
        const int c = cornerOf(turned(toC));
        const int fresh = 3 * static_cast<int>(mesh_.triangles.size());
        mesh_.triangles.push_back({middle, q, c});
        mesh_.triangles[static_cast<std::size_t>(t)][static_cast<std::size_t>(toC % 3)] = middle;
        faces_.push_back(faces_[static_cast<std::size_t>(t)]);
        next_.resize(next_.size() + 3, -1);
        edgeOf_.resize(edgeOf_.size() + 3, -1);
        renameSide(toC, fresh + 1);
        addSide(near, side);
        addSide(far, fresh);
        const int between = newEdge(middle, c);
        addSide(between, toC);
        addSide(between, fresh + 2);
        consider(between);
    }

    Mesh& mesh_;
    std::vector<const PlanFace*> faces_; ///< that each triangle follows
    double chord_;
    std::vector<Edge> edges_;
    std::vector<int> next_;   ///< of each side, on the same edge; -1: the last
    std::vector<int> edgeOf_; ///< of each side
    std::priority_queue<std::pair<double, int>> wanted_;
};

} // namespace

void refineOnto(Mesh& mesh, const std::vector<int>& numbers,
                const std::function<const PlanFace*(int)>& faceOf, double chord) {
    Refiner(mesh, numbers, faceOf, chord).refine();
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
    const PlanFace face{height, [](double, double) { return 1.0; }};
    std::vector<int> numbers;
    for (const std::array<int, 3>& t : mesh.triangles) {
        numbers.push_back(liesOnSurface(t) ? 1 : 0);
    }
    refineOnto(
        mesh, numbers, [&](int n) { return n > 0 ? &face : nullptr; }, chord);
}

} // namespace wren
