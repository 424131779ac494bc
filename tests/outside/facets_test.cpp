// Facets against circle and ellipse in closed form.
#include "design/facets.h"

#include "support.h"

#include <cmath>
#include <numbers>

using namespace wren;

namespace {

Facets ofEllipse(double half, double deep) {
    std::vector<Vec2> section;
    constexpr int n = 4000;
    for (int i = 0; i <= n; ++i) {
        const double a = std::numbers::pi / 2 * i / n;
        section.push_back({half * std::cos(a), deep * std::sin(a)});
    }
    return facetsOf(section);
}

} // namespace

TEST_CASE("Facets touch a circle and an ellipse where geometry says", "[outside]") {
    // A regular octagon and sixteen-sided figure about a circle (Euclid's construction; tangents
    // from a point): corners lie r tan(a/2) from where the sides touch.
    const double r = 25;
    const Facets c = ofEllipse(r, r);
    const auto tangent = [&](double degrees) {
        return r * std::tan(degrees * std::numbers::pi / 180);
    };
    CHECK(c.downSide == Approx(tangent(22.5)).epsilon(1e-6));
    CHECK(c.inBack == Approx(r - tangent(22.5)).epsilon(1e-6));
    CHECK(c.upperDownSide == Approx(tangent(11.25)).epsilon(1e-5));
    CHECK(c.lowerInBack == Approx(r - tangent(11.25)).epsilon(1e-5));
    CHECK(c.upperOnFirst == Approx(tangent(22.5) - tangent(11.25)).epsilon(1e-5));
    CHECK(c.lowerOnFirst == Approx(c.upperOnFirst).epsilon(1e-5));
    // A line at angle a touches an ellipse sqrt(p^2 cos^2 a + q^2 sin^2 a) from its middle (the
    // ellipse's support function, any text on conics).
    const double p = 26, q = 17;
    const Facets e = ofEllipse(p, q);
    const double diagonal = std::hypot(p, q);
    CHECK(e.downSide == Approx(diagonal - p).epsilon(1e-6));
    CHECK(e.inBack == Approx(p + q - diagonal).epsilon(1e-6));
    for (double degrees : {22.5, 67.5}) {
        const double a = degrees * std::numbers::pi / 180;
        const double away = std::hypot(p * std::cos(a), q * std::sin(a));
        if (degrees < 45) {
            CHECK(e.upperDownSide == Approx((away - p * std::cos(a)) / std::sin(a)).epsilon(1e-5));
        } else {
            CHECK(e.lowerInBack ==
                  Approx(p - (away - q * std::sin(a)) / std::cos(a)).epsilon(1e-5));
        }
    }
}
