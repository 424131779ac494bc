#pragma once

#include "job/derive.h"

#include <filesystem>
#include <string>
#include <vector>

namespace wren {

/// Programs posted earlier, as their report tells.
struct PostedFolder {
    std::filesystem::path folder;
    std::string designHash;
    std::vector<std::string> motions; ///< of its programs; empty in folders of older versions
    std::vector<std::string> files;   ///< their names, and parts, one for each motion
    std::vector<std::string> parts;
    std::string decided; ///< decidedKeys() of that day; empty in folders of older versions
    std::filesystem::file_time_type when;

    /// Whether each of its programs would be posted with the same motion today.
    bool isOf(const Derived& d) const;
};

/// Folders beside a project's file that hold programs of a project of that name, the latest first.
/// Folders that cannot be read are passed over; no more than 200 are looked into.
std::vector<PostedFolder> postedBeside(const std::filesystem::path& projectFile,
                                       const std::string& projectName);

} // namespace wren
