#pragma once

#include <string>

namespace wren {

/// The piece of wood as measured, mm.
struct Blank {
    double length = 500;
    double width = 75;
    double thickness = 7;
    std::string wood = "rosewood"; ///< a Wood's id

    friend bool operator==(const Blank&, const Blank&) = default;
};

} // namespace wren
