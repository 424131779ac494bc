#include "job/job_card.h"

#include "design/string_line.h"
#include "job/glue.h"
#include "job/hand_text.h"
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
                           {}, {}});
        }
        CardStep s{p.program.part, static_cast<int>(i) + 1,
                   fmt::format("{}", fmt::join(p.program.what, " + ")), p.program.bit.name,
                   p.time.seconds / 60, {}, {}, {}};
        const std::string wood = d.placeOf(i).setup().blank.wood;
        if (const auto advice = adviceFor(p, wood, experience)) {
            s.expected = advice->minutes;
        }
        if (const RunRecord* run = doneBy(memory, d, p)) {
            s.taken = run->takenSeconds / 60;
            s.when = run->end.empty() ? run->start : run->end;
        }
        out.push_back(std::move(s));
    }
    return out;
}

/// The order of the bench is common practice, no source; its numbers are the instrument's.
std::vector<BenchStep> benchOf(const Derived& d, LengthUnit unit) {
    const Project& p = d.project;
    const auto size = [&](double mm) { return formatLength(mm, unit, unit == LengthUnit::mm ? 2 : 3); };
    std::vector<BenchStep> out;
    for (const GlueJoint& joint : glueList(d)) {
        out.push_back({"Gluing", joint.what,
                       joint.adhesive > 0 ? fmt::format("{:.0f} g of glue", joint.adhesive) : ""});
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
            fmt::format("bass {}, treble {} over fret 12", size(aims.action),
                        size(aims.trebleAction.value_or(aims.action)));
        out.push_back({"Strung test", "string it before the finish, set it up, read it, strip it",
                       action});
        out.push_back({"Finish", "sand, finish, let it cure; every fit loses the finish's thickness",
                       ""});
        out.push_back({"Setup", "action at fret 12", action});
        out.push_back({"Setup", "relief", size(aims.relief)});
        out.push_back({"Setup", "intonation: saddles back from the scale line", ""});
        out.push_back({"Settled", "read action and relief again after two weeks under tension",
                       ""});
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
    card.bench = benchOf(d, unit);
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
