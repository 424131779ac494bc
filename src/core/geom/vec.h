#pragma once

#include <cmath>

namespace wren {

/// A point or direction in a plane, mm.
struct Vec2 {
    double x = 0;
    double y = 0;

    friend Vec2 operator+(Vec2 a, Vec2 b) { return {a.x + b.x, a.y + b.y}; }
    friend Vec2 operator-(Vec2 a, Vec2 b) { return {a.x - b.x, a.y - b.y}; }
    friend Vec2 operator*(Vec2 a, double k) { return {a.x * k, a.y * k}; }
    friend bool operator==(Vec2 a, Vec2 b) = default;
};

inline double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}
inline double cross(Vec2 a, Vec2 b) {
    return a.x * b.y - a.y * b.x;
}
inline double length(Vec2 a) {
    return std::sqrt(a.x * a.x + a.y * a.y);
}

/// The vector at length 1; (1, 0) for one of no length.
inline Vec2 unit(Vec2 v) {
    const double l = length(v);
    return l > 0 ? v * (1 / l) : Vec2{1, 0};
}
/// A quarter turn counter-clockwise.
inline Vec2 leftOf(Vec2 v) {
    return {-v.y, v.x};
}

/// A point or direction in space, mm.
struct Vec3 {
    double x = 0;
    double y = 0;
    double z = 0;

    Vec2 xy() const { return {x, y}; }

    friend Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
    friend Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
    friend Vec3 operator*(Vec3 a, double k) { return {a.x * k, a.y * k, a.z * k}; }
    friend bool operator==(Vec3 a, Vec3 b) = default;
};

inline double dot(Vec3 a, Vec3 b) {
    return a.x * b.x + a.y * b.y + a.z * b.z;
}
inline Vec3 cross(Vec3 a, Vec3 b) {
    return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}
inline double length(Vec3 a) {
    return std::sqrt(dot(a, a));
}

} // namespace wren
