#include "proof/swept_arc.h"

#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double infinity = Swept::infinity;
constexpr double pi = std::numbers::pi;

/// The X (from the centre) of a row dy from it that lie on the left of a ray, or on its right.
SweptArc::Span besideRay(Vec2 ray, double dy, bool left) {
    // cross(ray, p) = ray.x dy - ray.y x
    const double c = ray.x * dy;
    if (std::abs(ray.y) < 1e-15) {
        return (c >= 0) == left ? SweptArc::Span{-infinity, infinity}
                                : SweptArc::Span{infinity, -infinity};
    }
    const double x = c / ray.y;
    return (ray.y > 0) == left ? SweptArc::Span{-infinity, x} : SweptArc::Span{x, infinity};
}

SweptArc::Span both(SweptArc::Span a, SweptArc::Span b) {
    return {std::max(a.first, b.first), std::min(a.second, b.second)};
}

/// Where it can be taken side by side with others.
inline double angleOf(double y, double x) {
    const double ax = std::abs(x);
    const double ay = std::abs(y);
    const double low = std::min(ax, ay);
    const double high = std::max(ax, ay);
    const double t = low / std::max(high, 1e-300);
    const double s = t * t;
    double a = 0.0028662257 * s - 0.0161657367;
    a = a * s + 0.0429096138;
    a = a * s - 0.0752896400;
    a = a * s + 0.1065626393;
    a = a * s - 0.1420889944;
    a = a * s + 0.1999355085;
    a = a * s - 0.3333314528;
    a = (a * s + 1) * t;
    a = ay > ax ? pi / 2 - a : a;
    a = x < 0 ? pi - a : a;
    return y < 0 ? -a : a;
}

} // namespace

double quickAngle(double y, double x) {
    return angleOf(y, x);
}

SweptArc::SweptArc(Vec3 from, Vec3 to, Vec2 centre, bool counter, const EndShape& tool)
    : centre_(centre), first_((counter ? from : to).xy() - centre),
      last_((counter ? to : from).xy() - centre), radius_(length(from.xy() - centre)), z_(from.z),
      r_(tool.radius), tool_(tool), ball_(tool.ball()) {
    const double wedge = std::atan2(cross(first_, last_), dot(first_, last_));
    const double angle = wedge < 0 ? wedge + 2 * pi : wedge;
    turn_ = counter ? angle : -angle;
    const double half = angle / 2;
    middle_ = unit(first_ * std::cos(half) + leftOf(first_) * std::sin(half));
    yMin_ = std::min(from.y, to.y) - r_;
    yMax_ = std::max(from.y, to.y) + r_;
    if (cross(first_, {0, 1}) >= 0 && cross({0, 1}, last_) >= 0) {
        yMax_ = centre.y + radius_ + r_;
    }
    if (cross(first_, {0, -1}) >= 0 && cross({0, -1}, last_) >= 0) {
        yMin_ = centre.y - radius_ - r_;
    }
}

std::array<SweptArc::Span, 2> SweptArc::spans(double y) const {
    constexpr Span none{infinity, -infinity};
    const double dy = y - centre_.y;
    const double outer = (radius_ + r_) * (radius_ + r_) - dy * dy;
    if (outer < 0) {
        return {none, none};
    }
    const double far = std::sqrt(outer);
    const Span wedge =
        both({-far, far}, both(besideRay(first_, dy, true), besideRay(last_, dy, false)));
    const double within = radius_ - r_;
    const double inner = within > 0 ? within * within - dy * dy : -1;
    if (inner <= 0) {
        return {Span{centre_.x + wedge.first, centre_.x + wedge.second}, none};
    }
    const double near = std::sqrt(inner);
    const Span left = both(wedge, {-far, -near});
    const Span right = both(wedge, {near, far});
    return {Span{centre_.x + left.first, centre_.x + left.second},
            Span{centre_.x + right.first, centre_.x + right.second}};
}

void SweptArc::heights(const PlacesInRow& places, const float* now, double* out) const {
    const double dy = places.y - centre_.y;
    if (ball_) {
        for (int i = 0; i < places.count; ++i) {
            const double dx = places.x(i) - centre_.x;
            const double off = std::sqrt(dx * dx + dy * dy) - radius_;
            const double rest = r_ * r_ - off * off;
            const double z = z_ + r_ - std::sqrt(std::max(0.0, rest));
            out[i] = rest < 0 ? infinity : z;
        }
        return;
    }
    for (int i = 0; i < places.count; ++i) {
        const double dx = places.x(i) - centre_.x;
        const double off = std::abs(std::sqrt(dx * dx + dy * dy) - radius_);
        out[i] = now[i] > z_ && off <= r_ ? z_ + tool_.heightAt(off) : infinity;
    }
}

void SweptArc::reached(const double* x, int count, double y, double* out) const {
    // The disc's centre comes within r of a place at (rho, phi) where it turns to within
    // 2 asin(sqrt((r^2 - (rho - R)^2) / (4 rho R))) of phi.
    const double dy = y - centre_.y;
    const double share = 1 / turn_;
    const double back = (tool_.plainFlat() ? 1 : 0.5) * std::abs(share);
    for (int i = 0; i < count; ++i) {
        const Vec2 p{x[i] - centre_.x, dy};
        const double rho = std::sqrt(p.x * p.x + p.y * p.y);
        const double off = rho - radius_;
        const double square = std::max(0.0, r_ * r_ - off * off);
        const double sine2 = std::min(1.0, square / std::max(4 * rho * radius_, 1e-12));
        const double before = 2 * angleOf(std::sqrt(sine2), std::sqrt(1 - sine2));
        const double phi = angleOf(cross(middle_, p), dot(middle_, p));
        out[i] = 0.5 + phi * share - before * back;
    }
}

bool isLevelArc(const Move& move) {
    return move.isArc() && move.plane == ArcPlane::xy && move.from.z == move.to.z &&
           move.radius() > 0;
}

double SweptArc::height(Vec2 p) const {
    const Vec2 out = p - centre_;
    const double off = std::abs(length(out) - radius_);
    const bool within = off <= r_ && cross(first_, out) >= 0 && cross(out, last_) >= 0;
    return within ? z_ + tool_.heightAt(off) : infinity;
}

std::vector<SweptArc> arcPiecesOf(const Move& move, const EndShape& tool) {
    std::vector<SweptArc> out;
    if (!isLevelArc(move)) {
        return out;
    }
    constexpr double most = 0.6 * pi;
    const int n = std::max(1, static_cast<int>(std::ceil(move.sweep() / most)));
    for (int i = 0; i < n; ++i) {
        out.emplace_back(move.at(double(i) / n), move.at(double(i + 1) / n), move.centre.xy(),
                         move.motion == Motion::arcCounter, tool);
    }
    return out;
}

} // namespace wren
