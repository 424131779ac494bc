#pragma once

#include "design/body.h"

#include <string>
#include <vector>

namespace wren {

/// Words, or a shape's outline, drawn into a face; places from the bridge line, mm.
struct Engraving {
    bool fromBack = false;
    double depth = 0.5;           ///< below the face
    std::string words;            ///< empty: a shape
    Vec2 middle;                  ///< of the words
    double height = 8;            ///< of a capital
    double turn = 0;              ///< degrees, counter-clockwise as one reads them; 0: along the
                                  ///< strings, the nut at the left
    std::vector<ShapeNode> nodes; ///< of the shape

    friend bool operator==(const Engraving&, const Engraving&) = default;
};

/// Reads "back words X Y HEIGHT TURN DEPTH: Fell No. 3; front shape DEPTH: nodes". Throws Error
/// with the entry that cannot be read.
std::vector<Engraving> engravingList(const std::string& text);
std::string engravingText(const std::vector<Engraving>& engravings);

/// Throws Error also for words and shapes that cannot be drawn.
void checkEngravings(const std::string& text);

/// The lines in the body's frame. A left-handed body has shapes and places mirrored; words never
/// are, from whichever face they are read. Throws Error like lettering() and shapeOutline().
std::vector<Contour> engravedLines(const Engraving& engraving, const BodyPlace& place);

} // namespace wren
