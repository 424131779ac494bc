#include "part/body_part.h"

#include "base/error.h"
#include "design/engraving.h"
#include "geom/inset.h"
#include "part/body_shapes.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

// How the body's faces leave the flat, what is let into them beside its fittings, and what depends
// on them.

namespace wren {

std::vector<SlopeLine> BodyPart::slopes(bool back) const {
    std::vector<SlopeLine> out;
    for (const FaceSlope& s : body_.faces.contours) {
        if (s.fromBack != back) {
            continue;
        }
        SlopeLine line;
        line.at = place_.at(s.from);
        const Vec2 along = unit(place_.at(s.to) - line.at);
        line.out = {along.y, -along.x};
        if (dot(line.out, Vec2{place_.bridge, 0} - line.at) > 0) {
            line.out = line.out * -1; // away from the bridge, which stays level
        }
        line.gradient = std::tan(s.angle * std::numbers::pi / 180);
        line.blend = s.blend;
        if (s.bow > 0) {
            const Vec2 middle = (place_.at(s.from) + place_.at(s.to)) * 0.5;
            const double half = length(s.to - s.from) / 2;
            line.bow = (half * half + s.bow * s.bow) / (2 * s.bow);
            line.centre = middle + line.out * (line.bow - s.bow);
            line.at = middle - line.out * s.bow;
        }
        out.push_back(line);
    }
    return out;
}

void BodyPart::layFaces() {
    const BodyFaces& f = body_.faces;
    const auto edge = [](EdgeForm form, double size) {
        return form == EdgeForm::round     ? EdgeProfile::round(size)
               : form == EdgeForm::chamfer ? EdgeProfile::chamfer(size)
                                           : EdgeProfile();
    };
    frontFall_ = FaceFall(outline_, edge(f.frontEdge, f.frontSize).withArch(f.arch, f.archWidth),
                          slopes(false));
    backFall_ = FaceFall(outline_, edge(f.backEdge, f.backSize), slopes(true));
}

double BodyPart::fallOver(const Contour& area) const {
    if (frontFall_.level()) {
        return 0;
    }
    constexpr double look = 3;
    const std::vector<Vec2> border = pointsOf(area, 0.1);
    double most = 0;
    Vec2 low{1e9, 1e9};
    Vec2 high{-1e9, -1e9};
    for (Vec2 p : border) {
        most = std::max(most, frontFall_.drop(p));
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    for (double y = low.y; y <= high.y; y += look) {
        for (double x = low.x; x <= high.x; x += look) {
            if (inside(border, {x, y})) {
                most = std::max(most, frontFall_.drop({x, y}));
            }
        }
    }
    return most;
}

void BodyPart::addRecesses(Panel& body) {
    for (std::size_t i = 0; i < body_.recesses.size(); ++i) {
        const Recess& r = body_.recesses[i];
        const Contour outline = r.inlay ? inlayOutline(r) : place_.laid(shapeOutline(r.nodes));
        const double mouth = r.fromBack ? body.bottom : 0;
        const double far = r.fromBack ? 0 : body.bottom;
        const double down = r.fromBack ? 1 : -1;
        const std::string what = r.inlay ? "inlay" : r.depth ? "recess" : "cut-out";
        PanelPocket p = pocketOf(what, outline, r.depth ? mouth + down * *r.depth : far, mouth);
        p.cut = r.inlay ? "inlays" : r.depth ? "recesses" : "cut-outs";
        p.fromBack = r.fromBack;
        p.through = !r.depth;
        p.feature = recessId(body_, i);
        body.pockets.push_back(p);
    }
}

Contour BodyPart::inlayOutline(const Recess& inlay) const {
    // What both the pocket's bit and the plug's can follow: no corner of either hand is tighter.
    const double r = body_.inlayCorner;
    const Contour drawn = place_.laid(shapeOutline(inlay.nodes));
    const std::vector<Contour> opened = openedBy({counterClockwise(grown(drawn, 0, r))}, r);
    if (opened.size() != 1) {
        throw Error(fmt::format("An inlay is narrower than two corners of {:g} mm; a wider shape "
                                "or a smaller corner was expected.",
                                r));
    }
    return clockwise(opened.front());
}

void BodyPart::makePlugs() {
    int number = 0;
    for (const Recess& r : body_.recesses) {
        if (!r.inlay) {
            continue;
        }
        const std::vector<Contour> ring =
            inset({counterClockwise(inlayOutline(r))}, body_.inlayRoom);
        if (ring.size() != 1) {
            throw Error("An inlay is too narrow for the room round its plug.");
        }
        Panel plug;
        plug.id = PartId(Role::inlay, ++number);
        plug.wood = woods_.inlay;
        plug.outline = clockwise(ring.front());
        plug.bottom = -*r.depth;
        plug.top = body_.inlayProud;
        panels_.push_back(std::move(plug));
    }
}

void BodyPart::addWires() {
    for (std::size_t i = 0; i < body_.wires.size(); ++i) {
        const WireHole& w = body_.wires[i];
        bench_.push_back(
            {"wire",
             place_.at(w.from),
             w.diameter,
             fmt::format("from {:.1f} mm under the face to {:.1f}, {:.0f} mm long, {:.1f} degrees "
                         "{}, before the neck goes on",
                         w.fromDepth, w.toDepth, w.length(),
                         std::abs(w.angle()) * 180 / std::numbers::pi,
                         w.angle() < 0 ? "rising" : "down"),
             place_.at(w.to),
             {FeatureKind::wire, i}});
    }
}

void BodyPart::addEngravings(Panel& body) {
    for (std::size_t i = 0; i < body_.engravings.size(); ++i) {
        const Engraving& e = body_.engravings[i];
        const std::string what = e.nodes.empty() ? fmt::format("\"{}\"", e.words) : "shape";
        for (Contour& line : engravedLines(e, place_)) {
            body.engraved.push_back(
                {what, std::move(line), e.depth, e.fromBack, {FeatureKind::engraving, i}});
        }
    }
}

} // namespace wren
