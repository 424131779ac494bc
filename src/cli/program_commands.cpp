#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "book/shop_book.h"
#include "job/check_on_part.h"
#include "job/fit_pass.h"
#include "job/fixture.h"
#include "job/posting.h"
#include "job/report.h"
#include "job/store.h"
#include "job/test_slot.h"
#include "job/trial.h"

#include <CLI/CLI.hpp>
#include <fmt/format.h>

#include <algorithm>
#include <memory>

namespace wren::cli {
namespace {

void printFindings(const Findings& findings) {
    for (const Finding& f : findings) {
        fmt::print("{:<8} {}\n", weightName(f.weight), f.message);
    }
}

std::string firstStop(const Findings& findings, std::optional<PartId> part = {}) {
    for (const Finding& f : findings) {
        if (f.weight == Weight::stop && (!part || f.part == *part)) {
            return f.message;
        }
    }
    return "nothing could be derived";
}

void printProof(const ProofReport& p) {
    fmt::print(
        "{} {}: gouge {:.4f} mm, left over {:.4f} mm at most and {:.4f} mm rms, walls within "
        "{:.4f} mm, cells {:.2f} mm: {}\n",
        p.part.name(), p.setup, p.gougeMax, p.excessMax, p.excessRms, p.wallMax, p.cell,
        p.passed ? "passed" : "not passed");
}

/// Posts what may leave the house, tells every file, and what is held back and why.
void postAndTell(const Derived& d, const std::vector<PartId>& parts, const std::string& out) {
    post(d, out, {}, parts);
    printFindings(d.findings);
    bool all = true;
    for (PartId each : parts) {
        if (postingRight(d, each) == PostingRight::refused) {
            complain(
                fmt::format("The {} is not posted: {}", each.name(), firstStop(d.findings, each)));
            all = false;
            continue;
        }
        for (const PostedProgram& p : d.programs) {
            if (p.program.part == each) {
                fmt::print("{}/programs/{}  {:.1f} min\n", out, p.program.file,
                           p.time.seconds / 60);
            }
        }
    }
    if (!all) {
        throw Exit{refused};
    }
}

void make(const std::string& file, const std::string& out, const std::string& part,
          const std::vector<std::string>& reasons, const std::string& book) {
    Derived d = derive(projectWith(file, part));
    const std::vector<PartId> parts =
        part.empty() ? d.wanted() : std::vector<PartId>{partOf(d, part, file)};
    Overrides overrides;
    for (const std::string& reason : reasons) {
        overrides.push_back(overrideFrom(reason, d.findings, parts));
    }
    giveReasons(d, overrides);
    for (PartId each : parts) {
        if (postingRight(d, each) == PostingRight::overridden) {
            ShopBook record(book.empty() ? ShopBook::usualPlace() : std::filesystem::path(book));
            recordOverride(d, each, record);
        }
    }
    postAndTell(d, parts, out);
}

void trial(const std::string& file, const std::string& part, const std::string& wood,
           const std::string& thickness, const std::string& out) {
    const Project project = projectWith(file, part);
    std::vector<PartId> parts;
    if (part.empty()) {
        for (PartId each : deriveDrawing(project).wanted()) {
            const bool sheet = each == Role::board || each == Role::neck || each.ofBody();
            const bool own = each.role != Role::inlay && each.role != Role::plate;
            parts.insert(parts.end(), sheet && own ? 1 : 0, each);
        }
    } else {
        parts.push_back(partOf(deriveDrawing(project), part, file));
    }
    const Project other = trialOf(project, parts, wood, parseLength(thickness, LengthUnit::mm));
    postAndTell(derive(other), parts, out);
}

void printProofs(const Derived& d) {
    for (const PartJob& job : d.parts) {
        for (std::size_t side = 0; job.proof && side < job.held.sides(); ++side) {
            printProof(job.proof->sides[side]);
        }
        if (job.proof && !job.proof->woodUnderRod.empty()) {
            fmt::print("neck: {:.2f} mm of wood at least straight under the rod's slot in the "
                       "simulated stock\n",
                       job.proof->rodWoodLeast);
        }
    }
}

void prove(const std::string& file, bool json) {
    const Derived d = derive(loadProject(file));
    if (json) {
        fmt::print("{}", proofJson(d));
    } else {
        printFindings(d.findings);
        printProofs(d);
    }
    bool all = true;
    for (PartId part : d.wanted()) {
        const std::string stop = firstStop(d.findings, part);
        if (postingRight(d, part) == PostingRight::refused) {
            complain(fmt::format("The {} is not proved: {}", part.name(), stop));
            all = false;
        }
    }
    if (!all) {
        throw Exit{refused};
    }
}

void testSlot(const std::string& file, const std::string& out) {
    const Project project = loadProject(file);
    const TestSlots test = deriveTestSlots(project);
    printFindings(test.findings);
    postTestSlots(test, project, out);
    fmt::print("{0}/test-slots.nc  {1:.1f} min\n{0}/test-slots.pdf\n", out,
               test.program->time.seconds / 60);
}

void fit(const std::string& file, const std::string& pocket, const std::string& by,
         const std::string& out) {
    const FitPass pass = deriveFitPass(loadProject(file), pocket, parseLength(by));
    printFindings(pass.findings);
    const std::string name = postFitPass(pass, out);
    fmt::print("{}/{}  {:.1f} min with {}\n", out, name, pass.program->time.seconds / 60,
               pass.program->program.bit.name);
}

void fixture(const std::string& file, const std::string& out) {
    const PostedProgram program = postFixture(loadProject(file), out);
    fmt::print("{}/fixture-pins.nc  {:.1f} min\n", out, program.time.seconds / 60);
}

/// On the part it is for, where one is named.
ProgramCheck checkedOnPart(const std::string& file, const std::string& projectFile,
                           const std::string& part, const std::string& setup,
                           const std::string& bitName) {
    const Derived d = derive(projectWith(projectFile, part));
    const PartJob* job = d.job(partOf(d, part, projectFile));
    if (!job) {
        throw Error(
            fmt::format("The {} of {} cannot be drawn; `wren prove` says why.", part, projectFile));
    }
    const std::string text = readFile(file);
    const Drawer& bits = d.project.bits;
    const Bit* bit = bitName.empty() ? bitInHeader(text, bits) : findBit(bits, bitName);
    if (!bit) {
        throw Error(bitName.empty()
                        ? fmt::format("{} does not name its bit; --bit and a name from `wren bits` "
                                      "was expected.",
                                      file)
                        : fmt::format("There is no bit \"{}\" in the drawer.", bitName));
    }
    return checkOnPart(d, *job, setupNamed(*job, setup), text,
                       std::filesystem::path(file).filename().string(), *bit);
}

struct CheckOptions {
    std::string file, bed, project, part, setup, bit;
    bool json = false;
};

void check(const CheckOptions& o) {
    if (o.bed.empty() == (o.project.empty() || o.part.empty())) {
        complain("Either --bed X,Y,Z or --project FILE with --part P was expected.");
        throw Exit{usage};
    }
    const bool json = o.json;
    const ProgramCheck c =
        o.bed.empty()
            ? checkedOnPart(o.file, o.project, o.part, o.setup, o.bit)
            : checkProgram(readFile(o.file), std::filesystem::path(o.file).filename().string(),
                           parseBed(o.bed));
    if (json) {
        fmt::print("{}", checkJson(c));
    } else {
        fmt::print("{}", checkText(c));
        printFindings(c.findings);
    }
    if (hasStop(c.findings)) {
        complain(firstStop(c.findings));
        throw Exit{refused};
    }
}

} // namespace

void addProgramCommands(CLI::App& app) {
    struct Options {
        std::string file, out, part, book, pocket, by, wood, thickness;
        std::vector<std::string> reasons;
        bool json = false;
    };
    auto o = std::make_shared<Options>();

    CLI::App* m = app.add_subcommand("make", "Post the programs and a report.");
    m->add_option("FILE", o->file, "project file (.wren)")->required();
    m->add_option("--out", o->out, "folder for programs/ and report.json")->required();
    m->add_option("--part", o->part, "only this part");
    m->add_option("--override", o->reasons,
                  "post in spite of one stop finding: CODE=REASON or PART:CODE=REASON, or the "
                  "reason alone where only one stands in the way; goes on record");
    m->add_option("--book", o->book, "the shop book (default: the user's own)");
    m->callback([o] { make(o->file, o->out, o->part, o->reasons, o->book); });

    CLI::App* l = app.add_subcommand(
        "trial", "The same programs for a sheet of another wood and thickness, proved and posted.");
    l->add_option("FILE", o->file, "project file (.wren)")->required();
    l->add_option("--part", o->part, "only this part");
    l->add_option("--wood", o->wood, "the sheet's, as mdf or plywood")->required();
    l->add_option("--thickness", o->thickness, "the sheet's")->required();
    l->add_option("--out", o->out, "folder for programs/ and report.json")->required();
    l->callback([o] { trial(o->file, o->part, o->wood, o->thickness, o->out); });

    CLI::App* p = app.add_subcommand("prove", "Run the posted text against the blank and compare.");
    p->add_option("FILE", o->file, "project file (.wren)")->required();
    p->add_flag("--json", o->json, "proof and findings as JSON");
    p->callback([o] { prove(o->file, o->json); });

    CLI::App* t = app.add_subcommand(
        "test-slots", "A test cut in an offcut, with the form its measurements are written on.");
    t->add_option("FILE", o->file, "project file (.wren)")->required();
    t->add_option("--out", o->out, "folder for test-slots.nc and test-slots.pdf")->required();
    t->callback([o] { testSlot(o->file, o->out); });

    CLI::App* x = app.add_subcommand(
        "fixture", "The holes for the neck's pins, in the board under its blank.");
    x->add_option("FILE", o->file, "project file (.wren)")->required();
    x->add_option("--out", o->out, "folder for fixture-pins.nc")->required();
    x->callback([o] { fixture(o->file, o->out); });

    CLI::App* w = app.add_subcommand(
        "fit", "A little more off a pocket's walls, after the real part has been tried in it.");
    w->add_option("FILE", o->file, "project file (.wren)")->required();
    w->add_option("--pocket", o->pocket, "the body's pocket: neck pocket, ledge, pickup 1 ...")
        ->required();
    w->add_option("--by", o->by, "off each wall, 0.02 to 0.2 mm")->required();
    w->add_option("--out", o->out, "folder for the program")->required();
    w->callback([o] { fit(o->file, o->pocket, o->by, o->out); });

    CLI::App* c = app.add_subcommand(
        "check", "Read any G-code program; judge its reach, or all of it on a part.");
    auto q = std::make_shared<CheckOptions>();
    c->add_option("FILE", q->file, "program (.nc)")->required();
    c->add_option("--bed", q->bed, "travel X,Y,Z in mm, e.g. 900,600,110");
    c->add_option("--project", q->project, "project file (.wren) with the part it is for");
    c->add_option("--part", q->part, "that part, as wren list FILE --of parts names it");
    c->add_option("--setup", q->setup, "its setup, as wren hold names it (the first)");
    c->add_option("--bit", q->bit, "the bit in the spindle (the one its header names)");
    c->add_flag("--json", q->json, "as JSON");
    c->callback([q] { check(*q); });
}

} // namespace wren::cli
