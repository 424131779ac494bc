#include "hold/fixture_board.h"

#include "design/shape.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

Panel fixtureBoard(PartId id, const Held& held, double thickness) {
    const Setup& face = held.face;
    const auto lies = [&](double x, double y) {
        return face.fromInstrument.toInstrument({x, y, 0}).xy();
    };
    // For a blank that slides it lies about the crossing, and reaches to the outermost pins.
    double low = -probeShelf, high = face.blank.length + probeShelf, out = 0;
    if (held.pitch > 0) {
        constexpr double beyondPin = 30;
        const double crossing = held.marks[2].fromEnd;
        double reach = 0;
        for (const RegisterPin& pin : held.pins) {
            const double x = face.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).x;
            reach = std::max({reach, std::abs(x - crossing), std::abs(x - held.pitch - crossing)});
        }
        low = crossing - reach - beyondPin;
        high = crossing + reach + beyondPin;
        out = probeShelf;
    }
    const Vec2 zero = lies(low, -out);
    const Vec2 far = lies(high, face.blank.width + out);
    const Vec2 size = far - zero;
    Panel board;
    board.id = id;
    board.wood = "plywood";
    board.outline = shapeOutline(boxShape((zero + far) * 0.5, size.x, size.y, 0));
    board.outlined = false;
    board.bottom = -thickness;
    if (face.fromBridge) {
        board.told = *face.fromBridge;
    }
    const double deep = std::min(deepestPin + drillPoint * held.pinSize, thickness - underPin);
    const auto hole = [&](const char* what, Vec2 at) {
        board.holes.push_back({what, at, held.pinSize, 0, -deep, false, false});
    };
    for (const RegisterPin& pin : held.pins) {
        hole("pin", pin.at);
        if (held.pitch > 0) { // where that hole lies once the blank has slid
            const Vec3 on = face.fromInstrument.toSetup({pin.at.x, pin.at.y, 0});
            hole("pin", lies(on.x - held.pitch, on.y));
        }
    }
    if (held.pitch == 0) { // else the first pin is the zero
        hole("zero hole", lies(zeroHoleInset, zeroHoleInset));
    }
    return board;
}

void zeroOnFixture(Held& held, const TurnHold& hold) {
    if (held.pins.empty() || held.pitch > 0 || !hold.zeroX || !hold.zeroY) {
        return;
    }
    const Vec2 corner = Vec2{*hold.zeroX, *hold.zeroY} - Vec2{zeroHoleInset, zeroHoleInset};
    held.face.zeroOnMachine = corner;
    if (held.back) {
        held.back->zeroOnMachine = corner;
    }
}

void judgeFixture(Findings& out, PartId part, const std::string& name, const TurnHold& hold) {
    if (!hold.fixtureMoved) {
        return;
    }
    sayOf(part, out, Weight::stop, "fixture-moved",
          hold.zeroX && hold.zeroY
              ? fmt::format("The fixture board under the {} was moved after its zero hole was "
                            "found at machine X {:.2f} Y {:.2f}: it must be found again before "
                            "anything is cut on it.",
                            name, *hold.zeroX, *hold.zeroY)
              : fmt::format("The fixture board under the {} was moved off the engraved lines: its "
                            "zero hole must be found before anything is cut on it.",
                            name),
          1, 0);
}

} // namespace wren
