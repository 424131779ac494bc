#include "job/hold_card.h"

#include "base/error.h"
#include "base/sixty_fourths.h"
#include "job/clamps.h"
#include "job/probe_spot.h"
#include "job/register_advice.h"
#include "job/tidy.h"

#include <cmath>
#include <numbers>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

using json = nlohmann::ordered_json;

/// How far behind the long line the part's own lies.
double lineOf(const Project& p, PartId part) {
    return part == Role::board                               ? p.blank.line
           : part == Role::neck || part == Role::neckFixture ? p.neckBlank.line
                                                             : 0;
}

std::vector<Jog> jogsTo(const Setup& setup, std::size_t station, const Project& p) {
    const Machine& m = p.machine;
    const Vec2 zero = setup.zeroOn(station) + setup.zeroOf(station);
    const Vec2 home{0, 0}; // by definition, whichever corner it is
    std::vector<Jog> out{{"home, spindle up", home, home},
                         {"the crossing of the engraved lines", m.crossing, m.crossing - home}};
    const double line = lineOf(p, setup.part);
    if (line != 0) {
        out.push_back(
            {"where the short line crosses its own", m.crossing + Vec2{0, line}, {0, line}});
    }
    out.push_back({"X-Y zero: " + setup.datum, zero, zero - out.back().to});
    return out;
}

/// What makes two sides meet wrongly, by arithmetic: a place that is missed by e lies e off in one
/// side and e the other way in the other.
std::vector<std::string> shiftsOf(const Held& held, double square) {
    constexpr double missed = 0.1;                             // mm
    const double askew = square != 0 ? std::abs(square) : 0.5; // degrees
    if (!held.back) {
        return {};
    }
    const double leans = std::tan(askew * std::numbers::pi / 180) * held.blank.thickness;
    std::vector<std::string> out;
    if (held.pins.empty()) {
        out.push_back(fmt::format("The crossing missed by {:.1f} mm puts the sides {:.1f} mm "
                                  "apart.",
                                  missed, 2 * missed));
        out.push_back(fmt::format("Marks carried down an edge that is {:.1f} degrees out of square "
                                  "miss by {:.2f} mm over {:.1f} mm of thickness.",
                                  askew, leans, held.blank.thickness));
        out.push_back(
            fmt::format("One end mark out by {:.1f} mm: {:.1f} mm at that end, nothing at "
                        "the other.",
                        missed, 2 * missed));
        out.emplace_back("A zero taken again from a corner brings the corner's own error in.");
        out.emplace_back("A wrong width does nothing while both end marks come from one edge.");
    } else {
        double apart = 0;
        for (const RegisterPin& a : held.pins) {
            for (const RegisterPin& b : held.pins) {
                apart = std::max(apart, length(a.at - b.at));
            }
        }
        const double far = apart > 0 ? held.blank.length / apart : 1;
        out.push_back(fmt::format("Play of {:.2f} mm at pins {:.0f} mm apart may be {:.2f} mm at "
                                  "the blank's far end.",
                                  held.expectedError, apart, held.expectedError * far));
        out.emplace_back("Pins and holes do not ask where the crossing is once they are drilled "
                         "and the zero is kept.");
    }
    return out;
}

const char* zFaceOf(const HoldCard& c) {
    return c.setup->zZero == ZZero::top ? "the blank's face"
           : c.onFixture                ? "the fixture board's face"
                                        : "the bed";
}

json place(Vec2 p) {
    return {tidy(p.x), tidy(p.y)};
}

json cardJson(const HoldCard& c) {
    json out{{"setup", c.setup->nameIn(c.station)},
             {"datum", c.setup->datum},
             {"z_zero", zZeroName(c.setup->zZero)},
             {"bed_mm", {{"min", place(c.bed[0])}, {"max", place(c.bed[1])}}},
             {"marks", json::array()},
             {"jogs", json::array()},
             {"pins", json::array()},
             {"clamps", json::array()},
             {"probe_spot", c.probe ? place(*c.probe) : json()},
             {"probe_on", zFaceOf(c)},
             {"expected_error_mm", tidy(c.expectedError)},
             {"shifts", c.shifts}};
    for (const RegisterMark& m : c.marks) {
        out["marks"].push_back({{"what", m.what},
                                {"from_end_mm", tidy(m.fromEnd)},
                                {"from_end_in", sixtyFourths(m.fromEnd)},
                                {"from_edge_mm", tidy(m.fromEdge)},
                                {"from_edge_in", sixtyFourths(m.fromEdge)}});
    }
    for (const Jog& j : c.jogs) {
        out["jogs"].push_back({{"what", j.what}, {"to_mm", place(j.to)}, {"by_mm", place(j.by)}});
    }
    for (Vec2 pin : c.pins) {
        out["pins"].push_back({{"at_mm", place(pin)}, {"diameter_mm", tidy(c.pinSize)}});
    }
    for (const auto& [clamp, at] : c.clamps) {
        out["clamps"].push_back({{"kind", clampName(clamp->kind)},
                                 {"from_corner_mm", place(clamp->at)},
                                 {"at_mm", place(at)},
                                 {"turn_deg", tidy(clamp->turn)}});
    }
    return out;
}

} // namespace

std::vector<HoldCard> holdCards(const Derived& d, const PartJob& job) {
    const Held& held = job.held;
    std::vector<HoldCard> out;
    for (std::size_t side = 0; side < held.sides(); ++side) {
        const Setup& setup = held.side(side);
        for (std::size_t k = 0; k < std::max<std::size_t>(1, setup.stations.size()); ++k) {
            HoldCard c;
            c.setup = &setup;
            c.station = k;
            const Vec2 corner = setup.zeroOn(k);
            c.bed = {corner, corner + Vec2{setup.blank.length, setup.blank.width}};
            c.marks =
                held.marks.empty() ? registerMarks(setup.blank, "nut end", "far end") : held.marks;
            c.jogs = jogsTo(setup, k, d.project);
            for (const RegisterPin& pin : held.pins) {
                const Vec3 at = setup.fromInstrument.toSetup({pin.at.x, pin.at.y, 0});
                c.pins.push_back(corner + at.xy());
            }
            c.pinSize = held.pinSize;
            c.onFixture = held.under > 0;
            for (std::size_t i : clampsOf(d.project, job.id, side, setup.numberOf(k))) {
                const Clamp& clamp = d.project.clamps[i];
                c.clamps.emplace_back(&clamp, corner + clamp.at);
            }
            try {
                c.probe = probeSpot(d, job, side, k);
            } catch (const Error&) {
                // told among the findings
            }
            c.room = tightestOf(setup, d.project.machine, held.under, job.read[side]);
            c.expectedError = held.back ? held.expectedError : 0;
            c.shifts = shiftsOf(
                held, (job.id == Role::neck ? d.project.neckHold : d.project.bodyHold).edgeSquare);
            out.push_back(std::move(c));
        }
    }
    return out;
}

std::string holdJson(const Derived& d, const PartJob& job) {
    json setups = json::array();
    for (const HoldCard& c : holdCards(d, job)) {
        setups.push_back(cardJson(c));
    }
    const Blank& b = job.held.blank;
    json doc{{"part", job.name()},
             {"machine", d.project.machine.name},
             {"blank_mm", {tidy(b.length), tidy(b.width), tidy(b.thickness)}},
             {"setups", setups}};
    doc["stations"] = job.held.pitch > 0 ? json{{"count", 2},
                                                {"pitch_mm", tidy(job.held.pitch)},
                                                {"seam_from_blank_end_mm", tidy(job.held.seam)}}
                                         : json();
    if (const auto advice = registerAdvice(d.project, job)) {
        doc["register"] = {{"better", advice->better == Register::pins ? "pins" : "marks"},
                           {"by_pins_mm", tidy(advice->byPins)},
                           {"by_marks_mm", tidy(advice->byMarks)},
                           {"why", advice->why}};
    }
    return doc.dump(2) + "\n";
}

std::string holdText(const Derived& d, const PartJob& job) {
    std::string out;
    for (const HoldCard& c : holdCards(d, job)) {
        const Blank& b = c.setup->blank;
        out += fmt::format("{}, {}: blank {:.1f} x {:.1f} x {:.2f} mm, on the bed from X {:.1f} "
                           "Y {:.1f} to X {:.1f} Y {:.1f}\n",
                           job.name(), c.setup->nameIn(c.station), b.length, b.width, b.thickness,
                           c.bed[0].x, c.bed[0].y, c.bed[1].x, c.bed[1].y);
        for (const RegisterMark& m : c.marks) {
            out += fmt::format("  mark   {}: {:.1f} mm ({}) from the end, {:.1f} mm ({}) from the "
                               "edge\n",
                               m.what, m.fromEnd, sixtyFourths(m.fromEnd), m.fromEdge,
                               sixtyFourths(m.fromEdge));
        }
        for (const Jog& j : c.jogs) {
            out += fmt::format("  jog    {}: X {:+.2f} Y {:+.2f}, machine X {:.2f} Y {:.2f}\n",
                               j.what, j.by.x, j.by.y, j.to.x, j.to.y);
        }
        for (Vec2 pin : c.pins) {
            out += fmt::format("  pin    {:.1f} mm at machine X {:.2f} Y {:.2f}\n", c.pinSize,
                               pin.x, pin.y);
        }
        for (const auto& [clamp, at] : c.clamps) {
            out += fmt::format("  clamp  {} at {:.0f}, {:.0f} from the blank's corner, machine X "
                               "{:.0f} Y {:.0f}\n",
                               clampName(clamp->kind), clamp->at.x, clamp->at.y, at.x, at.y);
        }
        out += c.probe
                   ? fmt::format("  probe  Z on {}, plate's middle at machine X {:.1f} Y {:.1f}\n",
                                 zFaceOf(c), c.probe->x, c.probe->y)
                   : std::string("  probe  no place for the plate is reached\n");
        if (c.expectedError > 0) {
            out += fmt::format("  sides  meet within {:.2f} mm\n", c.expectedError);
        }
        for (const std::string& shift : c.shifts) {
            out += "         " + shift + "\n";
        }
    }
    if (const auto advice = registerAdvice(d.project, job)) {
        out += fmt::format("Pins or marks: to be expected are {:.2f} mm by pins, {:.2f} mm by "
                           "marks. {}\n",
                           advice->byPins, advice->byMarks, advice->why);
    }
    if (job.held.pitch > 0) {
        out +=
            fmt::format("Between the stations the blank slides {:.2f} mm; their cuts meet {:.1f} "
                        "mm from its end.\n",
                        job.held.pitch, job.held.seam);
    }
    return out;
}

} // namespace wren
