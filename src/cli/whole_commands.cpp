#include "commands.h"

#include "base/error.h"
#include "job/balance.h"
#include "job/compare.h"
#include "job/setup_report.h"
#include "job/store.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <memory>

namespace wren::cli {
namespace {

struct GeometryOptions {
    std::string file, other, out, of, saddle, angle, proud;
    bool json = false, inches = false;
};

std::optional<double> lengthIn(const std::string& text) {
    return text.empty() ? std::nullopt : std::optional(parseLength(text));
}

void geometry(const GeometryOptions& o) {
    Project project = loadProject(o.file);
    if (o.of.empty() && !(o.saddle + o.angle + o.proud + o.out).empty()) {
        complain("--saddle, --angle, --proud and --out belong to --solve angle, pocket, saddle or "
                 "proud.");
        throw Exit{usage};
    }
    if (!o.of.empty()) {
        const std::optional<double> angle =
            o.angle.empty() ? std::nullopt : std::optional(parseNumber(o.angle));
        SetupAnswer answer =
            solveSetup(project, {o.of, lengthIn(o.saddle), angle, lengthIn(o.proud)});
        project = std::move(answer.project);
        if (o.json) {
            complain(answer.said);
        } else {
            fmt::print("{}\n\n", answer.said);
        }
    }
    const SetupGeometry setup = setupOf(deriveDrawing(project));
    if (!o.out.empty()) {
        saveProject(project, o.out);
    }
    fmt::print("{}", o.json ? setupJson(setup)
                            : setupText(setup, o.inches ? LengthUnit::inch : LengthUnit::mm));
}

void balance(const std::string& file, bool json) {
    Derived d = deriveDrawing(loadProject(file));
    const Balance b = balanceOf(d);
    if (b.parts.empty()) {
        for (const Finding& f : d.findings) {
            complain(fmt::format("{}: {}", weightName(f.weight), f.message));
        }
        throw Exit{refused};
    }
    fmt::print("{}", json ? balanceJson(b) : balanceText(b));
}

void compareFiles(const std::string& first, const std::string& second, bool json) {
    const Comparison c = compare(loadProject(first), loadProject(second));
    fmt::print("{}", json ? comparisonJson(c) : comparisonText(c));
}

} // namespace

void addWholeCommands(CLI::App& app) {
    auto o = std::make_shared<GeometryOptions>();
    CLI::App* g = app.add_subcommand(
        "geometry", "Strings, neck and bridge from the side; what a real bridge or heel asks for.");
    g->add_option("FILE", o->file, "project file (.wren)")->required();
    g->add_flag("--json", o->json, "as JSON, mm and degrees");
    g->add_flag("--inches", o->inches, "the table in inches");
    g->add_option(
        "--solve", o->of,
        "find the neck's angle, the pocket's depth, the saddle's height, or how proud the "
        "neck sits: angle, pocket, saddle or proud");
    g->add_option("--saddle", o->saddle,
                  "strings over the body's face at the bridge (as the bridge allows)");
    g->add_option("--angle", o->angle, "neck angle in degrees (as the project has it)");
    g->add_option("--proud", o->proud,
                  "glue plane over the body's face at the heel's end (as the pocket gives it)");
    g->add_option("--out", o->out, "write the project with the answer to this file");
    g->callback([o] { geometry(*o); });

    CLI::App* b = app.add_subcommand(
        "balance",
        "What the instrument weighs, where it balances, and whether its head goes down.");
    b->add_option("FILE", o->file, "project file (.wren)")->required();
    b->add_flag("--json", o->json, "as JSON, g and mm from the nut");
    b->callback([o] { balance(o->file, o->json); });

    CLI::App* c = app.add_subcommand(
        "compare", "What two designs differ in, what that moves, and which programs go stale.");
    c->add_option("FIRST", o->file, "project file (.wren)")->required();
    c->add_option("SECOND", o->other, "the other one")->required();
    c->add_flag("--json", o->json, "as JSON");
    c->callback([o] { compareFiles(o->file, o->other, o->json); });
}

} // namespace wren::cli
