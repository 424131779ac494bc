#include "hold/turn_hold.h"

#include <cmath>
#include <numbers>

namespace wren {

std::vector<RegisterPin> registerPins(const TurnHold& hold, Vec2 middle, double length) {
    if (hold.by != Register::pins) {
        return {};
    }
    const double low = middle.x - length / 2;
    const double high = middle.x + length / 2;
    if (hold.turn == TurnOver::sideForSide) {
        // On the turning line, at unequal distances from the ends.
        return {{{low + hold.pinInset, middle.y}},
                {{high - hold.pinInset - hold.pinUneven, middle.y}}};
    }
    // Alike on both sides of the turning line, off the middle along it.
    const double off = middle.y + hold.pinUneven;
    return {{{low + hold.pinInset, off}}, {{high - hold.pinInset, off}}};
}

std::vector<RegisterMark> registerMarks(const Blank& blank, const char* low, const char* high) {
    const double x = blank.length / 2;
    const double y = blank.width / 2;
    return {{std::string("middle of the ") + low, 0, y},
            {std::string("middle of the ") + high, blank.length, y},
            {"middle of the front edge", x, 0},
            {"middle of the back edge", x, blank.width}};
}

double errorBy(Register by, const TurnHold& hold, double thickness) {
    if (by == Register::pins) {
        return hold.pinKind == PinKind::reamed ? reamedError : dowelError;
    }
    return pencilError + std::tan(std::abs(hold.edgeSquare) * std::numbers::pi / 180) * thickness;
}

Vec2 witnessCorrection(const TurnHold& hold) {
    // Half of what the notches show: a crossing missed by e puts the sides 2 e apart.
    return Vec2{hold.witnessX, hold.witnessY} * -0.5;
}

SetupFromInstrument turnedOver(const TurnHold& hold, const Blank& blank, Vec2 at, double z) {
    const bool side = hold.turn == TurnOver::sideForSide;
    const Vec2 moved = witnessCorrection(hold);
    const Vec3 origin{blank.length / 2 + (side ? -at.x : at.x) + moved.x,
                      blank.width / 2 + (side ? at.y : -at.y) + moved.y, z};
    return side ? SetupFromInstrument::turnedAboutX(origin)
                : SetupFromInstrument::turnedAboutY(origin);
}

} // namespace wren
