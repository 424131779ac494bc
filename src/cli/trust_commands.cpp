#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "base/length.h"
#include "job/clamps.h"
#include "job/hold_card.h"
#include "job/store.h"
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

struct HoldOptions {
    std::string file, part, out;
    bool json = false, suggest = false;
};

/// The project with straps where nothing comes, for every setup of the part.
void suggest(const HoldOptions& o) {
    const Project project = projectWith(o.file, o.part);
    Derived d = derive(withClamps(project, partOf(deriveDrawing(project), o.part, o.file), {}));
    const PartJob* job = d.job(partOf(d, o.part, o.file));
    std::vector<Clamp> all;
    for (std::size_t side = 0; job && side < job->held.sides(); ++side) {
        const std::vector<Clamp> some = suggestedClamps(d, *job, side);
        all.insert(all.end(), some.begin(), some.end());
    }
    if (!job || all.empty()) {
        throw Error(
            fmt::format("No place for a strap was found on the {}'s blank: a longer or wider "
                        "blank would leave one, or it is screwed down in its waste.",
                        o.part));
    }
    for (const Clamp& c : all) {
        fmt::print(
            "side {}{}: {} at {:.0f}, {:.0f} from the blank's corner, turned {:.0f} degrees\n",
            c.side, c.station > 0 ? fmt::format(", station {}", c.station) : "", clampName(c.kind),
            c.at.x, c.at.y, c.turn);
    }
    if (!o.out.empty()) {
        saveProject(withClamps(loadProject(o.file), job->id, all), o.out);
    }
}

void hold(const HoldOptions& o) {
    if (o.suggest) {
        suggest(o);
        return;
    }
    Derived d = drawnWith(o.file, o.part);
    derivePrograms(d); // the place for the probe plate keeps clear of them
    const PartJob& job = *d.job(partOf(d, o.part, o.file));
    fmt::print("{}", o.json ? holdJson(d, job) : holdText(d, job));
}

} // namespace

void addTrustCommands(CLI::App& app) {
    struct Options {
        std::string file, lift = "25.4", out;
    };
    auto o = std::make_shared<Options>();

    CLI::App* a = app.add_subcommand("air", "Any program, run so far above the work.");
    a->add_option("FILE", o->file, "program (.nc)")->required();
    a->add_option("--lift", o->lift, "how far up every height goes (25.4 mm)");
    a->add_option("-o,--out", o->out, "file to write")->required();
    a->callback([o] { air(o->file, o->lift, o->out); });

    CLI::App* h = app.add_subcommand(
        "hold", "How a part is laid: marks, jogs, pins, where to probe, what would shift it.");
    auto q = std::make_shared<HoldOptions>();
    h->add_option("FILE", q->file, "project file (.wren)")->required();
    h->add_option("--part", q->part, "the part, as wren list FILE --of parts names it")->required();
    h->add_flag("--json", q->json, "as JSON");
    h->add_flag("--suggest", q->suggest,
                "where straps would stand clear of every cut, pin and move");
    h->add_option("--out", q->out, "with --suggest: the project with those clamps");
    h->callback([q] { hold(*q); });

    CLI::App* t = app.add_subcommand(
        "trace", "Round what a program cuts, above the work and with the spindle standing.");
    t->add_option("FILE", o->file, "program (.nc)")->required();
    t->add_option("-o,--out", o->out, "file to write")->required();
    t->callback([o] { trace(o->file, o->out); });
}

} // namespace wren::cli
