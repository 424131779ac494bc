#pragma once

#include <catch2/catch.hpp>

#include <csignal>
#include <sys/resource.h>

namespace wren::test {

/// Lets no file grow beyond `bytes` while it lives: what a full disk does to a writer, without one.
class FullDisk {
public:
    explicit FullDisk(rlim_t bytes) {
        ::getrlimit(RLIMIT_FSIZE, &before_);
        rlimit now = before_;
        now.rlim_cur = bytes;
        handler_ = std::signal(SIGXFSZ, SIG_IGN);
        REQUIRE(::setrlimit(RLIMIT_FSIZE, &now) == 0);
    }
    ~FullDisk() {
        ::setrlimit(RLIMIT_FSIZE, &before_);
        std::signal(SIGXFSZ, handler_);
    }

private:
    rlimit before_{};
    void (*handler_)(int);
};

} // namespace wren::test
