// Drilling guides: strings through the body, jacks.

#include "base/error.h"
#include "job/hand_sheet.h"
#include "job/hand_text.h"
#include "part/judge_edges.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include <fmt/format.h>

namespace wren {
namespace {

std::string acrossIn(const Project& p, const HandSizes& size, double y) {
    return std::abs(y) < 0.005 ? "on it"
                               : fmt::format("{} {}", size(std::abs(y), 2), sideWord(p, y));
}

} // namespace

HandSheet ferruleSheet(const Derived& d, const HandSizes& size) {
    std::vector<Hole> strings;
    std::optional<Hole> ferrule;
    for (const Hole& h : d.body ? d.body->part.holes() : std::vector<Hole>{}) {
        if (h.feature.kind == FeatureKind::string) {
            strings.push_back(h);
        } else if (h.feature.kind == FeatureKind::ferrule) {
            ferrule = h;
        }
    }
    if (strings.empty()) {
        throw Error("No string goes through a body in this project.");
    }
    std::sort(strings.begin(), strings.end(),
              [](const Hole& a, const Hole& b) { return a.at.y < b.at.y; });
    const double bridge = d.body->part.place().bridge;
    HandSheet out{"ferrules", "Strings through the body", {}, {}, {}, {}, true};
    out.drawing.title = d.project.name + " string holes";
    HandSheet::Table table{
        "Each hole, as seen from the front",
        {"hole", "behind the bridge line", "off centreline", "from the one before"},
        {}};
    double last = strings.front().at.y;
    for (std::size_t i = 0; i < strings.size(); ++i) {
        const Hole& h = strings[i];
        table.rows.push_back({std::to_string(i + 1), size(h.at.x - bridge, 2),
                              acrossIn(d.project, size, h.at.y),
                              i == 0 ? "" : size(h.at.y - last, 2)});
        last = h.at.y;
        const Vec2 at{h.at.x - bridge, h.at.y};
        out.drawing.lines.push_back({"holes", circleContour(at, h.diameter), true});
        if (ferrule) {
            out.drawing.lines.push_back({"ferrules", circleContour(at, ferrule->diameter), true});
        }
        out.drawing.line("holes", at - Vec2{1.5, 0}, at + Vec2{1.5, 0});
        out.drawing.line("holes", at - Vec2{0, 1.5}, at + Vec2{0, 1.5});
    }
    const double half = std::max(std::abs(strings.front().at.y), strings.back().at.y) + 12;
    out.drawing.line("bridge-line", {0, -half}, {0, half});
    out.drawing.text("words", {-3, half + 2}, 2.5, "bridge line");
    out.drawing.line("centreline", {-12, 0}, {strings.front().at.x - bridge + 16, 0});
    out.tables.push_back(table);
    HandSheet::Table drills{"Drills", {"", "size"}, {}};
    drills.rows.push_back({"string hole", size(strings.front().diameter, 2)});
    drills.rows.push_back({"through the body", size(d.body->part.thickness())});
    if (ferrule) {
        drills.rows.push_back({"ferrule, from the back", size(ferrule->diameter, 2)});
        drills.rows.push_back({"ferrule deep", size(std::abs(ferrule->mouth - ferrule->floor), 2)});
    }
    out.tables.push_back(drills);
    out.steps = {"Drill the guide from this print in hardwood or metal, so thick that it holds the "
                 "drill upright.",
                 "Clamp it on the bridge line; drill the two outer holes right through, 6 mm at a "
                 "time, clearing chips: a long thin drill wanders.",
                 "Turn the body over and lay the guide on those two holes: the others and the "
                 "ferrules are drilled from the back, in line."};
    out.cautions = {"Back the body with waste wood where the drill comes out. Eye protection."};
    return out;
}

HandSheet jackSheet(const Derived& d, const HandSizes& size) {
    HandSheet out{"jack", "Drilling for the jack", {}, {}, {}, {}, false};
    HandSheet::Table table{"Each jack",
                           {"jack", "behind bridge line", "off centreline", "hole",
                            "its way off the centreline", "washer's dish"},
                           {}};
    if (d.body) {
        const BodyPart& part = d.body->part;
        out.drawing.title = d.project.name + " jack";
        out.drawing.lines.push_back({"outline", part.outline(), true});
        for (std::size_t i = 0; i < part.design().jacks.size(); ++i) {
            const Jack& jack = part.design().jacks[i];
            if (jack.kind == JackKind::none) {
                continue;
            }
            const bool cup = jack.kind == JackKind::cup;
            const Vec2 drawn = part.place().at(jack.at);
            const Vec2 at = cup ? drawn : nearestOn(part.outline(), drawn);
            std::string way = "square to face", dish = "none";
            if (!cup) {
                const EdgeSeat seat = edgeSeat(part, jack);
                const double turn = std::atan2(std::abs(seat.inward.y), std::abs(seat.inward.x)) *
                                    180 / std::numbers::pi;
                way = fmt::format("{:.1f} degrees", turn);
                dish = seat.dish > 0 ? size(seat.dish, 2) : dish;
                out.drawing.line("hole", at, at + seat.inward * 40);
            }
            out.drawing.lines.push_back(
                {"hole", circleContour(at, cup ? jack.cupSize : jack.size), true});
            table.rows.push_back({nameOf(part.design(), {FeatureKind::jack, i}),
                                  size(at.x - part.place().bridge), acrossIn(d.project, size, at.y),
                                  size(cup ? jack.cupSize : jack.size, 2), way, dish});
        }
    }
    if (table.rows.empty()) {
        throw Error("There is no jack in this project's body.");
    }
    out.tables.push_back(table);
    out.steps = {"Fit a block to the edge where the jack sits, with a hole square to it, and drill "
                 "through the block: half way down the edge's flat.",
                 "A washer on a round edge wants a dish, cut before the hole.",
                 "Drill before the neck is on; its nut must be reached from the cavity."};
    out.cautions = {
        "Stop before the cavity's far wall. Clamp the body upright: a large bit grabs."};
    return out;
}

} // namespace wren
