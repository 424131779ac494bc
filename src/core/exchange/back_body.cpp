#include "exchange/back_body.h"

#include "base/error.h"

#include <array>

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <GeomFill.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Pln.hxx>

namespace wren {
namespace {

/// A curve laid flat onto the glue plane.
Handle(Geom_BSplineCurve) onGluePlane(const Handle(Geom_BSplineCurve) & curve) {
    Handle(Geom_BSplineCurve) flat = Handle(Geom_BSplineCurve)::DownCast(curve->Copy());
    for (int i = 1; i <= flat->NbPoles(); ++i) {
        const gp_Pnt p = flat->Pole(i);
        flat->SetPole(i, gp_Pnt(p.X(), p.Y(), 0));
    }
    return flat;
}

Handle(Geom_BSplineCurve) curveOf(const Handle(Geom_Curve) & curve) {
    return Handle(Geom_BSplineCurve)::DownCast(curve);
}

TopoDS_Edge edgeOn(const Handle(Geom_Curve) & curve) {
    return BRepBuilderAPI_MakeEdge(curve).Edge();
}

TopoDS_Edge edgeBetween(const gp_Pnt& a, const gp_Pnt& b) {
    return BRepBuilderAPI_MakeEdge(a, b).Edge();
}

/// The face closed by a curve's ends, carried straight up to the glue plane.
TopoDS_Face endFace(const Handle(Geom_BSplineCurve) & section) {
    const gp_Pnt a = section->StartPoint();
    const gp_Pnt b = section->EndPoint();
    const gp_Pnt a0(a.X(), a.Y(), 0);
    const gp_Pnt b0(b.X(), b.Y(), 0);
    BRepBuilderAPI_MakeWire wire;
    wire.Add(edgeOn(section));
    wire.Add(edgeBetween(b, b0));
    wire.Add(edgeBetween(b0, a0));
    wire.Add(edgeBetween(a0, a));
    return BRepBuilderAPI_MakeFace(gp_Pln(a, gp_Dir(1, 0, 0)), wire.Wire()).Face();
}

} // namespace

TopoDS_Shape bodyUpFrom(const std::vector<Handle(Geom_BSplineSurface)>& backs) {
    BRepBuilderAPI_Sewing sewing(1e-3);
    for (std::size_t i = 0; i < backs.size(); ++i) {
        const Handle(Geom_BSplineSurface)& surface = backs[i];
        sewing.Add(BRepBuilderAPI_MakeFace(surface, 1e-6).Face());
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        surface->Bounds(u0, u1, v0, v1);
        std::array<Handle(Geom_BSplineCurve), 2> tops;
        for (std::size_t side : {std::size_t{0}, std::size_t{1}}) {
            const Handle(Geom_BSplineCurve) edge = curveOf(surface->VIso(side == 0 ? v0 : v1));
            tops[side] = onGluePlane(edge);
            sewing.Add(BRepBuilderAPI_MakeFace(GeomFill::Surface(edge, tops[side]), 1e-6).Face());
        }
        BRepBuilderAPI_MakeWire rim;
        rim.Add(edgeOn(tops[0]));
        rim.Add(edgeBetween(tops[0]->EndPoint(), tops[1]->EndPoint()));
        rim.Add(edgeOn(tops[1]));
        rim.Add(edgeBetween(tops[1]->StartPoint(), tops[0]->StartPoint()));
        sewing.Add(
            BRepBuilderAPI_MakeFace(gp_Pln(gp_Pnt(0, 0, 0), gp_Dir(0, 0, 1)), rim.Wire()).Face());
        if (i == 0) {
            sewing.Add(endFace(curveOf(surface->UIso(u0))));
        }
        if (i + 1 == backs.size()) {
            sewing.Add(endFace(curveOf(surface->UIso(u1))));
        }
    }
    sewing.Perform();
    TopExp_Explorer shell(sewing.SewedShape(), TopAbs_SHELL);
    if (!shell.More() || sewing.NbFreeEdges() > 0) {
        throw Error("No solid comes of this neck: its back does not close with its outline.");
    }
    TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Current())).Solid();
    BRepLib::OrientClosedSolid(solid);
    return solid;
}

TopoDS_Shape troughBody(const Trough& trough) {
    constexpr double past = 1;  // mm: no end lies on the board's own
    constexpr double along = 4; // mm between sections
    constexpr int across = 48;  // steps of section angle
    const double from = trough.from() - past;
    const double whole = trough.to() + past - from;
    const int n = std::max(8, int(whole / along));
    TColgp_Array2OfPnt points(1, n + 1, 1, across + 1);
    for (int i = 0; i <= n; ++i) {
        for (int k = 0; k <= across; ++k) {
            const Vec3 p = trough.backAt(from + whole * i / n, 2.0 * k / across - 1);
            points.SetValue(i + 1, k + 1, gp_Pnt(p.x, p.y, p.z));
        }
    }
    const GeomAPI_PointsToBSplineSurface fitted(points, 3, 8, GeomAbs_C2, 1e-3);
    return bodyUpFrom({fitted.Surface()});
}

} // namespace wren
