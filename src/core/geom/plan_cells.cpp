#include "geom/plan_cells.h"

#include "base/error.h"
#include "geom/geos_context.h"

#include <algorithm>
#include <map>

namespace wren {
namespace {

GeosGeometry asked(GEOSGeometry* answer) {
    if (!answer) {
        throw Error("The pieces between a part's lines could not be laid out in triangles.");
    }
    return GeosGeometry(answer);
}

GEOSGeometry* lineOf(const std::vector<Vec2>& closed) {
    const auto n = static_cast<unsigned>(closed.size());
    GEOSCoordSequence* points = GEOSCoordSeq_create_r(geosContext(), n + 1, 2);
    for (unsigned i = 0; i <= n; ++i) {
        GEOSCoordSeq_setXY_r(geosContext(), points, i, closed[i % n].x, closed[i % n].y);
    }
    return GEOSGeom_createLineString_r(geosContext(), points);
}

/// All lines cut where they meet, each stretch once.
GeosGeometry noded(const std::vector<std::vector<Vec2>>& lines, double grain) {
    std::vector<GEOSGeometry*> all;
    for (const std::vector<Vec2>& line : lines) {
        if (line.size() > 2) {
            all.push_back(lineOf(line));
        }
    }
    const GeosGeometry together = asked(GEOSGeom_createCollection_r(
        geosContext(), GEOS_MULTILINESTRING, all.data(), static_cast<unsigned>(all.size())));
    return asked(GEOSUnaryUnionPrec_r(geosContext(), together.get(), grain));
}

class Collector {
public:
    void add(const GEOSGeometry* polygon) {
        const GeosGeometry triangles =
            asked(GEOSConstrainedDelaunayTriangulation_r(geosContext(), polygon));
        PlanCell cell;
        double largest = 0;
        for (int i = 0; i < GEOSGetNumGeometries_r(geosContext(), triangles.get()); ++i) {
            const std::array<int, 3> t =
                cornersOf(GEOSGetGeometryN_r(geosContext(), triangles.get(), i));
            const auto at = [&](std::size_t k) {
                return out_.corners[static_cast<std::size_t>(t[k])];
            };
            const double area = cross(at(1) - at(0), at(2) - at(0));
            cell.triangles.push_back(area > 0 ? t : std::array<int, 3>{t[0], t[2], t[1]});
            if (std::abs(area) > largest) {
                largest = std::abs(area);
                cell.within = (at(0) + at(1) + at(2)) * (1.0 / 3);
            }
        }
        out_.cells.push_back(std::move(cell));
    }
    PlanCells take() { return std::move(out_); }

private:
    std::array<int, 3> cornersOf(const GEOSGeometry* triangle) {
        const GEOSCoordSequence* points =
            GEOSGeom_getCoordSeq_r(geosContext(), GEOSGetExteriorRing_r(geosContext(), triangle));
        std::array<int, 3> t{};
        for (unsigned i = 0; i < 3; ++i) {
            Vec2 p;
            GEOSCoordSeq_getXY_r(geosContext(), points, i, &p.x, &p.y);
            const auto [it, isNew] =
                known_.try_emplace({p.x, p.y}, static_cast<int>(out_.corners.size()));
            if (isNew) {
                out_.corners.push_back(p);
            }
            t[i] = it->second;
        }
        return t;
    }

    PlanCells out_;
    std::map<std::pair<double, double>, int> known_;
};

} // namespace

PlanCells cellsBetween(const std::vector<std::vector<Vec2>>& lines, double grain) {
    const GeosGeometry stretches = noded(lines, grain);
    const GEOSGeometry* const list = stretches.get();
    const GeosGeometry polygons = asked(GEOSPolygonize_r(geosContext(), &list, 1));
    Collector cells;
    for (int i = 0; i < GEOSGetNumGeometries_r(geosContext(), polygons.get()); ++i) {
        cells.add(GEOSGetGeometryN_r(geosContext(), polygons.get(), i));
    }
    return cells.take();
}

} // namespace wren
