#include "job/import_outline.h"

#include "base/error.h"
#include "geom/inset.h"
#include "job/import_head.h"
#include "job/keys.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// The first line of a layer, in millimetres.
std::optional<ContourPiece> lineOn(const DrawingRead& drawing, const std::string& layer,
                                   double unit) {
    for (const DrawnLine& l : drawing.lines) {
        if (l.layer == layer && !l.pieces.empty() && !l.pieces.front().isArc()) {
            ContourPiece p = l.pieces.front();
            p.from = p.from * unit;
            p.to = p.to * unit;
            return p;
        }
    }
    return {};
}

/// The old outline's right end, from the bridge line; what a drawing without marks is laid by.
double oldEnd(const Project& p, OutlineFor what) {
    if (what == OutlineFor::headstock) {
        return 0;
    }
    const std::vector<ShapeNode>& nodes =
        what == OutlineFor::body ? p.body.nodes : p.body.cavity.nodes;
    return nodes.empty() ? 80 : boxOf(shapeOutline(nodes))[1].x;
}

/// The middle of a headstock's end at the nut, its right end.
double nutMiddle(const Contour& c, double right) {
    constexpr double end = 1; // mm
    double low = 1e9;
    double high = -1e9;
    for (Vec2 p : pointsOf(c, 0.005)) {
        if (p.x > right - end) {
            low = std::min(low, p.y);
            high = std::max(high, p.y);
        }
    }
    return (low + high) / 2;
}

} // namespace

OutlineImport importOutline(const Project& project, const DrawingRead& drawing,
                            const Tracing& tracing, OutlineFor what) {
    Traced traced = trace(drawing, tracing);
    const auto closedIn = [](const Traced& t) {
        return std::find_if(t.shapes.begin(), t.shapes.end(),
                            [](const TracedShape& s) { return s.closed; });
    };
    auto shape = closedIn(traced);
    if (shape == traced.shapes.end() && tracing.layer.empty()) {
        Tracing all = tracing;
        all.acrossLayers = true;
        traced = trace(drawing, all);
        shape = closedIn(traced);
    }
    if (shape == traced.shapes.end()) {
        throw Error(fmt::format(
            "{} holds no closed outline{}; ends further apart than {:g} mm are "
            "not joined.",
            drawing.source,
            tracing.layer.empty() ? "" : fmt::format(" on the layer \"{}\"", tracing.layer),
            tracing.gap));
    }
    if (const auto at = selfCrossing(shape->contour)) {
        throw Error(fmt::format("The outline of {} crosses itself at {:.2f}, {:.2f} of the "
                                "drawing.",
                                drawing.source, at->x, at->y));
    }
    OutlineImport out;
    out.project = project;
    out.drawn = shape->contour;
    out.deviation = shape->deviation;
    out.joined = traced.joined;
    out.doubled = traced.doubled;
    out.skipped = drawing.skipped;
    const double unit = tracing.unit ? *tracing.unit : *drawing.unit;
    const auto middle = lineOn(drawing, "centreline", unit);
    const auto bridge = lineOn(drawing, "bridge-line", unit);
    const std::array<Vec2, 2> box = boxOf(shape->contour);
    Vec2 origin{box[1].x - oldEnd(project, what), (box[0].y + box[1].y) / 2};
    if (what == OutlineFor::headstock) {
        origin.y = nutMiddle(shape->contour, box[1].x);
    }
    if (middle && what != OutlineFor::cavity) {
        origin.y = (middle->from.y + middle->to.y) / 2;
    }
    if (bridge && what != OutlineFor::headstock) {
        origin = {(bridge->from.x + bridge->to.x) / 2, middle
                                                           ? (middle->from.y + middle->to.y) / 2
                                                           : (bridge->from.y + bridge->to.y) / 2};
    }
    out.placed =
        what == OutlineFor::headstock
            ? "Its right end was laid at the nut, the middle of that end on the centreline."
        : bridge ? "Placed by the drawing's own bridge line and centreline."
        : middle ? "Placed by the drawing's centreline; its right end where the old one's "
                   "was."
                 : "Its middle was laid on the centreline, its right end where the old "
                   "one's was.";
    out.outline = clockwise(movedBy(shape->contour, origin * -1));
    // A drawing shows a left-handed body as it is; nodes are kept as a right-handed one has them.
    if (project.board.hand == Hand::left) {
        out.outline = mirroredInY(out.outline);
    }
    for (const ContourPiece& p : out.outline) {
        ++(p.isArc() ? out.arcs : out.lines);
    }
    if (what == OutlineFor::headstock) {
        const DrawnHead head = headFrom(out.outline, tracing.tolerance);
        out.deviation += head.deviation;
        out.project = project;
        out.project.neck.head.nodes = head.nodes;
        return out;
    }
    out.project = project;
    (what == OutlineFor::body ? out.project.body.nodes : out.project.body.cavity.nodes) =
        roundedNodes(nodesOf(out.outline));
    if (what == OutlineFor::body) {
        out.project.body.mirror = false;
        if (out.project.body.build == BodyBuild::none) {
            out.project.body.build = BodyBuild::onePiece;
        }
    }
    return out;
}

} // namespace wren
