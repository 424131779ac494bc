#include "commands.h"

#include "base/files.h"
#include "base/length.h"
#include "job/hold_card.h"
#include "proof/air_pass.h"
#include "proof/outline_trace.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <filesystem>
#include <memory>

namespace wren::cli {
namespace {

std::string nameOf(const std::string& file) {
    return std::filesystem::path(file).filename().string();
}

void air(const std::string& file, const std::string& lift, const std::string& out) {
    writeFileSafely(out, airPass(readFile(file), nameOf(file), parseLength(lift, LengthUnit::mm)));
    fmt::print("{}\n", out);
}

void trace(const std::string& file, const std::string& out) {
    writeFileSafely(out, outlineTrace(readFile(file), nameOf(file)));
    fmt::print("{}\n", out);
}

void hold(const std::string& file, const std::string& part, bool json) {
    const Derived d = drawnWith(file, part);
    const PartJob& job = *d.job(partOf(d, part, file));
    fmt::print("{}", json ? holdJson(d, job) : holdText(d, job));
}

} // namespace

void addTrustCommands(CLI::App& app) {
    struct Options {
        std::string file, lift = "25.4", out, part;
        bool json = false;
    };
    auto o = std::make_shared<Options>();

    CLI::App* a = app.add_subcommand("air", "Any program, run so far above the work.");
    a->add_option("FILE", o->file, "program (.nc)")->required();
    a->add_option("--lift", o->lift, "how far up every height goes (25.4 mm)");
    a->add_option("-o,--out", o->out, "file to write")->required();
    a->callback([o] { air(o->file, o->lift, o->out); });

    CLI::App* h = app.add_subcommand(
        "hold", "How a part is laid: marks, jogs, pins, where to probe, what would shift it.");
    h->add_option("FILE", o->file, "project file (.wren)")->required();
    h->add_option("--part", o->part, "the part, as wren list FILE --of parts names it")->required();
    h->add_flag("--json", o->json, "as JSON");
    h->callback([o] { hold(o->file, o->part, o->json); });

    CLI::App* t = app.add_subcommand(
        "trace", "Round what a program cuts, above the work and with the spindle standing.");
    t->add_option("FILE", o->file, "program (.nc)")->required();
    t->add_option("-o,--out", o->out, "file to write")->required();
    t->callback([o] { trace(o->file, o->out); });
}

} // namespace wren::cli
