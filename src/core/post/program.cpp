#include "post/program.h"

#include "post/gcode_writer.h"

#include <algorithm>
#include <cmath>

#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace wren {
namespace {

/// Letters, digits, dots and dashes only, so that a file name survives every machine's file system.
std::string fileWord(const std::string& text) {
    std::string out;
    for (char c : text) {
        const bool plain =
            (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '.';
        out += plain ? c : '-';
    }
    return out;
}

std::string joined(const std::vector<std::string>& words) {
    std::string out;
    for (const std::string& w : words) {
        out += (out.empty() ? "" : "-") + w;
    }
    return out;
}

/// The first few cuts, so that a name stays readable.
std::string shortly(const std::vector<std::string>& cuts) {
    constexpr std::size_t most = 4;
    if (cuts.size() <= most) {
        return fileWord(joined(cuts));
    }
    return fileWord(joined({cuts.begin(), cuts.begin() + most - 1})) + "-and-more";
}

/// The unit's own figures, so that an inch machine's header reads in inches.
std::string size(double mm, LengthUnit unit) {
    return formatLength(mm, unit);
}

std::vector<std::string> headerOf(const Program& program, const Setup& setup,
                                  const Machine& machine, const ProgramContext& context,
                                  double seconds, int programs) {
    const LengthUnit unit = machine.programUnit;
    std::vector<std::string> lines{
        fmt::format("Upland Wren: {}, program {} of {}", context.project, program.order, programs),
        fmt::format("Part {}, setup {}, cuts {}", program.part.name(), program.setup,
                    joined(program.what)),
        fmt::format("Zero: X-Y at the {}", setup.datum),
        setup.part == Role::bed     ? "Zero: Z on the spoil board"
        : setup.zZero == ZZero::bed ? "Zero: Z on what the blank lies on, bed or fixture board"
                                    : "Zero: Z on top of the blank, in the waste",
        fmt::format("Bit {}: {}, {}, flutes {}", program.bit.name, bitKindName(program.bit.kind),
                    size(program.bit.diameter, unit), size(program.bit.fluteLength, unit)),
        fmt::format("Blank {} x {} x {}, {}{}", size(setup.blank.length, unit),
                    size(setup.blank.width, unit), size(setup.blank.thickness, unit),
                    setup.blank.wood,
                    setup.scarfed ? fmt::format(", over all; glued up with a scarf from a plank "
                                                "of {}",
                                                size(setup.scarfed->plank, unit))
                                  : ""),
        fmt::format("About {:.1f} minutes", seconds / 60),
        fmt::format("Design {}", context.designHash.substr(0, 16)),
        "Eye and ear protection, dust extraction, a hand at the stop; watch an air pass first",
    };
    if (!program.handBefore.empty()) {
        lines.push_back(fmt::format("By hand first: {}", program.handBefore));
    }
    // One line either way, so that no line of the program moves when a reason is given.
    const auto why = context.overridden.find(program.part);
    lines.push_back(why == context.overridden.end()
                        ? "No stop was overridden"
                        : fmt::format("A stop was overridden: {}", why->second)
                              .substr(0, GcodeWriter::longestComment));
    return lines;
}

/// Cuts of one bit in one way of lying, one after the other.
struct Group {
    const Setup* setup;
    std::vector<const Cut*> cuts;
    const Program* posted = nullptr; ///< of the same cuts, moving the same
};

/// Of one way of lying.
std::vector<Group> groupsOf(const Setup* setup, const std::vector<Cut>& cuts) {
    std::vector<Group> groups;
    for (const Cut& cut : cuts) {
        if (groups.empty() || !(groups.back().cuts.front()->bit == cut.bit) ||
            groups.back().cuts.front()->station != cut.station || !cut.handBefore.empty()) {
            groups.push_back({setup, {}});
        }
        groups.back().cuts.push_back(&cut);
    }
    return groups;
}

bool movesAlike(const Move& a, const Move& b) {
    return a.motion == b.motion && a.from == b.from && a.to == b.to && a.feed == b.feed &&
           a.dwell == b.dwell && a.spindleOn == b.spindleOn &&
           (!a.isArc() || (a.centre == b.centre && a.plane == b.plane));
}

bool cutsAlike(const Cut& a, const Cut& b) {
    return a.what == b.what && a.bit == b.bit && a.feeds.rpm == b.feeds.rpm &&
           std::equal(a.path.begin(), a.path.end(), b.path.begin(), b.path.end(), movesAlike);
}

std::vector<Group> groupsOf(const std::vector<PostJob>& jobs) {
    std::vector<Group> all;
    for (const PostJob& job : jobs) { // another way of lying begins a program of its own
        std::vector<Group> groups = groupsOf(job.setup, *job.cuts);
        const std::vector<Group> before =
            job.cutsBefore ? groupsOf(job.setup, *job.cutsBefore) : std::vector<Group>();
        for (std::size_t i = 0; i < groups.size(); ++i) {
            const bool same =
                job.setup->stations.empty() && i < before.size() && i < job.posted.size() &&
                std::equal(groups[i].cuts.begin(), groups[i].cuts.end(), before[i].cuts.begin(),
                           before[i].cuts.end(),
                           [](const Cut* a, const Cut* b) { return cutsAlike(*a, *b); });
            groups[i].posted = same ? job.posted[i] : nullptr;
            all.push_back(std::move(groups[i]));
        }
    }
    return all;
}

/// The program of a group, the `order`th of so many.
Program written(const Group& group, int order, int programs, const Machine& machine,
                const ProgramContext& context) {
    const Cut& first = *group.cuts.front();
    Program p;
    p.part = group.setup->part;
    p.side = group.setup->side;
    p.station = first.station;
    p.setup = group.setup->nameIn(p.station);
    p.zero = group.setup->zeroOf(p.station);
    p.order = order;
    p.bit = first.bit;
    p.handBefore = first.handBefore;
    p.handMinutes = first.handMinutes;
    for (const Cut* cut : group.cuts) {
        p.what.push_back(cut->what);
        p.kinds.push_back(cut->kind);
        p.plannedSeconds += group.posted ? 0 : timeOf(cut->path, machine).seconds;
    }
    p.plannedSeconds += group.posted ? group.posted->plannedSeconds : 0;
    p.file = fmt::format("{:02}-{}-{}-{}.nc", p.order, fileWord(p.part.name()), shortly(p.what),
                         fileWord(p.bit.name));
    GcodeWriter writer(machine.programUnit, machine.arcs);
    for (const std::string& line :
         headerOf(p, *group.setup, machine, context, p.plannedSeconds, programs)) {
        writer.comment(line);
    }
    p.movesFrom = writer.size();
    if (group.posted) {
        p.text = writer.take() + group.posted->text.substr(group.posted->movesFrom);
        return p;
    }
    writer.begin();
    for (const Cut* cut : group.cuts) {
        writer.comment(cut->what);
        writer.spindle(cut->feeds.rpm);
        writer.path(movedBy(cut->path, Vec2{} - p.zero));
    }
    writer.end();
    p.text = writer.take();
    return p;
}

} // namespace

std::vector<Program> postPrograms(const std::vector<PostJob>& jobs, const Machine& machine,
                                  const ProgramContext& context) {
    const std::vector<Group> groups = groupsOf(jobs);
    std::vector<Program> programs(groups.size());
    tbb::parallel_for(std::size_t{0}, groups.size(), [&](std::size_t i) {
        programs[i] = written(groups[i], static_cast<int>(i) + 1, static_cast<int>(groups.size()),
                              machine, context);
    });
    return programs;
}

std::vector<Program> postPrograms(const BoardPlan& plan, const Machine& machine,
                                  const ProgramContext& context) {
    return postPrograms({{&plan.face().setup, &plan.face().cuts}}, machine, context);
}

} // namespace wren
