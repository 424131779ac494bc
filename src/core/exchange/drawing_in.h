#pragma once

#include "exchange/drawing.h"

#include <optional>
#include <string>
#include <vector>

namespace wren {

/// A drawing as it was read: lines and arcs as drawn, curves as points within 0.002 mm of them.
struct DrawingRead {
    std::string source;
    std::vector<DrawnLine> lines; ///< mm when the unit is known, else drawing units
    std::optional<double> unit;   ///< mm of a drawing unit, as the file says; none: it does not say
    std::vector<std::string> skipped; ///< what is not supported, "3 texts", in order of first sight
    std::vector<std::string> layers() const;
};

/// Reads DXF, SVG or the first page of a PDF, by the file's ending. Colours stand for layers where
/// a file has none: "#rrggbb". Throws Error naming the file, the place and what was expected.
DrawingRead readDrawing(const std::string& path);
DrawingRead readDxf(const std::string& text, const std::string& source);
DrawingRead readSvg(const std::string& text, const std::string& source);
DrawingRead readPdf(const std::string& bytes, const std::string& source);

/// What of a drawing is wanted, and how it becomes curves.
struct Tracing {
    std::string layer;          ///< empty: all
    std::optional<double> unit; ///< mm of a drawing unit, instead of what the file says
    double tolerance = 0.05;    ///< mm the curves may lie off the drawing's points
    double gap = 0.1;           ///< mm between ends that belong together
    bool acrossLayers = false;  ///< ends on different layers belong together too
};

/// The unit of a drawing two of whose places are known to lie `apart` mm from one another, in mm.
/// Throws Error when they are one place, or the unit would be out of all proportion.
double unitBetween(Vec2 a, Vec2 b, double apart);

struct TracedShape {
    std::string layer;
    Contour contour; ///< clockwise when closed; millimetres, Y upward
    bool closed = false;
    double deviation = 0; ///< of the drawing's points from it, mm
};

/// Everything a drawing came to.
struct Traced {
    std::vector<TracedShape> shapes; ///< the largest first
    double deviation = 0;
    int joined = 0;  ///< gaps closed
    int doubled = 0; ///< pieces drawn twice, dropped
};

/// Joins ends, drops doubles, and turns strings of short lines back into lines, arcs, circles and
/// smooth curves. Throws Error: no unit known, no such layer, nothing on it.
Traced trace(const DrawingRead& drawing, const Tracing& tracing);

} // namespace wren
