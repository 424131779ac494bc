#include "exchange/lowered_top.h"

#include <algorithm>
#include <cmath>

#include <BRepAdaptor_Curve.hxx>
#include <BRepLib.hxx>
#include <BRepTools_Modification.hxx>
#include <BRepTools_Modifier.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <Standard_Failure.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <TopExp.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

constexpr double beyond = 2;      ///< mm the surface reaches past the box
constexpr double step = 2;        ///< mm between the heights it goes through
constexpr double alongEdge = 0.5; ///< mm between those an edge's curve goes through
constexpr double level = 1e-6;

/// The surface over plan coordinates: its parameters are X and Y themselves.
Handle(Geom_BSplineSurface)
    sheetOver(std::array<Vec2, 2> box, double z, const std::function<double(Vec2)>& drop) {
    const Vec2 low = box[0] - Vec2{beyond, beyond};
    const Vec2 size = box[1] - box[0] + Vec2{2 * beyond, 2 * beyond};
    const int nx = static_cast<int>(std::ceil(size.x / step)) + 1;
    const int ny = static_cast<int>(std::ceil(size.y / step)) + 1;
    const Vec2 pace{size.x / (nx - 1), size.y / (ny - 1)};
    TColStd_Array2OfReal heights(1, nx, 1, ny);
    tbb::parallel_for(0, nx, [&](int i) {
        for (int j = 0; j < ny; ++j) {
            heights.SetValue(i + 1, j + 1, z - drop(low + Vec2{i * pace.x, j * pace.y}));
        }
    });
    GeomAPI_PointsToBSplineSurface through;
    through.Interpolate(heights, low.x, pace.x, low.y, pace.y);
    Handle(Geom_BSplineSurface) sheet = through.Surface();
    // Knots from 0 to 1, or whatever the library took, become millimetres.
    const auto laid = [](double from, double to, const TColStd_Array1OfReal& knots) {
        TColStd_Array1OfReal out(knots.Lower(), knots.Upper());
        const double first = knots.First();
        const double last = knots.Last();
        for (int i = knots.Lower(); i <= knots.Upper(); ++i) {
            out.SetValue(i, from + (to - from) * (knots.Value(i) - first) / (last - first));
        }
        return out;
    };
    sheet->SetUKnots(laid(low.x, low.x + size.x, sheet->UKnots()));
    sheet->SetVKnots(laid(low.y, low.y + size.y, sheet->VKnots()));
    return sheet;
}

/// Puts every face, edge and corner of the level top onto the sheet.
class Lowering : public BRepTools_Modification {
public:
    Lowering(Handle(Geom_BSplineSurface) sheet, double z) : sheet_(std::move(sheet)), z_(z) {}

    Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface,
                                TopLoc_Location& place, Standard_Real& tolerance,
                                Standard_Boolean& turnsWires,
                                Standard_Boolean& turnsFace) override {
        if (!isTop(face)) {
            return false;
        }
        surface = sheet_;
        place = TopLoc_Location();
        tolerance = closeness;
        // A plane that looks down becomes a sheet that looks up.
        const gp_Pln plane = Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(face))->Pln();
        turnsFace = (plane.Axis().Direction().Z() < 0) == plane.Direct();
        turnsWires = turnsFace;
        return true;
    }

    Standard_Boolean NewCurve(const TopoDS_Edge& edge, Handle(Geom_Curve) & curve,
                              TopLoc_Location& place, Standard_Real& tolerance) override {
        if (!isTop(edge)) {
            return false;
        }
        const Samples s = samplesOf(edge);
        Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, s.count());
        for (int i = 1; i <= s.count(); ++i) {
            points->SetValue(i, s.lowered[std::size_t(i - 1)]);
        }
        GeomAPI_Interpolate through(points, s.parameters, false, 1e-9);
        through.Perform();
        curve = through.Curve();
        place = TopLoc_Location();
        tolerance = closeness;
        return true;
    }

    Standard_Boolean NewPoint(const TopoDS_Vertex& vertex, gp_Pnt& point,
                              Standard_Real& tolerance) override {
        const gp_Pnt p = BRep_Tool::Pnt(vertex);
        if (std::abs(p.Z() - z_) > level) {
            return false;
        }
        point = onSheet(p);
        tolerance = closeness;
        return true;
    }

    Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face,
                                const TopoDS_Edge&, const TopoDS_Face&,
                                Handle(Geom2d_Curve) & curve, Standard_Real& tolerance) override {
        if (!isTop(edge)) {
            return false;
        }
        const Samples s = samplesOf(edge);
        Handle(TColgp_HArray1OfPnt2d) points = new TColgp_HArray1OfPnt2d(1, s.count());
        const bool top = isTop(face);
        const GeomAdaptor_Surface wall(BRep_Tool::Surface(face));
        double last = 0;
        for (int i = 1; i <= s.count(); ++i) {
            const gp_Pnt& p = s.lowered[std::size_t(i - 1)];
            double u = p.X();
            double v = p.Y();
            if (!top && wall.GetType() == GeomAbs_Plane) {
                ElSLib::Parameters(wall.Plane(), p, u, v);
            } else if (!top && wall.GetType() == GeomAbs_Cylinder) {
                ElSLib::Parameters(wall.Cylinder(), p, u, v);
                u = nearTo(i == 1 ? startOn(edge, face, u) : last, u);
                last = u;
            } else if (!top) {
                throw Standard_Failure("a wall under the arch is neither plane nor cylinder");
            }
            points->SetValue(i, gp_Pnt2d(u, v));
        }
        Geom2dAPI_Interpolate through(points, s.parameters, false, 1e-9);
        through.Perform();
        curve = through.Curve();
        tolerance = closeness;
        return true;
    }

    Standard_Boolean NewParameter(const TopoDS_Vertex& vertex, const TopoDS_Edge& edge,
                                  Standard_Real& parameter, Standard_Real& tolerance) override {
        const gp_Pnt p = BRep_Tool::Pnt(vertex);
        if (std::abs(p.Z() - z_) > level || isTop(edge)) {
            return false;
        }
        // An upright edge: it is a line, and ends so much lower.
        const BRepAdaptor_Curve line(edge);
        const gp_Vec way = line.DN(line.FirstParameter(), 1);
        parameter = BRep_Tool::Parameter(vertex, edge) + (onSheet(p).Z() - p.Z()) / way.Z();
        tolerance = closeness;
        return true;
    }

    GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& one,
                             const TopoDS_Face& other, const TopoDS_Edge&, const TopoDS_Face&,
                             const TopoDS_Face&) override {
        return BRep_Tool::Continuity(edge, one, other);
    }

private:
    static constexpr double closeness = 1e-4; ///< mm

    struct Samples {
        Handle(TColStd_HArray1OfReal) parameters;
        std::vector<gp_Pnt> lowered;
        int count() const { return static_cast<int>(lowered.size()); }
    };

    gp_Pnt onSheet(const gp_Pnt& p) const { return sheet_->Value(p.X(), p.Y()); }

    bool isTop(const TopoDS_Face& face) const {
        const Handle(Geom_Plane) plane = Handle(Geom_Plane)::DownCast(BRep_Tool::Surface(face));
        return !plane.IsNull() && std::abs(std::abs(plane->Axis().Direction().Z()) - 1) < 1e-9 &&
               std::abs(plane->Location().Z() - z_) < level;
    }

    bool isTop(const TopoDS_Edge& edge) const {
        const BRepAdaptor_Curve c(edge);
        for (double share : {0.0, 0.37, 1.0}) {
            const double t = c.FirstParameter() + share * (c.LastParameter() - c.FirstParameter());
            if (std::abs(c.Value(t).Z() - z_) > level) {
                return false;
            }
        }
        return true;
    }

    Samples samplesOf(const TopoDS_Edge& edge) const {
        const BRepAdaptor_Curve c(edge);
        const double a = c.FirstParameter();
        const double b = c.LastParameter();
        double length = 0;
        for (int i = 0; i < 8; ++i) {
            length += c.Value(a + (b - a) * i / 8).Distance(c.Value(a + (b - a) * (i + 1) / 8));
        }
        const int n = std::max(4, static_cast<int>(std::ceil(length / alongEdge)));
        Samples s{new TColStd_HArray1OfReal(1, n + 1), {}};
        for (int i = 0; i <= n; ++i) {
            const double t = a + (b - a) * i / n;
            s.parameters->SetValue(i + 1, t);
            s.lowered.push_back(onSheet(c.Value(t)));
        }
        return s;
    }

    /// The angle on a cylinder nearest to another, by whole turns.
    static double nearTo(double wanted, double u) {
        constexpr double turn = 2 * M_PI;
        return u + turn * std::round((wanted - u) / turn);
    }
    /// Where the edge's old curve on the face began.
    static double startOn(const TopoDS_Edge& edge, const TopoDS_Face& face, double otherwise) {
        double first = 0;
        double last = 0;
        const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(edge, face, first, last);
        return old.IsNull() ? otherwise : old->Value(first).X();
    }

    Handle(Geom_BSplineSurface) sheet_;
    double z_;
};

} // namespace

TopoDS_Shape withLoweredTop(const TopoDS_Shape& solid, double z, std::array<Vec2, 2> box,
                            const std::function<double(Vec2)>& drop) {
    BRepTools_Modifier modifier(solid, new Lowering(sheetOver(box, z, drop), z));
    if (!modifier.IsDone()) {
        throw Standard_Failure("the top cannot be lowered");
    }
    TopoDS_Shape out = modifier.ModifiedShape(solid);
    BRepLib::SameParameter(out, 1e-5, true);
    return out;
}

} // namespace wren
