#include "hold/stations.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>
#include <limits>

#include <fmt/format.h>

namespace wren {
namespace {

constexpr double fromEnd = 2;   ///< of the travel, kept free
constexpr double apart = 150;   ///< of the pins at least: the nearer, the more their play turns it
constexpr double fromPin = 5;   ///< from the end of what either station reaches
constexpr double fromSeam = 25; ///< so far the seam stays within that: roughing reaches further

/// The place nearest to `from` on the way to `to` where holes find waste.
std::optional<double> firstClear(double from, double to, const std::function<bool(double)>& clear) {
    const double step = to > from ? 1 : -1;
    for (double x = from; (to - x) * step >= 0; x += step) {
        if (clear(x)) {
            return x;
        }
    }
    return {};
}

} // namespace

StationPlan planStations(std::array<double, 2> span, double seam, const Machine& machine,
                         const std::function<bool(double)>& clear) {
    const double reach = machine.travel.x - 2 * fromEnd;
    StationPlan out;
    out.pitch = std::ceil(span[1] - span[0] - reach);
    out.both = {span[0] + out.pitch, span[0] + reach};
    const double wide = out.both[1] - out.both[0];
    if (wide < apart + 2 * fromPin) {
        throw Error(fmt::format("{:.0f} mm of cuts do not fit into two stations of a machine that "
                                "travels {:.0f} mm: {:.0f} mm at most do.",
                                span[1] - span[0], machine.travel.x,
                                2 * reach - apart - 2 * fromPin));
    }
    out.seam = std::clamp(seam, out.both[0] + fromSeam, out.both[1] - fromSeam);
    const double middle = (out.both[0] + out.both[1]) / 2;
    const auto low = firstClear(std::ceil(out.both[0] + fromPin), middle, clear);
    const auto high = firstClear(std::floor(out.both[1] - fromPin), middle, clear);
    if (!low || !high || *high - *low < apart) {
        throw Error(fmt::format("Between {:.0f} and {:.0f} mm from the blank's end there is no "
                                "waste for two pairs of pins {:.0f} mm apart: a wider blank was "
                                "expected.",
                                out.both[0], out.both[1], apart));
    }
    out.pins = {*low, *high};
    return out;
}

void layInStations(Held& held, const StationPlan& plan, double inset, const Machine& machine) {
    constexpr double endless = std::numeric_limits<double>::max();
    const double width = held.blank.width;
    const double low = machine.lowCorner().x + fromEnd;
    // Where the setup's X0 lies on the machine, in either station.
    const double first = low - (plan.both[0] - plan.pitch);
    const Vec2 pin{plan.pins[0], inset};
    const double y = held.face.zeroOnMachine.y + inset;
    const SlideStation head{1, -endless, plan.seam + stationOverlap / 2, pin, {first + pin.x, y}};
    const SlideStation tail{
        2, plan.seam - stationOverlap / 2, endless, pin, {first - plan.pitch + pin.x, y}};
    held.face.stations = {head, tail};
    if (held.back) {
        held.back->stations = {tail, head};
    }
    for (Setup* setup : {&held.face, held.back ? &*held.back : &held.face}) {
        setup->datum = "middle of the pin nearer to the head";
        setup->zeroOnMachine = setup->zeroOn(0);
    }
    held.pitch = plan.pitch;
    held.seam = plan.seam;
    // Its marks bring it under the first station: the short line lies off its middle.
    const double line = machine.crossing.x - held.face.zeroOnMachine.x;
    held.marks[2] = {"over the short line, front edge", line, 0};
    held.marks[3] = {"over the short line, back edge", line, width};
    held.pins.clear();
    for (double x : plan.pins) {
        for (double across : {inset, width - inset}) {
            held.pins.push_back({held.face.fromInstrument.toInstrument({x, across, 0}).xy()});
        }
    }
}

namespace {

constexpr double tipBeyond = 12; ///< tips stand so far outside what they cut at most
constexpr double trench = 10;    ///< room for the bit round the part

/// The X that tips come to: over the pieces in the blank and its pins' holes, or all of a blank
/// that is faced.
std::array<double, 2> tipsOver(const Held& held, const Contour& outline) {
    double low = held.blank.length, high = 0;
    const auto over = [&](double x) {
        low = std::min(low, x);
        high = std::max(high, x);
    };
    const std::array<Vec2, 2> box = boxOf(outline);
    for (const SetupFromInstrument& place : held.face.places) {
        over(place.toSetup({box[0].x, box[0].y, 0}).x);
        over(place.toSetup({box[1].x, box[1].y, 0}).x);
    }
    for (const RegisterPin& pin : held.drillPins ? held.pins : std::vector<RegisterPin>()) {
        over(held.face.fromInstrument.toSetup({pin.at.x, pin.at.y, 0}).x);
    }
    if (held.face.faced > 0 || held.face.part.ofBody()) { // layers lie alike, faced or not
        low = 0;
        high = held.blank.length;
    }
    return {low - tipBeyond, high + tipBeyond};
}

/// Whether pins on both sides stand clear of an outline near an X of the setup.
std::function<bool(double)> clearOf(const Held& held, const Contour& outline, double room) {
    std::vector<std::array<Vec2, 2>> pieces; // of all that lie in the blank
    const std::vector<Vec2> points = pointsOf(outline, 0.1);
    for (const SetupFromInstrument& place : held.face.places) {
        const auto lies = [&](Vec2 p) { return place.toSetup({p.x, p.y, 0}).xy(); };
        for (std::size_t i = 0; i < points.size(); ++i) {
            pieces.push_back({lies(points[i]), lies(points[(i + 1) % points.size()])});
        }
    }
    const double width = held.blank.width;
    return [pieces, room, width](double x) {
        for (const auto& [a, b] : pieces) { // a straight one may have no point there
            if (std::max(a.x, b.x) < x - trench || std::min(a.x, b.x) > x + trench) {
                continue;
            }
            for (double at : {x - trench, x, x + trench}) {
                const double share =
                    a.x == b.x ? 0 : std::clamp((at - a.x) / (b.x - a.x), 0.0, 1.0);
                const double y = a.y + (b.y - a.y) * share;
                if (y < room || y > width - room) {
                    return false;
                }
            }
        }
        return true;
    };
}

StationPlan flatPlan(const Held& held, const Contour& outline, const TurnHold& hold,
                     const Machine& machine) {
    if (held.back && (hold.by != Register::pins || hold.turn != TurnOver::sideForSide)) {
        throw Error("What is cut in two stations is registered by pins and turned over side for "
                    "side.");
    }
    const double room = hold.pinInset + hold.pinSize / 2 + trench;
    return planStations(tipsOver(held, outline), held.blank.length / 2, machine,
                        clearOf(held, outline, room));
}

/// Whether what is cut of the blank is longer than the machine's travel.
bool beyondTravel(const Held& held, const Contour& outline, const Machine& machine) {
    const std::array<double, 2> tips = tipsOver(held, outline);
    return tips[1] - tips[0] > machine.travel.x;
}

} // namespace

void layFlatInStations(Held& held, const Contour& outline, const TurnHold& hold,
                       const Machine& machine) {
    if (!beyondTravel(held, outline, machine)) {
        return;
    }
    try {
        const StationPlan plan = flatPlan(held, outline, hold, machine);
        held.pinSize = hold.pinSize;
        held.under = hold.fixture;
        if (held.marks.empty()) {
            held.marks = registerMarks(held.blank, "left end", "right end");
        }
        layInStations(held, plan, hold.pinInset, machine);
        held.drillPins = false; // they come before anything else, in the whole blank
        held.face.datum = "middle of the front left pin";
        if (held.back) {
            held.back->datum = held.face.datum;
        }
    } catch (const Error&) {
        // it lies where it would, over the machine's ends
    }
}

Findings judgeFlatStations(const Held& held, const Contour& outline, const TurnHold& hold,
                           const Machine& machine) {
    Findings out;
    const PartId part = held.face.part;
    const std::array<double, 2> tips = tipsOver(held, outline);
    const double needs = tips[1] - tips[0];
    if (held.pitch > 0) {
        sayOf(part, out, Weight::note, "in-stations",
              fmt::format("Its cuts reach over {:.0f} mm and {} travels {:.0f} mm: it is cut in two "
                          "stations, sliding {:.2f} mm on pins in its waste. Their cuts meet {:.0f} "
                          "mm from the blank's left end; fitted dowels leave a step of about "
                          "{:.2f} mm there.",
                          needs, machine.name, machine.travel.x, held.pitch, held.seam, dowelError),
              held.pitch, 0);
    } else if (beyondTravel(held, outline, machine)) {
        try {
            flatPlan(held, outline, hold, machine);
        } catch (const Error& e) {
            sayOf(part, out, Weight::stop, "no-stations",
                  fmt::format("The {}'s cuts reach over {:.0f} mm, {} travels {:.0f} mm, and it "
                              "cannot be cut in stations: {}",
                              part.shortName(), needs, machine.name, machine.travel.x, e.what()),
                  needs, machine.travel.x)
                .overridable = false;
        }
    }
    if (held.pitch == 0) {
        const Findings hangs = judgePlacement(held.face, machine);
        out.insert(out.end(), hangs.begin(), hangs.end());
    }
    return out;
}

} // namespace wren
