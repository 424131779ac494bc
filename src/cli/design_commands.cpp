#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "exchange/body_drawing.h"
#include "exchange/fret_csv.h"
#include "exchange/neck_drawing.h"
#include "job/cut_list.h"
#include "job/derive.h"
#include "job/drawer.h"
#include "job/export.h"
#include "job/features.h"
#include "job/glue.h"
#include "job/import_outline.h"
#include "job/list_keys.h"
#include "job/setup_report.h"
#include "job/store.h"
#include "job/wants.h"

#include <filesystem>

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <map>
#include <memory>

namespace wren::cli {
namespace {

void frets(const std::string& file, bool csv, bool inches) {
    const Project project = loadProject(file);
    const LengthUnit unit = inches ? LengthUnit::inch : LengthUnit::mm;
    fmt::print("{}", csv ? fretTableCsv(project.board, unit) : fretTableText(project.board, unit));
}

void list(const Project& project) {
    for (const Key& key : keysOf(project)) {
        if (key.beforeLists) {
            continue; // another way of saying what stands below
        }
        std::string range;
        if (!key.choices.empty()) {
            range = fmt::format("{}", fmt::join(key.choices, " | "));
        } else if (key.most > key.least) {
            range = fmt::format("{:g} to {:g}", key.least, key.most);
        }
        if (key.mayBeAuto) {
            range += range.empty() ? "or auto" : ", or auto";
        }
        const KeyValue value = key.get(project);
        const double* number = std::get_if<double>(&value);
        fmt::print("{:<30} {:<16} {:<7} {}{}\n", key.path,
                   number ? fmt::format("{:g}", *number) : showValue(key, value),
                   key.unit.empty() ? "-" : key.unit, key.meaning,
                   range.empty() ? "" : fmt::format(" ({})", range));
    }
}

struct NewOptions {
    int strings = 6;
    int frets = 22;
    bool left = false;
    std::string scale = "648";
    std::string treble;
    std::string square = "7";
};

void create(const std::string& file, const NewOptions& o) {
    if (std::filesystem::exists(file)) {
        throw Error(fmt::format("{} is already there; a new name was expected.", file));
    }
    Project project = newProject(std::filesystem::path(file).stem().string(), o.strings,
                                 parseLength(o.scale), o.frets, o.left ? Hand::left : Hand::right);
    if (!o.treble.empty()) {
        project = withTrebleScale(project, parseLength(o.treble), o.square);
    }
    saveProject(project, file);
    for (const Finding& f : deriveDrawing(project).findings) {
        complain(fmt::format("{}: {}", weightName(f.weight), f.message));
    }
}

} // namespace

Derived drawnWith(const std::string& file, const std::string& name) {
    Derived d = deriveDrawing(projectWith(file, name));
    const PartId part = partOf(d, name, file);
    if (!d.job(part)) {
        for (const Finding& f : d.findings) {
            complain(fmt::format("{}: {}", weightName(f.weight), f.message));
        }
        throw Exit{refused};
    }
    return d;
}

namespace {

void exportPart(const std::string& file, const std::string& part, const std::string& format,
                const std::string& paper, const std::string& at, const std::string& out) {
    if (part == "instrument") {
        writeFileSafely(out,
                        exportWhole(deriveDrawing(loadProject(file)), format, paperNamed(paper)));
        fmt::print("{}\n", out);
        return;
    }
    const Derived d = drawnWith(file, part);
    const PartId id = partOf(d, part, file);
    const ExportHow how{paperNamed(paper), sectionList(at)};
    if (id == Role::neck && !how.sections.empty()) {
        checkSections(d.neck->part, how.sections);
    }
    writeFileSafely(out, exportPart(d, *d.job(id), format, how));
    fmt::print("{}\n", out);
}

void section(const std::string& file, const std::string& part, const std::string& at) {
    if (PartId::named(part) != PartId(Role::neck)) {
        throw Error(fmt::format("Sections are cut of the neck; there are none of \"{}\".", part));
    }
    const Derived d = drawnWith(file, part);
    const std::vector<double> places = sectionList(at);
    checkSections(d.neck->part, places);
    fmt::print("{}", neckSectionsCsv(d.neck->part, places));
}

void importOutlineOf(const std::string& file, const std::string& part, const std::string& drawing,
                     const Tracing& tracing, const std::string& out) {
    const std::map<std::string, OutlineFor> parts{{"body", OutlineFor::body},
                                                  {"cavity", OutlineFor::cavity},
                                                  {"headstock", OutlineFor::headstock}};
    if (parts.count(part) == 0) {
        throw Error(fmt::format(
            "An outline is imported for a body, a cavity or a headstock; \"{}\" is none of them.",
            part));
    }
    const OutlineImport in =
        importOutline(loadProject(file), readDrawing(drawing), tracing, parts.at(part));
    for (const std::string& skipped : in.skipped) {
        complain(fmt::format("{}: {} left out", drawing, skipped));
    }
    const std::string to = out.empty() ? file : out;
    saveProject(in.project, to);
    fmt::print(
        "{}: {} lines and {} arcs, within {:.3f} mm of the drawing's points; {} gaps joined, "
        "{} doubles dropped. {}\n",
        to, in.lines, in.arcs, in.deviation, in.joined, in.doubled, in.placed);
}

/// What changed is kept; what it means is said at once.
void keep(const Project& project, const std::string& file) {
    saveProject(project, file);
    for (const Finding& f : deriveDrawing(project).findings) {
        complain(fmt::format("{}: {}", weightName(f.weight), f.message));
    }
}

/// What gave way to an edit.
void tellSettled(const Project& asked, const Project& settled) {
    const BodyPocket& was = asked.body.pocket;
    const BodyPocket& is = settled.body.pocket;
    if (is.angle != was.angle) {
        fmt::print("The neck angle follows: {:.3f} degrees (it was {:.3f}).\n", is.angle,
                   was.angle);
    } else if (is.depth != was.depth) {
        fmt::print("The neck pocket follows: {:.3f} mm deep (it was {:.3f}).\n", is.depth,
                   was.depth);
    } else {
        fmt::print("It was set by hand: nothing gives way to other changes any more.\n");
    }
}

void set(const std::string& file, const std::vector<std::string>& changes, const std::string& out,
         bool listKeys) {
    const Project before = loadProject(file);
    Project project = before;
    if (listKeys) {
        list(project);
        return;
    }
    if (changes.empty()) {
        complain("Nothing to set; key=value was expected (wren set FILE --list shows the keys).");
        throw Exit{usage};
    }
    for (const std::string& change : changes) {
        const std::size_t equals = change.find('=');
        if (equals == std::string::npos || equals == 0) {
            complain(fmt::format("\"{}\" is not key=value.", change));
            throw Exit{usage};
        }
        project = withKey(project, change.substr(0, equals), change.substr(equals + 1));
    }
    const Project settled = settledAfter(before, project);
    if (!(settled == project)) {
        tellSettled(project, settled);
    }
    keep(settled, out.empty() ? file : out);
}

void add(const std::string& file, const std::string& list, const std::vector<std::string>& changes,
         const std::string& like, const std::string& out) {
    const Project project = loadProject(file);
    std::vector<Setting> settings;
    for (const std::string& change : changes) {
        const std::size_t equals = change.find('=');
        if (equals == std::string::npos || equals == 0) {
            complain(fmt::format("\"{}\" is not key=value.", change));
            throw Exit{usage};
        }
        settings.push_back({change.substr(0, equals), change.substr(equals + 1)});
    }
    const Project more =
        like.empty() ? withAdded(project, list, settings) : withDoubled(project, like);
    keep(more, out.empty() ? file : out);
    const std::size_t last = listAt(more, list).items->size(more) - 1;
    fmt::print("{}.{}\n", list, like.empty() ? last : itemPath(like)->number + 1);
}

void remove(const std::string& file, const std::string& item, const std::string& out) {
    keep(withRemoved(loadProject(file), item), out.empty() ? file : out);
}

void bits(const std::string& file, const std::string& add, const std::string& like,
          const std::string& remove) {
    Project project = loadProject(file);
    if (!add.empty()) {
        if (like.empty()) {
            complain("A new bit needs --like BIT, the bit it is copied from.");
            throw Exit{usage};
        }
        project = withBit(project, add, like);
    }
    if (!remove.empty()) {
        project = withoutBit(project, remove);
    }
    if (!add.empty() || !remove.empty()) {
        saveProject(project, file);
    }
    for (std::size_t i = 0; i < project.bits.size(); ++i) {
        const Bit& b = project.bits[i];
        fmt::print("bits.{:<3} {:<20} {:<13} {:>8.3f} mm, flutes {} x {:g} mm, shank {:g} mm\n", i,
                   b.name, bitKindName(b.kind), b.diameter, b.flutes, b.fluteLength, b.shank);
    }
}

void list(const std::string& file, const std::string& of) {
    const Derived d = deriveDrawing(loadProject(file));
    if (of == "drilling" && !d.body) {
        complain("There is no body to drill in this project.");
        throw Exit{refused};
    }
    const std::map<std::string, std::function<std::string()>> lists{
        {"hardware", [&] { return hardwareCsv(d); }},
        {"wood", [&] { return woodCsv(d); }},
        {"drilling", [&] { return drillingCsv(d.body->part); }},
        {"cutlist", [&] { return cutListCsv(d); }},
        {"glue", [&] { return glueCsv(d); }},
        {"parts", [&] { return partsCsv(d); }},
        {"features", [&] { return featuresCsv(d.project); }}};
    const auto wanted = lists.find(of);
    if (wanted == lists.end()) {
        complain(fmt::format(
            "\"{}\" is not a list; hardware, wood, cutlist, glue, drilling, parts or features was "
            "expected.",
            of));
        throw Exit{usage};
    }
    fmt::print("{}", wanted->second());
}

} // namespace

void addDesignCommands(CLI::App& app) {
    struct Options {
        NewOptions fresh;
        std::string file, out, part = "fretboard", format, paper = "a4", at, add, like, remove,
                               item;
        bool csv = false, inches = false, list = false;
        std::string of = "hardware", importPart = "body", drawing, units, tolerance = "0.05";
        Tracing tracing;
        std::vector<double> points;
        std::string apart;
        std::vector<std::string> changes;
    };
    auto o = std::make_shared<Options>();

    CLI::App* f = app.add_subcommand("frets", "The fret table, distances from the nut.");
    f->add_option("FILE", o->file, "project file (.wren)")->required();
    f->add_flag("--csv", o->csv, "as comma-separated values");
    f->add_flag("--inches", o->inches, "in inches");
    f->callback([o] { frets(o->file, o->csv, o->inches); });

    CLI::App* n = app.add_subcommand("new", "A new project with ordinary widths, ready to change.");
    n->add_option("FILE", o->file, "project file to write (.wren)")->required();
    n->add_option("--strings", o->fresh.strings, "strings (6)");
    n->add_option(
        "--scale", o->fresh.scale,
        "scale length, as 648 or 25 1/2in (648 mm); the bass string's when there are two");
    n->add_option("--treble-scale", o->fresh.treble, "the treble string's own scale");
    n->add_option("--square", o->fresh.square,
                  "where the frets are square then: nut, bridge or a fret (7)");
    n->add_option("--frets", o->fresh.frets, "frets (22); 0 for a fretless board");
    n->add_flag("--left", o->fresh.left, "left-handed");
    n->callback([o] { create(o->file, o->fresh); });

    CLI::App* e = app.add_subcommand("export", "A part as a solid, a drawing or a template.");
    e->add_option("FILE", o->file, "project file (.wren)")->required();
    e->add_option(
        "--part", o->part,
        "the part, as wren list FILE --of parts names it (fretboard); instrument for plan and "
        "side of all of it");
    e->add_option("--format", o->format,
                  "step or stl: the solid; dxf or svg: the drawing; pdf: a template at full size")
        ->required();
    e->add_option("--paper", o->paper, "of the template: a4, a3 or letter (a4)");
    e->add_option("--at", o->at, "of a neck: sections at these distances from the nut, as 50,100");
    e->add_option("-o,--out", o->out, "file to write")->required();
    e->callback([o] { exportPart(o->file, o->part, o->format, o->paper, o->at, o->out); });

    CLI::App* li =
        app.add_subcommand("list", "What has to be in hand, to be drilled or can be made, as CSV.");
    li->add_option("FILE", o->file, "project file (.wren)")->required();
    li->add_option("--of", o->of,
                   "hardware, wood, cutlist, glue, drilling, parts or features (hardware)");
    li->callback([o] { list(o->file, o->of); });

    CLI::App* im = app.add_subcommand("import", "An outline from a drawing: SVG, DXF or PDF.");
    im->add_option("FILE", o->file, "project file (.wren)")->required();
    im->add_option("--part", o->importPart, "what it outlines: body, cavity or headstock (body)");
    im->add_option("--outline", o->drawing, "the drawing")->required();
    im->add_option("--units", o->units, "of the drawing, where it does not say: mm or in");
    im->add_option("--points", o->points,
                   "two places of the drawing, X Y X Y in its units, whose distance is known")
        ->expected(4);
    im->add_option("--apart", o->apart, "that distance, as 250 or 9 7/8in");
    im->add_option("--layer", o->tracing.layer, "only this layer, or colour as #rrggbb");
    im->add_option("--tolerance", o->tolerance,
                   "how far curves may lie off the drawing's points (0.05 mm)");
    im->add_option("--out", o->out, "write to this file instead");
    im->callback([o] {
        if (!o->units.empty()) {
            if (o->units != "mm" && o->units != "in") {
                throw Error(fmt::format("\"{}\" is not a unit; mm or in was expected.", o->units));
            }
            o->tracing.unit = o->units == "mm" ? 1 : mmPerInch;
        }
        if (o->points.empty() != o->apart.empty()) {
            throw Error("Two points and how far they are apart belong together: --points X Y X Y "
                        "--apart LENGTH.");
        }
        if (!o->points.empty()) {
            o->tracing.unit = unitBetween({o->points[0], o->points[1]},
                                          {o->points[2], o->points[3]}, parseLength(o->apart));
        }
        o->tracing.tolerance = parseLength(o->tolerance);
        importOutlineOf(o->file, o->importPart, o->drawing, o->tracing, o->out);
    });

    CLI::App* c = app.add_subcommand("section", "The neck cut across, as points of its back.");
    c->add_option("FILE", o->file, "project file (.wren)")->required();
    c->add_option("--part", o->part, "the part: neck")->required();
    c->add_option("--at", o->at, "distances from the nut, as 50,100,12in")->required();
    c->callback([o] { section(o->file, o->part, o->at); });

    CLI::App* b = app.add_subcommand("bits", "The drawer; with --add or --remove another one.");
    b->add_option("FILE", o->file, "project file (.wren)")->required();
    b->add_option("--add", o->add, "name of a new bit; its numbers are set as bits.N.KEY");
    b->add_option("--like", o->like, "the bit it is copied from");
    b->add_option("--remove", o->remove, "name of a bit to take out");
    b->callback([o] { bits(o->file, o->add, o->like, o->remove); });

    CLI::App* a = app.add_subcommand("add", "One more of a list: a channel, a pot, a hole ...");
    a->add_option("FILE", o->file, "project file (.wren)")->required();
    a->add_option("LIST", o->item, "the list, as body.channels")->required();
    a->add_option("CHANGES", o->changes, "key=value ...; places as 12,-4.5 or 1/2in,20mm");
    a->add_option("--like", o->like, "a double of this one, as body.channels.0");
    a->add_option("--out", o->out, "write to this file instead");
    a->callback([o] { add(o->file, o->item, o->changes, o->like, o->out); });

    CLI::App* r = app.add_subcommand("remove", "One thing of a list less.");
    r->add_option("FILE", o->file, "project file (.wren)")->required();
    r->add_option("ITEM", o->item, "which, as body.channels.0")->required();
    r->add_option("--out", o->out, "write to this file instead");
    r->callback([o] { remove(o->file, o->item, o->out); });

    CLI::App* s = app.add_subcommand("set", "Change numbers of a project.");
    s->add_option("FILE", o->file, "project file (.wren)")->required();
    s->add_option(
        "CHANGES", o->changes,
        "key=value ...; lengths as 44.5, 1 3/4 in, 1/8in+0.5mm; auto for the recipe's own");
    s->add_option("--out", o->out, "write to this file instead");
    s->add_flag("--list", o->list, "every key with its value, unit and meaning");
    s->callback([o] { set(o->file, o->changes, o->out, o->list); });
}

} // namespace wren::cli
