#include "exchange/panel_mesh.h"

#include "exchange/solid_tools.h"
#include "geom/inset.h"
#include "geom/mesh_refine.h"

#include <algorithm>
#include <cmath>

#include <BRepAlgoAPI_Splitter.hxx>
#include <Standard_Failure.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Trsf.hxx>
#include <gp_Vec.hxx>

namespace wren {
namespace {

constexpr double level = 1e-6; ///< of a plane's corners, mm

/// The piece before its faces are carved, what is cut into it open up to the level faces.
Panel levelled(const Panel& panel) {
    Panel flat = panel;
    flat.frontFall = FaceFall();
    flat.backFall = FaceFall();
    for (PanelPocket& p : flat.pockets) {
        p.mouth = p.fromBack ? flat.bottom : flat.top;
    }
    for (Hole& h : flat.holes) {
        h.mouth = h.fromBack ? flat.bottom : flat.top;
    }
    return flat;
}

/// Distances from the edge at which triangles must end to follow its profile within `chord`.
std::vector<double> ringsOf(const EdgeProfile& edge, double chord) {
    std::vector<double> rings;
    if (edge.hasEdge() && edge.rounded()) {
        const double r = edge.size();
        const double quarter = std::acos(0.0);
        const int n = int(std::ceil(quarter / (2 * std::acos(1 - chord / r))));
        for (int i = 1; i <= n; ++i) {
            rings.push_back(r * (1 - std::cos(quarter * i / n)));
        }
    } else if (edge.hasEdge()) {
        rings.push_back(edge.size());
    }
    return rings;
}

/// Draws those rings into the level faces, so that they become borders of their faces.
TopoDS_Shape withRings(const TopoDS_Shape& solid, const Panel& panel, double chord) {
    TopTools_ListOfShape rings;
    for (bool back : {false, true}) {
        for (double d : ringsOf(panel.fall(back).edge(), chord)) {
            for (const Contour& c : inset({counterClockwise(panel.outline)}, d)) {
                const TopoDS_Wire ring = wireOf(c);
                gp_Trsf up;
                up.SetTranslation(gp_Vec(0, 0, back ? panel.bottom : panel.top));
                rings.Append(ring.Moved(TopLoc_Location(up)));
            }
        }
    }
    return rings.IsEmpty() ? solid : combined<BRepAlgoAPI_Splitter>(solid, rings, {}, 1e-5);
}

/// Brings one level face down, and lays its triangles close enough to follow.
void carve(Mesh& mesh, const FaceFall& fall, double face, bool back, double chord) {
    const double down = back ? 1 : -1;
    const auto onFace = [&](int i) {
        return std::abs(mesh.vertices[static_cast<std::size_t>(i)].z - face) < level;
    };
    std::vector<bool> carved;
    for (const std::array<int, 3>& t : mesh.triangles) {
        carved.push_back(std::all_of(t.begin(), t.end(), onFace));
    }
    const auto heightAt = [&](double x, double y) { return face + down * fall.drop({x, y}); };
    for (Vec3& v : mesh.vertices) {
        if (std::abs(v.z - face) < level) {
            v.z = heightAt(v.x, v.y);
        }
    }
    refineOnto(
        mesh, std::move(carved), heightAt,
        [&](double x, double y) {
            return fall.upright({x, y});
        },
        chord);
}

} // namespace

Mesh panelMesh(const Panel& panel, double chord, const Watch& watch) try {
    const TopoDS_Solid flat = panelShape(levelled(panel), watch);
    const TopoDS_Solid ringed = onlySolidIn(withRings(flat, panel, chord / 2), panel.name());
    Mesh mesh = trianglesOf(ringed, chord / 2, 0.2);
    for (bool back : {false, true}) {
        if (!panel.fall(back).level()) {
            carve(mesh, panel.fall(back), back ? panel.bottom : panel.top, back, chord);
        }
        if (watch.stop.stop_requested()) {
            throw Cancelled();
        }
    }
    return mesh;
} catch (const Standard_Failure& e) {
    throw Error(
        fmt::format("No triangles come of the {} ({}).", panel.name(), e.GetMessageString()));
}

} // namespace wren
