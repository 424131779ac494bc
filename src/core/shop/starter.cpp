#include "shop/starter.h"

namespace wren {
namespace {

Bit bit(const char* name, BitKind kind, double diameter, double flutes, int teeth, double shank) {
    Bit b;
    b.name = name;
    b.kind = kind;
    b.diameter = diameter;
    b.fluteLength = flutes;
    b.flutes = teeth;
    b.shank = shank;
    return b;
}

Bit bullNose(const char* name, double diameter, double corner, double flutes, double shank) {
    Bit b = bit(name, BitKind::bullNose, diameter, flutes, 2, shank);
    b.corner = corner;
    return b;
}

Bit drill(const char* name, double diameter, double flutes) {
    Bit b = bit(name, BitKind::drill, diameter, flutes, 2, diameter);
    b.angle = 118;
    return b;
}

} // namespace

Drawer starterDrawer() {
    Bit vee = bit("v-60", BitKind::vee, 6, 5, 2, 6);
    vee.angle = 60;
    Bit taper = bit("taper-1.5", BitKind::taperedBall, 6, 25, 2, 6);
    taper.tip = 1.5;
    taper.angle = 10;
    return {
        bit("slot-0.58", BitKind::fretSlot, 0.58, 3.5, 2, 3.175),
        bit("slot-0.55-long", BitKind::fretSlot, 0.55, 5.5, 2, 3.175),
        bit("flat-1.5", BitKind::flat, 1.5, 6, 2, 3.175),
        bit("flat-3", BitKind::flat, 3, 12, 2, 3),
        bit("flat-6", BitKind::flat, 6, 22, 2, 6),
        bit("long-6", BitKind::flat, 6, 42, 2, 6),
        bit("down-6", BitKind::downCut, 6, 22, 2, 6),
        bit("comp-6", BitKind::compression, 6, 22, 2, 6),
        bit("ball-6", BitKind::ball, 6, 22, 2, 6),
        bit("ball-12", BitKind::ball, 12, 32, 2, 12),
        bullNose("bull-12-3", 12, 3, 26, 8),
        taper,
        vee,
        drill("drill-1.5", 1.5, 18),
        drill("drill-2", 2, 24),
        drill("drill-3.2", 3.2, 40),
        drill("drill-4", 4, 45),
        drill("drill-6", 6, 50),
        bit("surface-22", BitKind::surfacing, 22, 8, 2, 6),
    };
}

const std::vector<Machine>& starterMachines() {
    static const std::vector<Machine> machines = [] {
        Machine desk;
        desk.name = "Desk router";
        desk.programUnit = LengthUnit::inch;
        desk.arcs = false;
        desk.travel = {620, 320, 80};
        desk.crossing = {310, 160};
        desk.rapid = 2500;
        desk.maxFeed = 1800;
        desk.acceleration = {200, 200, 100};
        desk.cornerSpeed = 5;
        desk.spindleMin = 10000;
        desk.spindleMax = 27000;
        desk.spoilDepth = 1;
        desk.plate = 19.05;
        Machine longBed;
        longBed.name = "Long router";
        longBed.home = HomeCorner::backLeft;
        longBed.travel = {1500, 500, 140};
        longBed.crossing = {750, -250};
        longBed.rapid = 9000;
        longBed.maxFeed = 6000;
        longBed.acceleration = {700, 500, 300};
        longBed.cornerSpeed = 12;
        longBed.spindleMin = 6000;
        return std::vector<Machine>{Machine{}, desk, longBed};
    }();
    return machines;
}

} // namespace wren
