#pragma once

#include "geom/contour.h"

#include <array>
#include <string>
#include <vector>

namespace wren {

/// A line of a drawing: pieces end to end, on a named layer.
struct DrawnLine {
    std::string layer;
    Contour pieces;
    bool closed = false;
};

/// Words of a drawing, their lower left corner at `at`.
struct DrawnText {
    std::string layer;
    Vec2 at;
    double height = 2.5; ///< of a capital, mm
    std::string text;
};

/// A plane drawing at full size: mm, X to the right, Y upward, in whatever frame its maker says.
struct Drawing {
    std::string title;
    std::vector<DrawnLine> lines;
    std::vector<DrawnText> texts;

    void line(const std::string& layer, Vec2 from, Vec2 to);
    void text(const std::string& layer, Vec2 at, double height, std::string words);

    /// Low and high corner of all lines; texts are not part of it.
    std::array<Vec2, 2> box() const;
    std::vector<std::string> layers() const; ///< in order of first use
};

/// Centre and radius when the line is a whole circle made of arcs about one centre.
struct WholeCircle {
    Vec2 centre;
    double radius = 0;
};
bool isWholeCircle(const DrawnLine& line, WholeCircle& circle);

} // namespace wren
