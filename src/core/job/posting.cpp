#include "job/posting.h"

#include "base/error.h"
#include "base/files.h"
#include "exchange/board_solid.h"
#include "exchange/stl.h"
#include "job/report.h"
#include "job/setup_sheet.h"

#include <algorithm>

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace wren {
namespace {

namespace fs = std::filesystem;

void makeFolder(const fs::path& dir) {
    std::error_code code;
    fs::create_directories(dir, code);
    if (code) {
        throw Error(
            fmt::format("The folder {} could not be made ({}).", dir.string(), code.message()));
    }
}

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
    for (const char* kind : {"programs", "sheets", "models"}) {
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

PostingRight postingRight(const Derived& d) {
    if (!d.proof || hasFirmStop(d.findings)) {
        return PostingRight::refused;
    }
    if (!hasStop(d.findings)) {
        return PostingRight::free;
    }
    return d.overrideReason.empty() ? PostingRight::refused : PostingRight::overridden;
}

PostingRight post(const Derived& d, const fs::path& dir, const Watch& watch) {
    const PostingRight right = postingRight(d);
    const bool posted = right != PostingRight::refused;
    std::vector<FileBytes> files;
    Papers papers;
    if (posted) {
        for (const PostedProgram& p : d.programs) {
            files.push_back({dir / "programs" / p.program.file, p.program.text});
        }
        papers.sheets.push_back(setupSheetName(d));
        files.push_back({dir / "sheets" / papers.sheets.back(), setupSheetPdf(d)});
        const BoardSolid solid(*d.board, watch);
        papers.models = {"fretboard.step", "fretboard.stl"};
        const std::string title = d.project.name + " fretboard";
        files.push_back({dir / "models" / papers.models[0], solid.step(title)});
        files.push_back({dir / "models" / papers.models[1], toStl(solid.mesh(), title)});
    }
    makeFolder(dir);
    for (const char* folder : {"programs", "sheets", "models"}) {
        if (posted) {
            makeFolder(dir / folder);
        }
    }
    files.push_back({dir / "report.json", reportJson(d, posted, papers)});
    const std::vector<fs::path> before = postedBefore(dir);
    writeFilesSafely(files);
    for (const fs::path& file : before) {
        const bool again = std::any_of(files.begin(), files.end(),
                                       [&](const FileBytes& f) { return f.path == file; });
        if (!again) {
            setAside(file);
        }
    }
    return right;
}

void recordOverride(const Derived& d, ShopBook& book) {
    OverrideRecord r;
    r.project = d.project.name;
    r.part = d.setup->part;
    r.when = timeNow();
    r.reason = d.overrideReason;
    for (const Finding& f : d.findings) {
        if (f.weight == Weight::stop) {
            r.codes += (r.codes.empty() ? "" : " ") + f.code;
        }
    }
    book.recordOverride(r);
}

} // namespace wren
