#include "job/nearby.h"

#include "design/fan.h"
#include "job/features.h"

#include <algorithm>
#include <cmath>
#include <map>

#include <fmt/format.h>

namespace wren {
namespace {

/// Calls f(id, border) for everything cut into any piece that is not fitted into the body.
template <typename F>
void overBorders(const BodyPart& part, F f) {
    for (const Panel& panel : part.panels()) {
        if (panel.id.role == Role::plate && panel.liesAsIn(*part.panel(Role::body))) {
            f(panel.feature, panel.outline);
        }
        if (panel.id.byItself()) {
            continue;
        }
        for (const PanelPocket& p : panel.pockets) {
            f(p.feature, p.borders.front());
        }
        for (const Hole& h : panel.holes) {
            f(h.feature, circleContour(h.at, h.diameter));
        }
        for (const PanelLine& line : panel.engraved) {
            f(line.feature, line.way);
        }
    }
}

/// The shortest way between a border's places and another contour.
Near between(const std::vector<Vec2>& places, const Contour& other) {
    Near best{{}, 1e9, {}, {}};
    for (Vec2 p : places) {
        const Vec2 q = nearestOn(other, p);
        if (length(q - p) < best.distance) {
            best = {{}, length(q - p), p, q};
        }
    }
    return best;
}

void addStringAndFret(std::vector<Near>& out, const Derived& d, Vec2 at) {
    const BodyPart& part = d.body->part;
    const Fan fan(d.project.board);
    const double share = part.place().toInstrument({at.x, 0, 0}).x /
                         ((fan.bassString(1).x + fan.trebleString(1).x) / 2);
    if (share > 0 && share < 1.1) {
        Near best{{}, 1e9, at, at};
        const std::vector<double> all =
            stringCentres(d.project.board, d.project.board.bridgeSpread);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const Vec2 s = fan.string(2 * all[i] / d.project.board.bridgeSpread, share);
            if (std::abs(s.y - at.y) < best.distance) {
                best = {fmt::format("string {}", all.size() - i),
                        std::abs(s.y - at.y),
                        at,
                        {at.x, s.y}};
            }
        }
        out.push_back(best);
    }
    if (!d.frets.empty()) {
        const FretPlace& last = d.frets.back();
        const double x = part.place().toBody({last.fromNut, 0, 0}).x;
        out.push_back({fmt::format("fret {}", last.fret), std::abs(at.x - x), at, {x, at.y}});
    }
}

} // namespace

std::vector<Contour> bordersOf(const Derived& d, FeatureId feature) {
    std::vector<Contour> out;
    if (d.body && feature) {
        overBorders(d.body->part, [&](FeatureId id, const Contour& border) {
            if (id == feature) {
                out.push_back(border);
            }
        });
    }
    return out;
}

FeatureId featureAt(const Derived& d, Vec2 place) {
    FeatureId best;
    double smallest = 1e300;
    if (!d.body) {
        return best;
    }
    overBorders(d.body->part, [&](FeatureId id, const Contour& border) {
        const std::vector<Vec2> points = pointsOf(border, 0.05);
        const double area = std::abs(areaOf(border));
        if (points.size() > 2 && area < smallest && inside(points, place)) {
            smallest = area;
            best = id;
        }
    });
    return best;
}

std::vector<Near> nearbyOf(const Derived& d, const std::string& path) {
    std::vector<Near> out;
    if (!d.body) {
        return out;
    }
    const std::vector<Feature> all = featuresOf(d.project);
    const auto it = std::find_if(all.begin(), all.end(),
                                 [&](const Feature& f) { return f.path == path && f.id; });
    if (it == all.end() || it->id.kind == FeatureKind::outline) {
        return out;
    }
    const BodyPart& part = d.body->part;
    const Vec2 at = part.place().at(it->at);
    out.push_back({"the centreline", std::abs(at.y), at, {at.x, 0}});
    out.push_back(
        {"the bridge line", std::abs(at.x - part.place().bridge), at, {part.place().bridge, at.y}});
    std::vector<Vec2> places;
    for (const Contour& border : bordersOf(d, it->id)) {
        const std::vector<Vec2> some = pointsOf(border, 0.1);
        places.insert(places.end(), some.begin(), some.end());
    }
    if (places.empty()) {
        places.push_back(at);
    }
    Near edge = between(places, part.outline());
    edge.what = "the edge";
    out.push_back(edge);
    Near neighbour{{}, 1e9, {}, {}};
    overBorders(part, [&](FeatureId id, const Contour& border) {
        if (!id || pathOf(id) == path) {
            return;
        }
        Near n = between(places, border);
        if (n.distance < neighbour.distance) {
            n.what = nameOf(d.project.body, id);
            neighbour = n;
        }
    });
    if (neighbour.distance < 1e8) {
        out.push_back(neighbour);
    }
    addStringAndFret(out, d, at);
    return out;
}

} // namespace wren
