#pragma once

#include <filesystem>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace wren {

/// The whole file as bytes. Throws Error when it cannot be read.
std::string readFile(const std::filesystem::path& path);

/// Writes beside the target, syncs to disk, then renames over it: after a failure at any point
/// (full disk, torn write, lost power) the target holds either all of the old bytes or all of the
/// new. With `keepLast` the previous good file stays as PATH.last. What a link leads to is written,
/// the link stays; so does the file's mode. Throws Error.
void writeFileSafely(const std::filesystem::path& path, std::string_view bytes,
                     bool keepLast = false);

struct FileBytes {
    std::filesystem::path path;
    std::string bytes;
};

/// Several files that belong together: all are written and synced beside their targets before the
/// first one is renamed, so a full disk leaves every target as it was. In between
/// `beforeTheFirstIsRenamed` may say that the targets do not belong together for a while. Throws
/// Error.
void writeFilesSafely(const std::vector<FileBytes>& files,
                      const std::function<void()>& beforeTheFirstIsRenamed = {});

/// Takes away what a process that no longer lives left half written in a folder.
void clearStrayParts(const std::filesystem::path& dir);

/// The folder and those it lies in, where they are not there yet. Throws Error.
void makeFolder(const std::filesystem::path& dir);

} // namespace wren
