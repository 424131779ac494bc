#include "job/job_card.h"

#include "job/run_advice.h"

#include <algorithm>

#include <fmt/format.h>

namespace wren {
namespace {

/// What was done of a program, by the newest run of its motion that ended well.
const RunRecord* doneBy(const ShopMemory& memory, const Derived& d, const PostedProgram& p) {
    const auto it = std::find_if(memory.runs.begin(), memory.runs.end(), [&](const RunRecord& r) {
        return r.outcome == "done" && r.project == d.project.name &&
               r.part == p.program.part.name() && r.motion == p.motion && !r.motion.empty();
    });
    return it == memory.runs.end() ? nullptr : &*it;
}

std::vector<CardStep> stepsOf(const Derived& d, const ShopMemory& memory, bool withStandIns) {
    const auto experience = experienceOf(memory.runs, memory.of("mishap"), withStandIns);
    std::vector<CardStep> out;
    for (std::size_t i = 0; i < d.programs.size(); ++i) {
        const PostedProgram& p = d.programs[i];
        if (!p.program.handBefore.empty()) {
            out.push_back({p.program.part, 0, p.program.handBefore, {}, p.program.handMinutes, {},
                           {}, {}, {}});
        }
        CardStep s{p.program.part, static_cast<int>(i) + 1,
                   fmt::format("{}", fmt::join(p.program.what, " + ")), p.program.bit.name,
                   p.time.seconds / 60, {}, {}, {}, {}};
        const std::string wood = d.placeOf(i).setup().blank.wood;
        if (const auto advice = adviceFor(p, wood, experience)) {
            s.expected = advice->minutes;
        }
        if (const RunRecord* run = doneBy(memory, d, p)) {
            s.taken = run->takenSeconds / 60;
            s.when = run->end.empty() ? run->start : run->end;
            s.by = run->by;
        }
        out.push_back(std::move(s));
    }
    return out;
}

} // namespace

double JobCard::expectedMinutes() const {
    double sum = 0;
    for (const CardStep& s : steps) {
        sum += s.taken || s.order == 0 ? 0 : s.expected.value_or(s.planned);
    }
    return sum;
}

std::vector<std::string> notesFor(const std::vector<Record>& notes, PartId part) {
    const std::string role = (part.ofBody() ? PartId(Role::body) : part).name();
    std::vector<std::string> out;
    for (const Record& n : notes) {
        const std::string of = n.field("part");
        if (n.field("next") == "yes" && (of == part.name() || of == role || of.empty())) {
            out.push_back(n.field("text"));
        }
    }
    return out;
}

JobCard jobCard(const Derived& d, const ShopMemory& memory, LengthUnit unit, bool withStandIns) {
    JobCard card;
    card.instrument = d.project.name;
    card.steps = stepsOf(d, memory, withStandIns);
    card.bench = benchSteps(d, unit, memory.of("handwork"));
    for (Role role : {Role::board, Role::neck, Role::top, Role::body}) {
        const bool made = role == Role::body ? d.body.has_value() : d.job(role) != nullptr;
        for (const KnownSize& size : made ? knownSizes(d, role, memory.of("measurement"))
                                          : std::vector<KnownSize>()) {
            const auto same = [&](const KnownSize& k) { return k.size == size.size; };
            if (std::none_of(card.sizes.begin(), card.sizes.end(), same)) {
                card.sizes.push_back(size);
            }
        }
    }
    card.missing = notInHand(d, memory.of("hardware"));
    for (const Record& n : memory.of("note")) {
        if (n.field("next") == "yes") {
            card.notes.push_back("Next time: " + n.field("text"));
        } else if (n.field("project") == d.project.name) {
            card.notes.push_back(n.field("text"));
        }
    }
    card.cautions = {"Eyes, ears and lungs; a hand at the emergency stop through a first run; the "
                     "spindle standing before a hand goes near.",
                     "Local rules for workshop, mains and finishes come before this card."};
    return card;
}

} // namespace wren
