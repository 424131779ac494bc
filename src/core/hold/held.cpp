#include "hold/held.h"

#include <algorithm>

namespace wren {

bool SawnOutside::keeps(Vec2 p, double outside) const {
    return outside <= off || std::any_of(ears.begin(), ears.end(), [&](const SawnEar& e) {
               return distanceToSegment(p, e.at, e.pin) <= half;
           });
}

Held heldAs(const Setup& face) {
    Held held;
    held.blank = face.blank;
    held.face = face;
    return held;
}

Held atPlace(const Held& held, std::size_t place) {
    Held out = held;
    out.face = held.face.at(place);
    if (held.back) {
        out.back = held.back->at(place);
    }
    const auto there = [&](Vec2 p) {
        const Vec3 lies = held.face.fromInstrument.toSetup({p.x, p.y, 0});
        return out.face.fromInstrument.toInstrument(lies).xy();
    };
    for (RegisterPin& pin : out.pins) {
        pin.at = there(pin.at);
    }
    if (held.notch) {
        out.notch = there(*held.notch);
    }
    return out;
}

void registerBy(Held& held, const TurnHold& hold, Vec2 middle, const BlankEnds& ends) {
    const Blank& b = held.blank;
    held.turn = hold.turn;
    held.correction = witnessCorrection(hold);
    held.pinSize = hold.pinSize;
    held.pins = registerPins(hold, middle, b.length);
    held.marks = registerMarks(b, ends.low, ends.high);
    if (hold.notches && held.back) {
        held.notch = Vec2{middle.x + 20, middle.y - b.width / 2};
    }
    held.expectedError = errorBy(hold.by, hold, b.thickness);
    held.under = held.pins.empty() ? 0 : hold.fixture;
}

} // namespace wren
