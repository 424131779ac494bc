#include "job/bench_steps.h"

#include "job/glue.h"

#include <algorithm>
#include <cstdlib>

#include <fmt/format.h>

namespace wren {
namespace {

/// The order of the bench is common practice, no source; its numbers are the instrument's.
std::vector<BenchStep> listOf(const Derived& d, LengthUnit unit) {
    const Project& p = d.project;
    const auto size = [&](double mm) { return formatLength(mm, unit, unit == LengthUnit::mm ? 2 : 3); };
    std::vector<BenchStep> out;
    for (const GlueJoint& joint : glueList(d)) {
        const GlueChoices& g = p.glue;
        out.push_back({"Gluing", joint.what,
                       joint.volume > 0
                           ? fmt::format("{:.0f} g of epoxy, {:g} h", joint.adhesive, g.rest)
                           : fmt::format("{:.0f} g, within {:g} min, clamped {:g} min, {:g} h",
                                         joint.adhesive, g.open, g.clamped, g.rest)});
    }
    if (p.board.frets > 0) {
        const int frets = p.board.frets + (p.board.zeroFret ? 1 : 0);
        out.push_back({"Fretting", "press the frets, before or after the board is glued on",
                       fmt::format("{} fret{}, tang {}", frets, frets == 1 ? "" : "s",
                                   size(p.board.wire.tangWidth))});
        out.push_back({"Fretting", "level the crowns, crown them again, write down their height",
                       size(p.board.wire.crownHeight) + " as bought"});
    }
    if (d.neck && p.neck.joint == NeckJoint::boltOn) {
        out.push_back({"Drilling", "pilots in the heel, through the body, before any finish",
                       fmt::format("{} of {}", p.neck.bolts, size(p.neck.boltPilot))});
    }
    if (d.body) {
        out.push_back({"Drilling", "bridge, straps, lid and jack, before any finish", ""});
        const StringAims& aims = p.body.aims;
        const std::string action =
            fmt::format("{}, {}", size(aims.action),
                        size(aims.trebleAction.value_or(aims.action)));
        out.push_back({"Strung test", "string it before the finish, set it up, read it, strip it",
                       "action " + action});
        out.push_back({"Finish", "sand, finish, let it cure; fits lose its thickness", ""});
        out.push_back({"Setup", "action over fret 12: bass, treble", action});
        out.push_back({"Setup", "relief", aims.relief > 0 ? size(aims.relief) : "drawn straight"});
        out.push_back({"Setup", "intonation: saddles back from the scale line", ""});
        out.push_back({"Settled", "read action and relief again after two weeks under tension",
                       ""});
    }
    return out;
}

} // namespace

std::vector<BenchStep> benchSteps(const Derived& d, LengthUnit unit,
                                  const std::vector<Record>& handwork) {
    std::vector<BenchStep> out = listOf(d, unit);
    for (BenchStep& step : out) {
        const auto newest = std::find_if(handwork.begin(), handwork.end(), [&](const Record& r) {
            return r.field("project") == d.project.name && r.field("step") == step.id();
        });
        if (newest != handwork.end() && newest->field("state") != "open") {
            step.done = newest->time;
            step.by = newest->field("by");
            step.minutes = std::atof(newest->field("minutes").c_str());
            step.note = newest->field("note");
        }
    }
    return out;
}

Record benchRecord(const std::string& project, const BenchStep& step, bool done,
                   const std::string& by, const std::string& minutes, const std::string& note) {
    std::vector<std::string> typed{"project=" + project, "step=" + step.id(),
                                   done ? "state=done" : "state=open"};
    if (done && !by.empty()) {
        typed.push_back("by=" + by);
    }
    if (done && !minutes.empty()) {
        typed.push_back("minutes=" + minutes);
    }
    if (done && !note.empty()) {
        typed.push_back("note=" + note);
    }
    return recordFrom("handwork", typed);
}

} // namespace wren
