#include "proof/part_run.h"

#include "geom/edge_distance.h"
#include "proof/ease.h"

namespace wren {
namespace {

/// The wood before anything is cut: the blank, the piece it has been glued up to, or earlier parts.
Stock woodOf(const PartSides& sides, double cell) {
    if (sides.start) {
        return *sides.start;
    }
    const Setup& face = sides.held.face;
    Stock stock(sides.held.blank, face.bottomZ(), cell);
    for (int c = 0; c < stock.columns() && face.scarfed; ++c) {
        const double x = face.fromInstrument.toInstrument({stock.x(c), 0, 0}).x;
        const WoodSpan wood = face.woodAt(x);
        stock.keep(c, face.fromInstrument.toSetup({x, 0, wood.under}).z,
                   face.fromInstrument.toSetup({x, 0, wood.over}).z);
    }
    return stock;
}

/// The saw takes the outside off between the setups.
void sawOff(Stock& stock, const Held& held) {
    if (!held.sawn) {
        return;
    }
    const SawnOutside& sawn = *held.sawn;
    const SetupFromInstrument& to = held.face.fromInstrument;
    const std::vector<Vec2> outline = pointsOf(sawn.outline, 0.01);
    const EdgeDistance edge(sawn.outline, sawn.off + 1);
    for (int r = 0; r < stock.rows(); ++r) {
        for (int c = 0; c < stock.columns(); ++c) {
            const Vec2 p = to.toInstrument({stock.x(c), stock.y(r), 0}).xy();
            if (!sawn.keeps(p, edge.at(p)) && !inside(outline, p)) {
                stock.keepCell(c, r, stock.bottomZ(), stock.bottomZ());
            }
        }
    }
}

Stock turned(const Held& held, Stock face) {
    const Blank& b = held.blank;
    // What was faced off its upper side is gone: it lies lower by that much.
    const double bottom = held.back->bottomZ() - held.face.faced;
    Stock stock = held.turn == TurnOver::sideForSide
                      ? std::move(face).turnedSideForSide(b.length, b.width, bottom)
                      : std::move(face).turnedEndForEnd(b.length, b.width, bottom);
    // A correction means the wood really lies that far off.
    if (!(held.correction == Vec2{})) {
        stock = stock.movedBy(held.correction);
    }
    return stock;
}

} // namespace

Stock faceUp(const Held& held, const Stock& last) {
    if (!held.back) {
        return last;
    }
    const Blank& b = held.blank;
    const double bottom = held.face.bottomZ();
    const auto turnedBack = [&](const Stock& lies) {
        return held.turn == TurnOver::sideForSide
                   ? lies.turnedSideForSide(b.length, b.width, bottom)
                   : lies.turnedEndForEnd(b.length, b.width, bottom);
    };
    return held.correction == Vec2{} ? turnedBack(last)
                                     : turnedBack(last.movedBy(held.correction * -1));
}

namespace {

Simulation faceSide(const PartSides& sides, Moment until, double cell, const std::stop_token& stop,
                    Loads loads) {
    return simulateOn(woodOf(sides, cell), sides.programs[0], until, stop, sides.fillings[0],
                      loads);
}

/// The whole of one side on wood as it lies there.
Simulation wholeSide(const PartSides& sides, std::size_t side, Stock wood,
                     const std::stop_token& stop) {
    if (sides.memory && sides.fillings[side].empty()) {
        return simulateRemembering(std::move(wood), sides.programs[side], stop, Loads::traced,
                                   *sides.memory);
    }
    return simulateOn(std::move(wood), sides.programs[side], {}, stop, sides.fillings[side],
                      Loads::traced);
}

/// The wood as it comes off the machine before it is turned over.
void afterFace(Stock& stock, const PartSides& sides) {
    stock.openCutHollows();
    sawOff(stock, sides.held);
}

} // namespace

SidePrograms asPrograms(const PartPlan& plan) {
    return {asPrograms(plan.sides[0].cuts), asPrograms(plan.sides[1].cuts)};
}

PartRun runPart(const PartSides& sides, double cell, const std::stop_token& stop) {
    PartRun run;
    Simulation one = wholeSide(sides, 0, woodOf(sides, cell), stop);
    afterFace(one.stock, sides);
    run.collisions[0] = std::move(one.collisions);
    run.floors[0] = std::move(one.floors);
    run.loads[0] = std::move(one.loads);
    if (!sides.held.back) {
        run.whole = std::make_shared<const Stock>(std::move(one.stock));
    } else {
        Simulation two = wholeSide(sides, 1, turned(sides.held, std::move(one.stock)), stop);
        two.stock.openCutHollows();
        run.whole = std::make_shared<const Stock>(std::move(two.stock));
        run.collisions[1] = std::move(two.collisions);
        run.floors[1] = std::move(two.floors);
        run.loads[1] = std::move(two.loads);
    }
    return run;
}

Stock stockAt(const PartSides& sides, std::size_t side, Moment moment, double cell,
              const std::stop_token& stop) {
    if (side == 0) {
        return faceSide(sides, moment, cell, stop, Loads::ignored).stock;
    }
    Stock first = faceSide(sides, {}, cell, stop, Loads::ignored).stock;
    afterFace(first, sides);
    return simulateOn(turned(sides.held, std::move(first)), sides.programs[1], moment, stop,
                      sides.fillings[1])
        .stock;
}

Stock easePart(PartPlan& plan, const PartSides& sides, const Machine& machine,
               const std::stop_token& stop) {
    Stock face = easeCuts(plan.sides[0].cuts, woodOf(sides, easeCell),
                          {sides.held.face, machine, sides.fillings[0], sides.memory, stop});
    afterFace(face, sides);
    if (!sides.held.back) {
        return face;
    }
    Stock last = easeCuts(plan.sides[1].cuts, turned(sides.held, std::move(face)),
                          {*sides.held.back, machine, sides.fillings[1], sides.memory, stop});
    last.openCutHollows();
    return last;
}

} // namespace wren
