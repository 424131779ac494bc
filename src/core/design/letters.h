#pragma once

#include "geom/contour.h"

#include <string>
#include <vector>

namespace wren {

/// Words as lines to draw them with, for engraving.
struct Lettering {
    std::vector<Contour> lines; ///< open, lines and arcs; X along the words, Y up from their foot
    double width = 0;
};

/// One line of words in capitals so high; small letters come out as small capitals, three quarters
/// as high. Throws Error naming a sign there is no drawing of.
Lettering lettering(const std::string& words, double height);

/// The signs that can be drawn, small letters apart.
const std::string& letterSigns();

} // namespace wren
