// What a shop writes down beside its runs, and what it has learnt from them.
#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "book/bit_life.h"
#include "book/experience.h"
#include "book/machine_hours.h"
#include "book/memory.h"
#include "book/progress.h"
#include "book/run_entry.h"
#include "base/csv.h"
#include "job/job_card.h"
#include "job/judge_measured.h"
#include "job/measure.h"
#include "job/setup_report.h"
#include "job/store.h"
#include "shop/shrinkage.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <memory>

namespace wren::cli {
namespace {

struct BookOptions {
    std::string book, file, kind, moisture, size, pdf, paper = "a4";
    std::vector<std::string> typed;
    bool json = false, csv = false, standIns = false, inches = false;
};

std::filesystem::path placeOf(const BookOptions& o) {
    return o.book.empty() ? ShopBook::usualPlace() : std::filesystem::path(o.book);
}

void list(const RecordKind& kind, const BookOptions& o) {
    const std::vector<Record> all = ShopBook(placeOf(o)).records(kind.name);
    if (o.json || o.csv) {
        fmt::print("{}", o.json ? recordsJson(kind, all) : recordsCsv(kind, all));
        return;
    }
    for (const Record& r : all) {
        std::string line = fmt::format("{:>4}  {}", r.id, r.time);
        for (const FieldOf& f : kind.fields) {
            const std::string text = r.field(f.name);
            if (!text.empty()) {
                line += fmt::format("  {} {}{}", f.name, text,
                                    f.kind == FieldKind::length ? " mm" : "");
            }
        }
        fmt::print("{}\n", line);
    }
    if (all.empty()) {
        fmt::print("The book has no {} yet.\n", kind.plural);
    }
}

void add(const BookOptions& o) {
    if (o.kind == runKind().name) {
        RunRecord run = runFrom(o.typed);
        ShopBook book(placeOf(o));
        run.id = book.begin(run);
        book.finish(run);
        fmt::print("run {} is in the book.\n", run.id);
        return;
    }
    const Record record = recordFrom(o.kind, o.typed);
    const auto id = ShopBook(placeOf(o)).add(record);
    fmt::print("{} {} is in the book.\n", record.kind, id);
}

void experience(const BookOptions& o) {
    const ShopBook book(placeOf(o));
    const auto all = experienceOf(book.runs(), book.records("mishap"), o.standIns);
    if (o.json) {
        auto list = nlohmann::ordered_json::array();
        for (const Experience& e : all) {
            list.push_back({{"bit", e.bit},
                            {"wood", e.wood},
                            {"cuts", e.cuts},
                            {"feed_percent", e.feedPercent},
                            {"minutes_ratio", e.minutesRatio},
                            {"runs", e.evidence},
                            {"mishaps", e.mishaps}});
        }
        fmt::print("{}\n", list.dump(2));
        return;
    }
    for (const Experience& e : all) {
        fmt::print("{} in {}, {}: feed {} %, {:.2f} of the planned minutes, from {} runs{}\n", e.bit,
                   e.wood, e.cuts, e.feedPercent, e.minutesRatio, e.runs,
                   e.mishaps > 0 ? fmt::format(", lowered by {} mishaps since", e.mishaps) : "");
    }
    if (all.empty()) {
        fmt::print("No run has ended well on a real machine yet.\n");
    }
}

void lives(const BookOptions& o) {
    const ShopMemory memory = remember(ShopBook(placeOf(o)));
    const auto all =
        bitLives(memory.runs, memory.of("bit"), memory.of("measurement"), o.standIns);
    const std::vector<MachineHours> machines =
        machineHours(memory.runs, memory.of("machine"), o.standIns);
    auto list = nlohmann::ordered_json::array();
    for (const BitLife& life : all) {
        auto woods = nlohmann::ordered_json::object();
        std::string text;
        for (const auto& [wood, work] : life.byWood) {
            woods[wood] = {{"hours", work.seconds / 3600}, {"metres", work.mm / 1000}};
            text += fmt::format(", {:.1f} h and {:.0f} m in {}", work.seconds / 3600,
                                work.mm / 1000, wood);
        }
        for (const SlotReading& s : life.slots) {
            text += fmt::format(", slots {:.3f} mm in {}", s.width, s.wood);
        }
        if (o.json) {
            list.push_back({{"bit", life.bit},
                            {"since", life.since},
                            {"sharpened", life.sharpened},
                            {"broken", life.broken},
                            {"by_wood", woods},
                            {"hours_since_sharp", life.sinceSharp.seconds / 3600}});
            continue;
        }
        fmt::print("{}{}{}{}{}\n", life.bit,
                   life.since.empty() ? "" : ", new on " + life.since.substr(0, 10),
                   life.sharpened.empty() ? "" : ", sharpened on " + life.sharpened.substr(0, 10),
                   life.broken.empty() ? "" : ", broken on " + life.broken.substr(0, 10),
                   text.empty() ? ", not run yet" : text);
    }
    for (const MachineHours& m : machines) {
        if (o.json) {
            list.push_back({{"machine", m.machine},
                            {"hours", m.hours},
                            {"serviced", m.serviced},
                            {"hours_since_serviced", m.sinceServiced},
                            {"surfaced", m.surfaced},
                            {"hours_since_surfaced", m.sinceSurfaced}});
            continue;
        }
        fmt::print("{}, {:.1f} h", m.machine, m.hours);
        for (const auto& [what, day, hours] : {std::tuple{"serviced", &m.serviced, m.sinceServiced},
                                               {"surfaced", &m.surfaced, m.sinceSurfaced}}) {
            fmt::print("{}", day->empty() ? ""
                                          : fmt::format(", {:.1f} h since it was {} on {}", hours,
                                                        what, day->substr(0, 10)));
        }
        fmt::print("\n");
    }
    if (o.json) {
        fmt::print("{}\n", list.dump(2));
    } else if (all.empty() && machines.empty()) {
        fmt::print("No bit has run on a real machine yet.\n");
    }
}

void instruments(const BookOptions& o) {
    const ShopMemory memory = remember(ShopBook(placeOf(o)));
    auto list = nlohmann::ordered_json::array();
    std::string text = o.csv ? "instrument,begun,part,first,last,programs_done,failed,minutes\n" : "";
    for (const InstrumentProgress& i : progressOf(memory.instruments, memory.runs)) {
        auto parts = nlohmann::ordered_json::array();
        text += o.csv ? ""
                      : fmt::format("{}, begun {}: {:.0f} min at the machine\n",
                                    i.instrument.name, i.instrument.begun.substr(0, 10),
                                    i.minutes());
        for (const PartProgress& p : i.parts) {
            parts.push_back({{"part", p.part},
                             {"first", p.first},
                             {"last", p.last},
                             {"programs_done", p.programs},
                             {"failed", p.failed},
                             {"minutes", p.minutes}});
            text += o.csv ? fmt::format("{},{},{},{},{},{},{},{:.1f}\n", quoted(i.instrument.name),
                                        i.instrument.begun, quoted(p.part), p.first, p.last,
                                        p.programs, p.failed, p.minutes)
                          : fmt::format("  {}: {} programs done, {} runs went wrong, {:.0f} min, "
                                        "last on {}\n",
                                        p.part, p.programs, p.failed, p.minutes,
                                        p.last.substr(0, 10));
        }
        list.push_back({{"instrument", i.instrument.name},
                        {"begun", i.instrument.begun},
                        {"parts", std::move(parts)}});
    }
    if (o.json) {
        fmt::print("{}\n", list.dump(2));
    } else {
        fmt::print("{}", text.empty() ? "No instrument has been begun yet.\n" : text);
    }
}

/// What a size does when its wood takes up or loses moisture.
std::string movesBy(const Measured& m, const std::string& size) {
    const std::string wood = size.rfind("neck.", 0) == 0        ? m.project.neckBlank.wood
                             : size.rfind("fretboard.", 0) == 0 ? m.project.blank.wood
                                                                : std::string();
    const auto s = shrinkageOf(wood);
    if (!s || size.find("width") == std::string::npos || m.value < 5) {
        return {};
    }
    const auto by = [&](double shrinkage) {
        return sizeAt(m.value, shrinkage, 8, 9) - m.value;
    };
    return fmt::format(" In {} it moves {:.2f} to {:.2f} mm for every per cent of moisture.", wood,
                       by(s->radial), by(s->tangential));
}

void card(const BookOptions& o) {
    const Project project = loadProject(o.file);
    const LengthUnit unit = o.inches ? LengthUnit::inch : LengthUnit::mm;
    const JobCard made = jobCard(derive(project), remember(ShopBook(placeOf(o))), unit,
                                 o.standIns);
    if (!o.pdf.empty()) {
        writeFileSafely(o.pdf, cardPdf(made, unit, paperNamed(o.paper)));
        fmt::print("The job card of {} is in {}.\n", made.instrument, o.pdf);
        return;
    }
    fmt::print("{}", o.json ? cardJson(made) : o.csv ? cardCsv(made) : cardText(made, unit));
}

void measure(const BookOptions& o) {
    const Project before = loadProject(o.file);
    const std::size_t equals = o.size.find('=');
    if (equals == std::string::npos) {
        throw Error(fmt::format("\"{}\" is no reading; part.size=value was expected, as in "
                                "neck.heel_width=55.93mm.",
                                o.size));
    }
    const std::string size = o.size.substr(0, equals);
    Derived drawn = deriveDrawing(before);
    if (size == "fretboard.slot_width") {
        derivePrograms(drawn); // it is written down with the bit that cuts it
    }
    const Reading reading{size, o.size.substr(equals + 1), o.moisture};
    ShopBook book(placeOf(o));
    const Measured m = measured(drawn, before, reading, CutAlready(book.runs(), before.name));
    const auto id = book.add(measurementRecord(drawn, reading, m));
    const Project after = settledAfter(before, m.project);
    saveProject(after, o.file);
    const MeasuredSize& known = measuredSize(size);
    fmt::print("{}: {:.2f} mm read{}; {}. Measurement {} in the book.{}\n", size, m.value,
               m.drawn ? fmt::format(", {:.2f} mm drawn", *m.drawn) : "",
               known.key ? fmt::format("{} follows it", known.follows)
                         : fmt::format("it tells {}", known.follows),
               id, movesBy(m, size));
    for (const std::string& kept : m.kept) {
        fmt::print("{}\n", kept);
    }
    for (const Finding& f : judgeMeasured(deriveDrawing(after))) {
        fmt::print("{}: {}\n", weightName(f.weight), f.message);
    }
}

} // namespace

void addBookCommands(CLI::App& book) {
    auto o = std::make_shared<BookOptions>();
    const auto at = [&](CLI::App* c) {
        c->add_option("--book", o->book, "the shop book (default: the user's own)");
    };
    for (const RecordKind& kind : recordKinds()) {
        CLI::App* c = book.add_subcommand(kind.plural, fmt::format("Every {}: {}.", kind.name,
                                                                   kind.meaning));
        c->add_flag("--json", o->json, "as JSON");
        c->add_flag("--csv", o->csv, "as CSV");
        at(c);
        c->callback([o, &kind] { list(kind, *o); });
    }
    CLI::App* a = book.add_subcommand("add", "One more of them.");
    a->add_option("KIND", o->kind, "bit, blank, hardware, measurement, note, mishap, or a run sent otherwise")->required();
    a->add_option("FIELDS", o->typed, "name=value ...; lengths with their unit")->required();
    at(a);
    a->callback([o] { add(*o); });

    CLI::App* e = book.add_subcommand(
        "experience", "What runs that ended well say of feed and minutes, by bit, wood and cut.");
    e->add_flag("--json", o->json, "as JSON");
    e->add_flag("--stand-ins", o->standIns, "runs on simulated machines count too");
    at(e);
    e->callback([o] { experience(*o); });

    CLI::App* life = book.add_subcommand(
        "life", "Hours and metres of every bit by wood, since it is new.");
    life->add_flag("--json", o->json, "as JSON");
    life->add_flag("--stand-ins", o->standIns, "runs on simulated machines count too");
    at(life);
    life->callback([o] { lives(*o); });

    CLI::App* i = book.add_subcommand("instruments", "Every instrument begun, and how far its parts "
                                                     "are.");
    i->add_flag("--json", o->json, "as JSON");
    i->add_flag("--csv", o->csv, "as CSV");
    at(i);
    i->callback([o] { instruments(*o); });

    CLI::App* k = book.add_subcommand("backup", "The whole book as one file.");
    k->add_option("FILE", o->file, "a name that is free")->required();
    at(k);
    k->callback([o] {
        ShopBook(placeOf(*o)).backup(o->file);
        fmt::print("The book is in {}.\n", o->file);
    });
    CLI::App* r = book.add_subcommand("restore", "A backup in the place of the book.");
    r->add_option("FILE", o->file, "a book, as backup writes it")->required();
    at(r);
    r->callback([o] {
        ShopBook::restore(o->file, placeOf(*o));
        fmt::print("{} is the book now; what it was is beside it, with .before behind its name.\n",
                   o->file);
    });
}

void addMeasureCommand(CLI::App& app) {
    auto o = std::make_shared<BookOptions>();
    CLI::App* m = app.add_subcommand(
        "measure", "A size as read off the caliper: what follows from it does, the drawn one stays.");
    m->add_option("FILE", o->file, "project file (.wren)")->required();
    m->add_option("READING", o->size, "part.size=value with its unit, as neck.heel_width=55.93mm")
        ->required();
    m->add_option("--moisture", o->moisture, "per cent, when it was read");
    m->add_option("--book", o->book, "the shop book (default: the user's own)");
    m->callback([o] { measure(*o); });
}

void addCardCommand(CLI::App& app) {
    auto o = std::make_shared<BookOptions>();
    CLI::App* c = app.add_subcommand(
        "card", "The job card: steps in order, sizes as they came out, work by hand, notes.");
    c->add_option("FILE", o->file, "project file (.wren)")->required();
    c->add_option("--pdf", o->pdf, "to print, to this file");
    c->add_option("--paper", o->paper, "a4, a3 or letter");
    c->add_flag("--inches", o->inches, "sizes in inches");
    c->add_flag("--csv", o->csv, "the steps as CSV");
    c->add_flag("--json", o->json, "as JSON");
    c->add_flag("--stand-ins", o->standIns, "runs on simulated machines count as experience");
    c->add_option("--book", o->book, "the shop book (default: the user's own)");
    c->callback([o] { card(*o); });
}

} // namespace wren::cli
