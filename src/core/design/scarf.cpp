#include "design/scarf.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace wren {
namespace {

constexpr double kerf = 3; ///< of the saw, mm; common practice, no source

} // namespace

std::optional<Scarf> scarfOf(const Neck& neck, const NeckOutline& outline, const NeckBack& back,
                             std::optional<double> measured, double spare) {
    const Headstock& h = neck.head;
    if (h.kind != HeadKind::tilted || h.stock != HeadStock::scarf || h.angle <= 0) {
        return std::nullopt;
    }
    Scarf s;
    s.angle = h.angle * std::numbers::pi / 180;
    s.atFace = outline.headStart() + h.thickness / std::sin(s.angle);
    const auto deepest = [&](double from) {
        double deep = 0;
        for (double x = from; x <= outline.end(); x += 1) {
            deep = std::max(deep, back.slice(x).spine());
        }
        return deep;
    };
    // The joint's run depends on the plank, and the plank on what stands beyond the joint: where
    // the head's own depth takes over, its piece gives the wood.
    s.least = deepest(s.atFace);
    for (int i = 0; i < 20; ++i) {
        const double before = s.least;
        s.plank = measured.value_or(s.least + spare);
        s.run = s.plank / std::tan(s.angle);
        s.atBack = s.atFace - s.run;
        // Over the ramp the head's piece gives what lies above its own underside.
        for (double x = s.atBack; x < s.atFace; x += 1) {
            const double deep = back.slice(x).spine();
            if (deep > (s.atFace - x) * std::tan(s.angle) + 1e-6) {
                s.least = std::max(s.least, deep);
            }
        }
        if (s.least - before < 1e-9) {
            break;
        }
    }
    s.ramp = s.plank / std::sin(s.angle);
    s.neckPiece = outline.end() + scarfMargin - s.atFace;
    s.headPiece = (outline.headStart() - outline.tip()) / std::cos(s.angle) + scarfMargin;
    s.plankLength = s.neckPiece + s.run + s.headPiece + kerf / std::sin(s.angle);
    for (double x = back.headFrom(); x < s.atBack; x += 1) {
        const double wood = (s.atFace - x) * std::tan(s.angle); // down to the head's own back
        const double over = back.slice(x).spine() - wood;
        if (over > s.shortBy) {
            s.shortBy = over;
            s.shortAt = x;
        }
    }
    return s;
}

} // namespace wren
