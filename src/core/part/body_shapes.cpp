#include "part/body_shapes.h"

#include "geom/crossing.h"
#include "geom/inset.h"

#include <algorithm>
#include <optional>

namespace wren {

using Kind = ContourPiece::Kind;

Contour grown(const Contour& closed, double distance, double hollow) {
    if (distance + hollow <= 0) {
        return clockwise(closed);
    }
    const auto largest = [](const std::vector<Contour>& rings) {
        return *std::max_element(rings.begin(), rings.end(), [](const auto& a, const auto& b) {
            return areaOf(a) < areaOf(b);
        });
    };
    const Contour wide = largest(inset({clockwise(closed)}, distance + hollow));
    return hollow > 0 ? clockwise(largest(inset({counterClockwise(wide)}, hollow))) : wide;
}

Contour shrunk(const Contour& closed, double distance) {
    if (distance <= 0) {
        return clockwise(closed);
    }
    const std::vector<Contour> rings = inset({counterClockwise(closed)}, distance);
    const auto largest =
        std::max_element(rings.begin(), rings.end(),
                         [](const auto& a, const auto& b) { return areaOf(a) < areaOf(b); });
    return largest == rings.end() ? Contour{} : clockwise(*largest);
}

namespace {

/// Arcs no wider than `radius` between two lines give way to the corner the lines meet in.
Contour sharpened(const Contour& border, double radius) {
    Contour out = border;
    for (std::size_t i = 0; i < out.size(); ++i) {
        ContourPiece& before = out[(i + out.size() - 1) % out.size()];
        ContourPiece& after = out[(i + 1) % out.size()];
        if (!out[i].isArc() || out[i].radius() > radius || before.isArc() || after.isArc()) {
            continue;
        }
        const Meetings m = meetings(before, after);
        if (m.count == 1) {
            before.to = m.at[0];
            after.from = m.at[0];
            out.erase(out.begin() + static_cast<std::ptrdiff_t>(i--));
        }
    }
    return out;
}

} // namespace

Contour withDogbones(const Contour& drawn, double radius, double within) {
    const Contour border = sharpened(drawn, within);
    Contour out;
    const std::size_t n = border.size();
    std::vector<ContourPiece> pieces = border;
    std::vector<std::optional<ContourPiece>> bones(n); ///< before piece i
    for (std::size_t i = 0; i < n; ++i) {
        ContourPiece& a = pieces[(i + n - 1) % n];
        ContourPiece& b = pieces[i];
        const Vec2 in = a.wayAt(a.length());
        const Vec2 on = b.wayAt(0);
        if (cross(in, on) < 0.02 || a.isArc() || b.isArc()) {
            continue;
        }
        const Vec2 corner = b.from;
        const Vec2 inward = unit(on - in);
        const double reach = 2 * radius * dot(on, inward);
        bones[i] = ContourPiece{Kind::arcCounter, corner - in * reach, corner + on * reach,
                                corner + inward * radius};
        a.to = bones[i]->from;
        b.from = bones[i]->to;
    }
    for (std::size_t i = 0; i < n; ++i) {
        if (bones[i]) {
            out.push_back(*bones[i]);
        }
        out.push_back(pieces[i]);
    }
    return out;
}

std::vector<Contour> openedBy(const std::vector<Contour>& borders, double radius) {
    std::vector<Contour> shrunk;
    for (const Contour& c : inset(borders, radius)) {
        shrunk.push_back(reversed(c));
    }
    std::vector<Contour> out;
    for (const Contour& c : inset(shrunk, radius)) {
        out.push_back(reversed(c));
    }
    return out;
}

Panel turnedFace(Panel panel) {
    panel.outline = mirroredInY(panel.outline);
    for (PanelPocket& p : panel.pockets) {
        for (Contour& c : p.borders) {
            c = mirroredInY(c);
        }
    }
    for (Hole& h : panel.holes) {
        h.at.y = -h.at.y;
    }
    panel.told.side = -panel.told.side;
    return panel;
}

std::vector<Vec2> placesEvenly(const Contour& closed, int count) {
    const double whole = lengthOf(closed);
    std::vector<Vec2> out;
    for (int i = 0; i < count; ++i) {
        double s = whole * (i + 0.5) / count;
        for (const ContourPiece& p : closed) {
            if (s <= p.length()) {
                out.push_back(p.at(s));
                break;
            }
            s -= p.length();
        }
    }
    return out;
}

PanelPocket pocketOf(const std::string& what, const Contour& outline, double floor, double mouth) {
    PanelPocket p;
    p.what = what;
    p.cut = what;
    p.borders = {counterClockwise(outline)};
    p.floor = floor;
    p.mouth = mouth;
    return p;
}

void addHole(Panel& panel, FeatureId feature, Hole hole) {
    constexpr double widestBored = 11.5;
    hole.feature = feature;
    if (hole.diameter <= widestBored) {
        panel.holes.push_back(std::move(hole));
        return;
    }
    PanelPocket p =
        pocketOf(hole.what, circleContour(hole.at, hole.diameter), hole.floor, hole.mouth);
    p.cut = hole.what + "s";
    p.fromBack = hole.fromBack;
    p.through = hole.through;
    p.feature = feature;
    panel.pockets.push_back(std::move(p));
}

double widthOf(const Contour& closed) {
    const auto box = boxOf(closed);
    return box[1].y - box[0].y;
}

double heelWidth(const NeckOutline& neck, double before) {
    const double x = neck.end() - before;
    return neck.edge(1, x) - neck.edge(-1, x);
}

double mouthAt(const Contour& outline, double neckEnd) {
    double mouth = -1e9;
    double nearest = 1e9;
    const std::vector<Vec2> points = pointsOf(outline, 0.1);
    for (std::size_t i = 0, j = points.size() - 1; i < points.size(); j = i++) {
        const Vec2 a = points[j];
        const Vec2 b = points[i];
        if ((a.y > 0) != (b.y > 0)) {
            const double x = a.x - a.y * (b.x - a.x) / (b.y - a.y);
            nearest = std::min(nearest, x);
            mouth = x < neckEnd ? std::max(mouth, x) : mouth;
        }
    }
    return std::min(mouth > -1e9 ? mouth : nearest, neckEnd);
}

} // namespace wren
