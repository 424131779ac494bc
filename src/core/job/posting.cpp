#include "job/posting.h"

#include "base/error.h"
#include "base/files.h"
#include "job/report.h"

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

/// The program names an earlier report in this folder lists.
std::vector<std::string> postedBefore(const fs::path& report) {
    std::vector<std::string> names;
    if (!fs::exists(report)) {
        return names;
    }
    const auto doc = nlohmann::json::parse(readFile(report), nullptr, false);
    if (!doc.is_object() || !doc.contains("programs") || !doc["programs"].is_array()) {
        return names; // not ours, or damaged: it is about to be replaced and lists nothing we know
    }
    for (const auto& p : doc["programs"]) {
        if (p.is_object() && p.contains("file") && p["file"].is_string()) {
            const std::string name = p["file"];
            if (fs::path(name).filename() == name) {
                names.push_back(name);
            }
        }
    }
    return names;
}

void setAside(const fs::path& program) {
    if (!fs::exists(program)) {
        return;
    }
    fs::path stale = program;
    stale += ".stale";
    std::error_code code;
    fs::rename(program, stale, code);
    if (code) {
        throw Error(fmt::format("{} belongs to an older design but could not be set aside ({}).",
                                program.string(), code.message()));
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

PostingRight post(const Derived& d, const fs::path& dir) {
    const PostingRight right = postingRight(d);
    const bool posted = right != PostingRight::refused;
    const fs::path programs = dir / "programs";
    makeFolder(posted ? programs : dir);
    std::vector<FileBytes> files;
    std::vector<std::string> names;
    if (posted) {
        for (const PostedProgram& p : d.programs) {
            files.push_back({programs / p.program.file, p.program.text});
            names.push_back(p.program.file);
        }
    }
    files.push_back({dir / "report.json", reportJson(d, posted)});
    const std::vector<std::string> before = postedBefore(dir / "report.json");
    writeFilesSafely(files);
    for (const std::string& name : before) {
        if (std::find(names.begin(), names.end(), name) == names.end()) {
            setAside(programs / name);
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
