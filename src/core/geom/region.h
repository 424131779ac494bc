#pragma once

#include "geom/vec.h"

#include <memory>
#include <vector>

namespace wren {

/// A closed polygon of a region's border: outer borders run counter-clockwise, holes clockwise, so
/// that the region lies on the left.
using Ring = std::vector<Vec2>;

/// A part of the plane bounded by polygons, mm; made and combined by GEOS. Offsets round their
/// corners with chords within about r/1000 of the arc. Values, cheap to copy.
class Region {
public:
    Region() = default; ///< nothing
    explicit Region(const Ring& outer);
    static Region unionOf(const std::vector<Ring>& outers);

    bool empty() const;
    double area() const;
    Region grownBy(double distance) const; ///< or shrunk, when negative
    Region operator+(const Region& other) const;
    Region operator-(const Region& other) const;
    Region operator&(const Region& other) const;
    bool covers(Vec2 from, Vec2 to) const; ///< the whole segment
    /// The same with runs of points within `tolerance` of a chord replaced by it.
    Region simplified(double tolerance) const;
    std::vector<Ring> rings() const;

private:
    struct Shape;
    explicit Region(std::shared_ptr<const Shape> shape) : shape_(std::move(shape)) {}
    std::shared_ptr<const Shape> shape_;
};

} // namespace wren
