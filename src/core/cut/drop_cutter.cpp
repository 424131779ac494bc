#include "cut/drop_cutter.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

double square(double v) {
    return v * v;
}

/// Centre height of a ball of squared radius `rr` standing on a vertex.
double onVertex(Vec3 v, double x, double y, double rr) {
    const double rest = rr - square(x - v.x) - square(y - v.y);
    return rest < 0 ? BallDropCutter::nothing : v.z + std::sqrt(rest);
}

/// Standing on the inside of an edge. In the vertical plane along the edge the ball is a circle of
/// radius rho; it touches the line from above at rho m / sqrt(1 + m^2) past its own place.
double onEdge(Vec3 a, Vec3 b, double x, double y, double rr) {
    const double dx = b.x - a.x;
    const double dy = b.y - a.y;
    const double l = std::sqrt(dx * dx + dy * dy);
    if (l == 0) {
        return BallDropCutter::nothing; // upright: its upper vertex is met first
    }
    const double across = (dx * (y - a.y) - dy * (x - a.x)) / l;
    const double rest = rr - across * across;
    if (rest < 0) {
        return BallDropCutter::nothing;
    }
    const double rho = std::sqrt(rest);
    const double m = (b.z - a.z) / l;
    const double k = std::sqrt(1 + m * m);
    const double along = (dx * (x - a.x) + dy * (y - a.y)) / l;
    const double touch = along + rho * m / k;
    if (touch < 0 || touch > l) {
        return BallDropCutter::nothing;
    }
    return a.z + m * along + rho * k;
}

bool insidePlan(const std::array<Vec3, 3>& p, double x, double y) {
    double sign = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        const Vec3 a = p[i];
        const Vec3 b = p[(i + 1) % 3];
        const double side = (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
        if (side * sign < 0) {
            return false;
        }
        sign = side != 0 ? side : sign;
    }
    return true;
}

} // namespace

BallDropCutter::BallDropCutter(const Mesh& mesh, double radius) : r_(radius) {
    double x1 = nothing;
    double y1 = nothing;
    x0_ = y0_ = -nothing;
    double half = 0;
    for (const auto& corners : mesh.triangles) {
        Triangle t{};
        for (std::size_t i = 0; i < 3; ++i) {
            t.p[i] = mesh.vertices[static_cast<std::size_t>(corners[i])];
        }
        const Vec3 n = cross(t.p[1] - t.p[0], t.p[2] - t.p[0]);
        const double l = length(n);
        if (l > 0 && n.z != 0) {
            t.normal = n * ((n.z > 0 ? 1 : -1) / l);
        }
        const auto [xa, xb] = std::minmax({t.p[0].x, t.p[1].x, t.p[2].x});
        const auto [ya, yb] = std::minmax({t.p[0].y, t.p[1].y, t.p[2].y});
        t.x0 = xa;
        t.x1 = xb;
        t.y0 = ya;
        t.y1 = yb;
        t.top = std::max({t.p[0].z, t.p[1].z, t.p[2].z});
        half = std::max({half, (xb - xa) / 2, (yb - ya) / 2});
        x0_ = std::min(x0_, xa);
        y0_ = std::min(y0_, ya);
        x1 = std::max(x1, xb);
        y1 = std::max(y1, yb);
        triangles_.push_back(t);
    }
    reach_ = r_ + half;
    cell_ = std::max(r_ / 3, half);
    nx_ = triangles_.empty() ? 1 : static_cast<int>((x1 - x0_) / cell_) + 1;
    ny_ = triangles_.empty() ? 1 : static_cast<int>((y1 - y0_) / cell_) + 1;
    const auto bucketOf = [this](const Triangle& t) {
        const int i = std::clamp(static_cast<int>(((t.x0 + t.x1) / 2 - x0_) / cell_), 0, nx_ - 1);
        const int j = std::clamp(static_cast<int>(((t.y0 + t.y1) / 2 - y0_) / cell_), 0, ny_ - 1);
        return static_cast<std::size_t>(j) * static_cast<std::size_t>(nx_) +
               static_cast<std::size_t>(i);
    };
    std::stable_sort(
        triangles_.begin(), triangles_.end(),
        [&](const Triangle& a, const Triangle& b) { return bucketOf(a) < bucketOf(b); });
    firstIn_.assign(static_cast<std::size_t>(nx_) * static_cast<std::size_t>(ny_) + 1, 0);
    for (const Triangle& t : triangles_) {
        ++firstIn_[bucketOf(t) + 1];
    }
    for (std::size_t i = 1; i < firstIn_.size(); ++i) {
        firstIn_[i] += firstIn_[i - 1];
    }
}

/// Centre height over one triangle, or `best` when it cannot stand higher than that.
double BallDropCutter::centreOver(const Triangle& t, double x, double y, double best) const {
    const double rr = r_ * r_;
    const double dx = std::max({t.x0 - x, x - t.x1, 0.0});
    const double dy = std::max({t.y0 - y, y - t.y1, 0.0});
    const double rest = rr - dx * dx - dy * dy;
    // Nothing of the triangle lifts the centre above its top plus what the ball bulges there.
    const double room = best - t.top;
    if (rest < 0 || (room > 0 && room * room >= rest)) {
        return best;
    }
    if (t.normal.z > 0) {
        // The ball rests r along the normal; the facet counts when the touching point is on it.
        const Vec3 n = t.normal;
        const double z = t.p[0].z + (r_ - n.x * (x - t.p[0].x) - n.y * (y - t.p[0].y)) / n.z;
        if (insidePlan(t.p, x - n.x * r_, y - n.y * r_)) {
            return std::max(best, z); // higher than any of its own edges
        }
    }
    for (std::size_t i = 0; i < 3; ++i) {
        best = std::max(
            {best, onEdge(t.p[i], t.p[(i + 1) % 3], x, y, rr), onVertex(t.p[i], x, y, rr)});
    }
    return best;
}

void BallDropCutter::visit(std::size_t bucket, double x, double y, double& best) const {
    for (std::size_t k = firstIn_[bucket]; k < firstIn_[bucket + 1]; ++k) {
        best = centreOver(triangles_[k], x, y, best);
    }
}

double BallDropCutter::tipHeight(double x, double y) const {
    const auto column = [&](double v) {
        return std::clamp(static_cast<int>(std::floor((v - x0_) / cell_)), 0, nx_ - 1);
    };
    const auto row = [&](double v) {
        return std::clamp(static_cast<int>(std::floor((v - y0_) / cell_)), 0, ny_ - 1);
    };
    const int i0 = column(x - reach_);
    const int i1 = column(x + reach_);
    const int j0 = row(y - reach_);
    const int j1 = row(y + reach_);
    const int ic = column(x);
    const int jc = row(y);
    const auto bucket = [this](int i, int j) {
        return static_cast<std::size_t>(j) * static_cast<std::size_t>(nx_) +
               static_cast<std::size_t>(i);
    };
    double best = nothing;
    visit(bucket(ic, jc), x, y, best); // the middle first: it rules most of the others out
    for (int j = j0; j <= j1; ++j) {
        for (int i = i0; i <= i1; ++i) {
            if (i != ic || j != jc) {
                visit(bucket(i, j), x, y, best);
            }
        }
    }
    return best == nothing ? nothing : best - r_;
}

} // namespace wren
