#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "book/run_list.h"
#include "job/run_program.h"
#include "job/stale.h"
#include "job/store.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <csignal>
#include <memory>

namespace wren::cli {
namespace {

std::filesystem::path bookPlace(const std::string& named) {
    return named.empty() ? ShopBook::usualPlace() : std::filesystem::path(named);
}

SendControl* controlOfRun = nullptr;

void stopRun(int) {
    if (controlOfRun) {
        controlOfRun->stop = true;
    }
}

void run(const std::string& file, const RunAsk& ask, const std::string& address,
         const std::string& bookFile, const std::vector<std::string>& reasons,
         const std::string& describe) {
    const int program = ask.order;
    Project project = loadProject(file);
    if (!describe.empty()) {
        project.machine.talk = controllerFromJson(readFile(describe), describe);
    }
    Derived d = derive(project);
    if (ask.fromLine > 0) { // what will happen is shown before it does
        for (const std::string& sentence : resumeOf(d, program, ask.fromLine).does) {
            fmt::print("{}\n", sentence);
        }
    }
    const std::vector<std::string> missing = missingWords(d.project.machine.talk);
    if (!missing.empty()) {
        fmt::print("The description \"{}\" has no word for {}: the machine is taken as homed and "
                   "zeroed by hand.\n",
                   d.project.machine.talk.name, fmt::join(missing, ", "));
    }
    if (!reasons.empty() && program >= 1 && program <= static_cast<int>(d.programs.size())) {
        const PartId part = d.programs[static_cast<std::size_t>(program - 1)].program.part;
        Overrides overrides;
        for (const std::string& reason : reasons) {
            overrides.push_back(overrideFrom(reason, d.findings, {part}));
        }
        giveReasons(d, overrides);
    }
    ShopBook book(bookPlace(bookFile));
    SendControl control;
    controlOfRun = &control;
    for (int signal : {SIGINT, SIGTERM, SIGHUP}) { // Ctrl-C stops the machine, then the command
        std::signal(signal, stopRun);
    }
    int shown = -10;
    const auto tell = [&](const SendProgress& p) {
        const int percent = 100 * p.acknowledged / std::max(1, p.lines);
        if (percent >= shown + 10) {
            shown = percent - percent % 10;
            fmt::print("{:3} %  line {} of {}, X {:.2f} Y {:.2f} Z {:.2f}\n", shown, p.acknowledged,
                       p.lines, p.status.work.x, p.status.work.y, p.status.work.z);
        }
    };
    const RunRecord r = runProgram(d, ask, address, book, control, tell);
    controlOfRun = nullptr;
    fmt::print("{}: {}, planned {:.1f} min, took {:.1f} min of machine time; run {} in the book\n",
               r.program, r.outcome, r.plannedSeconds / 60, r.takenSeconds / 60, r.id);
    if (r.outcome != "done") {
        complain(r.remark);
        throw Exit{refused};
    }
}

/// Folders of programs beside the project, the latest first.
void stale(const std::string& file, const std::string& bookFile) {
    Derived d = deriveDrawing(loadProject(file));
    derivePrograms(d);
    const std::vector<RunRecord> runs = ShopBook(bookPlace(bookFile)).runs();
    const std::vector<PostedFolder> folders = postedBeside(file, d.project.name);
    if (folders.empty()) {
        fmt::print("There are no posted programs of {} beside {}.\n", d.project.name, file);
    }
    bool any = false;
    for (const PostedFolder& folder : folders) {
        const Staleness found = stalenessOf(folder, d, runs);
        any = any || !found.stale.empty();
        fmt::print("{}", stalenessText(folder, found));
    }
    if (any) {
        throw Exit{refused};
    }
}

void runs(bool json, bool csv, const std::string& bookFile) {
    const std::vector<RunRecord> all = ShopBook(bookPlace(bookFile)).runs();
    if (json || csv) {
        fmt::print("{}", json ? runsJson(all) : runsCsv(all));
        return;
    }
    for (const RunRecord& r : all) {
        fmt::print("{:>4}  {}  {:<10} {:<40} {:<8} planned {:6.1f} min, took {:6.1f} min  {}{}\n",
                   r.id, r.start, r.project, r.program, r.outcome, r.plannedSeconds / 60,
                   r.takenSeconds / 60, r.standIn ? "on the stand-in " : "", r.remark);
    }
}

} // namespace

void addMachineCommands(CLI::App& app) {
    struct Options {
        std::string file, address, book;
        int program = 1;
        std::vector<std::string> reasons;
        bool air = false, trace = false;
        bool json = false, csv = false;
        int fromLine = 0;
        std::string describe, by;
    };
    auto o = std::make_shared<Options>();

    CLI::App* r = app.add_subcommand("run", "Send one program to a machine and log the run.");
    r->add_option("FILE", o->file, "project file (.wren)")->required();
    r->add_option("--program", o->program, "its number in running order, from 1")->required();
    r->add_option("--to", o->address, "tcp:127.0.0.1:PORT, serial:NAME@RATE or tty:PATH")->required();
    r->add_option("--book", o->book, "the shop book (default: the user's own)");
    r->add_option("--override", o->reasons,
                  "send in spite of one stop finding: CODE=REASON; goes on record");
    CLI::Option* air = r->add_flag("--air", o->air, "the same moves above the work");
    r->add_flag("--trace", o->trace, "round what it cuts, above the work, spindle standing")
        ->excludes(air);
    r->add_option("--from-line", o->fromLine, "taken up again from that line of it")
        ->check(CLI::PositiveNumber);
    r->add_option("--by", o->by, "who stands at the machine; kept with the run");
    r->add_option("--describe", o->describe, "how the controller is spoken to (JSON)");
    r->callback([o] {
        const RunHow how = o->air ? RunHow::air : o->trace ? RunHow::trace : RunHow::cut;
        RunAsk ask;
        ask.order = o->program;
        ask.how = how;
        ask.fromLine = o->fromLine;
        ask.by = o->by;
        run(o->file, ask, o->address, o->book, o->reasons, o->describe);
    });

    CLI::App* s = app.add_subcommand(
        "stale", "Which posted programs beside a project no longer follow from it, and why.");
    s->add_option("FILE", o->file, "project file (.wren)")->required();
    s->add_option("--book", o->book, "the shop book (default: the user's own)");
    s->callback([o] { stale(o->file, o->book); });

    CLI::App* b = app.add_subcommand("book", "The shop's logbook.");
    b->require_subcommand(1);
    CLI::App* list = b->add_subcommand("runs", "Every program that was sent, newest first.");
    list->add_flag("--json", o->json, "as JSON");
    list->add_option("--book", o->book, "the shop book (default: the user's own)");
    list->add_flag("--csv", o->csv, "as CSV");
    list->callback([o] { runs(o->json, o->csv, o->book); });
    addBookCommands(*b);
}

} // namespace wren::cli
