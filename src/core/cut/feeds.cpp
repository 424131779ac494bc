#include "cut/feeds.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

/// Chip load as a share of the diameter; the tiny bits stand a larger one.
double chipShare(const Bit& bit) {
    switch (bit.kind) {
    case BitKind::fretSlot:
        return 0.015;
    case BitKind::drill:
        return 0.02;
    case BitKind::surfacing:
        return 0.004;
    default:
        return 0.009;
    }
}
constexpr double surfaceSpeed = 9.5; ///< m/s, carbide in wood
constexpr double castSpeed = 6;      ///< m/s in acrylic and resin, which melt
constexpr double castChip = 1.4;     ///< times the chip in wood, for the same reason
constexpr double drillSpeed = 1.6;   ///< m/s

/// Share of the diameter a bit goes down in one pass, in a medium hardwood.
double depthShare(const Bit& bit) {
    switch (bit.kind) {
    case BitKind::fretSlot:
        return 0.4;
    case BitKind::surfacing:
        return 0.06;
    default:
        return 0.5;
    }
}

/// The width that takes the load: a tapered ball works with its tip, not with its shank's end.
double workingWidth(const Bit& bit) {
    if (bit.kind != BitKind::taperedBall || bit.tip <= 0) {
        return bit.diameter;
    }
    return std::min(bit.diameter, 2 * EndShape::of(bit).radiusAt(bit.tip));
}

double roundedTo(double step, double value) {
    return std::floor(value / step) * step;
}

/// The lower of two limits, where 0 is no limit.
double limited(double value, double own) {
    return own > 0 ? std::min(value, own) : value;
}

} // namespace

Feeds feedsFor(const Bit& bit, const Wood& wood, const Machine& machine,
               const CutOverrides& overrides) {
    Feeds f;
    const double width = workingWidth(bit);
    const double speed = bit.kind == BitKind::drill ? drillSpeed
                         : wood.cast                ? castSpeed
                                                    : surfaceSpeed;
    const double wanted = speed * 1000 * 60 / (std::numbers::pi * width);
    const double most = limited(std::max(machine.spindleMin, machine.spindleMax), bit.maxRpm);
    f.rpm = roundedTo(500, std::clamp(wanted, std::min(machine.spindleMin, most), most));
    const double chip = chipShare(bit) * width * wood.bite() * (wood.cast ? castChip : 1);
    f.feed =
        roundedTo(5, limited(std::min(f.rpm * bit.flutes * chip, machine.maxFeed), bit.maxFeed));
    f.plunge = bit.kind == BitKind::drill ? roundedTo(5, std::min(f.feed, 600.0))
                                          : roundedTo(5, std::max(f.feed / 4, 40.0));
    double share = depthShare(bit) * wood.bite();
    if (bit.kind == BitKind::fretSlot) {
        share = std::clamp(share, 0.25, 0.5); // tiny bites: such bits break
    }
    f.depthPerPass = width * share;
    f.reason = fmt::format("{:.3f} mm a tooth ({:.1f} % of {:g} mm, in {}) with {} {} at {:.0f} "
                           "rpm; {:.2f} mm a pass is {:.0f} % of the diameter.{}",
                           chip, 100 * chip / width, width, wood.name, bit.flutes,
                           bit.flutes == 1 ? "flute" : "flutes", f.rpm, f.depthPerPass, 100 * share,
                           wood.cast ? " Cast stock melts: a bigger chip and fewer turns." : "");
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
