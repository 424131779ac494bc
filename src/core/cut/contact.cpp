#include "cut/contact.h"

#include <algorithm>
#include <cmath>

namespace wren {

double CylinderFace::heightAt(double y) const {
    return top - radius + std::sqrt(std::max(0.0, radius * radius - y * y));
}

double ballTipOn(const CylinderFace& face, double y, double r) {
    return face.raised(r).heightAt(y) - r;
}

double flatTipOn(const CylinderFace& face, double y, double r) {
    return face.heightAt(std::max(std::abs(y) - r, 0.0));
}

double ballAxisFor(const CylinderFace& face, double contact, double r) {
    return contact * (face.radius + r) / face.radius;
}

double ballStepover(const CylinderFace& face, double scallop, double r) {
    return std::sqrt(8 * scallop / (1 / r + 1 / face.radius));
}

} // namespace wren
