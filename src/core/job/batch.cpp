#include "job/batch.h"

#include "base/error.h"
#include "job/batch_order.h"
#include "job/bed.h"
#include "job/clamps.h"
#include "job/keys.h"
#include "job/tidy.h"

#include <algorithm>
#include <set>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

/// Programs of one setup of a part, of one or of several instruments, that lie on the machine
/// together.
struct Load {
    PartId part;
    std::size_t side = 0;
    std::vector<std::size_t> instruments;
    std::vector<BatchStep> steps;
};

bool besideEachOther(const Batch& batch, const Project& project, PartId part) {
    return project.batchLines && batch.instruments.size() > 1 &&
           (part.role == Role::board || part.role == Role::neck) &&
           std::all_of(batch.instruments.begin(), batch.instruments.end(), [&](const auto& d) {
               const PartJob* job = d->job(part);
               return job && job->held.face.stations.empty();
           });
}

/// Of each instrument the programs of a setup, in their order.
std::vector<std::size_t> programsOf(const Derived& d, PartId part, std::size_t side) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        if (d.programs[i].program.part == part && d.programs[i].program.side == side) {
            out.push_back(i);
        }
    }
    return out;
}

/// A bit runs in all blanks that wait for it before the next is put in.
void fillSteps(Load& load, const Batch& batch) {
    std::vector<std::vector<std::size_t>> waiting;
    for (std::size_t k : load.instruments) {
        waiting.push_back(programsOf(*batch.instruments[k], load.part, load.side));
        std::reverse(waiting.back().begin(), waiting.back().end());
    }
    std::string bit;
    const auto nextBit = [&](std::size_t i) {
        return batch.instruments[load.instruments[i]]->programs[waiting[i].back()].program.bit.name;
    };
    for (;;) {
        std::size_t take = waiting.size();
        for (std::size_t i = 0; i < waiting.size(); ++i) {
            const bool more = !waiting[i].empty();
            if (more && nextBit(i) == bit) {
                take = i;
                break;
            }
            if (more && take == waiting.size()) {
                take = i;
            }
        }
        if (take == waiting.size()) {
            return;
        }
        bit = nextBit(take);
        load.steps.push_back({load.instruments[take], waiting[take].back(), false, false});
        waiting[take].pop_back();
    }
}

std::vector<Load> loadsOf(const Batch& batch, const Project& project) {
    std::vector<Load> out;
    for (std::size_t k = 0; k < batch.instruments.size(); ++k) {
        for (const PartJob& job : batch.instruments[k]->parts) {
            for (std::size_t side = 0; side < job.held.sides(); ++side) {
                const bool together = besideEachOther(batch, project, job.id);
                const auto same = std::find_if(out.begin(), out.end(), [&](const Load& l) {
                    return together && l.part == job.id && l.side == side;
                });
                if (same != out.end()) {
                    same->instruments.push_back(k);
                } else {
                    out.push_back({job.id, side, {k}, {}});
                }
            }
        }
    }
    for (Load& load : out) {
        fillSteps(load, batch);
    }
    std::erase_if(out, [](const Load& l) { return l.steps.empty(); });
    return out;
}

/// Earlier makes later possible; parts of one rank may come in either order.
int rankOf(const Derived& d, PartId part) {
    const PartJob* job = d.job(part);
    if (part.ofShop()) {
        return 0;
    }
    if (part == Role::board) {
        return 1;
    }
    if (part == Role::neck) {
        return 2;
    }
    if (part.byItself()) {
        return 5;
    }
    return job && job->panel && !job->panel->layers.empty() ? 4 : 3;
}

std::vector<BenchLoad> asBenchLoads(const std::vector<Load>& loads, const Batch& batch) {
    std::vector<BenchLoad> out;
    for (const Load& l : loads) {
        BenchLoad b;
        b.first = batch.program(l.steps.front()).program.bit.name;
        b.last = batch.program(l.steps.back()).program.bit.name;
        b.kind = fmt::format("{} {}", l.part.name(), l.side);
        for (std::size_t i = 0; i < loads.size(); ++i) {
            const Load& other = loads[i];
            const bool shared =
                std::any_of(other.instruments.begin(), other.instruments.end(), [&](std::size_t k) {
                    return std::find(l.instruments.begin(), l.instruments.end(), k) !=
                           l.instruments.end();
                });
            const Derived& d = *batch.instruments[l.instruments.front()];
            const bool first = l.part == other.part ? other.side < l.side
                                                    : rankOf(d, other.part) < rankOf(d, l.part);
            if (shared && first) {
                b.after.push_back(i);
            }
        }
        out.push_back(std::move(b));
    }
    return out;
}

int changesOf(const Batch& batch, const std::vector<BatchStep>& steps) {
    std::string bit;
    int changes = 0;
    for (const BatchStep& s : steps) {
        const std::string& own = batch.program(s).program.bit.name;
        changes += own != bit ? 1 : 0;
        bit = own;
    }
    return changes;
}

/// One instrument after the other, each in its own running order.
std::vector<BatchStep> oneByOne(const Batch& batch) {
    std::vector<BatchStep> out;
    for (std::size_t k = 0; k < batch.instruments.size(); ++k) {
        for (std::size_t i = 0; i < batch.instruments[k]->programs.size(); ++i) {
            out.push_back({k, i, false, false});
        }
    }
    return out;
}

void order(Batch& batch, const Project& project) {
    const std::vector<Load> loads = loadsOf(batch, project);
    std::string bit;
    for (std::size_t i : orderOfLoads(asBenchLoads(loads, batch))) {
        ++batch.laid;
        bool laid = true;
        for (BatchStep step : loads[i].steps) {
            const std::string& own = batch.program(step).program.bit.name;
            step.laid = laid;
            step.changed = own != bit;
            laid = false;
            bit = own;
            batch.steps.push_back(step);
        }
    }
    batch.changes = changesOf(batch, batch.steps);
    batch.changesOneByOne = changesOf(batch, oneByOne(batch));
}

/// Blanks that lie side by side, and what holds them, in one another's place.
void judgeLines(Batch& batch, const Project& project) {
    for (PartId part : {PartId(Role::board), PartId(Role::neck)}) {
        if (!besideEachOther(batch, project, part)) {
            continue;
        }
        for (std::size_t side = 0; side < batch.instruments[0]->job(part)->held.sides(); ++side) {
            std::vector<ClampBox> before;
            for (const auto& d : batch.instruments) {
                const PartJob& job = *d->job(part);
                const Setup& setup = job.held.side(side);
                const auto moved = [&](ClampBox box) {
                    box.middle = box.middle + setup.zeroOnMachine;
                    return box;
                };
                ClampBox wood;
                wood.half = Vec2{setup.blank.length, setup.blank.width} * 0.5;
                wood.middle = wood.half;
                std::vector<ClampBox> own{moved(wood)};
                for (std::size_t i : clampsOf(d->project, part, side)) {
                    if (const auto box = boxOf(d->project.clamps[i], setup)) {
                        own.push_back(moved(*box));
                    }
                }
                const bool meet = std::any_of(own.begin(), own.end(), [&](const ClampBox& a) {
                    return std::any_of(before.begin(), before.end(),
                                       [&](const ClampBox& b) { return overlap(a, b); });
                });
                if (meet) {
                    sayOf(part, batch.findings, Weight::stop, "lines-too-close",
                          fmt::format("Side by side on lines {:.0f} mm apart, the {}s or their "
                                      "clamps, {}, stand in one another's place: the lines "
                                      "further apart, or the blanks one at a time, was expected.",
                                      *project.batchLines, part.name(), setup.name),
                          *project.batchLines, setup.blank.width);
                    break;
                }
                before.insert(before.end(), own.begin(), own.end());
            }
        }
    }
}

} // namespace

std::vector<Project> batchProjects(const Project& project) {
    if (project.batch.empty()) {
        return {project};
    }
    const std::vector<double> lines = batchLinesOf(project);
    std::set<std::string> names;
    std::vector<Project> out;
    for (std::size_t i = 0; i < project.batch.size(); ++i) {
        const BatchPiece& piece = project.batch[i];
        if (piece.name.empty() || !names.insert(piece.name).second) {
            throw Error(fmt::format("Instrument {} of the batch is called \"{}\": a name of its "
                                    "own was expected.",
                                    i + 1, piece.name));
        }
        Project p = project;
        p.name = piece.name;
        p.batch.clear();
        p.batchLines.reset();
        p.variants.clear();
        for (std::size_t k = 0; k < blankSizes.size(); ++k) {
            if (piece.sizes[k]) {
                p = withKey(p, blankSizes[k].project, fmt::format("{:.4f}mm", *piece.sizes[k]));
            }
        }
        if (lines.size() == project.batch.size()) {
            p.blank.line += lines[i];
            p.neckBlank.line += lines[i];
        }
        out.push_back(std::move(p));
    }
    return out;
}

Batch deriveBatch(const Project& project, const std::stop_token& stop,
                  const std::function<void(std::size_t)>& done) {
    Batch batch;
    const Derived* before = nullptr;
    for (const Project& p : batchProjects(project)) {
        auto d = std::make_shared<Derived>(deriveDrawing(p, before));
        derivePrograms(*d, stop, before);
        deriveProof(*d, stop, before);
        before = d.get();
        batch.instruments.push_back(std::move(d));
        if (done) {
            done(batch.instruments.size());
        }
    }
    order(batch, project);
    judgeLines(batch, project);
    return batch;
}

namespace {

double secondsOf(const Batch& batch) {
    double sum = 0;
    for (const auto& d : batch.instruments) {
        sum += d->seconds();
    }
    return sum;
}

} // namespace

std::string batchJson(const Batch& batch) {
    using json = nlohmann::ordered_json;
    json doc{{"instruments", json::array()},
             {"bit_changes", batch.changes},
             {"bit_changes_one_by_one", batch.changesOneByOne},
             {"blanks_laid", batch.laid},
             {"seconds", tidy(secondsOf(batch))},
             {"findings", json::array()},
             {"order", json::array()}};
    for (const auto& d : batch.instruments) {
        doc["instruments"].push_back(
            {{"name", d->project.name},
             {"programs", d->programs.size()},
             {"stops", std::count_if(d->findings.begin(), d->findings.end(),
                                     [](const Finding& f) { return f.weight == Weight::stop; })}});
    }
    for (const Finding& f : batch.findings) {
        doc["findings"].push_back({{"weight", weightName(f.weight)},
                                   {"code", f.code},
                                   {"part", f.part.name()},
                                   {"message", f.message}});
    }
    for (const BatchStep& s : batch.steps) {
        const Program& p = batch.program(s).program;
        doc["order"].push_back({{"instrument", batch.instruments[s.instrument]->project.name},
                                {"part", p.part.name()},
                                {"setup", p.setup},
                                {"program", p.file},
                                {"bit", p.bit.name},
                                {"lay_blanks", s.laid},
                                {"change_bit", s.changed}});
    }
    return doc.dump(2) + "\n";
}

std::string batchText(const Batch& batch) {
    std::string out;
    std::size_t number = 0;
    for (const BatchStep& s : batch.steps) {
        const PostedProgram& p = batch.program(s);
        if (s.laid) {
            out += fmt::format("{}, {}\n", p.program.part.name(), p.program.setup);
        }
        out += fmt::format("  {:>3}  {:<16} {:<44} {:<14} {:>5.1f} min\n", ++number,
                           batch.instruments[s.instrument]->project.name, p.program.file,
                           s.changed ? "bit " + p.program.bit.name : std::string("the same bit"),
                           p.time.seconds / 60);
    }
    out += fmt::format("{} instruments, {} programs, {:.1f} h; {} changes of bit, {} one "
                       "instrument after the other; blanks are laid {} times\n",
                       batch.instruments.size(), batch.steps.size(), secondsOf(batch) / 3600,
                       batch.changes, batch.changesOneByOne, batch.laid);
    for (const Finding& f : batch.findings) {
        out += fmt::format("{}: {}\n", weightName(f.weight), f.message);
    }
    return out;
}

} // namespace wren
