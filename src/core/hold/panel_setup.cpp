#include "hold/panel_setup.h"

#include "hold/fixture_board.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double trench = 10; ///< room for the bit round the part
constexpr double worthFacing = 0.05;

double roundedUp(double value, double step) {
    return std::ceil(value / step - 1e-9) * step;
}

double thicknessOf(const Panel& panel, const BodyBlank& blank) {
    const double wanted = panel.thickness() + panel.spare;
    if (panel.id == Role::lid) {
        return blank.lidThickness.value_or(wanted);
    }
    if (panel.id == Role::top) {
        return blank.topThickness.value_or(wanted);
    }
    if (panel.id == Role::back) {
        return blank.backThickness.value_or(wanted);
    }
    // A glued-up body is as thick as its layers came out, which were faced.
    return panel.layers.empty() && !panel.id.byItself() ? blank.thickness.value_or(wanted) : wanted;
}

/// How several of one piece stand in their blank.
struct Nest {
    int columns = 1, rows = 1;
    Vec2 step; ///< from one to the next
};

/// As near to a square as it comes, a frame and both bits' trenches between neighbours.
Nest nestOf(const Panel& panel, Vec2 size, double frame) {
    const double between = frame + 2 * trench;
    Nest best;
    best.step = size + Vec2{between, between};
    double least = std::numeric_limits<double>::infinity();
    for (int columns = 1; columns <= panel.copies; ++columns) {
        const int rows = (panel.copies + columns - 1) / columns;
        const double longest = std::max(columns * best.step.x, rows * best.step.y);
        if (longest < least - 1e-9) {
            least = longest;
            best.columns = columns;
            best.rows = rows;
        }
    }
    return best;
}

/// Of all of them together.
Vec2 sizeOf(const Nest& nest, Vec2 size) {
    return {size.x + (nest.columns - 1) * nest.step.x, size.y + (nest.rows - 1) * nest.step.y};
}

Blank blankOf(const Panel& panel, Vec2 size, const BodyBlank& wood, const TurnHold& hold) {
    const bool lid = panel.id == Role::lid;
    const bool alone = panel.id.byItself();
    Blank b;
    b.thickness = thicknessOf(panel, wood);
    b.wood = panel.wood;
    if (alone && !panel.outlined) { // a board that keeps its own size
        b.length = size.x;
        b.width = size.y;
        return b;
    }
    const double room = wood.frame + trench;
    const double ends =
        !alone && hold.by == Register::pins && hold.pinsIn == PinsIn::waste
            ? std::max(room, hold.pinInset + hold.pinUneven + hold.pinSize / 2 + 5 + trench)
            : room;
    const std::optional<double> none;
    b.length = (lid     ? wood.lidLength
                : alone ? none
                        : wood.length)
                   .value_or(roundedUp(size.x + 2 * ends, 5));
    b.width = (lid     ? wood.lidWidth
               : alone ? none
                       : wood.width)
                  .value_or(roundedUp(size.y + 2 * room, 5));
    return b;
}

/// The nearest place on the outline where whole wood stands over an ear's width: none of a pocket
/// that opens through the edge.
Vec2 earFoot(const Panel& panel, Vec2 pin) {
    constexpr double clear = SawnOutside::half + 2;
    std::vector<std::vector<Vec2>> pockets;
    for (const PanelPocket& p : panel.pockets) {
        pockets.push_back(pointsOf(p.borders.front(), 0.1));
    }
    const auto whole = [&](Vec2 at) {
        for (std::size_t i = 0; i < pockets.size(); ++i) {
            if (inside(pockets[i], at) ||
                distanceTo(panel.pockets[i].borders.front(), at) < clear) {
                return false;
            }
        }
        return true;
    };
    Vec2 best = nearestOn(panel.outline, pin);
    double nearest = 1e300;
    for (Vec2 at : placesAlong(panel.outline, 1)) {
        if (length(at - pin) < nearest && whole(at)) {
            nearest = length(at - pin);
            best = at;
        }
    }
    return nearest < 1e299 && !whole(nearestOn(panel.outline, pin)) ? best
                                                                    : nearestOn(panel.outline, pin);
}

} // namespace

/// Several of one piece about the blank's middle, the first at its low corner.
void layCopies(Setup& face, const Panel& panel, const Nest& nest, Vec2 middle) {
    const Blank& b = face.blank;
    face.places.clear();
    for (int i = 0; i < panel.copies; ++i) {
        const double column = i % nest.columns - (nest.columns - 1) / 2.0;
        const int up = i / nest.columns;
        const double row = up - (nest.rows - 1) / 2.0;
        face.places.push_back(SetupFromInstrument::faceUp(
            {b.length / 2 + column * nest.step.x - middle.x,
             b.width / 2 + row * nest.step.y - middle.y, face.bottomZ() - panel.bottom}));
    }
    face.fromInstrument = face.places.front();
}

/// By its own lines: it has no waste, no pins, and no corner to take a zero from.
Held layFree(const Panel& panel, const Machine& machine) {
    Held s;
    const std::array<Vec2, 2> box = panel.box();
    const Vec2 size = box[1] - box[0];
    s.blank.length = size.x;
    s.blank.width = size.y;
    s.blank.thickness = panel.thickness();
    s.blank.wood = panel.wood;
    s.face.part = panel.id;
    s.face.fromBridge = panel.told;
    s.face.name = "glued to its neck";
    s.face.blank = s.blank;
    s.face.zZero = ZZero::top;
    s.face.datum = "front left corner of the box round the body";
    s.face.fromInstrument =
        SetupFromInstrument::faceUp({-box[0].x, -box[0].y, s.face.bottomZ() - panel.bottom});
    s.face.places = {s.face.fromInstrument};
    const Vec2 bridge = Vec2{panel.told.line, 0} - box[0]; // its line crosses the centreline there
    s.face.zeroOnMachine = machine.crossing - bridge;
    s.marks = {{"the neck's centreline, at the tail", size.x, bridge.y},
               {"the bridge line, front edge", bridge.x, 0},
               {"the bridge line, back edge", bridge.x, size.y}};
    if (panel.hasBack()) {
        // About its own centreline, whatever the wings' turn: the neck goes on beyond one end.
        Setup& back = s.back.emplace(s.face);
        back.side = 1;
        back.name = "glued to its neck, back up";
        back.fromInstrument = turnedOver({}, s.blank, (box[0] + box[1]) * 0.5,
                                         back.bottomZ() + panel.top);
        back.places = {back.fromInstrument};
        back.zeroOnMachine = machine.crossing - Vec2{bridge.x, size.y - bridge.y};
        s.expectedError = pencilError;
    }
    return s;
}

Held layPanel(const Panel& panel, const std::array<Vec2, 2>& around, const BodyBlank& wood,
              const TurnHold& hold, const Machine& machine, bool fromBoth,
              const std::vector<RegisterPin>& within) {
    if (panel.free) {
        return layFree(panel, machine);
    }
    Held s;
    const Vec2 one = around[1] - around[0];
    const Nest nest = nestOf(panel, one, wood.frame);
    s.blank = blankOf(panel, sizeOf(nest, one), wood, hold);
    const Blank& b = s.blank;
    const Vec2 middle = (around[0] + around[1]) * 0.5;
    const bool lid = panel.id == Role::lid;
    const bool side = hold.turn == TurnOver::sideForSide;
    s.face.part = panel.id;
    s.face.fromBridge = panel.told;
    s.face.name = lid ? "inner face up" : "face up";
    s.face.blank = b;
    s.face.zZero = panel.id.byItself() && !panel.outlined ? ZZero::top : hold.zFace;
    s.face.datum = "front left corner of the blank, nut's side";
    s.face.faced =
        b.thickness - panel.thickness() > worthFacing ? b.thickness - panel.thickness() : 0;
    s.face.zeroOnMachine = {machine.crossing.x - b.length / 2, machine.crossing.y - b.width / 2};
    s.face.fromInstrument = SetupFromInstrument::faceUp(
        {b.length / 2 - middle.x, b.width / 2 - middle.y, s.face.bottomZ() - panel.bottom});
    s.face.places = {s.face.fromInstrument};
    if (panel.id.byItself()) {
        if (panel.copies > 1) {
            layCopies(s.face, panel, nest, middle);
        }
        return s;
    }
    if (panel.hasBack() || fromBoth) {
        Setup back = s.face;
        back.side = 1;
        back.name = "back up";
        back.blank.thickness = b.thickness - s.face.faced;
        back.faced = 0;
        back.zZero = hold.zBack;
        back.datum = side ? s.face.datum : "front left corner of the blank, tail's side";
        back.fromInstrument = turnedOver(hold, b, middle, back.bottomZ() + panel.top);
        back.places = {back.fromInstrument};
        s.back = back;
    }
    registerBy(s, hold, middle, {"nut's side", "tail's side"});
    s.drillPins = panel.layers.empty();
    if (hold.pinsIn == PinsIn::part && hold.by == Register::pins) {
        s.pins = within;
        s.drillPins = false; // they are things of the part
    }
    zeroOnFixture(s, hold);
    if (wood.outside == OutsideBy::saw && panel.outlined && !panel.id.isLayer() && s.back &&
        !s.pins.empty()) {
        s.sawn = SawnOutside{wood.sawOff, panel.outline, {}};
        for (const RegisterPin& pin : s.pins) {
            s.sawn->ears.push_back({earFoot(panel, pin.at), pin.at});
        }
        s.notch.reset(); // its wood is sawn away
    }
    return s;
}

Findings judgePanelHold(const Panel& panel, const Held& setups, const BodyBlank& wood,
                        const TurnHold& hold) {
    Findings out;
    const PartId part = setups.face.part;
    const std::array<Vec2, 2> box = panel.box();
    const Blank& b = setups.blank;
    const auto tooSmall = [&](const char* side, double has, double needs) {
        if (has < needs - 1e-6) {
            sayOf(part, out, Weight::stop, "blank-too-small",
                  panel.copies > 1
                      ? fmt::format(
                            "{} pieces like the {} want a blank {:.2f} mm {} and it has {:.2f} mm.",
                            panel.copies, panel.name(), needs, side, has)
                      : fmt::format("The {} is {:.2f} mm {} and its blank only {:.2f} mm; it "
                                    "cannot be cut from it.",
                                    panel.name(), needs, side, has),
                  has, needs)
                .overridable = false;
        }
    };
    const Vec2 one = box[1] - box[0];
    const Vec2 size = sizeOf(nestOf(panel, one, wood.frame), one);
    tooSmall("long", b.length, size.x);
    tooSmall("wide", b.width, size.y);
    tooSmall("thick", b.thickness, panel.thickness());
    if (!out.empty()) {
        return out;
    }
    const double beside = std::min(b.width - size.y, b.length - size.x) / 2;
    if (beside < trench && !panel.free && (panel.outlined || !panel.id.byItself())) {
        sayOf(part, out, Weight::caution, "no-frame",
              fmt::format("Only {:.1f} mm of blank are left round the {}; {:.0f} mm are wanted so "
                          "that the bit's trench leaves a frame.",
                          beside, panel.name(), trench + wood.frame),
              beside, trench + wood.frame);
    }
    const double ahead = (b.length - size.x) / 2;
    const double pinRoom = hold.pinInset + hold.pinUneven + hold.pinSize / 2 + trench;
    const bool turnedByPins = setups.back && hold.by == Register::pins && !panel.free;
    if (hold.pinsIn == PinsIn::part && turnedByPins) {
        if (setups.pins.empty()) {
            sayOf(part, out, Weight::stop, "no-room-for-pins",
                  "Within the part there are no two places on the line it is turned about where "
                  "pins stand clear of every cut: pins in the waste, or centre lines, were "
                  "expected.",
                  0, 2)
                .overridable = false;
        } else {
            sayOf(part, out, Weight::note, "pins-within",
                  fmt::format("Pins stand within it, {} and {}: they end below its face, and their "
                              "holes go right through and are plugged afterwards.",
                              setups.face.told(setups.pins[0].at),
                              setups.face.told(setups.pins[1].at)),
                  0, 0);
        }
    }
    if (turnedByPins) {
        judgeFixture(out, part, panel.name(), hold);
    }
    if (hold.pinsIn == PinsIn::waste && !setups.pins.empty() && ahead < pinRoom) {
        sayOf(part, out, Weight::stop, "no-room-for-pins",
              fmt::format("{:.1f} mm of blank are left at each end of the {} and the pins want "
                          "{:.1f} mm: a longer blank, or turn over by centre lines.",
                          ahead, panel.name(), pinRoom),
              ahead, pinRoom);
    }
    if (setups.back) {
        sayOf(part, out, Weight::note, "registration",
              fmt::format("Turned over by {}, the two sides meet within about {:.2f} mm; a miss "
                          "shows as a step along the edge, where the outline's halves meet.{}",
                          setups.pins.empty() ? "centre lines" : "pins", setups.expectedError,
                          setups.notch ? " The notches in the front edge measure it." : ""),
              setups.expectedError, setups.expectedError);
    }
    return out;
}

} // namespace wren
