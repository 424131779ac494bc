#pragma once

#include "geom/mesh.h"

#include <algorithm>
#include <optional>
#include <queue>
#include <tuple>
#include <utility>
#include <vector>

namespace wren {

/// Splits edges of a mesh until its triangles follow a surface, the worst first; both neighbours of
/// an edge are split together. An edge that only one triangle has is the mesh's border and stays.
/// Of the surface it asks
///   bool follows(int tag)                      whether triangles of that tag follow it at all
///   double sag(int tag, int a, int b)          how far it stands from the edge between two corners
///   Vec3 middle(int tag, int a, int b)         the next corner, which halves that edge
/// and splits what stands further from it than `chord`, mm. Each triangle has a tag.
template <typename Surface>
class MeshSplitter {
public:
    MeshSplitter(Mesh& mesh, std::vector<int> tags, Surface& surface, double chord)
        : mesh_(mesh), tags_(std::move(tags)), surface_(surface), chord_(chord) {
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
        int born = 0;   ///< so many splits after the mesh's own
    };
    /// No surface asks for as many: halving an edge a dozen times takes it from end to end of an
    /// instrument to a hair. A triangle that lies flat on a border's edge, which stays, would ask
    /// for ever.
    static constexpr int mostBorn = 40;

    Edge& edge(int e) { return edges_[static_cast<std::size_t>(e)]; }
    int& next(int side) { return next_[static_cast<std::size_t>(side)]; }
    int& edgeOf(int side) { return edgeOf_[static_cast<std::size_t>(side)]; }
    const Vec3& corner(int i) const { return mesh_.vertices[static_cast<std::size_t>(i)]; }
    bool follows(int side) const {
        return surface_.follows(tags_[static_cast<std::size_t>(side / 3)]);
    }
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

    int newEdge(int a, int b, int born) {
        edges_.push_back({a, b, -1, born});
        return static_cast<int>(edges_.size()) - 1;
    }

    /// Whether only one triangle has it.
    bool border(int e) { return edge(e).first < 0 || next(edge(e).first) < 0; }

    /// The tag of the first of its triangles that follows; none where no triangle does.
    std::optional<int> followedBy(int e) {
        for (int s = edge(e).first; s >= 0; s = next(s)) {
            if (follows(s)) {
                return tags_[static_cast<std::size_t>(s / 3)];
            }
        }
        return {};
    }

    void consider(int e) {
        const bool stays = border(e) || edge(e).born >= mostBorn;
        const std::optional<int> tag = stays ? std::nullopt : followedBy(e);
        const double s = tag ? surface_.sag(*tag, edge(e).a, edge(e).b) : 0;
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
            for (int t = turned(s); follows(s) && t != s; t = turned(t)) {
                if (const double l = lengthOf(edgeOf(t));
                    l > most && !border(edgeOf(t)) && edge(edgeOf(t)).born < mostBorn) {
                    most = l;
                    best = edgeOf(t);
                }
            }
        }
        return best;
    }

    void split(int e) {
        const Edge whole = edge(e);
        const int tag = followedBy(e).value();
        edge(e).first = -1;
        const int middle = static_cast<int>(mesh_.vertices.size());
        mesh_.vertices.push_back(surface_.middle(tag, whole.a, whole.b));
        const int born = whole.born + 1;
        const int fromA = newEdge(whole.a, middle, born);
        const int toB = newEdge(middle, whole.b, born);
        for (int s = whole.first; s >= 0;) {
            const int following = next(s);
            const bool forth = cornerOf(s) == whole.a;
            halve(s, middle, forth ? fromA : toB, forth ? toB : fromA, born);
            s = following;
        }
        consider(fromA);
        consider(toB);
    }

    /// (p, q, c) with its side p-q split becomes (p, m, c) and, new, (m, q, c).
    void halve(int side, int middle, int near, int far, int born) {
        const int t = side / 3;
        const int toC = turned(side);
        const int q = cornerOf(toC);
        const int c = cornerOf(turned(toC));
        const int fresh = 3 * static_cast<int>(mesh_.triangles.size());
        mesh_.triangles.push_back({middle, q, c});
        mesh_.triangles[static_cast<std::size_t>(t)][static_cast<std::size_t>(toC % 3)] = middle;
        tags_.push_back(tags_[static_cast<std::size_t>(t)]);
        next_.resize(next_.size() + 3, -1);
        edgeOf_.resize(edgeOf_.size() + 3, -1);
        renameSide(toC, fresh + 1);
        addSide(near, side);
        addSide(far, fresh);
        const int between = newEdge(middle, c, born);
        addSide(between, toC);
        addSide(between, fresh + 2);
        consider(between);
    }

    Mesh& mesh_;
    std::vector<int> tags_; ///< of each triangle
    Surface& surface_;
    double chord_;
    std::vector<Edge> edges_;
    std::vector<int> next_;   ///< of each side, on the same edge; -1: the last
    std::vector<int> edgeOf_; ///< of each side
    std::priority_queue<std::pair<double, int>> wanted_;
};

} // namespace wren
