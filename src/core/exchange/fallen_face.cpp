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

/// How far an edge falls by the distance, smooth from `from` mm on and also nearer: there as the
/// parabola that goes on from it.
double smoothDrop(const EdgeProfile& edge, double from, double d) {
    const double size = edge.size();
    if (!edge.rounded()) {
        return size - d;
    }
    if (d >= size) {
        return 0;
    }
    const double in = size - std::max(d, from);
    const double high = std::sqrt(size * size - in * in);
    const double beyond = std::max(0.0, from - d);
    const double slope = in / high;
    const double bend = size * size / (high * high * high);
    return size - high + slope * beyond + bend * beyond * beyond / 2;
}

/// A face of a panel as what it falls is made up: bands round the outline, the nearest side's cell
/// in each, and the level middle.
class Falling {
public:
    Falling(const Panel& panel, bool back)
        : fall_(panel.fall(back)), arch_(fall_.edge().archAlone()),
          edge_(edgeHasCrests(panel, back) ? fall_.edge().edgeAlone() : EdgeProfile()),
          made_(edge_.hasEdge() ? EdgeProfile() : fall_.edge().edgeAlone()),
          outline_(joinedUp(counterClockwise(panel.outline))),
          distance_(outline_, std::max(fall_.edge().reach(), 0.1)),
          level_(back ? panel.bottom : panel.top), up_(back ? 1 : -1) {
        if (arch_.hasArch() || edge_.hasEdge()) {
            cells_.emplace(outline_, std::max(arch_.reach(), edge_.reach()));
        }
        if (edge_.rounded()) {
            steep_ = edge_.size() / 4;
            for (const ContourPiece& p : outline_) {
                if (p.kind == ContourPiece::Kind::arcCounter) {
                    steep_ = std::min(steep_, 0.6 * p.radius());
                }
            }
        }
    }

    TopoDS_Shape of(const TopoDS_Shape& wood) const {
        FaceShift shift;
        shift.belongs = [this](Vec3 p) { return onFace(p); };
        shift.at = [this](Vec2 p) {
            const double d = distance_.at(p);
            return up_ * (arch_.drop(d) + edge_.drop(d) + fall_.slopeDrop(p));
        };
        shift.upright = [this](Vec2 p) { return steep_ > 0 && distance_.at(p) < 1e-6; };
        shift.about = [&](Vec2 within) { return cells_ ? aboutCell(within) : slopeAlone(); };
        return withShiftedFaces(cells_ ? parted(wood) : wood, shift);
    }

private:
    /// Whether a place lies on the face as it is made so far.
    bool onFace(Vec3 p) const {
        const double fallen = up_ * (p.z - level_);
        const double in = distance_.at({p.x, p.y});
        if (std::abs(fallen - made_.drop(in)) < 1e-3) {
            return true;
        }
        // Where it stands upright the way in says more than the height.
        return made_.hasEdge() && fallen > -1e-3 && fallen < made_.drop(0) + 1e-3 &&
               std::abs(made_.inTo(std::clamp(fallen, 0.0, made_.drop(0))) - in) < 1e-3;
    }

    /// Where nothing but slopes fall. Along a single one nothing changes: laid out by it a few
    /// places do that way.
    SmoothShift slopeAlone() const {
        SmoothShift out{[this](Vec2 p) { return up_ * fall_.slopeDrop(p); }, {}, {}};
        if (fall_.slopes().size() == 1) {
            const SlopeLine& s = fall_.slopes().front();
            out.layout = s.bow > 0 ? roundSlope(s) : straightSlope(s);
        }
        return out;
    }

    static FaceLayout straightSlope(const SlopeLine& s) {
        const Vec2 along{s.out.y, -s.out.x};
        return {[s, along](Vec2 q) { return s.at + along * q.x + s.out * q.y; },
                [s, along](Vec2 p) {
                    return Vec2{dot(p - s.at, along), dot(p - s.at, s.out)};
                }};
    }

    /// Shares: along the circle the slope begins at, and in from it.
    static FaceLayout roundSlope(const SlopeLine& s) {
        const Vec2 first = s.out * -1; // from the circle's centre to its middle
        return {[s, first](Vec2 q) {
                    const double turn = q.x / s.bow;
                    const Vec2 way = first * std::cos(turn) + leftOf(first) * std::sin(turn);
                    return s.centre + way * (s.bow - q.y);
                },
                [s, first](Vec2 p) {
                    const Vec2 way = p - s.centre;
                    return Vec2{s.bow * std::atan2(cross(first, way), dot(first, way)),
                                s.bow - length(way)};
                }};
    }

    SmoothShift aboutCell(Vec2 within) const {
        const double d = distance_.at(within);
        const bool arched = d < arch_.reach();
        const bool edged = d < edge_.reach();
        if (!arched && !edged) {
            return slopeAlone();
        }
        const std::size_t cell = cells_->cellAt(within);
        SmoothShift out;
        out.by = [this, cell, edged, steep = d < steep_](Vec2 p) {
            const double in = cells_->distance(cell, p);
            const double edge = steep ? edge_.drop(in) : edged ? smoothDrop(edge_, steep_, in) : 0;
            return up_ * (arch_.drop(in) + edge + fall_.slopeDrop(p));
        };
        const std::optional<Vec2> tip = cells_->tipOf(cell);
        const double bandEnds = d < steep_ ? steep_ : edged ? edge_.reach() : arch_.reach();
        if (tip && cells_->distance(cell, *tip) <= bandEnds) {
            out.tip = tip; // all lengths shrink to nothing there
        } else if (d < steep_) {
            // By the root of the way in a rounding is smooth to its upright end.
            out.layout = {[this, cell](Vec2 s) {
                              return cells_->placeAt(cell, {s.x, steep_ * s.y * s.y});
                          },
                          [this, cell](Vec2 p) {
                              const Vec2 s = cells_->shares(cell, p);
                              return Vec2{s.x, std::sqrt(std::max(0.0, s.y) / steep_)};
                          }};
        } else {
            out.layout = {[this, cell](Vec2 s) { return cells_->placeAt(cell, s); },
                          [this, cell](Vec2 p) { return cells_->shares(cell, p); }};
        }
        return out;
    }

    /// The level face parted where the outline's nearest side changes, and where a band ends.
    TopoDS_Shape parted(const TopoDS_Shape& wood) const {
        constexpr double fuzzy = 2e-5; // inset() is exact within half of it
        TopTools_ListOfShape edges;
        for (const VoronoiCells::Border& border : cells_->borders()) {
            edges.Append(edgeThrough(border, level_));
        }
        gp_Trsf lift;
        lift.SetTranslation(gp_Vec(0, 0, level_));
        for (double band : {steep_, edge_.reach(), arch_.reach()}) {
            if (band <= 0) {
                continue;
            }
            for (const Contour& ring : inset({outline_}, band)) {
                for (const ContourPiece& piece : joinedUp(ring)) {
                    edges.Append(edgeOf(piece).Moved(TopLoc_Location(lift)));
                }
            }
        }
        const TopoDS_Shape out = combined<BRepAlgoAPI_Splitter>(wood, edges, {}, fuzzy);
        if (out.IsNull()) {
            throw Standard_Failure("a face cannot be parted along its crests");
        }
        return out;
    }

    const FaceFall& fall_;
    EdgeProfile arch_;
    EdgeProfile edge_; ///< that is made here
    EdgeProfile made_; ///< that is made already
    Contour outline_;
    EdgeDistance distance_;
    double level_, up_;
    double steep_ = 0; ///< mm in from the outline that stand too steep to be laid out by the plan
    std::optional<VoronoiCells> cells_;
};

} // namespace

bool edgeHasCrests(const Panel& panel, bool back) {
    const EdgeProfile& edge = panel.fall(back).edge();
    return edge.hasEdge() &&
           VoronoiCells(joinedUp(counterClockwise(panel.outline)), edge.size()).crested();
}

bool fallsLast(const Panel& panel, bool back) {
    const FaceFall& fall = panel.fall(back);
    return fall.edge().hasArch() || (fall.edge().hasEdge() && !fall.slopes().empty()) ||
           edgeHasCrests(panel, back);
}

TopoDS_Shape withFallenFace(const TopoDS_Shape& wood, const Panel& panel, bool back) {
    return Falling(panel, back).of(wood);
}

} // namespace wren
