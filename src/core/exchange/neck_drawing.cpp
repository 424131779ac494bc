#include "exchange/neck_drawing.h"

#include "base/error.h"
#include "exchange/board_drawing.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

using Kind = ContourPiece::Kind;

DrawnLine circle(const std::string& layer, Vec2 c, double diameter) {
    const Vec2 r{diameter / 2, 0};
    return {layer,
            {{Kind::arcClockwise, c - r, c + r, c}, {Kind::arcClockwise, c + r, c - r, c}},
            true};
}

DrawnLine closed(const std::string& layer, const std::vector<Vec2>& points) {
    DrawnLine line{layer, {}, true};
    for (std::size_t i = 0; i < points.size(); ++i) {
        line.pieces.push_back({Kind::line, points[i], points[(i + 1) % points.size()], {}});
    }
    return line;
}

} // namespace

Drawing neckDrawing(const NeckPart& part, const std::string& title) {
    Drawing d;
    d.title = title;
    d.lines.push_back({"outline", part.outline().contour(), true});
    for (const NeckPocket& p : part.pockets()) {
        const auto corners = p.corners();
        d.lines.push_back(closed(wordOf(p.kind), {corners.begin(), corners.end()}));
    }
    if (part.carved()) {
        addFace(d, *part.carved());
    }
    for (const Hole& h : part.holes()) {
        d.lines.push_back(circle(h.what + "s", h.at, h.diameter));
    }
    for (const TunerPlace& t : part.tuners()) {
        d.lines.push_back(closed("tuner-bodies", tunerBody(part.design().tuners, t)));
        d.line("strings", t.nut, t.winds);
    }
    const NeckOutline& o = part.outline();
    if (part.design().head.plate > 0) { // the plate is the outline up to here
        const std::array<double, 2> wood = o.across(part.plateEnd());
        d.line("face-plate", {part.plateEnd(), wood[0]}, {part.plateEnd(), wood[1]});
    }
    d.line("centreline", {o.tip() - 5, 0}, {o.end() + 5, 0});
    d.line("nut", {0, o.edge(-1, 0)}, {0, o.edge(1, 0)});
    return d;
}

Drawing neckSections(const NeckPart& part, const std::vector<double>& at,
                     const std::string& title) {
    Drawing d;
    d.title = title;
    double base = 0;
    for (double x : at) {
        const std::vector<Vec2> back = part.section(x);
        std::vector<Vec2> points;
        double lowest = 0;
        for (Vec2 p : back) {
            points.push_back({p.x, base + p.y});
            lowest = std::min(lowest, p.y);
        }
        const double front = part.frontAt({x, 0});
        constexpr int strips = 48; // of the front, straight but on a carved face
        const bool arched = part.onCarved({x, 0}) > 0;
        for (int i = strips; i >= 0; i -= arched ? 1 : strips) {
            const double y = back.front().x + (back.back().x - back.front().x) * i / strips;
            points.push_back({y, base + (arched ? part.carved()->face(x, y) : front)});
        }
        d.lines.push_back(closed("section", points));
        d.line("centreline", {0, base + front + 3}, {0, base + lowest - 3});
        d.text("words", {back.back().x + 4, base + lowest / 2}, 3,
               fmt::format("{:.1f} from the nut", x));
        base += lowest - 14;
    }
    return d;
}

std::string neckSectionsCsv(const NeckPart& part, const std::vector<double>& at) {
    std::string out = "x_mm,y_mm,z_mm\n";
    for (double x : at) {
        for (Vec2 p : part.section(x)) {
            out += fmt::format("{:.4f},{:.4f},{:.4f}\n", x, p.x, p.y);
        }
    }
    return out;
}

void checkSections(const NeckPart& part, const std::vector<double>& at) {
    if (at.empty()) {
        throw Error(
            "No section was asked for; distances from the nut were expected, as in 50,100.");
    }
    for (double x : at) {
        if (part.section(x, 3).empty()) {
            throw Error(
                fmt::format("There is no neck {:.1f} mm from the nut; {:.1f} to {:.1f} mm was "
                            "expected.",
                            x, part.outline().tip(), part.outline().end()));
        }
    }
}

} // namespace wren
