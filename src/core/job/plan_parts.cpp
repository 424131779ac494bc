#include "job/plan_parts.h"

#include "base/error.h"
#include "cut/divide.h"
#include "cut/register_cut.h"
#include "job/clamps.h"
#include "job/hand_steps.h"
#include "job/judge_balance.h"
#include "job/part_inputs.h"
#include "job/part_order.h"
#include "job/put_together.h"
#include "job/weights.h"
#include "proof/clear_links.h"

#include <fmt/format.h>

namespace wren {
namespace {

void checkStop(const std::stop_token& stop) {
    if (stop.stop_requested()) {
        throw Cancelled();
    }
}

/// What a board or a plank slides on, where it is cut in stations: its holes come before anything.
void drillFirst(PartJob& job, const Project& p) {
    const bool there = job.panel && !job.panel->layers.empty(); // its layers have them
    if (job.held.pitch == 0 || job.id == Role::neck || there) {
        return;
    }
    PartPlan& plan = job.ownPlan();
    if (auto holes = registerCut(job.held, p.bits, p.machine, plan.findings)) {
        plan.face().cuts.insert(plan.face().cuts.begin(), std::move(*holes));
        if (job.panel) {
            for (PanelTask& task : std::get<PanelPlan>(*job.planned).tasks) {
                task.cut = task.cut && task.side == 0 ? *task.cut + 1 : task.cut;
            }
        }
    }
}

void plan(const Derived& d, PartJob& job) {
    const Project& p = d.project;
    if (job.panel) {
        job.planned = std::make_shared<PartJob::Planned>(
            planPanel(*job.panel, job.held, p.bits, p.machine, p.bodyCut));
    } else if (job.id == Role::neck) {
        job.planned = std::make_shared<PartJob::Planned>(
            planNeck(d.neck->part, job.held, p.bits, p.machine, p.neckCut, p.cut));
    } else {
        job.planned = std::make_shared<PartJob::Planned>(
            planBoard(*d.board, job.held.face, p.bits, p.machine, p.cut));
        job.held.face = job.plan().face().setup; // facing is the recipe's to decide
    }
    drillFirst(job, p);
    const auto shares = divideAmongStations(job.ownPlan(), job.held.pitch);
    if (job.panel) {
        for (PanelTask& task : std::get<PanelPlan>(*job.planned).tasks) {
            if (task.cut) {
                const std::size_t share = shares[task.side][*task.cut];
                task.cut = share == std::size_t(-1) ? std::nullopt : std::optional(share);
            }
        }
    }
}

/// What is done by hand before a piece of the body is laid on the machine.
void addHandStep(const Derived& d, PartJob& job) {
    if (!job.panel || job.plan().face().cuts.empty()) {
        return;
    }
    const Cut& first = job.plan().face().cuts.front();
    const HandStep step = handStepBefore(d.body ? &d.body->part : nullptr, *job.panel);
    if (first.handBefore != step.what || first.handMinutes != step.minutes) {
        Cut& own = job.ownPlan().face().cuts.front();
        own.handBefore = step.what;
        own.handMinutes = step.minutes;
    }
}

/// The programs of one way a part lies, in running order.
std::vector<const PostedProgram*> postedOf(const Derived& d, PartId part, std::size_t side) {
    std::vector<const PostedProgram*> out;
    for (const PostedProgram& p : d.programs) {
        if (p.program.part == part && p.program.side == side) {
            out.push_back(&p);
        }
    }
    return out;
}

/// What is to be posted, in running order; `before` is for the same machine.
std::vector<PostJob> postJobs(const Derived& d, const Derived* before) {
    std::vector<PostJob> jobs;
    for (const PartJob& job : d.parts) {
        const PartJob* old = before ? before->job(job.id) : nullptr;
        for (std::size_t side = 0; side < job.plan().sides.size(); ++side) {
            const SidePlan& plan = job.plan().sides[side];
            if (plan.cuts.empty()) {
                continue;
            }
            jobs.push_back({&plan.setup, &plan.cuts});
            if (old && old->isPlanned && side < old->plan().sides.size()) {
                jobs.back().cutsBefore = &old->plan().sides[side].cuts;
                for (const PostedProgram* p : postedOf(*before, job.id, side)) {
                    jobs.back().posted.push_back(&p->program);
                }
            }
        }
    }
    return jobs;
}

std::vector<Program> postedText(const Derived& d, const Derived* before) {
    ProgramContext context{d.project.name, d.designHash};
    for (const Override& o : d.overrides) {
        std::string& text = context.overridden[o.part];
        text += fmt::format("{}{}, {}", text.empty() ? "" : "; ", o.code, o.reason);
    }
    return postPrograms(postJobs(d, before), d.project.machine, context);
}

/// Its ways between cuts led round what holds it.
void clearOfClamps(const Derived& d, PartJob& job) {
    for (std::size_t side = 0; side < job.held.sides(); ++side) {
        const Setup& setup = job.held.side(side);
        ClampsByStation standing(std::max<std::size_t>(1, setup.stations.size()));
        bool any = false;
        for (std::size_t k = 0; k < standing.size(); ++k) {
            for (std::size_t i : clampsOf(d.project, job.id, side, setup.numberOf(k))) {
                if (const auto box = boxOf(d.project.clamps[i], setup)) {
                    standing[k].push_back(*box);
                    any = true;
                }
            }
        }
        if (any) {
            clearLinks(job.ownPlan().sides[side], standing, d.project.machine);
        }
    }
}

/// Gone over higher up where it would cut too heavily, in the wood it is cut from.
void ease(const Derived& d, PartJob& job, const Derived* before, const PartJob* old,
          const std::stop_token& stop) {
    if (!job.isPlanned) {
        return;
    }
    checkStop(stop);
    if (old) {
        job.easedStart = old->easedStart;
    } else {
        const SidePrograms cuts = asPrograms(job.plan());
        PartSides sides = sidesOf(d, job, cuts);
        const auto asPlanned = [](const PartJob& layer) { return layer.eased; };
        sides.start = gluedBefore(d, job, before, asPlanned, &PartJob::easedStart);
        if (!sides.start) {
            sides.start = gluedUp(d, job, asPlanned);
        }
        if (job.memory) { // else nobody asks for it again
            job.easedStart = sides.start;
        }
        const Stock last = easePart(job.ownPlan(), sides, d.project.machine, stop);
        if (job.id.isLayer()) {
            job.eased = std::make_shared<const Stock>(faceUp(job.held, last));
        }
    }
    addHandStep(d, job);
    if (!old) {
        clearOfClamps(d, job);
    }
}

} // namespace

Findings planParts(Derived& d, const std::stop_token& stop, const Derived* before) {
    const auto oldOf = [&](const PartJob& job) {
        const PartJob* old = before ? before->job(job.id) : nullptr;
        const bool same = old && old->isPlanned && old->inputs == job.inputs;
        return same && old->clamps == job.clamps ? old : nullptr;
    };
    const std::string machine = d.remembers ? machineInputs(d.project) : std::string();
    // What is cut does not depend on what it is glued up from; how heavy it cuts does.
    const auto planOne = [&](std::size_t i) {
        PartJob& job = d.parts[i];
        checkStop(stop);
        if (!job.placed) {
            return;
        }
        if (const PartJob* old = oldOf(job)) {
            job.planned = old->planned;
            job.held = old->held;
            job.eased = old->eased;
            job.memory = old->memory;
        } else {
            if (d.remembers) {
                const PartJob* last = before ? before->job(job.id) : nullptr;
                job.memory = std::make_shared<CutMemory>(machine, last ? last->memory : nullptr);
            }
            plan(d, job);
        }
        job.isPlanned = true;
    };
    tbb::task_group weighing;
    weighing.run([&] { d.weighed = weigh(d); });
    overParts(d.parts, planOne,
              [&](std::size_t i) { ease(d, d.parts[i], before, oldOf(d.parts[i]), stop); });
    weighing.wait();
    Findings found = judgeBalance(d);
    for (const PartJob& job : d.parts) {
        const Findings& own = job.plan().findings;
        found.insert(found.end(), own.begin(), own.end());
    }
    return found;
}

namespace {

/// A program as it was read back before, where but for its header it is the same, line by line.
struct ReadBefore {
    const PostedProgram* posted = nullptr;
    const RunProgram* read = nullptr;
};
ReadBefore readBefore(const Derived* before, const Program& program, const Setup& setup,
                      std::size_t index) {
    const PartJob* old = before ? before->job(program.part) : nullptr;
    if (!old || index >= old->read[program.side].size() ||
        old->plan().sides[program.side].setup.topZ() != setup.topZ()) { // where reading begins
        return {};
    }
    const PostedProgram* posted = postedOf(*before, program.part, program.side)[index];
    const auto header = [](const Program& p) { return p.text.substr(0, p.movesFrom); };
    const auto moves = [](const Program& p) {
        return std::string_view(p.text).substr(p.movesFrom);
    };
    const auto lines = [](const std::string& text) {
        return std::count(text.begin(), text.end(), '\n');
    };
    const bool same = moves(posted->program) == moves(program) &&
                      posted->program.station == program.station &&
                      posted->program.zero == program.zero &&
                      lines(header(posted->program)) == lines(header(program));
    return same ? ReadBefore{posted, &old->read[program.side][index]} : ReadBefore{};
}

} // namespace

void postParts(Derived& d, const std::stop_token& stop, const Derived* before) {
    checkStop(stop);
    if (before && machineInputs(before->project) != machineInputs(d.project)) {
        before = nullptr;
    }
    const std::vector<Program> programs = postedText(d, before);
    struct Place {
        PartJob* job;
        std::size_t side;
        std::size_t index; ///< among its side's
    };
    std::vector<Place> places;
    std::map<std::pair<PartId, std::size_t>, std::size_t> count;
    for (const Program& program : programs) {
        const auto job = std::find_if(d.parts.begin(), d.parts.end(),
                                      [&](const PartJob& j) { return j.id == program.part; });
        places.push_back({&*job, program.side, count[{program.part, program.side}]++});
    }
    std::vector<RunProgram> read(programs.size());
    d.programs.resize(programs.size());
    tbb::parallel_for(std::size_t{0}, programs.size(), [&](std::size_t i) {
        checkStop(stop);
        const Setup& setup = places[i].job->plan().sides[places[i].side].setup;
        const ReadBefore last = readBefore(before, programs[i], setup, places[i].index);
        if (last.read) {
            read[i] = *last.read;
            read[i].file = programs[i].file;
            d.programs[i] = *last.posted;
            d.programs[i].setText(programs[i]);
            return;
        }
        read[i] = readBack({programs[i]}, setup).front();
        d.programs[i] = PostedProgram::of(programs[i], read[i], d.project.machine);
    });
    for (std::size_t i = 0; i < programs.size(); ++i) {
        places[i].job->read[places[i].side].push_back(std::move(read[i]));
    }
}

void postHeaders(Derived& d, const std::stop_token& stop) {
    const std::vector<Program> programs = postedText(d, &d);
    for (std::size_t i = 0; i < programs.size(); ++i) {
        checkStop(stop);
        if (programs[i].text != d.programs[i].program.text) {
            d.programs[i].setText(programs[i]);
        }
    }
}

} // namespace wren
