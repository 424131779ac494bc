#include "commands.h"

#include "base/error.h"
#include "base/files.h"
#include "book/shop_book.h"
#include "job/check.h"
#include "job/posting.h"
#include "job/report.h"
#include "job/store.h"
#include "job/test_slot.h"

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

std::string firstStop(const Findings& findings) {
    for (const Finding& f : findings) {
        if (f.weight == Weight::stop) {
            return f.message;
        }
    }
    return "nothing could be derived";
}

void make(const std::string& file, const std::string& out, const std::string& part,
          const std::string& reason, const std::string& book) {
    if (!part.empty() && part != "fretboard") {
        throw Error(
            fmt::format("There is no part \"{}\" in {}; its parts are: fretboard.", part, file));
    }
    const Derived d = derive(loadProject(file), reason);
    if (postingRight(d) == PostingRight::overridden) {
        ShopBook record(book.empty() ? ShopBook::usualPlace() : std::filesystem::path(book));
        recordOverride(d, record);
    }
    const PostingRight right = post(d, out);
    printFindings(d.findings);
    if (right == PostingRight::refused) {
        complain(fmt::format("The fretboard is not posted: {}", firstStop(d.findings)));
        throw Exit{refused};
    }
    for (const PostedProgram& p : d.programs) {
        fmt::print("{}/programs/{}  {:.1f} min\n", out, p.program.file, p.time.seconds / 60);
    }
}

void prove(const std::string& file, bool json) {
    const Derived d = derive(loadProject(file));
    if (json) {
        fmt::print("{}", proofJson(d));
    } else {
        printFindings(d.findings);
        if (d.proof) {
            fmt::print(
                "{} {}: gouge {:.4f} mm, left over {:.4f} mm at most and {:.4f} mm rms, walls "
                "within {:.4f} mm, cells {:.2f} mm: {}\n",
                d.proof->part, d.proof->setup, d.proof->gougeMax, d.proof->excessMax,
                d.proof->excessRms, d.proof->wallMax, d.proof->cell,
                d.proof->passed ? "passed" : "not passed");
        }
    }
    if (hasStop(d.findings)) {
        complain(fmt::format("The fretboard is not proved: {}", firstStop(d.findings)));
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

void check(const std::string& file, const std::string& bed, bool json) {
    const ProgramCheck c = checkProgram(
        readFile(file), std::filesystem::path(file).filename().string(), parseBed(bed));
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
        std::string file, out, part, reason, book, bed;
        bool json = false;
    };
    auto o = std::make_shared<Options>();

    CLI::App* m = app.add_subcommand("make", "Post the programs and a report.");
    m->add_option("FILE", o->file, "project file (.wren)")->required();
    m->add_option("--out", o->out, "folder for programs/ and report.json")->required();
    m->add_option("--part", o->part, "only this part");
    m->add_option("--override", o->reason,
                  "post in spite of stop findings, for this reason (goes on record)");
    m->add_option("--book", o->book, "the shop book (default: the user's own)");
    m->callback([o] { make(o->file, o->out, o->part, o->reason, o->book); });

    CLI::App* p = app.add_subcommand("prove", "Run the posted text against the blank and compare.");
    p->add_option("FILE", o->file, "project file (.wren)")->required();
    p->add_flag("--json", o->json, "proof and findings as JSON");
    p->callback([o] { prove(o->file, o->json); });

    CLI::App* t = app.add_subcommand(
        "test-slots", "A test cut in an offcut, with the form its measurements are written on.");
    t->add_option("FILE", o->file, "project file (.wren)")->required();
    t->add_option("--out", o->out, "folder for test-slots.nc and test-slots.pdf")->required();
    t->callback([o] { testSlot(o->file, o->out); });

    CLI::App* c = app.add_subcommand("check", "Read any G-code program and judge its reach.");
    c->add_option("FILE", o->file, "program (.nc)")->required();
    c->add_option("--bed", o->bed, "travel X,Y,Z in mm, e.g. 900,600,110")->required();
    c->add_flag("--json", o->json, "as JSON");
    c->callback([o] { check(o->file, o->bed, o->json); });
}

} // namespace wren::cli
