#include "shop/bit.h"

#include "base/error.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace wren {
namespace {

constexpr std::array kinds{
    std::pair{BitKind::flat, "flat"},
    std::pair{BitKind::downCut, "down-cut"},
    std::pair{BitKind::compression, "compression"},
    std::pair{BitKind::ball, "ball"},
    std::pair{BitKind::bullNose, "bull-nose"},
    std::pair{BitKind::taperedBall, "tapered-ball"},
    std::pair{BitKind::vee, "v"},
    std::pair{BitKind::drill, "drill"},
    std::pair{BitKind::fretSlot, "fret-slot"},
    std::pair{BitKind::surfacing, "surfacing"},
};

/// Rise per mm outward of a cone whose whole angle is given.
double slopeOfWhole(double degrees) {
    return 1 / std::tan(std::clamp(degrees, 1.0, 179.0) / 2 * std::numbers::pi / 180);
}

} // namespace

const char* bitKindName(BitKind kind) {
    for (const auto& [k, name] : kinds) {
        if (k == kind) {
            return name;
        }
    }
    return "flat";
}

const std::vector<std::string>& bitKindNames() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> all;
        all.reserve(kinds.size());
        for (const auto& [kind, name] : kinds) {
            all.emplace_back(name);
        }
        return all;
    }();
    return names;
}

BitKind bitKindFromName(const std::string& name) {
    for (const auto& [kind, known] : kinds) {
        if (name == known) {
            return kind;
        }
    }
    throw Error(fmt::format("\"{}\" is not a kind of bit; one of {} was expected.", name,
                            fmt::join(bitKindNames(), ", ")));
}

bool cutsFlat(BitKind kind) {
    return kind == BitKind::flat || kind == BitKind::downCut || kind == BitKind::compression;
}

double Bit::tipHeight() const {
    const EndShape end = EndShape::of(*this);
    return end.heightAt(end.radius);
}

EndShape EndShape::of(const Bit& bit) {
    const double r = bit.radius();
    switch (bit.kind) {
    case BitKind::ball:
        return {0, r, 0, r};
    case BitKind::bullNose: {
        const double corner = std::min(bit.corner, r);
        return {r - corner, corner, 0, r};
    }
    case BitKind::taperedBall:
        return {0, std::min(bit.tip / 2, r), slopeOfWhole(bit.angle > 0 ? bit.angle : 10), r};
    case BitKind::vee:
        return {std::min(bit.tip / 2, r), 0, slopeOfWhole(bit.angle > 0 ? bit.angle : 90), r};
    case BitKind::drill:
        return {0, 0, slopeOfWhole(bit.angle > 0 ? bit.angle : 118), r};
    default:
        return {r, 0, 0, r};
    }
}

double EndShape::heightAt(double d) const {
    if (d <= flat) {
        return 0;
    }
    const double out = d - flat;
    // The rounding meets the cone where both rise equally: sine = slope / sqrt(1 + slope^2).
    const double share = slope > 0 ? slope / std::sqrt(1 + slope * slope) : 1;
    const double meet = rounding * share;
    if (slope > 0 && out > meet) {
        return rounding * (1 - std::sqrt(1 - share * share)) + slope * (out - meet);
    }
    return rounding - std::sqrt(std::max(0.0, rounding * rounding - out * out));
}

double EndShape::radiusAt(double height) const {
    const double share = slope > 0 ? slope / std::sqrt(1 + slope * slope) : 1;
    const double meet = rounding * (1 - std::sqrt(std::max(0.0, 1 - share * share)));
    if (height < meet) {
        const double up = rounding - height;
        return flat + std::sqrt(std::max(0.0, rounding * rounding - up * up));
    }
    return slope > 0 ? std::min(radius, flat + rounding * share + (height - meet) / slope) : radius;
}

double EndShape::slopeAt(double d) const {
    if (d <= flat) {
        return 0;
    }
    const double out = d - flat;
    const double share = slope > 0 ? slope / std::sqrt(1 + slope * slope) : 1;
    if (slope > 0 && out > rounding * share) {
        return slope;
    }
    return out / std::sqrt(std::max(1e-12, rounding * rounding - out * out));
}

const Bit* findBit(const Drawer& drawer, const std::string& name) {
    const auto it = std::find_if(drawer.begin(), drawer.end(),
                                 [&](const Bit& bit) { return bit.name == name; });
    return it == drawer.end() ? nullptr : &*it;
}

} // namespace wren
