#include "hold/fixture_board.h"

#include "design/shape.h"

#include <algorithm>

namespace wren {

Panel fixtureBoard(PartId id, const Held& held, double thickness) {
    const Setup& face = held.face;
    const auto lies = [&](double x, double y) {
        return face.fromInstrument.toInstrument({x, y, 0}).xy();
    };
    const Vec2 zero = lies(0, 0);
    const Vec2 far = lies(face.blank.length, face.blank.width);
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
    }
    hole("zero hole", lies(zeroHoleInset, zeroHoleInset));
    return board;
}

} // namespace wren
