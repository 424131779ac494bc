#include "hold/neck_setup.h"

#include "base/error.h"
#include "base/length.h"
#include "hold/fixture_board.h"
#include "hold/stations.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

// Common practice, no source.
constexpr double trench = 9;    ///< room for the bit round the part
constexpr double underPart = 1; ///< more than the deepest place

double roundedUp(double value, double step) {
    return std::ceil(value / step - 1e-9) * step;
}

/// The scarf out of the plank measured, or one a little thicker than the neck asks for.
std::optional<Scarf> scarfFrom(const NeckPart& part, const NeckBlank& blank) {
    const std::optional<Scarf> s = part.scarf(blank.thickness, underPart);
    return s && !blank.thickness ? part.scarf(roundedUp(s->plank, 0.1)) : s;
}

/// Tips stand so far outside the neck at most.
constexpr double tipBeyond = 12;

/// The X of a setup that the neck's cuts reach over.
std::array<double, 2> tipsOver(const NeckPart& part, const Setup& face) {
    const auto box = part.boundingBox();
    double low = box[0].x - tipBeyond, high = box[1].x + tipBeyond;
    for (const NeckPocket& p : part.pockets()) { // a slot may run out of the neck
        if (!p.runsAcross()) {
            low = std::min(low, p.reach()[0]);
            high = std::max(high, p.reach()[1]);
        }
    }
    return {face.fromInstrument.toSetup({low, 0, 0}).x,
            face.fromInstrument.toSetup({high, 0, 0}).x};
}

/// With the pins at its blank's ends, where it is registered by those.
bool tooLongFor(const Machine& machine, const NeckPart& part, const Held& s, const TurnHold& hold) {
    std::array<double, 2> needs = tipsOver(part, s.face);
    if (hold.by == Register::pins) {
        needs = {std::min(needs[0], hold.pinInset),
                 std::max(needs[1], s.blank.length - hold.pinInset)};
    }
    return needs[1] - needs[0] > machine.travel.x;
}

/// Of a neck longer than the machine. Throws Error where it cannot lie so.
StationPlan stationsOf(const NeckPart& part, const Held& s, const TurnHold& hold,
                       const Machine& machine) {
    if (hold.by != Register::pins || hold.turn != TurnOver::sideForSide) {
        throw Error("What is cut in two stations is registered by pins and turned over side for "
                    "side.");
    }
    if (s.face.places.size() > 1) {
        throw Error("Of several necks in one blank none is cut in stations: one at a time was "
                    "expected.");
    }
    const SetupFromInstrument& to = s.face.fromInstrument;
    const NeckBack& back = part.back();
    const double middle = (back.headTo() + back.heelFrom()) / 2; // where a step can be faired
    const double room = hold.pinInset + hold.pinSize / 2 + trench;
    const auto inWaste = [&](double x) {
        for (double near : {x - trench, x, x + trench}) {
            const double at = to.toInstrument({near, 0, 0}).x;
            const auto edges = part.outline().across(at);
            const double low = to.toSetup({at, edges[0], 0}).y;
            const double high = to.toSetup({at, edges[1], 0}).y;
            if (std::min(low, high) < room || s.blank.width - std::max(low, high) < room) {
                return false;
            }
        }
        return true;
    };
    return planStations(tipsOver(part, s.face), to.toSetup({hold.seam.value_or(middle), 0, 0}).x,
                        machine, inWaste);
}

/// From one neck in the blank to the next: a frame and both trenches lie between them.
double stepOf(const NeckPart& part, const NeckBlank& blank) {
    const auto box = part.boundingBox();
    return box[1].y - box[0].y + blank.frame + 2 * trench;
}

/// How deep the piece is from the glue plane down, `end` being its end beyond the head.
double overAll(const NeckPart& part, const Scarf& scarf, double end) {
    const ScarfedBlank b = scarfedBlank(part, scarf);
    return std::max({b.plank, b.block, -b.at(end).under});
}

} // namespace

Blank neckBlank(const NeckPart& part, const std::optional<Scarf>& scarf, const NeckBlank& blank,
                const TurnHold& hold) {
    const auto box = part.boundingBox();
    const double ends = hold.by == Register::pins
                            ? hold.pinInset + hold.pinUneven + hold.pinSize / 2 + 5 + trench
                            : blank.frame + trench;
    Blank b;
    b.length = blank.length.value_or(roundedUp(box[1].x - box[0].x + 2 * ends, 5));
    const double across = box[1].y - box[0].y + (blank.pieces - 1) * stepOf(part, blank);
    b.width = blank.width.value_or(roundedUp(across + 2 * (blank.frame + trench), 1));
    const double ahead = (b.length - (box[1].x - box[0].x)) / 2;
    b.thickness = scarf ? roundedUp(overAll(part, *scarf, box[0].x - ahead), 0.1)
                        : blank.thickness.value_or(
                              roundedUp(part.deepest() + underPart + part.blankTop(), 0.1));
    b.wood = blank.wood;
    return b;
}

Held layNeck(const NeckPart& part, const NeckBlank& wood, const TurnHold& hold,
             const Machine& machine) {
    Held s;
    s.scarf = scarfFrom(part, wood);
    s.blank = neckBlank(part, s.scarf, wood, hold);
    const Blank& b = s.blank;
    const auto box = part.boundingBox();
    // The place of the first neck's frame that lies in the blank's middle: it is the front one.
    const double front = (wood.pieces - 1) * stepOf(part, wood) / 2;
    const Vec2 middle{(box[0].x + box[1].x) / 2, (box[0].y + box[1].y) / 2 + front};
    const auto common = [&](Setup& setup, const char* name, ZZero zero) {
        setup.part = Role::neck;
        setup.name = name;
        setup.blank = b;
        setup.zZero = zero;
        if (s.scarf) {
            setup.scarfed = scarfedBlank(part, *s.scarf);
        }
        setup.zeroOnMachine = {machine.crossing.x - b.length / 2, machine.crossing.y - b.width / 2};
    };
    common(s.face, "face up", hold.zFace);
    s.face.datum = "front left corner of the blank, head end";
    // The glue plane is the blank's own face, or lies under the wood of a carved one.
    s.face.fromInstrument = SetupFromInstrument::faceUp(
        {b.length / 2 - middle.x, b.width / 2 - middle.y, s.face.topZ() - part.blankTop()});
    Setup& back = s.back.emplace();
    common(back, "back up", hold.zBack);
    back.side = 1;
    const bool side = hold.turn == TurnOver::sideForSide;
    back.datum = side ? "front left corner of the blank, head end"
                      : "front left corner of the blank, heel end";
    back.fromInstrument = turnedOver(hold, b, middle, back.bottomZ() + part.blankTop());
    for (int i = 0; i < wood.pieces; ++i) {
        const Vec2 at{middle.x, middle.y - i * stepOf(part, wood)};
        s.face.places.push_back(SetupFromInstrument::faceUp(
            {b.length / 2 - at.x, b.width / 2 - at.y, s.face.topZ() - part.blankTop()}));
        back.places.push_back(turnedOver(hold, b, at, back.bottomZ() + part.blankTop()));
    }
    registerBy(s, hold, middle, {"head end", "heel end"});
    s.drillPins = true;
    zeroOnFixture(s, hold);
    if (tooLongFor(machine, part, s, hold)) {
        try {
            layInStations(s, stationsOf(part, s, hold, machine), hold.pinInset, machine);
        } catch (const Error&) {
            // it lies where it would, over the machine's ends; judgeNeckHold() says why
        }
    }
    return s;
}

namespace {

/// Against the machine's travel: as it lies, in stations, or not at all.
void judgeLength(Findings& out, const NeckPart& part, const Held& held, const TurnHold& hold,
                 const Machine& machine) {
    const std::array<double, 2> tips = tipsOver(part, held.face);
    const double needs = tips[1] - tips[0];
    if (held.pitch > 0) {
        const double seam = held.face.fromInstrument.toInstrument({held.seam, 0, 0}).x;
        Finding& f = sayOf(
            Role::neck, out, Weight::note, "in-stations",
            fmt::format("Its cuts reach over {:.0f} mm and {} travels {:.0f} mm: it is cut in two "
                        "stations, sliding {:.2f} mm on pins in its waste. Their cuts meet {:.0f} "
                        "mm from the nut; fitted dowels leave a step of about {:.2f} mm there.",
                        needs, machine.name, machine.travel.x, held.pitch, seam, dowelError),
            held.pitch, 0);
        f.atX = seam;
        return;
    }
    if (tooLongFor(machine, part, held, hold)) {
        try {
            stationsOf(part, held, hold, machine);
        } catch (const Error& e) {
            sayOf(Role::neck, out, Weight::stop, "no-stations",
                  fmt::format("The neck's cuts reach over {:.0f} mm, {} travels {:.0f} mm, and it "
                              "cannot be cut in stations: {}",
                              needs, machine.name, machine.travel.x, e.what()),
                  needs, machine.travel.x)
                .overridable = false;
        }
    }
    for (const Finding& f : judgePlacement(held.face, machine)) {
        out.push_back(f);
    }
}

} // namespace

Findings judgeNeckHold(const NeckPart& part, const Held& setups, const NeckBlank& wood,
                       const TurnHold& hold, const Machine& machine) {
    Findings out;
    const auto box = part.boundingBox();
    const Blank& b = setups.blank;
    const auto tooSmall = [&](const char* side, const std::string& what, double has,
                              double needs) {
        if (has < needs) {
            Finding& f =
                sayOf(Role::neck, out, Weight::stop, "blank-too-small",
                      fmt::format("{} is {:.2f} mm {} and the blank only {:.2f} mm; the neck "
                                  "cannot be cut from it.",
                                  what, needs, side, has),
                      has, needs);
            f.overridable = false;
        }
    };
    tooSmall("long", "The neck", b.length, box[1].x - box[0].x);
    const double across = box[1].y - box[0].y + (wood.pieces - 1) * stepOf(part, wood);
    tooSmall("wide",
             wood.pieces > 1 ? fmt::format("A row of {} necks with their headstocks", wood.pieces)
                             : "The neck with its headstock",
             b.width, across);
    const double ahead = (b.length - (box[1].x - box[0].x)) / 2;
    if (setups.scarf) {
        judgeScarf(out, part, *setups.scarf);
    } else {
        tooSmall("thick", "The neck", b.thickness, part.deepest() + part.blankTop());
    }
    if (hasStop(out)) {
        return out;
    }
    const double beside = (b.width - across) / 2;
    const double pinRoom = hold.pinInset + hold.pinUneven + hold.pinSize / 2 + trench;
    if (hold.by == Register::pins && ahead < pinRoom) {
        sayOf(Role::neck, out, Weight::stop, "no-room-for-pins",
              fmt::format(
                  "{:.1f} mm of blank are left at each end and the pins want {:.1f} mm: a longer "
                  "blank, or turn over by centre lines.",
                  ahead, pinRoom),
              ahead, pinRoom);
    }
    if (std::min(beside, ahead) < trench) {
        sayOf(Role::neck, out, Weight::caution, "no-frame",
              fmt::format(
                  "Only {:.1f} mm of blank are left round the neck; {:.0f} mm are wanted so that "
                  "the bit's trench leaves a frame.",
                  std::min(beside, ahead), trench + wood.frame),
              std::min(beside, ahead), trench + wood.frame);
    }
    if (setups.face.scarfed) {
        const double packing = b.thickness - setups.face.scarfed->plank;
        double free = 0; // of a pin between the bed and the head's face
        for (const RegisterPin& pin : setups.pins) {
            free = std::max(free, -setups.face.woodAt(pin.at.x).over);
        }
        sayOf(Role::neck, out, Weight::note, "scarf-packing",
              fmt::format("Face up the glued piece lies on packing {:.1f} mm high under its shaft, "
                          "the head hanging beside it; over all it is {:.1f} mm deep.{}",
                          packing, b.thickness,
                          free > 1
                              ? fmt::format(" Back up, the pin at the head's end stands {:.0f} "
                                            "mm free before it meets the wood: pack the head "
                                            "there, or turn over by centre lines.",
                                            free)
                              : ""),
              packing, 0);
    }
    if (hold.by == Register::pins) {
        judgeFixture(out, Role::neck, "neck", hold);
    }
    judgeLength(out, part, setups, hold, machine);
    sayOf(Role::neck, out, Weight::note, "registration",
          fmt::format(
              "Turned over by {}, the two sides meet within about {:.2f} mm; a miss shows as the "
              "rod's slot and the holes off the middle.{}",
              hold.by == Register::pins ? "pins" : "centre lines", setups.expectedError,
              hold.notches ? " The notches in the front edge measure it." : ""),
          setups.expectedError, setups.expectedError);
    sayOf(Role::neck, out, Weight::note, "back-zero",
          hold.zBack == ZZero::bed
              ? "The back is zeroed on the bed, where the blank's face lies: a "
                "blank measured wrong only "
                "changes how much is roughed away."
              : "The back is zeroed on the blank's upper side: a blank "
                "measured 0.2 mm too thick makes "
                "the whole neck 0.2 mm too thin.",
          0, 0);
    return out;
}

} // namespace wren
