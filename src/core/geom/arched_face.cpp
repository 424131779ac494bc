#include "geom/arched_face.h"

#include <algorithm>

namespace wren {

double ArchedFace::heightAt(double x, double y) const {
    const double r = radiusAt(x);
    return top - r + std::sqrt(std::max(0.0, r * r - y * y));
}

Vec3 ArchedFace::normalAt(double x, double y) const {
    return normalOfLine(std::clamp(y / radiusAt(x), -0.999, 0.999));
}

Vec3 ArchedFace::onLine(double c, double x) const {
    const double r = radiusAt(x);
    return {x, c * r, top - r * (1 - std::sqrt(1 - c * c))};
}

Vec3 ArchedFace::normalOfLine(double c) const {
    const double cosine = std::sqrt(1 - c * c);
    const Vec3 n{growth * (1 - 1 / cosine), c / cosine, 1};
    return n * (1 / length(n));
}

} // namespace wren
