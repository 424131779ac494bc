#include "job/as_measured.h"

#include "shop/shrinkage.h"

#include <algorithm>

namespace wren {

double movedTo(double size, const std::string& wood, Sawn sawn, std::optional<double> from,
               std::optional<double> to) {
    const std::optional<Shrinkage> s = shrinkageOf(wood);
    return s && from && to ? sizeAt(size, sawn == Sawn::flat ? s->tangential : s->radial, *from, *to)
                           : size;
}

std::optional<double> heelToday(const Project& p) {
    const BodyPocket& pocket = p.body.pocket;
    if (!pocket.measuredWidth) {
        return std::nullopt;
    }
    return movedTo(*pocket.measuredWidth, p.neckBlank.wood, p.neckWood.sawn, pocket.measuredMoisture,
                   p.neckWood.moisture);
}

Body bodyToCut(const Project& p) {
    Body out = p.body;
    out.pocket.measuredWidth = p.body.pocket.cutWidth ? p.body.pocket.cutWidth : heelToday(p);
    out.topSpare =
        std::max(0.0, p.bodyBlank.topThickness.value_or(p.body.top + p.body.topSpare) - p.body.top);
    return out;
}

} // namespace wren
