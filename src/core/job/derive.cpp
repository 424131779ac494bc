#include "job/derive.h"

#include "base/digest.h"
#include "base/error.h"
#include "job/store.h"
#include "proof/travel.h"

#include <algorithm>

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
        return {plan ? &plan->setup : nullptr, -1, i};
    }
    i -= readBack.size();
    for (int side = 0; neck && side < 2; ++side) {
        const auto k = static_cast<std::size_t>(side);
        if (i < neck->readBack[k].size()) {
            return {&neck->plan.sides[k].setup, side, i};
        }
        i -= neck->readBack[k].size();
    }
    return {};
}

std::vector<std::string> Derived::parts() const {
    std::vector<std::string> out;
    if (!project.carved()) {
        out.emplace_back("fretboard");
    }
    if (wantsNeck()) {
        out.emplace_back("neck");
    }
    return out;
}

namespace {

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
    append(d.findings, found);
    NeckSetups setups = layNeck(part, p.neckBlank, p.neckHold, p.machine);
    const Findings held = judgeNeckHold(part, setups, p.neckHold, p.machine);
    append(d.findings, held);
    const double volume = part.volume();
    std::vector<WoodUnder> wood = woodUnderRod(part.back(), p.neck.rod);
    d.neck.emplace(NeckJob{std::move(part),
                           std::move(setups),
                           !firm && !hasFirmStop(held),
                           volume,
                           std::move(wood),
                           {},
                           {},
                           {}});
}

} // namespace

Derived deriveDrawing(const Project& project, const std::string& overrideReason) {
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
        drawNeck(d);
    }
    sortByWeight(d.findings);
    return d;
}

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
        if (program.part == "neck") {
            d.neck->readBack[job.setup == &d.neck->plan.sides[0].setup ? 0 : 1].push_back(
                std::move(run));
        } else {
            d.readBack.push_back(std::move(run));
        }
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
