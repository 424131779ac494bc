#include "geom/region.h"

#include "base/error.h"
#include "geom/geos_context.h"

#include <algorithm>

namespace wren {
namespace {

constexpr int quadrantChords = 24;
constexpr double densePitch = 1.5; ///< mm between points of a ring that is shrunk

GEOSGeometry* polygonOf(const Ring& ring) {
    const auto n = static_cast<unsigned>(ring.size());
    GEOSCoordSequence* points = GEOSCoordSeq_create_r(geosContext(), n + 1, 2);
    for (unsigned i = 0; i <= n; ++i) {
        GEOSCoordSeq_setXY_r(geosContext(), points, i, ring[i % n].x, ring[i % n].y);
    }
    return GEOSGeom_createPolygon_r(geosContext(),
                                    GEOSGeom_createLinearRing_r(geosContext(), points), nullptr, 0);
}

double twiceArea(const Ring& ring) {
    double sum = 0;
    for (std::size_t i = 0, j = ring.size() - 1; i < ring.size(); j = i++) {
        sum += cross(ring[j], ring[i]);
    }
    return sum;
}

Ring ringOf(const GEOSGeometry* line, bool counter) {
    const GEOSCoordSequence* points = GEOSGeom_getCoordSeq_r(geosContext(), line);
    unsigned n = 0;
    GEOSCoordSeq_getSize_r(geosContext(), points, &n);
    Ring ring;
    for (unsigned i = 0; i + 1 < n; ++i) {
        Vec2 p;
        GEOSCoordSeq_getXY_r(geosContext(), points, i, &p.x, &p.y);
        ring.push_back(p);
    }
    if ((twiceArea(ring) > 0) != counter) {
        std::reverse(ring.begin(), ring.end());
    }
    return ring;
}

} // namespace

struct Region::Shape {
    GEOSGeometry* geometry;
    explicit Shape(GEOSGeometry* g) : geometry(g) {
        if (!g) {
            throw Error("An outline could not be offset; it crosses itself.");
        }
    }
    ~Shape() { GEOSGeom_destroy_r(geosContext(), geometry); }
    Shape(const Shape&) = delete;
    Shape& operator=(const Shape&) = delete;
};

Region::Region(const Ring& outer) {
    if (outer.size() >= 3) {
        // Buffering by nothing mends what touches itself.
        const Shape raw(polygonOf(outer));
        shape_ =
            std::make_shared<Shape>(GEOSBuffer_r(geosContext(), raw.geometry, 0, quadrantChords));
    }
}

Region Region::unionOf(const std::vector<Ring>& outers) {
    std::vector<GEOSGeometry*> some;
    for (const Ring& r : outers) {
        if (r.size() >= 3) {
            some.push_back(polygonOf(r));
        }
    }
    if (some.empty()) {
        return {};
    }
    const Shape all(GEOSGeom_createCollection_r(geosContext(), GEOS_MULTIPOLYGON, some.data(),
                                                static_cast<unsigned>(some.size())));
    return Region(std::make_shared<Shape>(GEOSUnaryUnion_r(geosContext(), all.geometry)));
}

bool Region::empty() const {
    return !shape_ || GEOSisEmpty_r(geosContext(), shape_->geometry) == 1;
}

double Region::area() const {
    double a = 0;
    if (shape_) {
        GEOSArea_r(geosContext(), shape_->geometry, &a);
    }
    return a;
}

Region Region::grownBy(double distance) const {
    if (shape_ && distance < 0) {
        // Rings of nine points or fewer are taken for turned inside out and dropped too soon (GEOS
        // 3.11), so more points are put on them.
        const Shape fine(GEOSDensify_r(geosContext(), shape_->geometry, densePitch));
        return Region(std::make_shared<Shape>(
            GEOSBuffer_r(geosContext(), fine.geometry, distance, quadrantChords)));
    }
    return shape_ ? Region(std::make_shared<Shape>(
                        GEOSBuffer_r(geosContext(), shape_->geometry, distance, quadrantChords)))
                  : Region();
}

Region Region::operator+(const Region& other) const {
    if (empty() || other.empty()) {
        return empty() ? other : *this;
    }
    return Region(std::make_shared<Shape>(
        GEOSUnion_r(geosContext(), shape_->geometry, other.shape_->geometry)));
}

Region Region::operator-(const Region& other) const {
    if (empty() || other.empty()) {
        return *this;
    }
    return Region(std::make_shared<Shape>(
        GEOSDifference_r(geosContext(), shape_->geometry, other.shape_->geometry)));
}

Region Region::operator&(const Region& other) const {
    if (empty() || other.empty()) {
        return {};
    }
    return Region(std::make_shared<Shape>(
        GEOSIntersection_r(geosContext(), shape_->geometry, other.shape_->geometry)));
}

bool Region::covers(Vec2 from, Vec2 to) const {
    if (empty()) {
        return false;
    }
    GEOSCoordSequence* points = GEOSCoordSeq_create_r(geosContext(), 2, 2);
    GEOSCoordSeq_setXY_r(geosContext(), points, 0, from.x, from.y);
    GEOSCoordSeq_setXY_r(geosContext(), points, 1, to.x, to.y);
    const Shape line(GEOSGeom_createLineString_r(geosContext(), points));
    return GEOSCovers_r(geosContext(), shape_->geometry, line.geometry) == 1;
}

Region Region::simplified(double tolerance) const {
    return shape_ ? Region(std::make_shared<Shape>(
                        GEOSTopologyPreserveSimplify_r(geosContext(), shape_->geometry, tolerance)))
                  : Region();
}

std::vector<Ring> Region::rings() const {
    std::vector<Ring> out;
    if (empty()) {
        return out;
    }
    const int parts = GEOSGetNumGeometries_r(geosContext(), shape_->geometry);
    for (int i = 0; i < parts; ++i) {
        const GEOSGeometry* part = GEOSGetGeometryN_r(geosContext(), shape_->geometry, i);
        if (GEOSGeomTypeId_r(geosContext(), part) != GEOS_POLYGON) {
            continue;
        }
        out.push_back(ringOf(GEOSGetExteriorRing_r(geosContext(), part), true));
        const int holes = GEOSGetNumInteriorRings_r(geosContext(), part);
        for (int k = 0; k < holes; ++k) {
            out.push_back(ringOf(GEOSGetInteriorRingN_r(geosContext(), part, k), false));
        }
    }
    return out;
}

} // namespace wren
