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
    held.back->stations = {tail, head};
    for (Setup* setup : {&held.face, &*held.back}) {
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

} // namespace wren
