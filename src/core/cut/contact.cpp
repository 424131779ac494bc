#include "cut/contact.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace wren {
namespace {

/// From the touching point to the axis, in plan.
Vec2 reachOut(Vec3 normal, const EndShape& end) {
    const Vec2 down = normal.xy();
    const double l = length(down);
    return l > 1e-12 ? down * (end.rounding + end.flat / l) : Vec2{};
}

/// A pass must clear the next one's touching point by this share of its own radius.
constexpr double sureOverlap = 0.97;

} // namespace

Vec3 tipOnLine(const ArchedFace& face, double c, double x, const EndShape& end) {
    const Vec3 normal = face.normalOfLine(c);
    const Vec3 touch = face.onLine(c, x);
    const Vec2 axis = touch.xy() + reachOut(normal, end);
    return {axis.x, axis.y, touch.z + end.rounding * (normal.z - 1)};
}

double tipOver(const ArchedFace& face, double x, double y, const EndShape& end) {
    if (std::abs(y) <= end.flat) {
        return face.top; // the level disc rests on the ridge
    }
    const double side = y > 0 ? 1 : -1;
    double c = (y - side * end.flat) / face.radiusAt(x);
    Vec3 normal;
    for (int i = 0; i < 8; ++i) {
        normal = face.normalOfLine(c);
        const Vec2 out =
            length(normal.xy()) > 1e-12 ? reachOut(normal, end) : Vec2{0, side * end.flat};
        const Vec2 touch = Vec2{x, y} - out;
        const double next = std::max(0.0, side * touch.y) * side / face.radiusAt(touch.x);
        const bool settled = std::abs(next - c) < 1e-12;
        c = next;
        if (settled) {
            break;
        }
    }
    normal = face.normalOfLine(c);
    const Vec2 touch = Vec2{x, y} - reachOut(normal, end);
    return face.onLine(c, touch.x).z + end.rounding * (normal.z - 1);
}

double ballStepover(double faceRadius, double scallop, double r) {
    return std::sqrt(8 * scallop / (1 / r + 1 / faceRadius));
}

double ridgeBetween(const ArchedFace& face, double x, double c0, double c1, const EndShape& end) {
    const Vec3 a = tipOnLine(face, c0, x, end);
    const Vec3 b = tipOnLine(face, c1, x, end);
    const bool outward = std::abs(c0) < std::abs(c1);
    // The nearer one to the ridge line of the face must have cleared where the other touches.
    const double touch = face.onLine(outward ? c1 : c0, x).y;
    const double toTouch = (touch - (outward ? a : b).y) * (touch > 0 ? 1 : -1);
    if (toTouch > sureOverlap * end.radius) {
        return std::numeric_limits<double>::infinity();
    }
    const double reach = end.radius * (1 + 1e-9);
    const auto over = [&](const Vec3& tip, double y) {
        const double d = std::abs(y - tip.y);
        return d > reach ? std::numeric_limits<double>::infinity()
                         : tip.z + end.heightAt(std::min(d, end.radius));
    };
    // From one touching point to the other, a's outline leaves the face and b's comes down to it;
    // they cross once.
    double low = face.onLine(c0, x).y;
    double high = face.onLine(c1, x).y;
    for (int i = 0; i < 50; ++i) {
        const double y = (low + high) / 2;
        (over(a, y) < over(b, y) ? low : high) = y;
    }
    const double at = over(a, low) < std::numeric_limits<double>::infinity() ? low : high;
    return std::min(over(a, at), over(b, at)) - face.heightAt(x, at);
}

Vec3 tipTouching(Vec3 point, Vec3 normal, const EndShape& end) {
    const double level = std::sqrt(normal.x * normal.x + normal.y * normal.y); // sine of the tilt
    double off = end.flat + end.rounding * level;
    double rise = end.rounding * (1 - std::max(0.0, normal.z));
    if (end.slope > 0 && level > end.slope * normal.z) {
        off = end.radius;
        rise = end.heightAt(end.radius);
    }
    if (level < 1e-12) {
        off = 0; // the whole disc touches: straight over the point
    }
    const double k = level > 0 ? off / level : 0;
    return {point.x + normal.x * k, point.y + normal.y * k, point.z - rise};
}

} // namespace wren
