#include "exchange/solid_tools.h"

#include "geom/bands.h"

#include <array>

#include <BRepAdaptor_Curve2d.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Face.hxx>
#include <fmt/format.h>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Pnt2d.hxx>

namespace wren {
namespace {

/// An arc's middle where both its ends are as far from it.
Vec2 middleOf(const ContourPiece& arc) {
    const Vec2 half = (arc.to - arc.from) * 0.5;
    const Vec2 across = unit(leftOf(half));
    const Vec2 bow = arc.centre - arc.from - half;
    const double radius = length(arc.from - arc.centre);
    const double away = std::sqrt(std::max(0.0, radius * radius - dot(half, half)));
    return arc.from + half + across * (dot(bow, across) < 0 ? -away : away);
}

} // namespace

TopoDS_Edge edgeOf(const ContourPiece& p) {
    const gp_Pnt a(p.from.x, p.from.y, 0);
    const gp_Pnt b(p.to.x, p.to.y, 0);
    if (p.kind == ContourPiece::Kind::line) {
        return BRepBuilderAPI_MakeEdge(a, b).Edge();
    }
    // Upright to the last digit, or walls made of it meet others where a search finds them.
    const Vec2 centre = middleOf(p);
    const bool counter = p.kind == ContourPiece::Kind::arcCounter;
    const gp_Ax2 place(gp_Pnt(centre.x, centre.y, 0), gp_Dir(0, 0, counter ? 1 : -1));
    return BRepBuilderAPI_MakeEdge(gp_Circ(place, length(p.from - centre)), a, b).Edge();
}

Contour joinedUp(const Contour& contour) {
    constexpr double nothing = 1e-5;
    Contour joined;
    for (const ContourPiece& piece : contour) {
        if (piece.length() > nothing) {
            joined.push_back(piece);
        }
    }
    for (std::size_t i = 0; i < joined.size(); ++i) {
        joined[i].to = joined[(i + 1) % joined.size()].from;
        if (joined[i].isArc()) {
            joined[i].centre = middleOf(joined[i]);
        }
    }
    return joined;
}

TopoDS_Wire wireOf(const Contour& contour) {
    BRepBuilderAPI_MakeWire wire;
    for (const ContourPiece& piece : joinedUp(contour)) {
        wire.Add(edgeOf(piece));
    }
    return wire.Wire();
}

TopoDS_Shape prismOf(const Contour& contour, double from, double to) {
    gp_Trsf up;
    up.SetTranslation(gp_Vec(0, 0, from));
    const TopoDS_Shape base =
        BRepBuilderAPI_MakeFace(wireOf(contour), true).Face().Moved(TopLoc_Location(up));
    return BRepPrimAPI_MakePrism(base, gp_Vec(0, 0, to - from)).Shape();
}

Contour closedThrough(const std::vector<Vec2>& points) {
    Contour contour;
    for (std::size_t i = 0; i < points.size(); ++i) {
        contour.push_back(
            {ContourPiece::Kind::line, points[i], points[(i + 1) % points.size()], {}});
    }
    return contour;
}

TopTools_ListOfShape listOf(const TopoDS_Shape& shape) {
    TopTools_ListOfShape list;
    list.Append(shape);
    return list;
}

TopoDS_Solid onlySolidIn(const TopoDS_Shape& shape, const std::string& part) {
    if (shape.IsNull()) {
        throw Error(fmt::format("No solid comes of this {}.", part));
    }
    TopExp_Explorer solids(shape, TopAbs_SOLID);
    if (!solids.More()) {
        throw Error(fmt::format("No solid comes of this {}.", part));
    }
    TopoDS_Solid solid = TopoDS::Solid(solids.Current());
    solids.Next();
    if (solids.More()) {
        throw Error(
            fmt::format("The {} falls into pieces; a solid in one piece was expected.", part));
    }
    if (!BRepCheck_Analyzer(solid, true, true).IsValid()) {
        throw Error(fmt::format("The {}'s solid is not valid: its faces do not close.", part));
    }
    return solid;
}

namespace {

/// How many steps of about `pitch` a face's surface wants in each of its parameters.
std::array<int, 2> stepsOver(const BRepAdaptor_Surface& surface, const std::array<double, 4>& box,
                             double pitch) {
    constexpr int looks = 4;
    double along = 0;
    double across = 0;
    for (int i = 0; i <= looks; ++i) {
        for (int j = 0; j <= looks; ++j) {
            gp_Pnt p;
            gp_Vec du;
            gp_Vec dv;
            surface.D1(box[0] + (box[1] - box[0]) * i / looks,
                       box[2] + (box[3] - box[2]) * j / looks, p, du, dv);
            along = std::max(along, du.Magnitude() * (box[1] - box[0]));
            across = std::max(across, dv.Magnitude() * (box[3] - box[2]));
        }
    }
    const auto steps = [&](double l) { return std::clamp(int(l / pitch), 4, 2000); };
    return {steps(along), steps(across)};
}

/// A face's borders in its surface's own parameters, curves as chords.
std::vector<std::vector<Vec2>> bordersOf(const TopoDS_Face& face) {
    constexpr int chords = 200; // of a curve's whole length: 0.01 mm on an arc a quarter metre long
    std::vector<std::vector<Vec2>> borders;
    for (TopExp_Explorer wires(face, TopAbs_WIRE); wires.More(); wires.Next()) {
        std::vector<Vec2>& border = borders.emplace_back();
        for (BRepTools_WireExplorer edges(TopoDS::Wire(wires.Current()), face); edges.More();
             edges.Next()) {
            const BRepAdaptor_Curve2d curve(edges.Current(), face);
            const bool back = edges.Current().Orientation() == TopAbs_REVERSED;
            const int n = curve.GetType() == GeomAbs_Line ? 1 : chords;
            for (int i = 0; i < n; ++i) {
                const double share = double(back ? n - i : i) / n;
                const gp_Pnt2d p = curve.Value(curve.FirstParameter() * (1 - share) +
                                               curve.LastParameter() * share);
                border.push_back({p.X(), p.Y()});
            }
        }
    }
    return borders;
}

void addPlacesOf(const TopoDS_Face& face, double pitch, std::vector<SurfacePlace>& out) {
    std::array<double, 4> box{};
    BRepTools::UVBounds(face, box[0], box[1], box[2], box[3]);
    const BRepAdaptor_Surface surface(face);
    const Bands inFace(bordersOf(face));
    const auto [n, m] = stepsOver(surface, box, pitch);
    for (int i = 0; i < n; ++i) {
        for (int j = 0; j < m; ++j) {
            const double u = box[0] + (box[1] - box[0]) * (i + 0.5) / n;
            const double v = box[2] + (box[3] - box[2]) * (j + 0.5) / m;
            if (!inFace.holds({u, v})) {
                continue;
            }
            gp_Pnt p;
            gp_Vec du;
            gp_Vec dv;
            surface.D1(u, v, p, du, dv);
            const gp_Vec normal = du.Crossed(dv);
            const double size = normal.Magnitude();
            if (size > 1e-12) { // else where a surface's lines run together
                const double out1 = (face.Orientation() == TopAbs_REVERSED ? -1 : 1) / size;
                out.push_back({{p.X(), p.Y(), p.Z()},
                               {normal.X() * out1, normal.Y() * out1, normal.Z() * out1}});
            }
        }
    }
}

} // namespace

std::vector<SurfacePlace> placesOf(const TopoDS_Solid& solid, double pitch) {
    std::vector<SurfacePlace> out;
    for (TopExp_Explorer faces(solid, TopAbs_FACE); faces.More(); faces.Next()) {
        addPlacesOf(TopoDS::Face(faces.Current()), pitch, out);
    }
    return out;
}

} // namespace wren
