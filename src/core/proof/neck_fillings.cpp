#include "proof/neck_fillings.h"

#include <algorithm>

namespace wren {
namespace {

/// A strip closes the slots that were cut from the back once the last of them is.
std::vector<Filling> stripsOf(const NeckPart& part, const Setup& setup,
                              const std::vector<RunProgram>& programs) {
    std::vector<Filling> strips;
    const auto lastWith = [&](CutKind kind) {
        const auto it = std::find_if(programs.rbegin(), programs.rend(),
                                     [&](const RunProgram& p) { return p.has(kind); });
        return static_cast<std::size_t>(programs.rend() - it); // one past it; 0 for none
    };
    const std::size_t rod = lastWith(CutKind::rod);
    const std::size_t adjuster = lastWith(CutKind::adjuster);
    if (rod == 0) {
        return strips;
    }
    const auto rows = [&](const NeckPocket& pocket, double longer, double wider) {
        std::vector<Vec2> points;
        NeckPocket box = pocket;
        box.box[0] = box.box[0] - Vec2{longer, wider};
        box.box[1] = box.box[1] + Vec2{longer, wider};
        for (Vec2 p : box.corners()) {
            points.push_back(setup.fromInstrument.toSetup({p.x, p.y, 0}).xy());
        }
        return ConvexRows(std::move(points));
    };
    for (const NeckPocket& pocket : part.pockets()) {
        if (!pocket.fromBack) {
            continue;
        }
        const bool own = pocket.kind == NeckPocketKind::adjuster && adjuster > 0;
        const Bit& bit = programs[(own ? adjuster : rod) - 1].bit;
        const double r = bit.radius();
        Filling f;
        f.beforeProgram = std::max(rod, adjuster);
        f.pocket = rows(pocket, 1, 1); // planed flush: no harm where wood stands anyway
        const bool round = bit.kind == BitKind::ball; // only its middle line is that deep
        f.floor = rows(pocket, -r - 0.2, round ? 0.2 - pocket.width() / 2 : -0.2);
        f.floorZ = setup.fromInstrument.toSetup({0, 0, pocket.floor}).z;
        f.fillTo = setup.woodTop(pocket.middle().x);
        f.atX = pocket.box[0].x;
        f.what = "The rod's slot";
        strips.push_back(std::move(f));
    }
    return strips;
}

} // namespace

PartSides neckSides(const NeckPart& part, const Held& held, const SidePrograms& programs) {
    const auto& board = part.carved();
    return {held,
            programs,
            {board ? fillingsOf(*board, held.face, programs[0]) : std::vector<Filling>{},
             stripsOf(part, *held.back, programs[1])}};
}

} // namespace wren
