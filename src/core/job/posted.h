#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace wren {

/// Programs posted earlier, as their report tells.
struct PostedFolder {
    std::filesystem::path folder;
    std::string designHash;
    std::filesystem::file_time_type when;
};

/// Folders beside a project's file that hold programs of a project of that name, the latest first.
/// Folders that cannot be read are passed over; no more than 200 are looked into.
std::vector<PostedFolder> postedBeside(const std::filesystem::path& projectFile,
                                       const std::string& projectName);

} // namespace wren
