#include "exchange/solid_check.h"

#include <algorithm>
#include <cmath>

#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace wren {
namespace {

/// Whether wood and air both lie within a distance of a place: along the normal first, then all
/// round, since a corner of the wood has no one normal.
bool onSurface(const Definition& wood, const Vec3& p, const Vec3& normal, double within) {
    if (wood(p - normal * within) && !wood(p + normal * within)) {
        return true;
    }
    bool air = false;
    bool solid = false;
    for (int x = -1; x <= 1; ++x) {
        for (int y = -1; y <= 1; ++y) {
            for (int z = -1; z <= 1; ++z) {
                const double far = std::sqrt(double(x * x + y * y + z * z));
                const bool here =
                    wood(p + Vec3{double(x), double(y), double(z)} * (far > 0 ? within / far : 0));
                air = air || !here;
                solid = solid || here;
                if (air && solid) {
                    return true;
                }
            }
        }
    }
    return false;
}

double strayOf(const Definition& wood, const Vec3& p, const Vec3& normal, double within) {
    constexpr double most = 20; // mm: further off needs no measuring
    double by = within;
    while (by < most && !onSurface(wood, p, normal, by)) {
        by *= 2;
    }
    return by > within ? by : 0;
}

/// The worst of many, side by side: `worse(one, worst so far)`.
template <typename T, typename Worse>
std::optional<Stray> worstOf(const std::vector<T>& all, Worse worse) {
    const Stray found = tbb::parallel_reduce(
        tbb::blocked_range<std::size_t>(0, all.size()), Stray{},
        [&](const tbb::blocked_range<std::size_t>& range, Stray worst) {
            for (std::size_t i = range.begin(); i < range.end(); ++i) {
                worst = worse(all[i], worst);
            }
            return worst;
        },
        [](const Stray& a, const Stray& b) { return b.by > a.by ? b : a; });
    return found.by > 0 ? std::optional(found) : std::nullopt;
}

} // namespace

std::optional<Stray> worstStray(const std::vector<SurfacePlace>& places, const Definition& wood,
                                double within) {
    return worstOf(places, [&](const SurfacePlace& p, Stray worst) {
        const double far = strayOf(wood, p.at, p.normal, within);
        return far > worst.by ? Stray{p.at, far} : worst;
    });
}

std::optional<Stray> worstStray(const Mesh& mesh, const Definition& wood, double within,
                                double pitch) {
    const auto ofTriangle = [&](const std::array<int, 3>& t, Stray worst) {
        const auto corner = [&](std::size_t i) {
            return mesh.vertices[static_cast<std::size_t>(t[i])];
        };
        const Vec3 a = corner(0);
        const Vec3 u = corner(1) - a;
        const Vec3 v = corner(2) - a;
        const Vec3 square = cross(u, v);
        const double twice = length(square);
        const double longest = std::max({length(u), length(v), length(u - v)});
        if (twice < 1e-6 * longest) {
            return worst; // no wider than a micron: its neighbours are asked
        }
        const Vec3 normal = square * (1 / twice);
        const int n = std::clamp(static_cast<int>(longest / pitch), 1, 200);
        constexpr double pull = 0.96; // off the corners, which lie on several faces
        for (int i = 0; i <= n; ++i) {
            for (int j = 0; i + j <= n; ++j) {
                const double s = (1 - pull) / 3 + pull * i / n;
                const double r = (1 - pull) / 3 + pull * j / n;
                const Vec3 p = a + u * s + v * r;
                const double far = strayOf(wood, p, normal, within);
                if (far > worst.by) {
                    worst = {p, far};
                }
            }
        }
        return worst;
    };
    return worstOf(mesh.triangles, ofTriangle);
}

} // namespace wren
