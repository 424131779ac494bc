#include "job/run_program.h"

#include "base/error.h"
#include "job/fit_pass.h"
#include "job/posting.h"
#include "job/probe_spot.h"
#include "proof/rs274.h"

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
    case SendOutcome::strayed:
        return "strayed";
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

namespace {

/// A program as it is to be sent, and how what it cuts lies.
struct Sent {
    PostedProgram program;
    std::string completes; ///< what the whole program moves; that of `program` but for a rest
    const PartJob* job = nullptr;
    std::size_t side = 0;
    const Setup& setup() const { return job->held.side(side); }
};

Sent fitFor(const Derived& d, const RunAsk& ask) {
    const FitPass pass = deriveFitPass(d.project, ask.fit, ask.fitBy);
    for (const Finding& f : pass.findings) {
        if (f.weight == Weight::stop) {
            throw Error(f.message);
        }
    }
    if (!pass.program) {
        throw Error("There is no program for the fit to send.");
    }
    const Program& p = pass.program->program;
    return {*pass.program, pass.program->motion, d.job(p.part), p.side};
}

/// Whole, in the air, round its place, or from a line on; or a fit pass.
Sent programFor(const Derived& d, const RunAsk& ask) {
    if (!ask.fit.empty()) {
        return fitFor(d, ask);
    }
    const PostedProgram& posted = programAt(d, ask.order);
    const ProgramPlace place = d.placeOf(static_cast<std::size_t>(ask.order - 1));
    Sent sent{runAs(posted, ask.how, place.setup(), d.project.machine), {}, place.job, place.side};
    sent.completes = sent.program.motion;
    if (ask.fromLine > 0) {
        const PostedProgram& p = sent.program;
        const Resumed resumed = resumedFrom(p.program.text, p.program.file, place.setup(),
                                            p.program.zero, ask.fromLine);
        Program rest = p.program;
        rest.text = resumed.text;
        rest.file = fmt::format("{} from line {}", p.program.file, ask.fromLine);
        const RunProgram read = readBack({rest}, place.setup()).front();
        sent.program = PostedProgram::of(rest, read, d.project.machine);
    }
    return sent;
}

/// Throws Error where its part's programs may not leave the house.
PostingRight mayBeSent(const Derived& d, const PostedProgram& p) {
    const PostingRight right = postingRight(d, p.program.part);
    if (right == PostingRight::refused) {
        throw Error(
            fmt::format("The {}'s programs have stop findings and are not sent; `wren prove` "
                        "names them.",
                        p.program.part.name()));
    }
    return right;
}

/// The way a program goes from where the tool stands now.
Corridor corridorOf(const PostedProgram& p, Vec3 from) {
    return Corridor(readProgram(p.program.text, p.program.file, from).path);
}

} // namespace

Resumed resumeOf(const Derived& d, int order, int line) {
    const Program& p = programAt(d, order).program;
    return resumedFrom(p.text, p.file, d.placeOf(static_cast<std::size_t>(order - 1)).setup(),
                       p.zero, line);
}

int safeLineOf(const Derived& d, int order, int line) {
    const Program& p = programAt(d, order).program;
    return lastSafeLine(p.text, p.file, d.placeOf(static_cast<std::size_t>(order - 1)).setup(),
                        p.zero, line);
}

namespace {

/// As it stands in the book when it begins.
RunRecord recordOf(const Talk& talk, const Derived& d, const Sent& sent,
                   const std::string& address) {
    const PostedProgram& p = sent.program;
    RunRecord run;
    run.project = d.project.name;
    run.part = p.program.part.name();
    run.program = p.program.file;
    run.sha256 = p.sha256;
    run.motion = sent.completes; // its rest done, the program is
    run.designHash = d.designHash;
    run.address = address;
    run.standIn = talk.status().standIn;
    run.bit = p.program.bit.name;
    run.wood = sent.setup().blank.wood;
    run.cuts = fmt::format("{}", fmt::join(p.program.what, " + "));
    run.start = timeNow();
    run.plannedSeconds = p.time.seconds;
    run.cutLength = p.time.cutLength;
    return run;
}

RunRecord runSent(Talk& talk, const Derived& d, const Sent& sent, const RunAsk& ask,
                  const std::string& address, ShopBook& book,
                  const std::function<void(const SendProgress&)>& progress) {
    const PostedProgram& p = sent.program;
    const Setup& setup = sent.setup();
    const PostingRight right = mayBeSent(d, p);
    const bool readies = !ask.readied && missingWords(talk.speech().controller()).empty();
    const Vec2 spot = readies ? probeSpot(d, *sent.job, sent.side, p.program.station) : Vec2{};
    RunRecord run = recordOf(talk, d, sent, address);
    run.machine = d.project.machine.name;
    run.by = ask.by;
    if (right == PostingRight::overridden) {
        recordOverride(d, p.program.part, book);
    }
    run.id = book.begin(run);
    SendResult result;
    try {
        if (readies) {
            readyAll(talk, setup, d.project.machine, p.program.station, spot,
                     sent.job->held.under);
        }
        talk.waitForIdle();
        talk.ask();
        Corridor corridor = corridorOf(p, talk.status().work);
        result = sendProgram(talk, p.program.text, progress, &corridor);
    } catch (const Cancelled&) {
        result.outcome = SendOutcome::stopped;
        result.remark = "Stopped by hand before the program began.";
    } catch (const Error& e) {
        result.outcome = SendOutcome::lost;
        result.remark = e.what();
    }
    run.line = result.line;
    run.feedPercent = result.feedPercent;
    run.spindlePercent = result.spindlePercent;
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

} // namespace

RunRecord runProgram(const Derived& d, const RunAsk& ask, const std::string& address,
                     ShopBook& book, SendControl& control,
                     const std::function<void(const SendProgress&)>& progress) {
    const Sent sent = programFor(d, ask);
    mayBeSent(d, sent.program); // refused before the machine is spoken to
    const std::unique_ptr<Link> link = openLink(address);
    Sender sender(*link, control, {}, d.project.machine.talk);
    return runSent(sender.talk(), d, sent, ask, address, book, progress);
}

RunRecord runOn(Talk& talk, const Derived& d, const RunAsk& ask, const std::string& address,
                ShopBook& book, const std::function<void(const SendProgress&)>& progress) {
    return runSent(talk, d, programFor(d, ask), ask, address, book, progress);
}

} // namespace wren
