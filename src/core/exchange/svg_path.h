#pragma once

#include "exchange/drawing_in.h"

namespace wren {

/// x' = a x + c y + e, y' = b x + d y + f, as SVG writes a matrix.
struct Affine {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;

    Vec2 operator()(Vec2 p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    Affine operator*(const Affine& o) const;
    /// Whether circles stay circles.
    bool similar() const;
    bool mirrors() const { return a * d - b * c < 0; }
};
/// "translate(3 4) rotate(30)". Throws Error naming the source.
Affine transformOf(const std::string& text, const std::string& source);

/// Strings lines, arcs and curves together as SVG's paths do (SVG 1.1, 8.3), laid by a matrix;
/// curves become points within 0.002 of them, arcs of a circle stay arcs.
class SvgPath {
public:
    explicit SvgPath(const Affine& affine) : affine_(affine) {}

    void moveTo(Vec2 p);
    void lineTo(Vec2 p);
    void curveTo(Vec2 c1, Vec2 c2, Vec2 p);
    void arcTo(double rx, double ry, double turn, bool large, bool sweep, Vec2 p);
    void close();
    /// The d attribute of a path. Throws Error naming the source and what was not understood.
    void data(const std::string& d, const std::string& source);
    std::vector<DrawnLine> take();

private:
    void endLine(bool closed);

    Affine affine_;
    Vec2 at_, start_;
    Contour now_;
    std::vector<DrawnLine> out_;
};

/// The same as readSvg(), its colours as layers whatever its groups are called.
DrawingRead readSvgByColour(const std::string& text, const std::string& source);

} // namespace wren
