#include "job/posting.h"

#include "base/error.h"
#include "base/files.h"
#include "exchange/body_drawing.h"
#include "job/before_cutting.h"
#include "job/cut_list.h"
#include "job/export.h"
#include "job/glue.h"
#include "job/hand_sheet.h"
#include "job/models.h"
#include "job/order_sheet.h"
#include "job/part_sheet.h"
#include "job/report.h"
#include "job/wants.h"

#include <algorithm>
#include <array>
#include <cctype>

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <tbb/parallel_for.h>
#include <tbb/parallel_invoke.h>

namespace wren {
namespace {

namespace fs = std::filesystem;

/// Of a posting, each listed in its report.
constexpr std::array<const char*, 6> folders{"programs", "air",    "trace",
                                             "sheets",   "models", "lists"};

/// Names in a report that really are names of files in one folder.
std::string plainName(const nlohmann::json& entry) {
    const nlohmann::json name = entry.is_object() ? entry.value("file", nlohmann::json()) : entry;
    if (!name.is_string()) {
        return {};
    }
    const fs::path path = name.get<std::string>();
    return path.filename() == path ? path.string() : std::string();
}

/// The files an earlier report in this folder lists, as FOLDER/NAME.
std::vector<fs::path> postedBefore(const fs::path& dir) {
    const fs::path report = dir / "report.json";
    std::vector<fs::path> names;
    if (!fs::exists(report)) {
        return names;
    }
    const auto doc = nlohmann::json::parse(readFile(report), nullptr, false);
    if (!doc.is_object()) {
        return names; // not ours, or damaged: it is about to be replaced and lists nothing we know
    }
    for (const char* kind : folders) {
        const nlohmann::json list = doc.value(kind, nlohmann::json::array());
        for (const auto& entry : list.is_array() ? list : nlohmann::json::array()) {
            if (const std::string name = plainName(entry); !name.empty()) {
                names.push_back(dir / kind / name);
            }
        }
    }
    return names;
}

void setAside(const fs::path& file) {
    if (!fs::exists(file)) {
        return;
    }
    fs::path stale = file;
    stale += ".stale";
    std::error_code code;
    fs::rename(file, stale, code);
    if (code) {
        throw Error(fmt::format("{} belongs to an older design but could not be set aside ({}).",
                                file.string(), code.message()));
    }
}

} // namespace

PostingRight postingRight(const Derived& d, PartId part) {
    Findings own;
    std::copy_if(d.findings.begin(), d.findings.end(), std::back_inserter(own),
                 [&](const Finding& f) { return f.part == part; });
    const PartJob* job = d.job(part);
    if (!job || !job->proof || hasFirmStop(own)) {
        return PostingRight::refused;
    }
    if (!hasStop(own)) {
        return PostingRight::free;
    }
    const bool all = std::all_of(own.begin(), own.end(), [&](const Finding& f) {
        return f.weight != Weight::stop || overrideOf(d.overrides, f);
    });
    return all ? PostingRight::overridden : PostingRight::refused;
}

PostingRight postingRight(const Derived& d, const std::vector<PartId>& parts) {
    PostingRight worst = PostingRight::free;
    for (PartId part : parts.empty() ? d.wanted() : parts) {
        worst = std::max(worst, postingRight(d, part));
    }
    return worst;
}

namespace {

/// As files are called: "fretboard", "body-core".
std::string fileNameOf(PartId part) {
    std::string name = part.name();
    std::replace(name.begin(), name.end(), ' ', '-');
    return name;
}

std::vector<BeforeCutting> beforeEach(const std::vector<const PostedProgram*>& programs,
                                      const Machine& machine) {
    std::vector<BeforeCutting> out(programs.size());
    tbb::parallel_for(std::size_t{0}, programs.size(),
                      [&](std::size_t i) { out[i] = beforeCutting(*programs[i], machine); });
    return out;
}

/// What is run before a program cuts.
void addBefore(const PostedProgram& p, BeforeCutting before, const fs::path& dir, Papers& papers,
               std::vector<FileBytes>& files) {
    if (!before.air.empty()) {
        papers.air.push_back(airName(p));
        files.push_back({dir / "air" / papers.air.back(), std::move(before.air)});
    }
    if (!before.trace.empty()) {
        papers.traces.push_back(traceName(p));
        files.push_back({dir / "trace" / papers.traces.back(), std::move(before.trace)});
    }
}

void addModels(PartId part, const Models& models, const fs::path& dir, Papers& papers,
               std::vector<FileBytes>& files) {
    for (const auto& [kind, text] : {std::pair{".step", &models.step}, {".stl", &models.stl}}) {
        if (!text->empty()) {
            papers.models.push_back(fileNameOf(part) + kind);
            files.push_back({dir / "models" / papers.models.back(), *text});
        }
    }
    papers.missing.insert(papers.missing.end(), models.missing.begin(), models.missing.end());
}

/// The setup sheets of several parts, by part and side.
std::vector<FileBytes> sheetsOf(const std::vector<PartId>& parts, const Derived& d,
                                const fs::path& dir) {
    std::vector<FileBytes> sheets;
    for (PartId part : parts) {
        const PartJob& job = *d.job(part);
        for (std::size_t side = 0; side < job.held.sides(); ++side) {
            sheets.push_back({dir / "sheets" / sheetName(d, job, side), sheetPdf(d, job, side)});
        }
    }
    return sheets;
}

FileBytes orderSheet(const Derived& d, const std::vector<PartId>& parts, const fs::path& dir) {
    return {dir / "sheets" / "00-everything-in-order.pdf",
            orderSheetPdf(inRunningOrder(d, parts), d.project.name, d.project.machine.programUnit)};
}

/// What is done by hand, a page each, after the setups in the folder's order.
void addHandSheets(const Derived& d, const fs::path& dir, std::vector<FileBytes>& sheets) {
    for (const HandSheet& sheet : handSheets(d, d.project.machine.programUnit)) {
        sheets.push_back({dir / "sheets" / ("bench-" + sheet.name + ".pdf"),
                          handSheetPdf(d, sheet, paperNamed("a4"))});
    }
}

std::vector<Models> modelsOf(const std::vector<PartId>& parts, const Derived& d,
                             const Watch& watch) {
    std::vector<std::string> titles;
    titles.reserve(parts.size());
    for (PartId part : parts) {
        titles.push_back(d.project.name + " " + fileNameOf(part));
    }
    return partsModels(d, parts, titles, watch);
}

/// A report for the moment in which files are exchanged.
std::string unfinished(const std::vector<fs::path>& before, const std::vector<FileBytes>& files) {
    nlohmann::ordered_json doc{{"posted", false}, {"unfinished", true}};
    const auto add = [&](const fs::path& file) {
        doc[file.parent_path().filename().string()].push_back(file.filename().string());
    };
    for (const fs::path& file : before) {
        add(file);
    }
    for (const FileBytes& file : files) {
        add(file.path);
    }
    return doc.dump(2) + "\n";
}

/// What has to be in hand for the whole instrument.
void addLists(const Derived& d, const fs::path& dir, Papers& papers,
              std::vector<FileBytes>& files) {
    const auto add = [&](const char* name, std::string bytes) {
        papers.lists.push_back(name);
        files.push_back({dir / "lists" / name, std::move(bytes)});
    };
    add("hardware.csv", hardwareCsv(d));
    add("glue.csv", glueCsv(d));
    add("cutlist.csv", cutListCsv(d));
    add("wood.csv", woodCsv(d));
    if (d.body) {
        add("drilling.csv", drillingCsv(d.body->part));
    }
}

} // namespace

PostingRight post(const Derived& d, const fs::path& dir, const Watch& watch,
                  const std::vector<PartId>& parts) {
    const PostingRight right = postingRight(d, parts);
    std::vector<FileBytes> files;
    std::vector<const PostedProgram*> going;
    Papers papers;
    for (PartId part : parts.empty() ? d.wanted() : parts) {
        if (postingRight(d, part) == PostingRight::refused) {
            continue;
        }
        papers.parts.push_back(part);
        for (const PostedProgram& p : d.programs) {
            if (p.program.part == part) {
                files.push_back({dir / "programs" / p.program.file, p.program.text});
                going.push_back(&p);
            }
        }
    }
    std::vector<FileBytes> sheets;
    std::vector<Models> models;
    std::vector<BeforeCutting> before;
    tbb::parallel_invoke([&] { models = modelsOf(papers.parts, d, watch); },
                         [&] { before = beforeEach(going, d.project.machine); },
                         [&] {
                             sheets = sheetsOf(papers.parts, d, dir);
                             if (!going.empty()) {
                                 sheets.push_back(orderSheet(d, papers.parts, dir));
                             }
                             if (parts.empty() && !papers.parts.empty()) {
                                 addHandSheets(d, dir, sheets);
                             }
                         });
    for (FileBytes& sheet : sheets) {
        papers.sheets.push_back(sheet.path.filename().string());
        files.push_back(std::move(sheet));
    }
    for (std::size_t i = 0; i < going.size(); ++i) {
        addBefore(*going[i], std::move(before[i]), dir, papers, files);
    }
    for (std::size_t i = 0; i < models.size(); ++i) {
        addModels(papers.parts[i], models[i], dir, papers, files);
    }
    const bool posted = !papers.parts.empty();
    if (posted) {
        addLists(d, dir, papers, files);
    }
    makeFolder(dir);
    for (const char* folder : folders) {
        if (posted) {
            makeFolder(dir / folder);
        }
    }
    const std::vector<fs::path> older = postedBefore(dir);
    clearStrayParts(dir);
    for (const char* folder : folders) {
        clearStrayParts(dir / folder);
    }
    // The report is written last. While programs of two designs may lie under it, it says so and
    // lists both, so that the next posting can set them aside.
    writeFilesSafely(files,
                     [&] { writeFileSafely(dir / "report.json", unfinished(older, files)); });
    files.push_back({dir / "report.json", reportJson(d, papers)});
    writeFileSafely(files.back().path, files.back().bytes);
    for (const fs::path& file : older) {
        const bool again = std::any_of(files.begin(), files.end(),
                                       [&](const FileBytes& f) { return f.path == file; });
        if (!again) {
            setAside(file);
        }
    }
    return right;
}

void recordOverride(const Derived& d, PartId part, ShopBook& book) {
    for (const Override& o : d.overrides) {
        if (o.part == part) {
            book.recordOverride({0, d.project.name, part.name(), timeNow(), o.code, o.reason});
        }
    }
}

std::string folderOf(const Batch& batch, std::size_t instrument) {
    std::string name;
    for (char c : batch.instruments[instrument]->project.name) {
        const bool plain = std::isalnum(static_cast<unsigned char>(c)) != 0;
        if (plain || (!name.empty() && name.back() != '-')) {
            name += plain ? char(std::tolower(c)) : '-';
        }
    }
    while (!name.empty() && name.back() == '-') {
        name.pop_back();
    }
    return fmt::format("{}{}{}", instrument + 1, name.empty() ? "" : "-", name);
}

PostingRight postBatch(const Batch& batch, const std::string& title, const fs::path& dir,
                       const Watch& watch) {
    PostingRight worst = PostingRight::free;
    for (const auto& d : batch.instruments) {
        worst = std::max(worst, postingRight(*d));
    }
    if (hasStop(batch.findings)) {
        worst = PostingRight::refused;
    }
    if (worst == PostingRight::refused) {
        return worst;
    }
    makeFolder(dir);
    for (std::size_t i = 0; i < batch.instruments.size(); ++i) {
        post(*batch.instruments[i], dir / folderOf(batch, i), watch);
    }
    const LengthUnit unit = batch.instruments.front()->project.machine.programUnit;
    writeFilesSafely({{dir / "everything-in-order.pdf", orderSheetPdf(batch, title, unit)},
                      {dir / "batch.json", batchJson(batch)}});
    return worst;
}

} // namespace wren
