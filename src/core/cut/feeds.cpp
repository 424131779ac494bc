#include "cut/feeds.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

/// Chip load as a share of the diameter; the tiny bits stand a larger one.
double chipShare(BitKind kind) {
    return kind == BitKind::fretSlot ? 0.015 : 0.009;
}
constexpr double surfaceSpeed = 9.5; ///< m/s, carbide in wood

/// Share of the diameter a bit goes down in one pass, in a medium hardwood.
double depthShare(BitKind kind) {
    return kind == BitKind::fretSlot ? 0.4 : 0.5;
}

double roundedTo(double step, double value) {
    return std::floor(value / step) * step;
}

} // namespace

Feeds feedsFor(const Bit& bit, const Wood& wood, const Machine& machine,
               const CutOverrides& overrides) {
    Feeds f;
    const double wanted = surfaceSpeed * 1000 * 60 / (std::numbers::pi * bit.diameter);
    f.rpm = roundedTo(500, std::clamp(wanted, machine.spindleMin,
                                      std::max(machine.spindleMin, machine.spindleMax)));
    const double chip = chipShare(bit.kind) * bit.diameter * wood.bite();
    f.feed = roundedTo(5, std::min(f.rpm * bit.flutes * chip, machine.maxFeed));
    f.plunge = roundedTo(5, std::max(f.feed / 4, 40.0));
    double share = depthShare(bit.kind) * wood.bite();
    if (bit.kind == BitKind::fretSlot) {
        share = std::clamp(share, 0.25, 0.5); // tiny bites: such bits break
    }
    f.depthPerPass = bit.diameter * share;
    f.reason =
        fmt::format("{:.3f} mm a tooth ({:.1f} % of {:g} mm, in {}) with {} flutes at {:.0f} "
                    "rpm; {:.2f} mm a pass is {:.0f} % of the diameter.",
                    chip, 100 * chip / bit.diameter, bit.diameter, wood.name, bit.flutes, f.rpm,
                    f.depthPerPass, 100 * share);
    const bool set = overrides.rpm || overrides.feed || overrides.plunge || overrides.depthPerPass;
    f.rpm = overrides.rpm.value_or(f.rpm);
    f.feed = overrides.feed.value_or(f.feed);
    f.plunge = overrides.plunge.value_or(f.plunge);
    f.depthPerPass = overrides.depthPerPass.value_or(f.depthPerPass);
    if (set) {
        f.reason = "Set by hand. The recipe would say: " + f.reason;
    }
    return f;
}

} // namespace wren
