#include "hold/cradle.h"

#include "design/shape.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

/// The shaft alone, clear of what blends it into head and heel.
std::array<double, 2> spanOf(const NeckPart& neck) {
    return {std::ceil(neck.back().headTo()), std::floor(neck.back().heelFrom())};
}

} // namespace

Panel neckCradle(const NeckPart& neck) {
    const auto [from, to] = spanOf(neck);
    auto trough = std::make_shared<const Trough>(neck.back(), from, to);
    double low = 1e9, high = -1e9;
    for (double x : {from, (from + to) / 2, to}) {
        const std::array<double, 2> y = trough->across(x, 0);
        low = std::min(low, y[0]);
        high = std::max(high, y[1]);
    }
    const double wide = std::ceil(high - low + 2 * besideTrough);
    Panel board;
    board.id = Role::neckCradle;
    board.wood = "mdf";
    board.outline = shapeOutline(boxShape({(from + to) / 2, (low + high) / 2}, to - from, wide, 0));
    board.outlined = false;
    board.top = -trough->top();
    board.bottom = board.top - std::ceil(trough->deepest() + underTrough);
    board.frontFall = FaceFall(std::move(trough));
    return board;
}

double packingUnderHeel(const NeckPart& neck, const Panel& cradle) {
    return -cradle.bottom - neck.back().slice(neck.back().heelTo()).spine();
}

Findings judgeCradle(const NeckPart& neck) {
    Findings out;
    const auto [from, to] = spanOf(neck);
    if (to - from < shortestCradle) {
        sayOf(Role::neckCradle, out, Weight::stop, "cradle-too-short",
              fmt::format("The shaft is {:.0f} mm long between what blends it into head and heel; "
                          "to lie in a cradle {:.0f} mm were expected.",
                          std::max(0.0, to - from), shortestCradle),
              to - from, shortestCradle)
            .overridable = false;
    }
    return out;
}

} // namespace wren
