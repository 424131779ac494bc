#include "job/derive.h"

#include "base/digest.h"
#include "base/error.h"
#include "cut/panel_bits.h"
#include "job/hand_steps.h"
#include "job/put_together.h"
#include "job/store.h"
#include "proof/travel.h"

#include <algorithm>
#include <map>

#include <fmt/format.h>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

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

namespace {

/// Calls f(report) for every proof there is.
template <typename F>
void overProofs(const Derived& d, F f) {
    if (d.proof) {
        f(*d.proof);
    }
    if (d.neck && d.neck->proof) {
        f(d.neck->proof->sides[0]);
        f(d.neck->proof->sides[1]);
    }
    for (const PanelJob& job : d.body ? d.body->panels : noPanels) {
        if (job.proof) {
            f(job.proof->sides[0]);
            f(job.proof->sides[1]);
        }
    }
}

} // namespace

double Derived::secondsInAir(const std::vector<PartId>& parts) const {
    double sum = 0;
    overProofs(*this, [&](const ProofReport& r) {
        const bool counts =
            parts.empty() || std::find(parts.begin(), parts.end(), r.part) != parts.end();
        for (const ProgramLoad& l : r.loads) {
            sum += counts ? l.airSeconds : 0;
        }
    });
    return sum;
}

const ProgramLoad* Derived::loadOf(const std::string& program) const {
    const ProgramLoad* found = nullptr;
    overProofs(*this, [&](const ProofReport& r) {
        for (const ProgramLoad& l : r.loads) {
            found = l.program == program ? &l : found;
        }
    });
    return found;
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

const PanelJob* Derived::panelOf(PartId part) const {
    return body ? body->of(part) : nullptr;
}

const PanelJob* BodyJob::of(PartId id) const {
    const auto it = std::find_if(panels.begin(), panels.end(),
                                 [&](const PanelJob& j) { return j.part() == id; });
    return it == panels.end() ? nullptr : &*it;
}

std::vector<PartId> Derived::parts() const {
    std::vector<PartId> out;
    if (!project.carved()) {
        out.emplace_back(Role::board);
    }
    if (wantsNeck()) {
        out.emplace_back(Role::neck);
    }
    for (const PanelJob& job : body ? body->panels : noPanels) {
        out.push_back(job.part());
    }
    if (project.wantsBody() && !body) {
        out.emplace_back(Role::body);
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
    if (hasStop(numbers)) {
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
        sayOf(Role::body, d.findings, Weight::stop, "no-neck",
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
    if (hasStop(numbers)) {
        return;
    }
    // What the top's piece has too much is taken off once it is glued.
    Body body = p.body;
    body.topSpare =
        std::max(0.0, p.bodyBlank.topThickness.value_or(body.top + body.topSpare) - body.top);
    try {
        d.body.emplace(BodyJob{BodyPart(body, d.neck->part, p.bodyWoods), {}, 0, {}, {}, {}, {}});
    } catch (const Error& e) {
        sayOf(Role::body, d.findings, Weight::stop, "body-cannot-be-drawn", e.what(), 0, 0)
            .overridable = false;
        return;
    }
    const Findings found = judgeBody(d.body->part);
    append(d.findings, found);
    const std::vector<Panel>& panels = d.body->part.panels();
    const Panel* top = d.body->part.panel(Role::top);
    const std::array<Vec2, 2> around = top ? top->box() : d.body->part.panel(Role::body)->box();
    for (std::size_t i = 0; i < panels.size(); ++i) {
        PanelJob job;
        job.panel = i;
        job.setups = layPanel(panels[i], panels[i].fitted() ? panels[i].box() : around, p.bodyBlank,
                              p.bodyHold, p.machine,
                              panels[i].outlined && outlineIsShared(panels[i], p.bodyCut, p.bits));
        const Findings held = judgePanelHold(panels[i], job.setups, p.bodyHold, p.machine);
        append(d.findings, held);
        job.placed = !hasFirmStop(held);
        d.body->panels.push_back(std::move(job));
    }
}

} // namespace

Derived deriveDrawing(const Project& project, const Derived* before) {
    Derived d;
    d.project = project;
    d.designHash = designHash(project);
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

Findings proveTheBody(Derived& d, const std::stop_token& stop) {
    Findings found;
    for (PanelJob& job : d.body ? d.body->panels : noPanels) {
        checkStop(stop);
        if (job.readBack[0].empty()) {
            continue;
        }
        if (!d.body->panelOf(job).layers.empty()) {
            job.start = gluedUp(*d.body, job, [](const PanelJob& layer) {
                return layer.proof ? layer.proof->face.get() : nullptr;
            });
        }
        job.proof = provePanel(d.body->sides(job, d.project.bodyHold.turn), job.plan,
                               d.project.bodyCut, d.project.machine, panelCell, stop);
        for (const ProofReport& side : job.proof->sides) {
            append(found, side.findings);
        }
    }
    return found;
}

} // namespace

namespace {

// One function a part, so that they can be worked on side by side: each writes into its own part of
// `d` and returns what it found.

Findings planTheBoard(Derived& d, const std::stop_token& stop) {
    checkStop(stop);
    if (!d.setup) {
        return {};
    }
    d.plan = planBoard(*d.board, *d.setup, d.project.bits, d.project.machine, d.project.cut);
    easeBoard(*d.plan, *d.board, d.project.machine, stop);
    return d.plan->findings;
}

Findings planTheNeck(Derived& d, const std::stop_token& stop) {
    checkStop(stop);
    if (!d.neck || !d.neck->placed) {
        return {};
    }
    NeckJob& neck = *d.neck;
    neck.plan = planNeck(neck.part, neck.setups, d.project.bits, d.project.machine,
                         d.project.neckCut, d.project.cut);
    easeNeck(neck.plan, neck.part, neck.setups, d.project.neckHold.turn, d.project.machine, stop);
    return neck.plan.findings;
}

Findings planTheBody(Derived& d, const std::stop_token& stop) {
    Findings found;
    if (!d.body) {
        return found;
    }
    BodyJob& body = *d.body;
    body.volume = body.part.volume();
    std::map<const PanelJob*, Stock> faces; // of the pieces that others are glued on
    const auto faceOf = [&](const PanelJob& layer) {
        const auto it = faces.find(&layer);
        return it == faces.end() ? nullptr : &it->second;
    };
    for (PanelJob& job : body.panels) {
        checkStop(stop);
        if (!job.placed) {
            continue;
        }
        const Panel& panel = body.panelOf(job);
        job.plan =
            planPanel(panel, job.setups, d.project.bits, d.project.machine, d.project.bodyCut);
        append(found, job.plan.findings);
        const auto start = panel.layers.empty() ? nullptr : gluedUp(body, job, faceOf);
        faces.emplace(&job, easePanel(job.plan, panel, job.setups, d.project.bodyHold.turn, start,
                                      d.project.machine, stop));
        if (auto& cuts = job.plan.sides[0].cuts; !cuts.empty()) {
            const HandStep step = handStepBefore(body.part, panel);
            cuts.front().handBefore = step.what;
            cuts.front().handMinutes = step.minutes;
        }
    }
    return found;
}

/// What is to be posted, in running order.
std::vector<PostJob> postJobs(const Derived& d) {
    std::vector<PostJob> jobs;
    if (d.plan) {
        jobs.push_back({&d.plan->setup, &d.plan->cuts});
    }
    const auto add = [&](const std::array<SidePlan, 2>& sides) {
        for (const SidePlan& side : sides) {
            if (!side.cuts.empty()) {
                jobs.push_back({&side.setup, &side.cuts});
            }
        }
    };
    if (d.neck && d.neck->placed) {
        add(d.neck->plan.sides);
    }
    for (const PanelJob& job : d.body ? d.body->panels : noPanels) {
        add(job.plan.sides);
    }
    return jobs;
}

std::vector<Program> postedText(const Derived& d) {
    ProgramContext context{d.project.name, d.designHash};
    for (const Override& o : d.overrides) {
        std::string& text = context.overridden[o.part];
        text += fmt::format("{}{}, {}", text.empty() ? "" : "; ", o.code, o.reason);
    }
    return postPrograms(postJobs(d), d.project.machine, context);
}

} // namespace

void derivePrograms(Derived& d, const std::stop_token& stop) {
    std::array<Findings, 3> found;
    tbb::parallel_invoke([&] { found[0] = planTheBoard(d, stop); },
                         [&] { found[1] = planTheNeck(d, stop); },
                         [&] { found[2] = planTheBody(d, stop); });
    for (Findings& some : found) {
        append(d.findings, some);
    }
    sortByWeight(d.findings);
    checkStop(stop);
    const std::vector<Program> programs = postedText(d);
    const std::vector<PostJob> jobs = postJobs(d);
    std::vector<RunProgram> read(programs.size());
    d.programs.resize(programs.size());
    const auto setupOf = [&](const Program& program) -> const Setup& {
        return *std::find_if(jobs.begin(), jobs.end(), [&](const PostJob& j) {
                    return j.setup->part == program.part && j.setup->name == program.setup;
                })->setup;
    };
    tbb::parallel_for(std::size_t{0}, programs.size(), [&](std::size_t i) {
        checkStop(stop);
        const Program& program = programs[i];
        read[i] = readBack({program}, setupOf(program)).front();
        d.programs[i] = PostedProgram::of(program, read[i], d.project.machine);
    });
    for (std::size_t i = 0; i < programs.size(); ++i) {
        readBackOf(d, setupOf(programs[i])).push_back(std::move(read[i]));
    }
}

namespace {

Findings proveTheBoard(Derived& d, const std::stop_token& stop) {
    if (d.readBack.empty()) {
        return {};
    }
    d.proof = proveBoard(*d.board, *d.plan, d.project.cut, d.project.machine, d.readBack, proofCell,
                         stop);
    return d.proof->findings;
}

Findings proveTheNeck(Derived& d, const std::stop_token& stop) {
    Findings found;
    if (d.neck && !d.neck->readBack[1].empty()) {
        NeckJob& neck = *d.neck;
        neck.proof =
            proveNeck(neck.part, neck.setups, d.project.neckHold.turn, neck.plan, d.project.neckCut,
                      d.project.machine, neck.readBack, proofCell, stop);
        for (const ProofReport& side : neck.proof->sides) {
            append(found, side.findings);
        }
    }
    return found;
}

} // namespace

void deriveProof(Derived& d, const std::stop_token& stop) {
    std::array<Findings, 3> found;
    tbb::parallel_invoke([&] { found[0] = proveTheBoard(d, stop); },
                         [&] { found[1] = proveTheNeck(d, stop); },
                         [&] { found[2] = proveTheBody(d, stop); });
    for (Findings& some : found) {
        append(d.findings, some);
    }
    if (d.body) {
        layTogether(d);
    }
    sortByWeight(d.findings);
}

Derived derive(const Project& project, const std::stop_token& stop) {
    Derived d = deriveDrawing(project);
    derivePrograms(d, stop);
    deriveProof(d, stop);
    return d;
}

void giveReasons(Derived& d, const Overrides& overrides, const std::stop_token& stop) {
    d.overrides.clear();
    for (const Finding& f : d.findings) {
        const Override* given = f.weight == Weight::stop ? overrideOf(overrides, f) : nullptr;
        if (given && !overrideOf(d.overrides, f)) {
            d.overrides.push_back(*given);
        }
    }
    const std::vector<Program> programs = postedText(d);
    for (std::size_t i = 0; i < programs.size(); ++i) {
        checkStop(stop);
        if (programs[i].text != d.programs[i].program.text) {
            d.programs[i].setText(programs[i]);
        }
    }
}

} // namespace wren
