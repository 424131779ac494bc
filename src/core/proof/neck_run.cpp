#include "proof/neck_run.h"

#include "proof/ease.h"

#include <algorithm>

namespace wren {
namespace {

/// A strip closes the slots that were cut from the back once the last of them is.
std::vector<Filling> stripsOf(const NeckSides& sides) {
    std::vector<Filling> strips;
    const std::vector<RunProgram>& programs = sides.programs[1];
    const auto lastWith = [&](const std::string& what) {
        const auto it = std::find_if(programs.rbegin(), programs.rend(), [&](const RunProgram& p) {
            return std::find(p.what.begin(), p.what.end(), what) != p.what.end();
        });
        return static_cast<std::size_t>(programs.rend() - it); // one past it; 0 for none
    };
    const std::size_t rod = lastWith("rod");
    const std::size_t adjuster = lastWith("adjuster");
    if (rod == 0) {
        return strips;
    }
    const Setup& setup = sides.setups.back;
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
    for (const NeckPocket& pocket : sides.part.pockets()) {
        if (!pocket.fromBack) {
            continue;
        }
        const bool own = pocket.what == "adjuster" && adjuster > 0;
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

/// The blank, or the piece it has been glued up to.
Stock blankOf(const NeckSides& sides, double cell) {
    const Setup& face = sides.setups.face;
    Stock stock(face.blank, face.bottomZ(), cell);
    for (int c = 0; c < stock.columns() && face.scarfed; ++c) {
        const double x = face.fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const WoodSpan wood = face.woodAt(x);
        stock.keep(c, face.fromInstrument.toSetup({x, 0, wood.under}).z,
                   face.fromInstrument.toSetup({x, 0, wood.over}).z);
    }
    return stock;
}

Simulation firstSide(const NeckSides& sides, Moment until, double cell, const std::stop_token& stop,
                     const std::vector<Filling>& fillings, Loads loads = Loads::ignored) {
    return simulateOn(blankOf(sides, cell), sides.programs[0], until, stop, fillings, loads);
}

/// Filled markers of a carved face.
std::vector<Filling> markersOf(const NeckSides& sides) {
    const auto& board = sides.part.carved();
    return board ? fillingsOf(*board, sides.setups.face, sides.programs[0])
                 : std::vector<Filling>{};
}

Stock turned(const NeckSides& sides, const Stock& face) {
    const Blank& b = sides.setups.blank;
    const double bottom = sides.setups.back.bottomZ();
    const Stock stock = sides.turn == TurnOver::sideForSide
                            ? face.turnedSideForSide(b.length, b.width, bottom)
                            : face.turnedEndForEnd(b.length, b.width, bottom);
    // A correction means the wood really lies that far off.
    return stock.movedBy(sides.setups.correction);
}

} // namespace

NeckRun runNeck(const NeckSides& sides, double cell, const std::stop_token& stop) {
    std::vector<Filling> markers = markersOf(sides);
    Simulation one = firstSide(sides, {}, cell, stop, markers, Loads::traced);
    std::vector<Filling> strips = stripsOf(sides);
    Simulation two =
        simulateOn(turned(sides, one.stock), sides.programs[1], {}, stop, strips, Loads::traced);
    return {std::move(two.stock),
            {std::move(one.collisions), std::move(two.collisions)},
            {std::move(markers), std::move(strips)},
            {std::move(one.floors), std::move(two.floors)},
            {std::move(one.loads), std::move(two.loads)}};
}

void easeNeck(NeckPlan& plan, const NeckPart& part, const NeckSetups& setups, TurnOver turn,
              const Machine& machine, const std::stop_token& stop) {
    const std::array<std::vector<RunProgram>, 2> programs{asPrograms(plan.sides[0].cuts),
                                                          asPrograms(plan.sides[1].cuts)};
    const NeckSides sides{part, setups, turn, programs};
    const std::vector<Filling> markers = markersOf(sides);
    const Stock face = easeCuts(plan.sides[0].cuts, blankOf(sides, easeCell),
                                {setups.face, machine, markers, stop});
    const std::vector<Filling> strips = stripsOf(sides);
    easeCuts(plan.sides[1].cuts, turned(sides, face), {setups.back, machine, strips, stop});
}

Stock neckStockAt(const NeckSides& sides, std::size_t side, Moment moment, double cell,
                  const std::stop_token& stop) {
    if (side == 0) {
        return firstSide(sides, moment, cell, stop, markersOf(sides)).stock;
    }
    const Stock first = firstSide(sides, {}, cell, stop, markersOf(sides)).stock;
    return simulateOn(turned(sides, first), sides.programs[1], moment, stop, stripsOf(sides)).stock;
}

} // namespace wren
