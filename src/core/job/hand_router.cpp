// The hand router: sleds, guide bushes, bearings.

#include "base/error.h"
#include "job/hand_sheet.h"
#include "job/hand_text.h"
#include "job/wants.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {

HandSheet sledSheet(const Derived& d, const HandSizes& size) {
    const SledSizes& sled = d.project.sled;
    HandSheet out{"sled", "A router's sled over each blank", {}, {}, {}, {}, false};
    HandSheet::Table table{
        "Over each blank", {"blank", "long", "wide", "thick", "sled at least"}, {}};
    for (const WoodPiece& w : woodList(d)) {
        table.rows.push_back({w.piece, size(w.length), size(w.width), size(w.thickness),
                              size(sled.lengthOver(w.width))});
    }
    if (table.rows.empty()) {
        throw Error("There is no blank yet that a sled could run over.");
    }
    out.tables.push_back(table);
    out.tables.push_back({"The router on it",
                          {"", "size"},
                          {{"bit's edge to the sled's end", size(sled.bitToEnd)},
                           {"width of what it runs on", size(sled.bearing)}}});
    Drawing& draw = out.drawing;
    draw.title = d.project.name + " sled";
    double widest = 0;
    for (const WoodPiece& w : woodList(d)) {
        widest = std::max(widest, w.width);
    }
    const double reach = sled.lengthOver(widest) / 2;
    const auto box = [&](const char* layer, Vec2 low, Vec2 high) {
        draw.line(layer, low, {high.x, low.y});
        draw.line(layer, {high.x, low.y}, high);
        draw.line(layer, high, {low.x, high.y});
        draw.line(layer, {low.x, high.y}, low);
    };
    box("blank", {-widest / 2, 0}, {widest / 2, 30});
    for (double side : {-1.0, 1.0}) {
        box("rail", {side * reach, -10}, {side * (reach - sled.bearing), 45});
        draw.line("reference", {side * widest / 2, 30}, {side * widest / 2, 60});
    }
    box("sled", {-reach, 45}, {reach, 60});
    draw.line("centreline", {0, -15}, {0, 70});
    out.steps = {"A sled must carry the bit past both edges of the blank while both its ends still "
                 "lie on the rails.",
                 "Shim the blank until it does not rock, surface it, turn it over, and bring it to "
                 "its thickness from the flat face.",
                 "Take light passes: a long sled sags. A dial gauge on the router tells by how "
                 "much."};
    out.cautions = {"Leave room for bolt heads under the sled and for the extraction's hose.",
                    "Wait until the bit stands still before lifting the router. Ear, eye and dust "
                    "protection."};
    return out;
}

namespace {

/// What a hand router does along a template, and how deep.
struct Work {
    std::string what;
    double depth = 0;
    bool opening = true; ///< the bit runs inside the template; else round it
};

std::vector<Work> worksOf(const Derived& d) {
    std::vector<Work> out;
    const BodyPart& part = d.body->part;
    out.push_back({"outline", part.thickness(), false});
    for (const PanelPocket& p : part.pockets()) {
        const bool wanted =
            p.feature.kind == FeatureKind::neckPocket || p.feature.kind == FeatureKind::pickup ||
            p.feature.kind == FeatureKind::cavity || p.feature.kind == FeatureKind::ledge;
        if (wanted) {
            out.push_back({p.what, p.depth(), true});
        }
    }
    return out;
}

} // namespace

HandSheet bushSheet(const Derived& d, const HandSizes& size) {
    if (!d.body) {
        throw Error("There is no body in this project, so no template for a hand router.");
    }
    const Templates& t = d.project.templates;
    HandSheet out{"bush", "Templates and a hand router", {}, {}, {}, {}, false};
    HandSheet::Table table{
        "Each template",
        {"for", "its edge lies", "cut deep", "bit long at least", "tightest corner"},
        {}};
    for (const Work& w : worksOf(d)) {
        const std::string edge =
            t.offset() == 0 ? std::string("on the line")
                            : fmt::format("{} {}", size(t.offset(), 2), w.opening ? "out" : "in");
        table.rows.push_back({w.what, edge, size(w.depth), size(w.depth + t.thickness),
                              size(w.opening ? t.bit / 2 : 0, 2)});
    }
    out.tables.push_back(table);
    out.tables.push_back({"The router",
                          {"", "size"},
                          {{"bit", size(t.bit, 2)},
                           {"guide bush outside", t.bush > 0 ? size(t.bush, 2) : "bearing"},
                           {"template thick", size(t.thickness)},
                           {"base", size(t.base)}}});
    out.steps = {"A bearing on the bit follows the template's edge exactly; a guide bush runs half "
                 "of what it is wider than the bit beside the cut.",
                 "Mark the template's face and put it back on its two pins after every change of "
                 "depth.",
                 "Go down a third of the depth at a time; drill most of the wood out first."};
    out.cautions = {"A base wider than the template tips into the opening: leave as much land "
                    "round it as the base is wide.",
                    "Feed against the bit's turn; with it the router runs away."};
    return out;
}

} // namespace wren
