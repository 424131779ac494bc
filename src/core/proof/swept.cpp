#include "proof/swept.h"

#include <algorithm>
#include <cmath>

namespace wren {
namespace {

constexpr double infinity = Swept::infinity;

/// Keeps the t with lo <= k t + c <= hi.
void clip(double k, double c, double lo, double hi, double& from, double& to) {
    if (std::abs(k) < 1e-15) {
        if (c < lo || c > hi) {
            from = infinity;
            to = -infinity;
        }
        return;
    }
    double t0 = (lo - c) / k;
    double t1 = (hi - c) / k;
    if (t0 > t1) {
        std::swap(t0, t1);
    }
    from = std::max(from, t0);
    to = std::min(to, t1);
}

} // namespace

Swept::Swept(Vec3 a, Vec3 b, const EndShape& tool)
    : a_(a), r_(tool.radius), tool_(tool), ball_(tool.ball()), flat_(tool.plainFlat()),
      len_(length(b.xy() - a.xy())), rise_(b.z - a.z), zMin_(std::min(a.z, b.z)), b_(b) {
    if (len_ > 0) {
        u_ = (b.xy() - a.xy()) * (1 / len_);
        slope_ = rise_ / len_;
        lean_ = slope_ / std::sqrt(1 + slope_ * slope_);
    }
}

std::pair<double, double> Swept::discSpan(Vec3 centre, double y) const {
    const double d = y - centre.y;
    if (std::abs(d) > r_) {
        return {infinity, -infinity};
    }
    const double w = std::sqrt(r_ * r_ - d * d);
    return {centre.x - w, centre.x + w};
}

void Swept::keepAhead(double y, double& from, double& to) const {
    // Over a place behind the start a level pass is lowest at its start, a ball's that goes down a
    // little on; other ends may reach back with their rim.
    if (slope_ != 0 && !ball_) {
        return;
    }
    clip(u_.x, (y - a_.y) * u_.y - a_.x * u_.x, -std::abs(lean_) * r_, infinity, from, to);
}

std::pair<double, double> Swept::span(double y) const {
    const auto [la, ha] = discSpan(a_, y);
    const auto [lb, hb] = discSpan(b_, y);
    double lo = std::min(la, lb);
    double hi = std::max(ha, hb);
    if (len_ > 0) {
        // The strip between the discs: 0 <= along <= len, |across| <= r, both linear in x.
        const double dy = y - a_.y;
        double from = -infinity;
        double to = infinity;
        clip(u_.x, dy * u_.y, 0, len_, from, to);
        clip(-u_.y, dy * u_.x, -r_, r_, from, to);
        if (from <= to) {
            lo = std::min(lo, a_.x + from);
            hi = std::max(hi, a_.x + to);
        }
    }
    return {lo, hi};
}

double Swept::height(double x, double y, double limit) const {
    const Vec2 p = Vec2{x, y} - a_.xy();
    const double along = dot(p, u_);
    const double square = dot(p, p) - along * along; // distance from the line, squared
    const double rest = r_ * r_ - std::max(0.0, square);
    if (rest < 0) {
        return infinity;
    }
    const double half = std::sqrt(rest); // the disc covers p while the axis is this near
    const double t0 = std::max(0.0, along - half);
    const double t1 = std::min(len_, along + half);
    if (t0 > t1) {
        return infinity;
    }
    if (len_ == 0) {
        return zMin_ + (ball_ ? r_ - half : flat_ ? 0 : tool_.heightAt(length(p)));
    }
    if (flat_) {
        return a_.z + slope_ * (slope_ > 0 ? t0 : t1);
    }
    if (!ball_) {
        return roundedOver(std::sqrt(std::max(0.0, square)), along, t0, t1, limit);
    }
    // Over the point the ball stands at z(t) + r - sqrt(half^2 - (along - t)^2), convex in t;
    // its derivative vanishes where along - t = half * slope / sqrt(1 + slope^2).
    const double best = along - half * lean_;
    const double t = std::clamp(best, t0, t1);
    const double q = along - t;
    return a_.z + slope_ * t + r_ - std::sqrt(std::max(0.0, half * half - q * q));
}

/// height() of a ball in travel, in a loop without branches.
void Swept::ballHeights(const PlacesInRow& places, double* out) const {
    const double py = places.y - a_.y;
    for (int i = 0; i < places.count; ++i) {
        const double px = places.x(i) - a_.x;
        const double along = px * u_.x + py * u_.y;
        const double square = px * px + py * py - along * along;
        const double rest = r_ * r_ - std::max(0.0, square);
        const double half = std::sqrt(std::max(0.0, rest));
        const double t0 = std::max(0.0, along - half);
        const double t1 = std::min(len_, along + half);
        const double t = std::min(std::max(along - half * lean_, t0), t1);
        const double q = along - t;
        const double z = a_.z + slope_ * t + r_ - std::sqrt(std::max(0.0, half * half - q * q));
        out[i] = rest < 0 || t0 > t1 ? infinity : z;
    }
}

void Swept::heights(const PlacesInRow& places, const float* now, double* out) const {
    if (ball_ && len_ > 0) {
        ballHeights(places, out);
        return;
    }
    for (int i = 0; i < places.count; ++i) {
        out[i] = now[i] > zMin_ ? height(places.x(i), places.y, now[i]) : infinity;
    }
}

void Swept::reached(const double* x, int count, double y, double* out) const {
    const double py = y - a_.y;
    const double back = flat_ ? 1 : 0.5;
    const double share = len_ > 0 ? 1 / len_ : 0;
    for (int i = 0; i < count; ++i) {
        const double px = x[i] - a_.x;
        const double along = px * u_.x + py * u_.y;
        const double half = std::sqrt(std::max(0.0, r_ * r_ - (px * px + py * py - along * along)));
        out[i] = std::min(std::max((along - half * back) * share, 0.0), 1.0);
    }
}

double Swept::lowerBound(double x0, double x1, double y) const {
    if (len_ == 0) { // straight down: no line to be beside
        return zMin_;
    }
    const Vec2 p = Vec2{x0, y} - a_.xy();
    const Vec2 q = Vec2{x1, y} - a_.xy();
    const double left = cross(u_, p);
    const double right = cross(u_, q);
    const double across = left * right < 0 ? 0 : std::min(std::abs(left), std::abs(right));
    const double low = std::min(slope_ * std::clamp(dot(p, u_), 0.0, len_),
                                slope_ * std::clamp(dot(q, u_), 0.0, len_));
    return a_.z + low - std::abs(slope_) * r_ + tool_.heightAt(std::min(across, r_));
}

template <typename At>
double Swept::lowestBetween(At at, double across, double along, double t0, double t1) const {
    const auto leaning = [&](double t) {
        const double d = std::sqrt(across * across + (along - t) * (along - t));
        return slope_ - (d > 0 ? tool_.slopeAt(std::min(r_, d)) * (along - t) / d : 0);
    };
    // On a nearly level pass the lowest place lies on the low side of the nearest point.
    double low = slope_ > 0 ? t0 : std::max(t0, std::min(along, t1));
    double high = slope_ > 0 ? std::min(t1, std::max(along, t0)) : t1;
    if (leaning(low) >= 0) {
        return at(low);
    }
    if (leaning(high) <= 0) {
        return at(high);
    }
    // The height there is level: off by far less than the pass rises in what is left.
    while ((high - low) * std::abs(slope_) > 1e-6) {
        const double middle = (low + high) / 2;
        (leaning(middle) < 0 ? low : high) = middle;
    }
    return std::min(at(low), at(high));
}

/// Any other end: lowest of z(t) + outline(distance from the axis at t), convex in t. The place
/// of the lowest is where the travel's slope and the outline's cancel.
double Swept::roundedOver(double across, double along, double t0, double t1, double limit) const {
    // Neighbouring passes overlap widely: most places are lower already.
    const double nearest = a_.z + slope_ * std::clamp(along, t0, t1);
    if (nearest - std::abs(slope_) * r_ + tool_.heightAt(std::min(across, r_)) >= limit) {
        return infinity;
    }
    const auto at = [&](double t) {
        const double d = std::sqrt(across * across + (along - t) * (along - t));
        return a_.z + slope_ * t + tool_.heightAt(std::min(r_, d));
    };
    if (slope_ == 0) {
        return at(std::clamp(along, t0, t1));
    }
    // Along a nearly level pass, the bulk of a cone's face, the place is all but known: under
    // the level disc at its lower rim, on the rounding a little off the nearest point. What is
    // left out is of the order of slope squared, under 0.00002 mm.
    if (std::abs(slope_) < 0.01 && across < tool_.flat - 0.3) {
        const double rim = std::sqrt(tool_.flat * tool_.flat - across * across);
        return at(std::clamp(along - std::copysign(rim, slope_), t0, t1));
    }
    const double steep = tool_.slopeAt(std::min(across, r_));
    if (std::abs(slope_) < 0.01 && steep > 10 * std::abs(slope_)) {
        return at(std::clamp(along - slope_ * across / steep, t0, t1));
    }
    return lowestBetween(at, across, along, t0, t1);
}

} // namespace wren
