#include "job/derive.h"

#include "base/digest.h"
#include "base/error.h"
#include "job/hand_steps.h"
#include "job/put_together.h"
#include "job/store.h"
#include "proof/travel.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

void append(Findings& to, const Findings& from) {
    to.insert(to.end(), from.begin(), from.end());
}

/// The heaviest first; within a weight in the order they were found.
void sortByWeight(Findings& findings) {
    std::stable_sort(findings.begin(), findings.end(),
                     [](const Finding& a, const Finding& b) { return a.weight < b.weight; });
}

std::vector<PanelJob> noPanels;

void checkStop(const std::stop_token& stop) {
    if (stop.stop_requested()) {
        throw Cancelled();
    }
}

} // namespace

double Derived::seconds() const {
    double sum = 0;
    for (const PostedProgram& p : programs) {
        sum += p.time.seconds;
    }
    return sum;
}

double Derived::secondsPlain() const {
    double sum = 0;
    for (const PostedProgram& p : programs) {
        sum += p.time.secondsPlain;
    }
    return sum;
}

ProgramPlace Derived::placeOf(std::size_t program) const {
    std::size_t i = program;
    if (i < readBack.size()) {
        return {plan ? &plan->setup : nullptr, -1, -1, i};
    }
    i -= readBack.size();
    for (int side = 0; neck && side < 2; ++side) {
        const auto k = static_cast<std::size_t>(side);
        if (i < neck->readBack[k].size()) {
            return {&neck->plan.sides[k].setup, side, -1, i};
        }
        i -= neck->readBack[k].size();
    }
    for (std::size_t n = 0; body && n < body->panels.size(); ++n) {
        const PanelJob& job = body->panels[n];
        for (int side = 0; side < 2; ++side) {
            const auto k = static_cast<std::size_t>(side);
            if (i < job.readBack[k].size()) {
                return {&job.plan.sides[k].setup, side, static_cast<int>(n), i};
            }
            i -= job.readBack[k].size();
        }
    }
    return {};
}

const PanelJob* Derived::panelNamed(const std::string& part) const {
    for (const PanelJob& job : body ? body->panels : noPanels) {
        if (job.name() == part) {
            return &job;
        }
    }
    return nullptr;
}

const PanelJob* BodyJob::named(const std::string& panel) const {
    const auto it = std::find_if(panels.begin(), panels.end(),
                                 [&](const PanelJob& j) { return panelOf(j).name == panel; });
    return it == panels.end() ? nullptr : &*it;
}

std::vector<std::string> Derived::parts() const {
    std::vector<std::string> out;
    if (!project.carved()) {
        out.emplace_back("fretboard");
    }
    if (wantsNeck()) {
        out.emplace_back("neck");
    }
    for (const PanelJob& job : body ? body->panels : noPanels) {
        out.push_back(job.name());
    }
    if (project.wantsBody() && !body) {
        out.emplace_back("body");
    }
    return out;
}

namespace {

/// Whether two projects have the same neck, lying the same way.
bool sameNeck(const Project& a, const Project& b) {
    return a.board == b.board && a.neck == b.neck && a.neckBlank == b.neckBlank &&
           a.neckHold == b.neckHold && a.machine == b.machine;
}

void drawNeck(Derived& d) {
    const Project& p = d.project;
    const Findings numbers = judgeNeckNumbers(p.neck, p.board);
    append(d.findings, numbers);
    if (!numbers.empty()) {
        return;
    }
    NeckPart part(p.neck, p.board);
    Findings found = judgeNeck(p.neck, p.board, part.outline(), part.back());
    const bool firm = hasFirmStop(found);
    NeckSetups setups = layNeck(part, p.neckBlank, p.neckHold, p.machine);
    const Findings held = judgeNeckHold(part, setups, p.neckHold, p.machine);
    append(found, held);
    const double volume = part.volume();
    std::vector<WoodUnder> wood = woodUnderRod(part.back(), p.neck.rod);
    d.neck.emplace(NeckJob{std::move(part),
                           std::move(setups),
                           !firm && !hasFirmStop(held),
                           volume,
                           std::move(wood),
                           {},
                           {},
                           {},
                           std::move(found)});
    append(d.findings, d.neck->drawn);
}

/// The neck of an earlier derivation as it was drawn, before anything was planned.
void takeNeck(Derived& d, const NeckJob& drawn) {
    d.neck.emplace(NeckJob{drawn.part,
                           drawn.setups,
                           drawn.placed,
                           drawn.volume,
                           drawn.woodUnder,
                           {},
                           {},
                           {},
                           drawn.drawn});
    append(d.findings, d.neck->drawn);
}

void drawBody(Derived& d) {
    const Project& p = d.project;
    if (!d.neck || p.neck.joint == NeckJoint::through) {
        sayOf("body", d.findings, Weight::stop, "no-neck",
              d.neck
                  ? "A neck that goes through is its body's core; wings are not made here, so no "
                    "body was expected with it."
                  : "A body is made to fit its neck, and this design has none that can be made: "
                    "a bolt-on or set neck was expected.",
              0, 0)
            .overridable = false;
        return;
    }
    const Findings numbers = judgeBodyNumbers(p.body);
    append(d.findings, numbers);
    if (!numbers.empty()) {
        return;
    }
    // What the top's piece has too much is taken off once it is glued.
    Body body = p.body;
    body.topSpare =
        std::max(0.0, p.bodyBlank.topThickness.value_or(body.top + body.topSpare) - body.top);
    try {
        d.body.emplace(BodyJob{BodyPart(body, d.neck->part, p.bodyWoods), {}, 0, {}, {}, {}, {}});
    } catch (const Error& e) {
        sayOf("body", d.findings, Weight::stop, "body-cannot-be-drawn", e.what(), 0, 0)
            .overridable = false;
        return;
    }
    const Findings found = judgeBody(d.body->part);
    append(d.findings, found);
    const std::vector<Panel>& panels = d.body->part.panels();
    const Panel* top = d.body->part.panel("top");
    const std::array<Vec2, 2> around = top ? top->box() : d.body->part.panel("body")->box();
    for (std::size_t i = 0; i < panels.size(); ++i) {
        PanelJob job;
        job.panel = i;
        job.setups = layPanel(panels[i], panels[i].fitted() ? panels[i].box() : around, p.bodyBlank,
                              p.bodyHold, p.machine);
        const Findings held = judgePanelHold(panels[i], job.setups, p.bodyHold, p.machine);
        append(d.findings, held);
        job.placed = !hasFirmStop(held);
        d.body->panels.push_back(std::move(job));
    }
}

} // namespace

Derived deriveDrawing(const Project& project, const std::string& overrideReason,
                      const Derived* before) {
    Derived d;
    d.project = project;
    d.designHash = designHash(project);
    d.overrideReason = overrideReason;
    d.frets = fretTable(project.board);
    d.findings = judgeFretboard(project.board);
    if (hasFirmStop(d.findings)) {
        return d;
    }
    d.board.emplace(project.board);
    if (!project.carved()) {
        const Findings blank = judgeBlank(*d.board, project.blank);
        append(d.findings, blank);
        if (!hasFirmStop(blank)) {
            d.setup = layBoard(*d.board, project.blank, project.machine, project.zZero);
            append(d.findings, judgePlacement(*d.setup, project.machine));
        }
    }
    if (project.neck.joint != NeckJoint::none) {
        if (before && before->neck && sameNeck(before->project, project)) {
            takeNeck(d, *before->neck);
        } else {
            drawNeck(d);
        }
    }
    if (project.wantsBody()) {
        drawBody(d);
    }
    sortByWeight(d.findings);
    return d;
}

namespace {

/// Where the programs of a setup are kept as they were read back.
std::vector<RunProgram>& readBackOf(Derived& d, const Setup& setup) {
    for (std::size_t side = 0; side < 2; ++side) {
        if (d.neck && &setup == &d.neck->plan.sides[side].setup) {
            return d.neck->readBack[side];
        }
        for (PanelJob& job : d.body ? d.body->panels : noPanels) {
            if (&setup == &job.plan.sides[side].setup) {
                return job.readBack[side];
            }
        }
    }
    return d.readBack;
}

void proveBody(Derived& d, const std::stop_token& stop) {
    for (PanelJob& job : d.body->panels) {
        checkStop(stop);
        if (job.readBack[0].empty()) {
            continue;
        }
        if (!d.body->panelOf(job).layers.empty()) {
            job.start = gluedUp(*d.body, job);
        }
        job.proof = provePanel(d.body->sides(job, d.project.bodyHold.turn), job.plan,
                               d.project.bodyCut, d.project.machine, panelCell, stop);
        for (const ProofReport& side : job.proof->sides) {
            append(d.findings, side.findings);
        }
    }
    layTogether(d);
}

} // namespace

void derivePrograms(Derived& d, const std::stop_token& stop) {
    std::vector<PostJob> jobs;
    checkStop(stop);
    if (d.setup) {
        d.plan = planBoard(*d.board, *d.setup, d.project.bits, d.project.machine, d.project.cut);
        append(d.findings, d.plan->findings);
        jobs.push_back({&d.plan->setup, &d.plan->cuts});
    }
    checkStop(stop);
    if (d.neck && d.neck->placed) {
        d.neck->plan = planNeck(d.neck->part, d.neck->setups, d.project.bits, d.project.machine,
                                d.project.neckCut, d.project.cut);
        append(d.findings, d.neck->plan.findings);
        for (const SidePlan& side : d.neck->plan.sides) {
            jobs.push_back({&side.setup, &side.cuts});
        }
    }
    if (d.body) {
        d.body->volume = d.body->part.volume();
    }
    for (PanelJob& job : d.body ? d.body->panels : noPanels) {
        checkStop(stop);
        if (!job.placed) {
            continue;
        }
        job.plan = planPanel(d.body->panelOf(job), job.setups, d.project.bits, d.project.machine,
                             d.project.bodyCut);
        append(d.findings, job.plan.findings);
        if (auto& cuts = job.plan.sides[0].cuts; !cuts.empty()) {
            const HandStep step = handStepBefore(d.body->part, d.body->panelOf(job));
            cuts.front().handBefore = step.what;
            cuts.front().handMinutes = step.minutes;
        }
        for (const SidePlan& side : job.plan.sides) {
            if (!side.cuts.empty()) {
                jobs.push_back({&side.setup, &side.cuts});
            }
        }
    }
    sortByWeight(d.findings);
    checkStop(stop);
    const std::vector<Program> programs =
        postPrograms(jobs, d.project.machine, {d.project.name, d.designHash, d.overrideReason});
    for (const Program& program : programs) {
        checkStop(stop);
        const PostJob& job = *std::find_if(jobs.begin(), jobs.end(), [&](const PostJob& j) {
            return j.setup->part == program.part && j.setup->name == program.setup;
        });
        RunProgram run = readBack({program}, *job.setup).front();
        d.programs.push_back({program, timeOf(run.path, d.project.machine), extentsOf(run.path),
                              sha256(program.text)});
        readBackOf(d, *job.setup).push_back(std::move(run));
    }
}

void deriveProof(Derived& d, const std::stop_token& stop) {
    if (!d.readBack.empty()) {
        d.proof = proveBoard(*d.board, *d.plan, d.project.cut, d.project.machine, d.readBack,
                             proofCell, stop);
        append(d.findings, d.proof->findings);
    }
    if (d.neck && !d.neck->readBack[1].empty()) {
        d.neck->proof =
            proveNeck(d.neck->part, d.neck->setups, d.project.neckHold.turn, d.neck->plan,
                      d.project.neckCut, d.project.machine, d.neck->readBack, proofCell, stop);
        for (const ProofReport& side : d.neck->proof->sides) {
            append(d.findings, side.findings);
        }
    }
    if (d.body) {
        proveBody(d, stop);
    }
    sortByWeight(d.findings);
}

Derived derive(const Project& project, const std::string& overrideReason,
               const std::stop_token& stop) {
    Derived d = deriveDrawing(project);
    derivePrograms(d, stop);
    deriveProof(d, stop);
    // A reason is only written into programs that need it, and only the proof knows whether they
    // do.
    if (!overrideReason.empty() && hasStop(d.findings)) {
        d = deriveDrawing(project, overrideReason);
        derivePrograms(d, stop);
        deriveProof(d, stop);
    }
    return d;
}

} // namespace wren
