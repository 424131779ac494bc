#include "exchange/fallen_face.h"

#include "exchange/shifted_faces.h"
#include "exchange/solid_tools.h"
#include "geom/inset.h"
#include "geom/voronoi.h"

#include <algorithm>
#include <cmath>

#include <BRepAlgoAPI_Splitter.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Standard_Failure.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TopLoc_Location.hxx>
#include <gp_Trsf.hxx>

namespace wren {
namespace {

TopoDS_Shape edgeThrough(const VoronoiCells::Border& places, double z) {
    const auto at = [&](Vec2 p) { return gp_Pnt(p.x, p.y, z); };
    if (places.size() == 2) {
        return BRepBuilderAPI_MakeEdge(at(places[0]), at(places[1])).Edge();
    }
    Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, int(places.size()));
    for (std::size_t i = 0; i < places.size(); ++i) {
        points->SetValue(int(i) + 1, at(places[i]));
    }
    GeomAPI_Interpolate through(points, false, 1e-9);
    through.Perform();
    return BRepBuilderAPI_MakeEdge(through.Curve()).Edge();
}

/// The level face parted where the outline's nearest side changes, and from where it stays level.
TopoDS_Shape partedByCells(const TopoDS_Shape& wood, const Contour& outline,
                           const VoronoiCells& cells, double reach, double z) {
    constexpr double fuzzy = 2e-5; // inset() is exact within half of it
    TopTools_ListOfShape edges;
    for (const VoronoiCells::Border& border : cells.borders()) {
        edges.Append(edgeThrough(border, z));
    }
    gp_Trsf up;
    up.SetTranslation(gp_Vec(0, 0, z));
    for (const Contour& ring : inset({counterClockwise(outline)}, reach)) {
        for (const ContourPiece& piece : joinedUp(ring)) {
            edges.Append(edgeOf(piece).Moved(TopLoc_Location(up)));
        }
    }
    const TopoDS_Shape parted = combined<BRepAlgoAPI_Splitter>(wood, edges, {}, fuzzy);
    if (parted.IsNull()) {
        throw Standard_Failure("an arched face cannot be parted along its crests");
    }
    return parted;
}

} // namespace

bool fallsLast(const FaceFall& fall) {
    return fall.edge().hasArch() || (fall.edge().hasEdge() && !fall.slopes().empty());
}

TopoDS_Shape withFallenFace(const TopoDS_Shape& wood, const Panel& panel, bool back) {
    const FaceFall& fall = panel.fall(back);
    const EdgeProfile edge = fall.edge().edgeAlone();
    const EdgeProfile arch = fall.edge().archAlone();
    const EdgeDistance distance(panel.outline, std::max(fall.edge().reach(), 0.1));
    const double level = back ? panel.bottom : panel.top;
    const double up = back ? 1 : -1;
    FaceShift shift;
    shift.belongs = [&](Vec3 p) {
        const double fallen = up * (p.z - level);
        const double in = distance.at({p.x, p.y});
        if (std::abs(fallen - edge.drop(in)) < 1e-3) {
            return true;
        }
        // Where it stands upright the way in says more than the height.
        return edge.hasEdge() && fallen > -1e-3 && fallen < edge.drop(0) + 1e-3 &&
               std::abs(edge.inTo(std::clamp(fallen, 0.0, edge.drop(0))) - in) < 1e-3;
    };
    shift.at = [&](Vec2 p) { return up * (arch.drop(distance.at(p)) + fall.slopeDrop(p)); };
    shift.about = [&](Vec2) { return SmoothShift{shift.at, {}}; };
    if (!arch.hasArch()) {
        return withShiftedFaces(wood, shift);
    }
    const Contour outline = joinedUp(counterClockwise(panel.outline));
    const VoronoiCells cells(outline, arch.reach());
    shift.about = [&](Vec2 within) -> SmoothShift {
        if (distance.at(within) >= arch.reach()) {
            return {[&](Vec2 p) { return up * fall.slopeDrop(p); }, {}};
        }
        const std::size_t cell = cells.cellAt(within);
        return {[&, cell](Vec2 p) {
                    return up * (arch.drop(cells.distance(cell, p)) + fall.slopeDrop(p));
                },
                cells.tipOf(cell)};
    };
    return withShiftedFaces(partedByCells(wood, outline, cells, arch.reach(), level), shift);
}

} // namespace wren
