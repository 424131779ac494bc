#pragma once

#include "shop/wood.h"

#include <optional>
#include <string>

namespace wren {

/// The piece of wood as measured, mm.
struct Blank {
    double length = 500;
    double width = 75;
    double thickness = 7;
    std::string wood = "rosewood"; ///< a Wood's id
    int boards = 1;                ///< cut from it, lying the same way
    double gap = 14;               ///< between neighbouring boards
    double line = 0; ///< it lies on an engraved line so far behind the long one
    std::optional<Wood> own{};     ///< what `wood` means where it is the maker's own

    /// Throws Error where it is neither known nor the maker's own.
    const Wood& species() const { return own ? *own : woodById(wood); }

    friend bool operator==(const Blank&, const Blank&) = default;
};

/// A piece of the same wood that test slots are cut in, mm.
struct Offcut {
    double length = 90;
    double width = 50;
    double thickness = 10;

    friend bool operator==(const Offcut&, const Offcut&) = default;
};

} // namespace wren
