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
    const Findings blank = judgeBlank(*d.board, project.blank);
    append(d.findings, blank);
    if (!hasFirmStop(blank)) {
        d.setup = layBoard(*d.board, project.blank, project.machine, project.zZero);
        append(d.findings, judgePlacement(*d.setup, project.machine));
    }
    sortByWeight(d.findings);
    return d;
}

void derivePrograms(Derived& d, const std::stop_token& stop) {
    if (!d.setup) {
        return;
    }
    checkStop(stop);
    d.plan = planBoard(*d.board, *d.setup, d.project.bits, d.project.machine, d.project.cut);
    append(d.findings, d.plan->findings);
    sortByWeight(d.findings);
    checkStop(stop);
    const std::vector<Program> programs =
        postPrograms(*d.plan, d.project.machine, {d.project.name, d.designHash, d.overrideReason});
    d.readBack = readBack(programs, *d.setup);
    for (std::size_t i = 0; i < programs.size(); ++i) {
        checkStop(stop);
        const Path& path = d.readBack[i].path;
        d.programs.push_back({programs[i], timeOf(path, d.project.machine), extentsOf(path),
                              sha256(programs[i].text)});
    }
}

void deriveProof(Derived& d, const std::stop_token& stop) {
    if (d.programs.empty()) {
        return;
    }
    d.proof = proveBoard(*d.board, *d.plan, d.project.cut, d.project.machine, d.readBack, proofCell,
                         stop);
    append(d.findings, d.proof->findings);
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
