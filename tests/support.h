#pragma once

#include "base/error.h"
#include "job/derive.h"
#include "job/keys.h"
#include "job/store.h"

#include <catch2/catch.hpp>

#include <array>
#include <csignal>
#include <cstdio>
#include <filesystem>
#include <functional>
#include <initializer_list>
#include <optional>
#include <string>
#include <sys/wait.h>
#include <unistd.h>

namespace wren::test {

/// A folder that goes with the test.
class Folder {
public:
    Folder() {
        std::string name = (std::filesystem::temp_directory_path() / "wren-test-XXXXXX").string();
        REQUIRE(::mkdtemp(name.data()) != nullptr);
        path_ = name;
    }
    ~Folder() {
        std::error_code ignored;
        std::filesystem::remove_all(path_, ignored);
    }
    Folder(const Folder&) = delete;
    Folder& operator=(const Folder&) = delete;

    std::filesystem::path operator/(const std::string& name) const { return path_ / name; }
    std::string str() const { return path_.string(); }

private:
    std::filesystem::path path_;
};

inline const std::string plainFile = WREN_SOURCE "/tests/plain.wren";

/// A plain board with some keys changed.
inline Project plainWith(std::initializer_list<std::pair<const char*, const char*>> changes = {}) {
    Project p = loadProject(plainFile);
    for (const auto& [key, text] : changes) {
        p = withKey(p, key, text);
    }
    return p;
}

inline std::optional<Finding> findingOf(const Findings& findings, const std::string& code) {
    for (const Finding& f : findings) {
        if (f.code == code) {
            return f;
        }
    }
    return std::nullopt;
}

/// What the sentence of the Error is that `f` throws; fails the test when it throws none.
inline std::string sentenceOf(const std::function<void()>& f) {
    try {
        f();
    } catch (const Error& e) {
        return e.what();
    }
    FAIL("an Error was expected");
    return {};
}

/// A straight move: a cut, or with no feed a rapid.
inline Move straight(Vec3 from, Vec3 to, double feed) {
    Move m;
    m.motion = feed > 0 ? Motion::line : Motion::rapid;
    m.from = from;
    m.to = to;
    m.feed = feed;
    return m;
}

struct Ran {
    int code = 0;
    std::string out;
    std::string err;
};

/// Runs a command line, keeping its outputs apart.
inline Ran run(const std::string& command) {
    const Folder folder;
    const std::string err = (folder / "err").string();
    std::FILE* pipe = ::popen((command + " 2>" + err).c_str(), "r");
    REQUIRE(pipe);
    Ran r;
    std::array<char, 4096> buffer{};
    std::size_t n = 0;
    while ((n = std::fread(buffer.data(), 1, buffer.size(), pipe)) > 0) {
        r.out.append(buffer.data(), n);
    }
    const int status = ::pclose(pipe);
    r.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    if (std::FILE* f = std::fopen(err.c_str(), "r")) {
        while ((n = std::fread(buffer.data(), 1, buffer.size(), f)) > 0) {
            r.err.append(buffer.data(), n);
        }
        std::fclose(f);
    }
    return r;
}

inline Ran wren(const std::string& arguments) {
    return run(std::string(WREN_BIN "/wren ") + arguments);
}

/// A wren-controller process that ends with the test. Its address is the line it prints.
class ControllerProcess {
public:
    explicit ControllerProcess(const std::string& arguments) {
        int ends[2];
        REQUIRE(::pipe(ends) == 0);
        pid_ = ::fork();
        REQUIRE(pid_ >= 0);
        if (pid_ == 0) {
            ::dup2(ends[1], 1);
            ::close(ends[0]);
            ::execl("/bin/sh", "sh", "-c",
                    ("exec " WREN_BIN "/wren-controller " + arguments).c_str(), nullptr);
            ::_exit(127);
        }
        ::close(ends[1]);
        char c = 0;
        while (::read(ends[0], &c, 1) == 1 && c != '\n') {
            address_ += c;
        }
        ::close(ends[0]);
    }
    ~ControllerProcess() { end(); }
    ControllerProcess(const ControllerProcess&) = delete;
    ControllerProcess& operator=(const ControllerProcess&) = delete;

    const std::string& address() const { return address_; }
    void end() {
        if (pid_ > 0) {
            ::kill(pid_, SIGKILL);
            ::waitpid(pid_, nullptr, 0);
            pid_ = -1;
        }
    }

private:
    pid_t pid_ = -1;
    std::string address_;
};

/// The proof of a board's plan from programs.
inline ProofReport provedBoard(const Derived& d, std::vector<RunProgram> programs,
                               double cell = proofCell) {
    const PartJob& job = *d.job(Role::board);
    const SidePrograms sides{std::move(programs), {}};
    return proveBoard(*d.board, boardSides(*d.board, job.held, sides), job.boardPlan(),
                      d.project.cut, d.project.machine, cell)
        .sides[0];
}

} // namespace wren::test
