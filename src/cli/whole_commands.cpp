#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "job/balance.h"
#include "job/compare.h"
#include "job/export.h"
#include "job/hand_sheet.h"
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

void compareFiles(const std::string& first, const std::string& second, const std::string& kept,
                  bool json) {
    if (second.empty() == kept.empty()) {
        complain("What it is compared with is a second file, or --variant NAME of the first.");
        throw Exit{usage};
    }
    const Project project = loadProject(first);
    const Comparison c = kept.empty() ? compare(project, loadProject(second))
                                      : compare(variantOf(project, kept), project);
    fmt::print("{}", json ? comparisonJson(c) : comparisonText(c));
}

struct VariantOptions {
    std::string file, keep, take, drop, freeze, thaw;
};

void variants(const VariantOptions& o) {
    Project p = loadProject(o.file);
    const Project before = p;
    p = o.keep.empty() ? p : withVariant(p, o.keep);
    p = o.freeze.empty() ? p : withFrozen(p, o.freeze, true);
    p = o.thaw.empty() ? p : withFrozen(p, o.thaw, false);
    p = o.drop.empty() ? p : withoutVariant(p, o.drop);
    p = o.take.empty() ? p : takenVariant(p, o.take);
    if (!(p == before)) {
        saveProject(p, o.file);
    }
    for (const Variant& v : p.variants) {
        Project alone = p;
        alone.variants.clear();
        fmt::print("{}{}{}\n", v.name, v.frozen ? ", frozen" : "",
                   *v.design == alone ? ", as the present design" : "");
    }
    if (p.variants.empty()) {
        fmt::print("No variant is kept in this project.\n");
    }
}

struct SheetOptions {
    std::string file, of, at, out, paper = "a4";
    bool inches = false;
};

void sheet(const SheetOptions& o) {
    if (!o.at.empty() && o.of != "facets") {
        complain("--at belongs to --of facets: places along the neck.");
        throw Exit{usage};
    }
    const Derived d = deriveDrawing(loadProject(o.file));
    const HandSheet page =
        handSheet(d, o.of, o.inches ? LengthUnit::inch : LengthUnit::mm, sectionList(o.at));
    if (o.out.empty()) {
        fmt::print("{}", handSheetText(page));
        return;
    }
    writeFileSafely(o.out, handSheetPdf(d, page, paperNamed(o.paper)));
    fmt::print("{}\n", o.out);
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
    auto kept = std::make_shared<std::string>();
    c->add_option("FIRST", o->file, "project file (.wren)")->required();
    c->add_option("SECOND", o->other, "the other one");
    c->add_option("--variant", *kept,
                  "instead of a second file: from this variant kept in the first to its present "
                  "design");
    c->add_flag("--json", o->json, "as JSON");
    c->callback([o, kept] { compareFiles(o->file, o->other, *kept, o->json); });

    auto v = std::make_shared<VariantOptions>();
    CLI::App* va = app.add_subcommand(
        "variants", "Designs kept under names inside a project; without an option, what there is.");
    va->add_option("FILE", v->file, "project file (.wren)")->required();
    va->add_option("--keep", v->keep, "keep the present design under this name");
    va->add_option("--take", v->take, "make that variant the present design");
    va->add_option("--drop", v->drop, "drop it");
    va->add_option("--freeze", v->freeze, "let it be neither replaced nor dropped");
    va->add_option("--thaw", v->thaw, "undo that");
    va->callback([v] { variants(*v); });

    auto s = std::make_shared<SheetOptions>();
    std::string names;
    for (const HandSheetKind& kind : handSheetKinds()) {
        names += fmt::format("{}{} ({})", names.empty() ? "" : ", ", kind.name, kind.words);
    }
    CLI::App* sh = app.add_subcommand(
        "sheet", "A page for work by hand with this instrument's numbers; without --out, as text.");
    sh->add_option("FILE", s->file, "project file (.wren)")->required();
    sh->add_option("--of", s->of, names)->required();
    sh->add_option("--at", s->at, "of facets: places along the neck, as 40,300");
    sh->add_option("-o,--out", s->out, "PDF to write");
    sh->add_option("--paper", s->paper, "of what is printed at full size: a4, a3 or letter (a4)");
    sh->add_flag("--inches", s->inches, "in inches");
    sh->callback([s] { sheet(*s); });
}

} // namespace wren::cli
