#include "post/motion.h"

#include "cut/plain_time.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

/// The acceleration that keeps every axis within its own limit along `u`.
double accelerationAlong(Vec3 u, Vec3 limit) {
    double a = std::numeric_limits<double>::infinity();
    const auto axis = [&](double part, double most) {
        if (std::abs(part) > 1e-9) {
            a = std::min(a, most / std::abs(part));
        }
    };
    axis(u.x, limit.x);
    axis(u.y, limit.y);
    axis(u.z, limit.z);
    return std::isfinite(a) ? a : limit.x;
}

SpeedProfile limitsOf(const Move& move, const Machine& machine) {
    SpeedProfile p;
    p.length = move.length();
    p.dwell = move.dwell;
    p.top = (move.cuts() ? std::min(move.feed, machine.maxFeed) : machine.rapid) / 60;
    if (move.isArc()) {
        const Vec3 a = machine.acceleration;
        p.acceleration = std::min({a.x, a.y, a.z});
        if (move.plane == ArcPlane::xy) {
            p.acceleration = std::min(a.x, a.y);
        }
        p.top = std::min(p.top, std::sqrt(p.acceleration * move.radius()));
    } else {
        p.acceleration = accelerationAlong(move.startDirection(), machine.acceleration);
    }
    return p;
}

double cornerLimit(const Move& before, const Move& after, double cornerSpeed) {
    const double change = length(after.startDirection() - before.endDirection());
    return change > 1e-9 ? cornerSpeed / change : std::numeric_limits<double>::infinity();
}

} // namespace

double SpeedProfile::seconds() const {
    if (length <= 0) {
        return dwell;
    }
    const double a = acceleration;
    const double up = (top * top - entry * entry) / (2 * a);
    const double down = (top * top - exit * exit) / (2 * a);
    return (top - entry) / a + (top - exit) / a + (length - up - down) / top + dwell;
}

double SpeedProfile::distanceAt(double t) const {
    if (length <= 0 || t <= 0) {
        return 0;
    }
    const double a = acceleration;
    const double t1 = (top - entry) / a;
    if (t < t1) {
        return entry * t + a * t * t / 2;
    }
    const double up = (top * top - entry * entry) / (2 * a);
    const double down = (top * top - exit * exit) / (2 * a);
    const double t2 = t1 + (length - up - down) / top;
    if (t < t2) {
        return up + top * (t - t1);
    }
    const double left = std::min(t - t2, (top - exit) / a);
    return std::min(length, length - down + top * left - a * left * left / 2);
}

std::vector<SpeedProfile> planSpeeds(const Path& path, const Machine& machine, double entry) {
    std::vector<SpeedProfile> out;
    out.reserve(path.size());
    for (const Move& move : path) {
        out.push_back(limitsOf(move, machine));
    }
    const std::size_t n = out.size();
    // Corners first, then backward so that each move can still stop, then forward from standing.
    std::vector<double> joint(n + 1, 0.0);
    joint[0] = entry;
    for (std::size_t i = 1; i < n; ++i) {
        const bool stops = out[i - 1].dwell > 0;
        joint[i] = stops ? 0
                         : std::min({out[i - 1].top, out[i].top,
                                     cornerLimit(path[i - 1], path[i], machine.cornerSpeed)});
    }
    for (std::size_t i = n; i-- > 1;) {
        joint[i] = std::min(joint[i], std::sqrt(joint[i + 1] * joint[i + 1] +
                                                2 * out[i].acceleration * out[i].length));
    }
    for (std::size_t i = 0; i < n; ++i) {
        SpeedProfile& p = out[i];
        p.entry = std::min(joint[i], p.top);
        joint[i + 1] =
            std::min(joint[i + 1], std::sqrt(p.entry * p.entry + 2 * p.acceleration * p.length));
        p.exit = std::min(joint[i + 1], p.top);
        // Too short to reach full speed: the two ramps meet at a lower peak.
        const double peak =
            std::sqrt(p.acceleration * p.length + (p.entry * p.entry + p.exit * p.exit) / 2);
        p.top = std::max({std::min(p.top, peak), p.entry, p.exit});
    }
    return out;
}

MotionTime timeOf(const Path& path, const Machine& machine) {
    MotionTime t;
    t.secondsPlain = plainSeconds(path, machine);
    const std::vector<SpeedProfile> speeds = planSpeeds(path, machine);
    t.ends.reserve(path.size());
    for (std::size_t i = 0; i < path.size(); ++i) {
        t.seconds += speeds[i].seconds();
        t.ends.push_back(t.seconds);
        (path[i].cuts() ? t.cutLength : t.rapidLength) += speeds[i].length;
    }
    return t;
}

} // namespace wren
