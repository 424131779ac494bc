#include "shop/starter.h"

namespace wren {

Drawer starterDrawer() {
    return {
        {"slot-0.58", BitKind::fretSlot, 0.58, 3.5, 2, 3.175},
        {"slot-0.55-long", BitKind::fretSlot, 0.55, 5.5, 2, 3.175},
        {"flat-3", BitKind::flat, 3, 12, 2, 3},
        {"flat-6", BitKind::flat, 6, 22, 2, 6},
        {"ball-6", BitKind::ball, 6, 22, 2, 6},
        {"ball-12", BitKind::ball, 12, 32, 2, 12},
    };
}

} // namespace wren
