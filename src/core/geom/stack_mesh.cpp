#include "geom/stack_mesh.h"

#include "geom/plan_cells.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <unordered_map>

namespace wren {
namespace {

constexpr double grain = 1e-6; ///< of heights: closer than that they are one corner, mm

class Builder {
public:
    explicit Builder(const PlanStack& stack) : stack_(stack), plan_(cellsBetween(stack.lines)) {
        zs_.resize(plan_.corners.size());
        for (const PlanCell& cell : plan_.cells) {
            spans_.push_back(stack_.over(cell.within));
            addCell(cell, spans_.back());
        }
        for (std::vector<long long>& z : zs_) {
            std::sort(z.begin(), z.end());
            z.erase(std::unique(z.begin(), z.end()), z.end());
        }
        addWalls();
    }

    Mesh mesh;
    std::vector<int> faceOf; ///< of each triangle; -1: a wall

private:
    double heightOf(int face, int corner) const {
        const Vec2 p = plan_.corners[static_cast<std::size_t>(corner)];
        return stack_.face(face).height(p.x, p.y);
    }

    static long long step(double z) { return std::llround(z / grain); }

    int vertex(int corner, long long z) {
        const auto [it, isNew] =
            known_.try_emplace({corner, z}, static_cast<int>(mesh.vertices.size()));
        if (isNew) {
            const Vec2 p = plan_.corners[static_cast<std::size_t>(corner)];
            mesh.vertices.push_back({p.x, p.y, static_cast<double>(z) * grain});
        }
        return it->second;
    }

    void add(std::array<int, 3> t, int face) {
        if (t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) {
            mesh.triangles.push_back(t);
            faceOf.push_back(face);
        }
    }

    void addCell(const PlanCell& cell, const std::vector<StackSpan>& spans) {
        for (const StackSpan& span : spans) {
            for (const std::array<int, 3>& t : cell.triangles) {
                std::array<int, 3> low{};
                std::array<int, 3> high{};
                for (std::size_t i = 0; i < 3; ++i) {
                    low[i] = place(span.low, t[i]);
                    high[i] = place(span.high, t[i]);
                }
                add({low[0], low[2], low[1]}, span.low);
                add(high, span.high);
            }
        }
        borders(cell, static_cast<int>(spans_.size()) - 1);
    }

    int place(int face, int corner) {
        const long long z = step(heightOf(face, corner));
        zs_[static_cast<std::size_t>(corner)].push_back(z);
        return vertex(corner, z);
    }

    /// The cell's own border: sides of its triangles that no other of them shares.
    void borders(const PlanCell& cell, int number) {
        std::set<std::pair<int, int>> sides;
        for (const std::array<int, 3>& t : cell.triangles) {
            for (std::size_t i = 0; i < 3; ++i) {
                const int a = t[i];
                const int b = t[(i + 1) % 3];
                if (sides.erase({b, a}) == 0) {
                    sides.insert({a, b});
                }
            }
        }
        for (const auto& [a, b] : sides) {
            leftOf_[{a, b}] = number;
        }
    }

    void addWalls() {
        const std::vector<StackSpan> nothing;
        for (const auto& [side, cell] : leftOf_) {
            const auto other = leftOf_.find({side.second, side.first});
            if (other != leftOf_.end() && side.first > side.second) {
                continue; // told from the other cell
            }
            const auto& right =
                other == leftOf_.end() ? nothing : spans_[static_cast<std::size_t>(other->second)];
            addWall(side.first, side.second, spans_[static_cast<std::size_t>(cell)], right);
        }
    }

    struct Height {
        long long a = 0;
        long long b = 0;
        int left = 0;  ///< 1: wood begins on the left of the side, -1: it ends
        int right = 0; ///< the same on its right
    };

    /// Between two cells, where wood lies on one side of the line from a to b and none on the
    /// other.
    void addWall(int a, int b, const std::vector<StackSpan>& left,
                 const std::vector<StackSpan>& right) {
        std::vector<Height> heights;
        const auto list = [&](const std::vector<StackSpan>& spans, int Height::*of) {
            for (const StackSpan& s : spans) {
                for (const auto& [face, begins] : {std::pair{s.low, 1}, std::pair{s.high, -1}}) {
                    Height h{step(heightOf(face, a)), step(heightOf(face, b)), 0, 0};
                    h.*of = begins;
                    heights.push_back(h);
                }
            }
        };
        list(left, &Height::left);
        list(right, &Height::right);
        std::stable_sort(heights.begin(), heights.end(),
                         [](const Height& p, const Height& q) { return p.a + p.b < q.a + q.b; });
        int onLeft = 0;
        int onRight = 0;
        for (std::size_t i = 0; i + 1 < heights.size(); ++i) {
            onLeft += heights[i].left;
            onRight += heights[i].right;
            if (onLeft > onRight) {
                strip(a, heights[i].a, heights[i + 1].a, b, heights[i].b, heights[i + 1].b);
            } else if (onRight > onLeft) {
                strip(b, heights[i].b, heights[i + 1].b, a, heights[i].a, heights[i + 1].a);
            }
        }
    }

    /// A corner's heights from one to another, those of its other faces between them.
    std::vector<int> chain(int corner, long long from, long long to) {
        std::vector<int> out{vertex(corner, from)};
        const auto& z = zs_[static_cast<std::size_t>(corner)];
        for (auto it = std::upper_bound(z.begin(), z.end(), from); it != z.end() && *it < to;
             ++it) {
            out.push_back(vertex(corner, *it));
        }
        if (to != from) {
            out.push_back(vertex(corner, to));
        }
        return out;
    }

    /// An upright strip seen from its right: a on the left, b on the right.
    void strip(int a, long long lowA, long long highA, int b, long long lowB, long long highB) {
        const std::vector<int> one = chain(a, lowA, highA);
        const std::vector<int> two = chain(b, lowB, highB);
        std::size_t i = 0;
        std::size_t j = 0;
        while (i + 1 < one.size() || j + 1 < two.size()) {
            const bool up = j + 1 == two.size() ||
                            (i + 1 < one.size() && (i + 1) * two.size() <= (j + 1) * one.size());
            if (up) {
                add({one[i], two[j], one[i + 1]}, -1);
                ++i;
            } else {
                add({one[i], two[j], two[j + 1]}, -1);
                ++j;
            }
        }
    }

    const PlanStack& stack_;
    PlanCells plan_;
    std::vector<std::vector<StackSpan>> spans_; ///< of each cell
    std::vector<std::vector<long long>> zs_;    ///< of each corner, in grains
    std::map<std::pair<int, long long>, int> known_;
    std::map<std::pair<int, int>, int> leftOf_; ///< the cell on the left of a side
};

} // namespace

Mesh meshOf(const PlanStack& stack, double chord) {
    Builder built(stack);
    const auto curved = [&](int number) -> const PlanFace* {
        return number >= 0 && stack.face(number).upright ? &stack.face(number) : nullptr;
    };
    refineOnto(built.mesh, built.faceOf, curved, chord);
    return std::move(built.mesh);
}

} // namespace wren
