#include "job/posted.h"

#include "base/error.h"
#include "base/files.h"

#include <algorithm>

#include <nlohmann/json.hpp>

namespace wren {

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
                out.push_back(
                    {it->path(), doc.at("design_hash"), std::filesystem::last_write_time(report)});
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
