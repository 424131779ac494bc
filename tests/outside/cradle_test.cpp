// A cradle and the neck that lies in it fill their block: by Open CASCADE's measuring of the
// cradle, and the neck's sections added up by Simpson's rule (any text on numerical integration).
#include "core/neck_support.h"

#include "exchange/panel_solid.h"
#include "hold/cradle.h"
#include "job/derive.h"

using namespace wren;

namespace {

/// Of the neck's section at x what lies deeper than `top`, mm2, added up over Y.
double areaBelow(const NeckBack& back, double x, double top) {
    const NeckBack::Slice s = back.slice(x);
    constexpr int n = 4000;
    const double step = 2 * s.halfWidth() / n;
    double sum = 0;
    for (int i = 0; i <= n; ++i) {
        const double y = s.centre() - s.halfWidth() + i * step;
        const double deep = std::max(0.0, s.depth(y) - top);
        sum += deep * (i == 0 || i == n ? 1 : i % 2 ? 4 : 2);
    }
    return sum * step / 3;
}

} // namespace

TEST_CASE("Cradle and neck together are the block", "[outside][cradle]") {
    const Derived d = deriveDrawing(test::neckWith({{"neck_hold.make_cradle", "yes"}}));
    const Panel& cradle = *d.job(Role::neckCradle)->panel;
    const auto box = cradle.box();
    const double block =
        (box[1].x - box[0].x) * (box[1].y - box[0].y) * (cradle.top - cradle.bottom);
    const NeckBack& back = d.neck->part.back();
    constexpr int n = 400;
    const double step = (box[1].x - box[0].x) / n;
    double neck = 0;
    for (int i = 0; i <= n; ++i) {
        neck += areaBelow(back, box[0].x + i * step, -cradle.top) * (i == 0 || i == n ? 1
                                                                     : i % 2          ? 4
                                                                                      : 2);
    }
    neck *= step / 3;
    CHECK(neck > 50000);
    CHECK(PanelSolid(cradle).volume() + neck == Approx(block).epsilon(1e-5));
}
