#include "job/register_advice.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

const TurnHold& turnOf(const Project& p, PartId part) {
    return part == Role::neck ? p.neckHold : p.bodyHold;
}

/// How much longer the blank is than its pins stand apart: their play grows by that.
double leverOf(const TurnHold& hold, const Blank& blank) {
    const double apart = blank.length - 2 * hold.pinInset -
                         (hold.turn == TurnOver::sideForSide ? hold.pinUneven : 0);
    return apart > 1 ? std::max(1.0, blank.length / apart) : 1;
}

} // namespace

std::optional<RegisterAdvice> registerAdvice(const Project& p, const PartJob& job) {
    constexpr double shows = 0.1; // mm: a step a fingernail finds; common practice, no source
    if (!job.held.back) {
        return {};
    }
    const TurnHold& hold = turnOf(p, job.id);
    const Blank& b = job.held.blank;
    RegisterAdvice s;
    s.byPins = errorBy(Register::pins, hold, b.thickness) * leverOf(hold, b);
    s.byMarks = errorBy(Register::marks, hold, b.thickness);
    const bool several = p.batch.size() > 1;
    if (!job.held.face.stations.empty()) {
        s.why = "It is cut in stations, and only pins carry it from one to the next.";
    } else if (job.panel && !job.panel->layers.empty()) {
        s.why = "Its layers stand on the same pins, so that one zero serves them all.";
    } else if (s.byMarks - s.byPins > shows || several) {
        s.why =
            fmt::format("Pins: {:.2f} mm instead of {:.2f} mm between the sides{}.", s.byPins,
                        s.byMarks, several ? ", and one fixture board serves the whole batch" : "");
    } else {
        s.better = Register::marks;
        s.why = fmt::format("Marks: pins would gain only {:.2f} mm and want a fixture board.",
                            std::max(0.0, s.byMarks - s.byPins));
    }
    return s;
}

} // namespace wren
