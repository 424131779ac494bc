#include "job/prove_parts.h"

#include "base/error.h"
#include "job/part_order.h"
#include "job/put_together.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// What is found of another of the pieces in one blank.
void takeOver(ProofReport& first, const ProofReport& other, std::size_t place) {
    first.gougeMax = std::max(first.gougeMax, other.gougeMax);
    first.excessMax = std::max(first.excessMax, other.excessMax);
    first.excessRms = std::max(first.excessRms, other.excessRms);
    first.wallMax = std::max(first.wallMax, other.wallMax);
    first.passed = first.passed && other.passed;
    for (const Finding& f : other.findings) {
        const bool known =
            std::any_of(first.findings.begin(), first.findings.end(), [&](const Finding& g) {
                return g.code == f.code && g.message == f.message;
            });
        if (!known) {
            first.findings.push_back(f);
            first.findings.back().message =
                fmt::format("Piece {} in its blank: {}", place + 1, f.message);
        }
    }
}

PartProof prove(const Derived& d, const PartJob& job, const std::stop_token& stop) {
    const Project& p = d.project;
    const PartSides sides = sidesOf(d, job);
    if (job.panel) {
        PartProof proof =
            provePanel({sides, *job.panel}, job.panelPlan(), p.bodyCut, p.machine, panelCell, stop);
        for (std::size_t k = 1; k < job.held.face.places.size(); ++k) {
            const Held other = atPlace(job.held, k);
            const PanelSides there{{other, job.read, {}, job.start}, *job.panel};
            takeOver(
                proof.sides[0],
                provePanel(there, job.panelPlan(), p.bodyCut, p.machine, panelCell, stop).sides[0],
                k);
        }
        return proof;
    }
    if (job.id == Role::neck) {
        PartProof proof = proveNeck(d.neck->part, sides, job.neckPlan(), p.neckCut, p.machine,
                                    proofCell, stop);
        for (std::size_t k = 1; k < job.held.face.places.size(); ++k) {
            const Held other = atPlace(job.held, k);
            const PartSides there = neckSides(d.neck->part, other, job.read);
            const PartProof its = proveNeck(d.neck->part, there, job.neckPlan(), p.neckCut,
                                            p.machine, proofCell, stop);
            for (std::size_t side = 0; side < 2; ++side) {
                takeOver(proof.sides[side], its.sides[side], k);
            }
        }
        return proof;
    }
    return proveBoard(*d.board, sides, job.boardPlan(), p.cut, p.machine, proofCell, stop);
}

/// A neck is judged from both sides: it needs the programs of both. Other parts may be of one.
bool provable(const PartJob& job) {
    return !job.read[0].empty() && (job.id != Role::neck || !job.read[1].empty());
}

/// Names and motion of a part's programs: what its proof was read from.
std::vector<std::string> postedOf(const Derived& d, PartId part) {
    std::vector<std::string> out;
    for (const PostedProgram& p : d.programs) {
        if (p.program.part == part) {
            out.push_back(p.program.file + p.motion);
        }
    }
    return out;
}

const PartJob* provedBefore(const Derived* before, const Derived& d, const PartJob& job) {
    const PartJob* old = before ? before->job(job.id) : nullptr;
    const bool same = old && old->proof && old->inputs == job.inputs &&
                      postedOf(*before, job.id) == postedOf(d, job.id);
    return same ? old : nullptr;
}

} // namespace

Findings proveParts(Derived& d, const std::stop_token& stop, const Derived* before) {
    const auto woodOf = [](const PartJob& layer) -> std::shared_ptr<const Stock> {
        if (!layer.proof || !layer.held.back) {
            return layer.proof ? layer.proof->stock : nullptr;
        }
        return std::make_shared<const Stock>(faceUp(layer.held, *layer.proof->stock));
    };
    const auto asProved = [](const PartJob& layer) {
        return layer.proof ? layer.proof->stock : nullptr;
    };
    const auto none = [](std::size_t) {};
    overParts(d.parts, none, [&](std::size_t i) {
        PartJob& job = d.parts[i];
        if (stop.stop_requested()) {
            throw Cancelled();
        }
        if (const PartJob* old = provedBefore(before, d, job)) {
            job.start = old->start;
            job.proof = old->proof;
        } else if (provable(job)) {
            job.start = gluedBefore(d, job, before, asProved, &PartJob::start);
            if (!job.start) {
                job.start = gluedUp(d, job, woodOf);
            }
            job.proof = std::make_shared<const PartProof>(prove(d, job, stop));
        }
        if (job.memory) {
            job.memory->settle(); // also of a part that has no programs to prove
        }
    });
    Findings found;
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.proof && side < 2; ++side) {
            const Findings& own = job.proof->sides[side].findings;
            found.insert(found.end(), own.begin(), own.end());
        }
    }
    return found;
}

} // namespace wren
