#include "exchange/body_drawing.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// Layer names hold no blanks, as DXF wants them.
std::string layerOf(std::string what) {
    std::replace(what.begin(), what.end(), ' ', '-');
    return what;
}

void addFeatures(Drawing& d, const Panel& panel) {
    for (const PanelPocket& p : panel.pockets) {
        for (const Contour& c : p.borders) {
            d.lines.push_back({layerOf(p.what), c, true});
        }
    }
    for (const Hole& h : panel.holes) {
        d.lines.push_back({layerOf(h.what) + "-holes", circleContour(h.at, h.diameter), true});
    }
    for (const PanelLine& l : panel.engraved) {
        const bool closed = length(l.way.front().from - l.way.back().to) < 1e-9;
        d.lines.push_back({"engraving", l.way, closed});
    }
}

} // namespace

Drawing panelDrawing(const Panel& panel, const std::string& title) {
    Drawing d;
    d.title = title;
    d.lines.push_back({"outline", panel.outline, true});
    addFeatures(d, panel);
    return d;
}

Drawing bodyDrawing(const BodyPart& part, const std::string& title) {
    Drawing d;
    d.title = title;
    d.lines.push_back({"outline", part.outline(), true});
    for (const Panel& p : part.panels()) {
        if (!p.id.byItself()) {
            addFeatures(d, p);
        }
    }
    if (!part.heel().empty()) {
        d.lines.push_back({"heel", part.heel(), true});
    }
    for (const BenchHole& h : part.benchHoles()) {
        d.lines.push_back({"by-hand", circleContour(h.at, h.diameter), true});
    }
    const auto box = part.panel(Role::body)->box();
    d.line("centreline", {box[0].x - 5, 0}, {box[1].x + 5, 0});
    const double bridge = part.place().bridge;
    d.line("bridge-line", {bridge, -40}, {bridge, 40});
    return d;
}

Drawing cavityTemplates(const BodyPart& part, const std::string& title) {
    Drawing d;
    d.title = title;
    const Panel* body = part.panel(Role::body);
    const Panel* lid = part.panel(Role::lid);
    double shift = 0;
    const auto put = [&](const std::string& layer, const std::vector<Contour>& contours) {
        double width = 0;
        for (const Contour& c : contours) {
            for (const ContourPiece& p : c) {
                width = std::max(width, std::abs(p.from.x - contours.front().front().from.x));
            }
            d.lines.push_back({layer, movedBy(c, {shift, 0}), true});
        }
        shift += 2 * width + 20;
    };
    for (const auto& [kind, layer] :
         {std::pair{FeatureKind::cavity, "hole"}, {FeatureKind::ledge, "ledge"}}) {
        for (const PanelPocket& p : body->pockets) {
            if (p.feature.kind == kind) {
                put(layer, p.borders);
            }
        }
    }
    if (lid) {
        std::vector<Contour> all{lid->outline};
        for (const Hole& h : lid->holes) {
            all.push_back(circleContour(h.at, h.diameter));
        }
        put("lid", all);
    }
    return d;
}

std::string drillingCsv(const BodyPart& part) {
    std::string out = "piece,what,x_mm,y_mm,diameter_mm,depth_mm,from,by\n";
    for (const Panel& panel : part.panels()) {
        for (const Hole& h : panel.holes) {
            out += fmt::format("{},{},{:.3f},{:.3f},{:.2f},{},{},machine\n", panel.name(), h.what,
                               h.at.x, h.at.y, h.diameter,
                               h.through ? "through"
                                         : fmt::format("{:.2f}", std::abs(h.mouth - h.floor)),
                               h.fromBack ? "back" : "front");
        }
    }
    for (const BenchHole& h : part.benchHoles()) {
        out += fmt::format("body,{},{:.3f},{:.3f},{:.2f},,edge,hand\n", h.what, h.at.x, h.at.y,
                           h.diameter);
    }
    return out;
}

} // namespace wren
