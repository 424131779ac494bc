#include "shop/bit.h"

#include "base/error.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

const char* bitKindName(BitKind kind) {
    switch (kind) {
    case BitKind::flat:
        return "flat";
    case BitKind::ball:
        return "ball";
    case BitKind::fretSlot:
        return "fret-slot";
    }
    return "flat";
}

BitKind bitKindFromName(const std::string& name) {
    for (BitKind kind : {BitKind::flat, BitKind::ball, BitKind::fretSlot}) {
        if (name == bitKindName(kind)) {
            return kind;
        }
    }
    throw Error(
        fmt::format("\"{}\" is not a kind of bit; flat, ball or fret-slot was expected.", name));
}

const Bit* findBit(const Drawer& drawer, const std::string& name) {
    const auto it = std::find_if(drawer.begin(), drawer.end(),
                                 [&](const Bit& bit) { return bit.name == name; });
    return it == drawer.end() ? nullptr : &*it;
}

} // namespace wren
