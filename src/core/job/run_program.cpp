#include "job/run_program.h"

#include "base/error.h"
#include "job/posting.h"
#include "job/probe_spot.h"

#include <fmt/format.h>

namespace wren {
namespace {

const char* nameOf(SendOutcome outcome) {
    switch (outcome) {
    case SendOutcome::done:
        return "done";
    case SendOutcome::stopped:
        return "stopped";
    case SendOutcome::refused:
        return "refused";
    case SendOutcome::lost:
        return "lost";
    }
    return "lost";
}

const PostedProgram& programAt(const Derived& d, int order) {
    if (order < 1 || order > static_cast<int>(d.programs.size())) {
        throw Error(fmt::format("There is no program {}; {} has programs 1 to {}.", order,
                                d.project.name, d.programs.size()));
    }
    return d.programs[static_cast<std::size_t>(order - 1)];
}

} // namespace

RunRecord runProgram(const Derived& d, int order, const std::string& address, ShopBook& book,
                     SendControl& control,
                     const std::function<void(const SendProgress&)>& progress, RunHow how) {
    const PostedProgram& posted = programAt(d, order);
    const ProgramPlace place = d.placeOf(static_cast<std::size_t>(order - 1));
    const Setup& setup = place.setup();
    const PostedProgram p = runAs(posted, how, setup, d.project.machine);
    const PostingRight right = postingRight(d, p.program.part);
    if (right == PostingRight::refused) {
        throw Error(
            fmt::format("The {}'s programs have stop findings and are not sent; `wren prove` "
                        "names them.",
                        p.program.part.name()));
    }
    const Vec2 spot = probeSpot(d, *place.job, place.side, p.program.station);
    const std::unique_ptr<Link> link = openLink(address);
    Sender sender(*link, control);
    RunRecord run;
    run.project = d.project.name;
    run.part = p.program.part.name();
    run.program = p.program.file;
    run.sha256 = p.sha256;
    run.motion = p.motion;
    run.designHash = d.designHash;
    run.address = address;
    run.standIn = sender.status().standIn;
    run.start = timeNow();
    run.plannedSeconds = p.time.seconds;
    if (right == PostingRight::overridden) {
        recordOverride(d, p.program.part, book);
    }
    run.id = book.begin(run);
    SendResult result;
    try {
        sender.ready(setup, d.project.machine, p.program.station, spot);
        result = sender.send(p.program.text, progress);
    } catch (const Cancelled&) {
        result.outcome = SendOutcome::stopped;
        result.remark = "Stopped by hand before the program began.";
    } catch (const Error& e) {
        result.outcome = SendOutcome::lost;
        result.remark = e.what();
    }
    run.takenSeconds = result.machineSeconds;
    run.outcome = nameOf(result.outcome);
    run.remark = result.remark;
    run.end = timeNow();
    try {
        book.finish(run);
    } catch (const Error& e) {
        run.remark +=
            fmt::format("{}{} The outcome is kept in {} and entered when the book is "
                        "opened next.",
                        run.remark.empty() ? "" : " ", e.what(), book.keepAside(run).string());
    }
    return run;
}

} // namespace wren
