#include "exchange/shifted_faces.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepLib.hxx>
#include <BRepTools.hxx>
#include <BRepTools_Modification.hxx>
#include <BRepTools_Modifier.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <Geom2dAPI_Interpolate.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAPI_Interpolate.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <IntTools_Context.hxx>
#include <NCollection_DataMap.hxx>
#include <Standard_Failure.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedMapOfShape.hxx>
#include <TopTools_ShapeMapHasher.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>

namespace wren {
namespace {

constexpr double alongEdge = 0.5; ///< mm between those an edge's curve comes to

Vec2 insideOf(const TopoDS_Face& face) {
    gp_Pnt p;
    gp_Pnt2d on;
    BOPTools_AlgoTools3D::PointInFace(face, p, on, new IntTools_Context);
    return {p.X(), p.Y()};
}

bool isLevel(const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face);
    return surface.GetType() == GeomAbs_Plane &&
           std::abs(surface.Plane().Axis().Direction().Z()) > 1 - 1e-9;
}

/// Whether a plane's second way lies on the right of its first, seen from above.
bool turnedOver(const TopoDS_Face& face) {
    gp_Pnt p;
    gp_Vec u, v;
    BRepAdaptor_Surface(face).D1(0, 0, p, u, v);
    return u.Crossed(v).Z() < 0;
}

FaceLayout mirrored(const FaceLayout& layout) {
    return {[place = layout.place](Vec2 s) {
                return place({-s.x, s.y});
            },
            [shares = layout.shares](Vec2 p) {
                const Vec2 s = shares(p);
                return Vec2{-s.x, s.y};
            }};
}

/// Puts the faces that belong, their edges and corners where they are shifted to.
class Shifting : public BRepTools_Modification {
public:
    Shifting(const TopoDS_Shape& solid, const FaceShift& shift)
        : shift_(shift.at), upright_(shift.upright) {
        for (TopExp_Explorer face(solid, TopAbs_FACE); face.More(); face.Next()) {
            const TopoDS_Face& f = TopoDS::Face(face.Current());
            if (!allBelong(f, shift.belongs)) {
                continue;
            }
            SmoothShift own = shift.about(insideOf(f));
            if (!isLevel(f)) {
                own.layout.reset(); // an edge made already has parameters that suit it
                own.tip.reset();
            } else if (own.layout && turnedOver(f)) {
                own.layout = mirrored(*own.layout);
            }
            surfaces_.Bind(f, shiftedSurface(f, own));
            if (own.layout) {
                layouts_.Bind(f, *own.layout);
            }
            TopExp::MapShapes(f, TopAbs_EDGE, edges_);
            TopExp::MapShapes(f, TopAbs_VERTEX, corners_);
        }
        if (surfaces_.IsEmpty()) {
            throw Standard_Failure("no face is there to be shifted");
        }
    }

    Standard_Boolean NewSurface(const TopoDS_Face& face, Handle(Geom_Surface) & surface,
                                TopLoc_Location& place, Standard_Real& tolerance,
                                Standard_Boolean& turnsWires,
                                Standard_Boolean& turnsFace) override {
        if (!surfaces_.IsBound(face)) {
            return false;
        }
        surface = surfaces_.Find(face);
        place = TopLoc_Location();
        tolerance = closeness;
        turnsFace = false;
        turnsWires = false;
        return true;
    }

    Standard_Boolean NewCurve(const TopoDS_Edge& edge, Handle(Geom_Curve) & curve,
                              TopLoc_Location& place, Standard_Real& tolerance) override {
        if (!edges_.Contains(edge) || BRep_Tool::Degenerated(edge)) {
            return false;
        }
        const Samples s = samplesOf(edge);
        Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, s.count());
        for (int i = 1; i <= s.count(); ++i) {
            points->SetValue(i, s.places[std::size_t(i - 1)]);
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
        if (!corners_.Contains(vertex)) {
            return false;
        }
        point = shifted(BRep_Tool::Pnt(vertex), shift_);
        tolerance = closeness;
        return true;
    }

    Standard_Boolean NewCurve2d(const TopoDS_Edge& edge, const TopoDS_Face& face,
                                const TopoDS_Edge&, const TopoDS_Face&,
                                Handle(Geom2d_Curve) & curve, Standard_Real& tolerance) override {
        if (!edges_.Contains(edge)) {
            return false;
        }
        tolerance = closeness;
        double first = 0;
        double last = 0;
        const Handle(Geom2d_Curve) old = BRep_Tool::CurveOnSurface(edge, face, first, last);
        const bool laidOut = layouts_.IsBound(face);
        if (surfaces_.IsBound(face) && !laidOut) {
            curve = old;
            return true;
        }
        const Samples s = samplesOf(edge);
        Handle(TColgp_HArray1OfPnt2d) points = new TColgp_HArray1OfPnt2d(1, s.count());
        const GeomAdaptor_Surface wall(BRep_Tool::Surface(face));
        double before = old.IsNull() ? 0 : old->Value(first).X();
        for (int i = 1; i <= s.count(); ++i) {
            const gp_Pnt& p = s.places[std::size_t(i - 1)];
            const Vec2 shares = laidOut ? layouts_.Find(face).shares({p.X(), p.Y()}) : Vec2{};
            const gp_Pnt2d on = laidOut ? gp_Pnt2d(shares.x, shares.y) : onWall(wall, p, before);
            points->SetValue(i, on);
            before = on.X();
        }
        Geom2dAPI_Interpolate through(points, s.parameters, false, 1e-9);
        through.Perform();
        curve = through.Curve();
        return true;
    }

    Standard_Boolean NewParameter(const TopoDS_Vertex& vertex, const TopoDS_Edge& edge,
                                  Standard_Real& parameter, Standard_Real& tolerance) override {
        if (!corners_.Contains(vertex) || edges_.Contains(edge)) {
            return false;
        }
        const BRepAdaptor_Curve line(edge);
        const gp_Vec way = line.DN(line.FirstParameter(), 1);
        if (line.GetType() != GeomAbs_Line || std::abs(way.Z()) < 0.999999 * way.Magnitude()) {
            throw Standard_Failure("a face to be shifted ends at more than upright walls");
        }
        const gp_Pnt p = BRep_Tool::Pnt(vertex);
        parameter = BRep_Tool::Parameter(vertex, edge) + shift_({p.X(), p.Y()}) / way.Z();
        tolerance = closeness;
        return true;
    }

    GeomAbs_Shape Continuity(const TopoDS_Edge& edge, const TopoDS_Face& one,
                             const TopoDS_Face& other, const TopoDS_Edge&, const TopoDS_Face&,
                             const TopoDS_Face&) override {
        return BRep_Tool::Continuity(edge, one, other);
    }

private:
    struct Samples {
        Handle(TColStd_HArray1OfReal) parameters;
        std::vector<gp_Pnt> places;
        int count() const { return static_cast<int>(places.size()); }
    };

    static bool allBelong(const TopoDS_Face& face, const std::function<bool(Vec3)>& belongs) {
        for (TopExp_Explorer edge(face, TopAbs_EDGE); edge.More(); edge.Next()) {
            const BRepAdaptor_Curve c(TopoDS::Edge(edge.Current()));
            for (double share : {0.0, 0.37, 0.71, 1.0}) {
                const double a = c.FirstParameter();
                const gp_Pnt p = c.Value(a + share * (c.LastParameter() - a));
                if (!belongs({p.X(), p.Y(), p.Z()})) {
                    return false;
                }
            }
        }
        return true;
    }

    /// A share of a way that begins or ends slowly: out of an upright end a height grows as the
    /// root of the way does.
    static double slowedAt(bool starts, bool ends, double share) {
        if (starts && ends) {
            return (1 - std::cos(M_PI * share)) / 2;
        }
        return starts ? share * share : ends ? 1 - (1 - share) * (1 - share) : share;
    }

    Samples samplesOf(const TopoDS_Edge& edge) const {
        const BRepAdaptor_Curve c(edge);
        const double a = c.FirstParameter();
        const double b = c.LastParameter();
        const double length = lengthOf([&](double t) { return c.Value(a + (b - a) * t); });
        const int n = 16 * std::max(1, static_cast<int>(std::ceil(length / alongEdge / 16)));
        const auto isUpright = [&](double share) {
            const gp_Pnt p = c.Value(a + (b - a) * share);
            return upright_({p.X(), p.Y()});
        };
        const bool level = isUpright(0.5); // along a rim it does not change
        const bool starts = !level && isUpright(0);
        const bool ends = !level && isUpright(1);
        std::vector<gp_Pnt> fine;
        for (int i = 0; i <= n; ++i) {
            const double t = a + (b - a) * slowedAt(starts, ends, double(i) / n);
            fine.push_back(shifted(c.Value(t), shift_));
        }
        int stride = 16;
        while (stride > 1 && !enough(fine, stride)) {
            stride /= 2;
        }
        Samples s{new TColStd_HArray1OfReal(1, n / stride + 1), {}};
        for (int i = 0; i <= n; i += stride) {
            s.parameters->SetValue(i / stride + 1, a + (b - a) * i / n);
            s.places.push_back(fine[static_cast<std::size_t>(i)]);
        }
        return s;
    }

    /// Whether a cubic through every so many of a row of places comes to those midway between them.
    static bool enough(const std::vector<gp_Pnt>& row, int stride) {
        constexpr double near = 2e-4; // mm
        const int last = static_cast<int>(row.size()) - 1;
        if (last % stride != 0 || last / stride < 8) {
            return false;
        }
        const auto at = [&](int i) { return row[static_cast<std::size_t>(i)].XYZ(); };
        for (int i = 0; i < last; i += stride) {
            // Through four of them: the two on either side, or at an end the nearest.
            const int first = std::clamp(i - stride, 0, last - 3 * stride);
            const gp_XYZ p = at(first), q = at(first + stride), r = at(first + 2 * stride),
                         s = at(first + 3 * stride);
            const gp_XYZ midway = first == i            ? p * 5 + q * 15 - r * 5 + s
                                  : first == i - stride ? q * 9 + r * 9 - p - s
                                                        : p - q * 5 + r * 15 + s * 5;
            if ((midway / 16 - at(i + stride / 2)).Modulus() > near) {
                return false;
            }
        }
        return true;
    }

    static gp_Pnt2d onWall(const GeomAdaptor_Surface& wall, const gp_Pnt& p, double before) {
        double u = 0;
        double v = 0;
        const bool upright = wall.GetType() == GeomAbs_Plane
                                 ? std::abs(wall.Plane().Axis().Direction().Z()) < 1e-6
                                 : wall.GetType() == GeomAbs_Cylinder &&
                                       std::abs(wall.Cylinder().Axis().Direction().Z()) > 1 - 1e-9;
        if (!upright) {
            throw Standard_Failure("a face to be shifted ends at more than upright walls");
        }
        if (wall.GetType() == GeomAbs_Plane) {
            ElSLib::Parameters(wall.Plane(), p, u, v);
        } else {
            ElSLib::Parameters(wall.Cylinder(), p, u, v);
            constexpr double turn = 2 * M_PI;
            u += turn * std::round((before - u) / turn);
        }
        return {u, v};
    }

    std::function<double(Vec2)> shift_;
    std::function<bool(Vec2)> upright_;
    NCollection_DataMap<TopoDS_Shape, Handle(Geom_BSplineSurface), TopTools_ShapeMapHasher>
        surfaces_;
    NCollection_DataMap<TopoDS_Shape, FaceLayout, TopTools_ShapeMapHasher> layouts_;
    TopTools_IndexedMapOfShape edges_, corners_;
};

} // namespace

TopoDS_Shape withShiftedFaces(const TopoDS_Shape& solid, const FaceShift& shift) {
    BRepTools_Modifier modifier(solid, new Shifting(solid, shift));
    if (!modifier.IsDone()) {
        throw Standard_Failure("the faces cannot be shifted");
    }
    TopoDS_Shape out = modifier.ModifiedShape(solid);
    // Edge by edge: asked of the whole shape the library also looks at faces, and fails at some.
    TopTools_IndexedMapOfShape before;
    TopTools_IndexedMapOfShape edges;
    TopExp::MapShapes(solid, TopAbs_EDGE, before);
    TopExp::MapShapes(out, TopAbs_EDGE, edges);
    for (int i = 1; i <= edges.Extent(); ++i) {
        const TopoDS_Edge& e = TopoDS::Edge(edges(i));
        if (before.Contains(e)) {
            continue; // as it was
        }
        double first = 0;
        double last = 0;
        BRep_Tool::Range(e, first, last);
        if (first >= last) {
            throw FallsPast();
        }
        BRep_Builder().SameRange(e, false);
        BRep_Builder().SameParameter(e, false);
        BRepLib::SameParameter(e, 1e-5);
    }
    BRepLib::UpdateTolerances(out);
    return out;
}

} // namespace wren
