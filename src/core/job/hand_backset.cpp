// The neck angle planed by hand: the back-set of a neck that goes through, a wedge off its straight
// plank; or the underside of a heel in a level pocket.

#include "base/error.h"
#include "job/hand_sheet.h"
#include "part/judge_wings.h"
#include "part/setup_geometry.h"

#include <cmath>

#include <fmt/format.h>

namespace wren {
namespace {

struct Station {
    std::string name;
    double x = 0; ///< from the nut
};

std::vector<Station> stationsOf(const Derived& d) {
    std::vector<Station> out{{"head's tip", d.neck->part.outline().tip()}, {"nut", 0}};
    for (const FretSlot& slot : d.board->slots()) {
        const int in = slot.fret % 12;
        if (in == 0 || (in % 2 == 1 && in != 1 && in != 11)) { // where makers have their dots
            out.push_back({fmt::format("fret {}", slot.fret), slot.xAt(0)});
        }
    }
    out.push_back({"board's end", d.body->part.place().neckEnd});
    return out;
}

/// Of the plank, from its face before it is planed to the deepest place of neck or body.
double thicknessOf(const Derived& d) {
    const BodyPart& body = d.body->part;
    const double edge = body.place().neckEnd;
    double most = planedOffAt(body, edge) + body.thickness();
    for (double x = d.neck->part.outline().tip(); x < edge; x += 2) {
        most = std::max(most, planedOffAt(body, x) + d.neck->part.back().depth(x, 0));
    }
    return most;
}

/// The plank from the side, what is planed off over the line that is left.
Drawing drawn(const Derived& d, const std::vector<Station>& stations, double deep) {
    const BodyPart& body = d.body->part;
    Drawing out;
    out.title = d.project.name + " back-set";
    const double tip = stations.front().x, tail = d.neck->part.outline().end();
    out.line("reference", {tip, 0}, {tail, 0});
    out.line("outline", {tip, -deep}, {tail, -deep});
    out.line("outline", {tail, -planedOffAt(body, tail)}, {tail, -deep});
    out.line("outline", {tip, -planedOffAt(body, tip)}, {tip, -deep});
    const double edge = body.place().neckEnd;
    out.line("outline", {tip, -planedOffAt(body, tip)}, {edge, -planedOffAt(body, edge - 1e-6)});
    out.line("outline", {edge, -planedOffAt(body, edge - 1e-6)}, {edge, -planedOffAt(body, edge)});
    out.line("outline", {edge, -planedOffAt(body, edge)}, {tail, -planedOffAt(body, tail)});
    for (const Station& s : stations) {
        out.line("centreline", {s.x, -deep}, {s.x, 12});
        out.text("words", {s.x + 2, 6}, 7, s.name);
    }
    return out;
}

/// The angle of a neck in a level pocket, planed into its heel.
HandSheet heelSheet(const Derived& d, const HandSizes& size, const SetupGeometry& setup) {
    HandSheet out{"backset", "Planing the neck angle into the heel", {}, {}, {}, {}, false};
    const double from = setup.mouth, to = setup.heelEnd;
    const double deep = d.project.body.pocket.measuredDepth.value_or(d.project.neck.heelDepth);
    HandSheet::Table table{"The heel's underside", {"from its end", "heel deep there"}, {}};
    out.drawing.title = d.project.name + " heel";
    constexpr int steps = 4;
    for (int i = 0; i <= steps; ++i) {
        const double along = (to - from) * i / steps;
        const double here = deep - setup.heelWedge * i / steps;
        table.rows.push_back({size(along), size(here, 2)});
        out.drawing.line("centreline", {to - along, 6}, {to - along, -deep - 6});
    }
    out.tables.push_back(table);
    out.drawing.line("outline", {from, 0}, {to, 0});
    out.drawing.line("outline", {to, 0}, {to, -deep});
    out.drawing.line("reference", {from, -deep}, {to, -deep});
    out.drawing.line("outline", {from, -deep + setup.heelWedge}, {to, -deep});
    out.steps = {
        fmt::format("The pocket's floor is level. The heel's underside leans by {:.3f} degrees "
                    "against the glue plane: {} over the {} that lie in the body.",
                    setup.angle, size(std::abs(setup.heelWedge), 2), size(to - from)),
        "Mark the depths on both sides of the heel, plane or sand down to the line, and try it in "
        "the pocket with a straight edge over the frets.",
        "What is planed too much is mended by a wedge of veneer under the heel."};
    out.cautions = {"Hold the neck by its face on a flat board, not by the head."};
    return out;
}

/// The plank of a neck that goes through.
HandSheet wedgeSheet(const Derived& d, const HandSizes& size) {
    const BodyPart& body = d.body->part;
    const BodyPocket& joint = body.design().pocket;
    if (joint.angle == 0 && joint.proud == 0) {
        throw Error("The neck's face and the body's are one plane: nothing is planed off.");
    }
    const std::vector<Station> stations = stationsOf(d);
    const double tail = planedOffAt(body, body.place().neckEnd);
    HandSheet out{"backset", "Planing the back-set", {}, {}, {}, {}, false};
    HandSheet::Table table{
        "Off a straight plank's face", {"place", "from the nut", "planed off"}, {}};
    for (const Station& s : stations) {
        table.rows.push_back({s.name, size(s.x), size(planedOffAt(body, s.x - 1e-6), 2)});
    }
    table.rows.push_back(
        {"over the body", fmt::format("from {} on", size(body.place().neckEnd)), size(tail, 2)});
    out.tables.push_back(table);
    const double thick = thicknessOf(d);
    out.tables.push_back({"The plank",
                          {"", "size"},
                          {{"thick at least, before planing", size(thick)},
                           {"neck angle, degrees", fmt::format("{:.3f}", joint.angle)}}});
    out.drawing = drawn(d, stations, thick);
    out.steps = {
        "Square the plank and mark the stations on both edges from the nut. Draw the line that is "
        "to be left through the depths of the table.",
        fmt::format("On a planer's sled the plank lies on packers as high as the numbers, each "
                    "under its station, so that the wedge stands over the sled's level. Stop at "
                    "the board's end, {} from the nut: draw the stop across the face.",
                    size(body.place().neckEnd)),
        tail > 0 ? fmt::format("Then plane the wood behind the stop {} lower, level with the "
                               "wings.",
                               size(tail, 2))
                 : std::string("The wood behind the stop stays: it becomes the body's face."),
        "Check with a straight edge from the nut over the board's end: at the bridge line it must "
        "stand over the body's face as the side view tells."};
    out.cautions = {"Clamp the plank to the sled at both ends, and let the stop be a block, not a "
                    "line alone.",
                    "Short wedges and thin ends are thrown back by a planer: hands behind the "
                    "sled, never under the cutter. Ear and eye protection."};
    return out;
}

} // namespace

HandSheet backSetSheet(const Derived& d, const HandSizes& size) {
    if (!d.body || !d.neck) {
        throw Error("There is no neck in a body yet whose angle could be planed.");
    }
    if (d.body->part.winged()) {
        return wedgeSheet(d, size);
    }
    const SetupGeometry setup = setupGeometry(d.body->part, d.neck->part);
    if (setup.heelWedge == 0) {
        throw Error("Only a neck that goes through, or a heel that its angle is cut into, gets a "
                    "back-set; the angle of this one is in its pocket.");
    }
    return heelSheet(d, size, setup);
}

} // namespace wren
