#pragma once

#include "job/derive.h"

#include <string>
#include <vector>

namespace wren {

/// Something that has to be in hand.
struct Wanted {
    std::string what;
    int count = 1;
    std::string size;   ///< mm, in words
    std::string before; ///< the cut whose sizes depend on it, measured in hand
    Role part = Role::board; ///< whose cut that is
};

/// Fittings, wire and pins the instrument needs, from its design.
std::vector<Wanted> hardwareList(const Derived& derived);
/// The same as comma-separated values (RFC 4180): what,count,size,measure before.
std::string hardwareCsv(const Derived& derived);

/// A piece of wood as it has to be before it is laid on the machine, mm.
struct WoodPiece {
    std::string piece;
    std::string wood;
    double length = 0;
    double width = 0;
    double thickness = 0;
    int strips = 1;           ///< glued up side by side from so many
    bool bookmatched = false; ///< these are leaves of one board, opened like a book
};

/// Every piece that is cut, in the order they are made.
std::vector<WoodPiece> woodList(const Derived& derived);
/// piece,wood,length_mm,width_mm,thickness_mm,strips.
std::string woodCsv(const Derived& derived);

/// Every part that can be made, the wanted ones in the order they are made, then what this project
/// does not ask for: role,name,wanted.
std::string partsCsv(const Derived& derived);

} // namespace wren
