#include "base/files.h"

#include "base/error.h"

#include <algorithm>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <fmt/format.h>

namespace wren {
namespace {

[[noreturn]] void failWriting(const std::filesystem::path& path, int code) {
    throw Error(fmt::format("{} could not be written ({}); the file there before is unchanged.",
                            path.string(), std::strerror(code)));
}

/// 0, or the errno that stopped it.
int writeAll(int fd, std::string_view bytes) {
    while (!bytes.empty()) {
        const ssize_t n = ::write(fd, bytes.data(), bytes.size());
        if (n < 0 && errno == EINTR) {
            continue;
        }
        if (n <= 0) {
            return n < 0 ? errno : ENOSPC;
        }
        bytes.remove_prefix(static_cast<std::size_t>(n));
    }
    return 0;
}

std::filesystem::path besideOf(const std::filesystem::path& path) {
    std::filesystem::path beside = path;
    beside += fmt::format(".{}.part", ::getpid());
    return beside;
}

void writeAndSync(const std::filesystem::path& beside, const std::filesystem::path& target,
                  std::string_view bytes) {
    const int fd = ::open(beside.c_str(), O_WRONLY | O_CREAT | O_TRUNC | O_CLOEXEC, 0644);
    if (fd < 0) {
        failWriting(target, errno);
    }
    struct stat was {};
    if (::stat(target.c_str(), &was) == 0) { // who may read it stays as it was
        static_cast<void>(::fchmod(fd, was.st_mode & 07777));
    }
    int code = writeAll(fd, bytes);
    if (code == 0 && ::fsync(fd) != 0) {
        code = errno;
    }
    if (::close(fd) != 0 && code == 0) {
        code = errno;
    }
    if (code != 0) {
        ::unlink(beside.c_str());
        failWriting(target, code);
    }
}

void renameOver(const std::filesystem::path& beside, const std::filesystem::path& target) {
    if (::rename(beside.c_str(), target.c_str()) != 0) {
        const int code = errno;
        ::unlink(beside.c_str());
        failWriting(target, code);
    }
}

/// A hard link keeps the old bytes under the second name without a moment with no file.
void keepAsLast(const std::filesystem::path& path) {
    std::filesystem::path last = path;
    last += ".last";
    ::unlink(last.c_str());
    if (::link(path.c_str(), last.c_str()) != 0 && errno != ENOENT) {
        std::error_code ignored; // a file system without links: the rename is safe all the same
        std::filesystem::copy_file(path, last, ignored);
    }
}

} // namespace

std::string readFile(const std::filesystem::path& path) {
    std::FILE* file = std::fopen(path.c_str(), "rb");
    if (!file) {
        throw Error(
            fmt::format("{} could not be opened ({}).", path.string(), std::strerror(errno)));
    }
    std::string bytes;
    char buffer[65536];
    std::size_t n = 0;
    while ((n = std::fread(buffer, 1, sizeof buffer, file)) > 0) {
        bytes.append(buffer, n);
    }
    const bool failed = std::ferror(file) != 0;
    const int code = errno;
    std::fclose(file);
    if (failed) {
        throw Error(fmt::format("{} could not be read ({}).", path.string(), std::strerror(code)));
    }
    return bytes;
}

void writeFileSafely(const std::filesystem::path& named, std::string_view bytes, bool keepLast) {
    std::error_code ignored; // a link stays one: what it leads to is written
    const std::filesystem::path path = std::filesystem::is_symlink(named, ignored)
                                           ? std::filesystem::weakly_canonical(named, ignored)
                                           : named;
    const std::filesystem::path beside = besideOf(path);
    writeAndSync(beside, path, bytes);
    if (keepLast) {
        keepAsLast(path);
    }
    renameOver(beside, path);
}

void writeFilesSafely(const std::vector<FileBytes>& files,
                      const std::function<void()>& beforeTheFirstIsRenamed) {
    std::size_t written = 0;
    try {
        for (const FileBytes& f : files) {
            writeAndSync(besideOf(f.path), f.path, f.bytes);
            ++written;
        }
        if (beforeTheFirstIsRenamed) {
            beforeTheFirstIsRenamed();
        }
    } catch (...) {
        for (std::size_t i = 0; i < written; ++i) {
            ::unlink(besideOf(files[i].path).c_str());
        }
        throw;
    }
    for (const FileBytes& f : files) {
        renameOver(besideOf(f.path), f.path);
    }
}

void clearStrayParts(const std::filesystem::path& dir) {
    std::error_code code;
    for (const auto& entry : std::filesystem::directory_iterator(dir, code)) {
        const std::string name = entry.path().filename().string();
        constexpr std::string_view ending = ".part";
        if (name.size() < ending.size() + 2 || !name.ends_with(ending)) {
            continue;
        }
        const std::size_t dot = name.rfind('.', name.size() - ending.size() - 1);
        const std::string number =
            dot == std::string::npos ? ""
                                     : name.substr(dot + 1, name.size() - ending.size() - dot - 1);
        const bool ours =
            !number.empty() && number.size() < 10 &&
            std::all_of(number.begin(), number.end(), [](char c) { return c >= '0' && c <= '9'; });
        if (ours && ::kill(std::stoi(number), 0) != 0 && errno == ESRCH) {
            std::error_code ignored;
            std::filesystem::remove(entry.path(), ignored);
        }
    }
}

void makeFolder(const std::filesystem::path& dir) {
    std::error_code code;
    std::filesystem::create_directories(dir, code);
    if (code) {
        throw Error(
            fmt::format("The folder {} could not be made ({}).", dir.string(), code.message()));
    }
}

} // namespace wren
