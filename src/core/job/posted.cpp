#include "job/posted.h"

#include "base/error.h"
#include "base/files.h"

#include <algorithm>

#include <nlohmann/json.hpp>

namespace wren {

bool PostedFolder::isOf(const Derived& d) const {
    if (motions.empty()) {
        return designHash == d.designHash;
    }
    return std::all_of(motions.begin(), motions.end(), [&](const std::string& m) {
        return std::any_of(d.programs.begin(), d.programs.end(),
                           [&](const PostedProgram& p) { return p.motion == m; });
    });
}

std::vector<PostedFolder> postedBeside(const std::filesystem::path& projectFile,
                                       const std::string& projectName) {
    constexpr int most = 200;
    std::vector<PostedFolder> out;
    std::error_code failed;
    int seen = 0;
    const auto parent = std::filesystem::absolute(projectFile, failed).parent_path();
    for (std::filesystem::directory_iterator it(parent, failed), end; !failed && it != end;
         it.increment(failed)) {
        const std::filesystem::path report = it->path() / "report.json";
        if (!it->is_directory(failed) || !std::filesystem::exists(report, failed) ||
            ++seen > most) {
            continue;
        }
        try {
            const auto doc = nlohmann::json::parse(readFile(report));
            if (doc.at("project") == projectName && doc.at("posted") == true) {
                PostedFolder found;
                found.folder = it->path();
                found.designHash = doc.at("design_hash");
                found.when = std::filesystem::last_write_time(report);
                found.decided = doc.contains("design") ? doc.at("design").dump() : std::string();
                for (const auto& program : doc.at("programs")) {
                    if (program.contains("motion_sha256")) {
                        found.motions.push_back(program.at("motion_sha256"));
                        found.files.push_back(program.at("file"));
                        found.parts.push_back(program.at("part"));
                    }
                }
                out.push_back(std::move(found));
            }
        } catch (const std::exception&) {
            continue; // another's report, or one that is being written
        }
    }
    std::sort(out.begin(), out.end(),
              [](const PostedFolder& a, const PostedFolder& b) { return a.when > b.when; });
    return out;
}

} // namespace wren
