#include "hold/scarfed_blank.h"

#include <algorithm>
#include <cmath>

namespace wren {

WoodSpan ScarfedBlank::at(double x) const {
    WoodSpan wood{-plank, std::min(0.0, -(headStart - x) * fall)};
    if (x < atBack) {
        wood.under = -(atFace - x) * fall;
        if (x > blockFrom) {
            wood.under = std::min(wood.under, -block);
        }
    }
    return wood;
}

std::optional<ScarfedBlank> scarfedBlank(const NeckPart& part) {
    constexpr double spare = 1; // of the block, which is planed by eye
    const std::optional<Scarf> scarf = part.scarf();
    if (!scarf) {
        return std::nullopt;
    }
    ScarfedBlank b;
    b.headStart = part.outline().headStart();
    b.fall = std::tan(scarf->angle);
    b.plank = scarf->plank;
    b.atFace = scarf->atFace;
    b.atBack = scarf->atBack;
    if (scarf->shortBy > 0) {
        b.blockFrom = part.back().headFrom();
        for (double x = b.blockFrom; x < b.atBack; x += 1) {
            b.block = std::max(b.block, part.back().slice(x).spine() + spare);
        }
    }
    return b;
}

} // namespace wren
