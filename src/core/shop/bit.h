#pragma once

#include <string>
#include <vector>

namespace wren {

enum class BitKind { flat, ball, fretSlot };

const char* bitKindName(BitKind kind);            ///< "flat", "ball", "fret-slot"
BitKind bitKindFromName(const std::string& name); ///< throws Error naming the known kinds

/// A cutter as it sits in the drawer. Lengths in mm.
struct Bit {
    std::string name;
    BitKind kind = BitKind::flat;
    double diameter = 6;
    double fluteLength = 22; ///< how deep it may go below the wood around it
    int flutes = 2;
    double shank = 6; ///< diameter above the flutes

    double radius() const { return diameter / 2; }
    /// How far the tip stands below the full diameter: what a through cut has to add.
    double tipHeight() const { return kind == BitKind::ball ? radius() : 0; }

    friend bool operator==(const Bit&, const Bit&) = default;
};

using Drawer = std::vector<Bit>;

/// The bit of that name, or nullptr.
const Bit* findBit(const Drawer& drawer, const std::string& name);

} // namespace wren
