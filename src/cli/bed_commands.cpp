#include "commands.h"

#include "base/error.h"
#include "base/length.h"
#include "job/bed.h"
#include "job/posting.h"
#include "job/store.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <cstdio>
#include <memory>

namespace wren::cli {
namespace {

struct BedOptions {
    std::string file, surface, lines, out = ".";
    bool json = false;
};

void post(const BedProgram& bed, const std::string& dir) {
    for (const Finding& f : bed.findings) {
        complain(f.message);
    }
    if (hasStop(bed.findings)) {
        throw Exit{refused};
    }
    fmt::print("{}/{}: {:.1f} min\n", dir, postBedProgram(bed, dir),
               bed.program->time.seconds / 60);
}

void bed(const BedOptions& o) {
    const Project project = loadProject(o.file);
    if (!o.surface.empty()) {
        post(deriveSurfacing(project, parseLength(o.surface, LengthUnit::mm)), o.out);
    }
    if (!o.lines.empty()) {
        post(deriveBedLines(project, parseLength(o.lines, LengthUnit::mm)), o.out);
    }
    if (o.surface.empty() && o.lines.empty()) {
        Derived d = deriveDrawing(project);
        derivePrograms(d);
        fmt::print("{}", o.json ? bedJson(d) : bedText(d));
    }
}

struct BatchOptions {
    std::string file, out;
    bool json = false;
};

void batch(const BatchOptions& o) {
    const Project project = loadProject(o.file);
    const Batch b = deriveBatch(project);
    fmt::print("{}", o.json ? batchJson(b) : batchText(b));
    for (const auto& d : b.instruments) {
        for (const Finding& f : d->findings) {
            if (f.weight == Weight::stop) {
                complain(fmt::format("{}: {}", d->project.name, f.message));
            }
        }
    }
    if (!o.out.empty() && postBatch(b, project.name, o.out) == PostingRight::refused) {
        complain("Nothing was posted: a batch goes out when none of its instruments has a stop.");
        throw Exit{refused};
    }
}

} // namespace

void addBedCommands(CLI::App& app) {
    CLI::App* b = app.add_subcommand(
        "bed", "The machine's bed: what it has room for; programs that surface it and engrave its "
               "lines.");
    auto o = std::make_shared<BedOptions>();
    b->add_option("FILE", o->file, "project file (.wren)")->required();
    b->add_option("--surface", o->surface, "post a program that takes so much off the spoil board");
    b->add_option("--lines", o->lines, "post a program that engraves its lines so deep");
    b->add_option("--out", o->out, "folder to write to");
    b->add_flag("--json", o->json, "as JSON");
    b->callback([o] { bed(*o); });

    CLI::App* s = app.add_subcommand(
        "batch", "All instruments of a project's batch: proved, and their programs in one order.");
    auto q = std::make_shared<BatchOptions>();
    s->add_option("FILE", q->file, "project file (.wren)")->required();
    s->add_option("--out", q->out, "folder to post to, one folder an instrument");
    s->add_flag("--json", q->json, "as JSON");
    s->callback([q] { batch(*q); });
}

} // namespace wren::cli
